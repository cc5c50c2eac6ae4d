import { cut } from './cut.ts';
import { exportPlan } from './export-plan.ts';
import { measure } from './measure.ts';
import { plan } from './plan.ts';
import { promise } from './promise.ts';
import { scale } from './scale.ts';
import { thickness } from './thickness.ts';
import { why } from './why.ts';
import { traps } from './traps.ts';
import { Wrong } from './files.ts';

const USAGE = `kalvet plan PROBLEM.json [-o SCHEDULE.json] [--seconds N] [--iterations N] [--seed N] [--progress]
kalvet promise PROBLEM.json SCHEDULE.json [--runs N] [--seed N] [--json]
kalvet why PROBLEM.json SCHEDULE.json JOB [--iterations N] [--seed N] [--json]
kalvet export-plan -o FOLDER [--url URL] [--user NAME]
kalvet measure FILE [--unit mm|cm|m|in] [--scale K] [--height MM] [--wall MM]… [--alloy ID] [--thickness] [--json]
kalvet traps FILE [--unit mm|cm|m|in] [--up X,Y,Z] [--prominence 0.02] [--best] [--json]
kalvet cut FILE --plane NX,NY,NZ,MM… | --suggest [--wall MM] [--unit …] [--scale K] [--alloy ID] [-o PARTS.3mf] [--json]
kalvet thickness FILE [--wall MM] [--opening X,Y,Z]… [--across MM] [--unit …] [--scale K] [--json]
kalvet scale FILE [--bronze MM] [--axis x|y|z] [--rubber CODE] [--alloy ID] [--direct] [--unit …] [--json]`;

const COMMANDS: Readonly<Record<string, (args: string[]) => Promise<number>>> = {
  plan,
  promise,
  why,
  'export-plan': exportPlan,
  measure,
  traps,
  cut,
  thickness,
  scale,
};

/** Runs a command. @returns the exit code: 2 where the command or a file is wrong, with one line on stderr */
export async function main([name, ...args]: string[]): Promise<number> {
  const command = Object.hasOwn(COMMANDS, name ?? '') ? COMMANDS[name!] : undefined;
  if (!command) {
    const asked = name === undefined || name === '--help' || name === 'help';
    (asked ? process.stdout : process.stderr).write(asked ? `${USAGE}\n` : `kalvet: no command "${name}"\n${USAGE}\n`);
    return name === undefined || !asked ? 2 : 0;
  }
  try {
    return await command(args);
  } catch (error) {
    if (!(error instanceof Wrong)) throw error;
    process.stderr.write(`kalvet: ${error.message}\n`);
    return 2;
  }
}
