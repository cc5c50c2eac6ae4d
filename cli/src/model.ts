import { stat } from 'node:fs/promises';
import { MeshFault } from '@kalvet/core/mesh/index';
import { LENGTH_UNITS } from '@kalvet/core/mesh/length';
import type { LengthUnit } from '@kalvet/core/mesh/length';
import { runModelJob } from '@kalvet/core/weigh/index';
import type { ModelAnswers, ModelJobKind, ModelQuestions } from '@kalvet/core/weigh/index';
import { Wrong, readBytes } from './files.ts';

/** Files above this are not models that a foundry weighs, and would not fit in memory with what is worked out from them. */
const LARGEST_BYTES = 1.5e9;

/** Reads the one model file that a command takes. @throws Wrong */
export async function modelFile(command: string, positionals: string[]): Promise<{ name: string; bytes: Uint8Array }> {
  if (positionals.length !== 1) throw new Wrong(`${command} takes one model file`);
  const [name] = positionals as [string];
  const size = await stat(name).then(
    (found) => found.size,
    () => 0,
  );
  if (size > LARGEST_BYTES) throw new Wrong(`${name} is larger than ${LARGEST_BYTES / 1e9} GB: reduce the model first`);
  return { name, bytes: await readBytes(name) };
}

/** Does a job; what is wrong with the file or the question becomes one line for the person at the terminal. */
export async function ask<K extends ModelJobKind>(kind: K, question: ModelQuestions[K]): Promise<ModelAnswers[K]> {
  try {
    return await runModelJob(kind, question);
  } catch (error) {
    if (error instanceof MeshFault) throw new Wrong(error.message);
    throw error;
  }
}

/** The unit that was said. @throws Wrong naming those that there are */
export function unitIn(text: string | undefined): LengthUnit | undefined {
  if (text === undefined) return undefined;
  if (!Object.hasOwn(LENGTH_UNITS, text))
    throw new Wrong(`--unit must be one of ${Object.keys(LENGTH_UNITS).join(', ')}, not "${text}"`);
  return text as LengthUnit;
}

/** Prints a document as JSON. */
export const printJson = (value: unknown): boolean => process.stdout.write(`${JSON.stringify(value, null, 1)}\n`);

/** Prints rows as a table: the first column to the left, the others to the right, or to the left too. */
export function printRows(rows: readonly (readonly string[])[], toLeft = false): void {
  const columns = Math.max(...rows.map((row) => row.length));
  const widths = Array.from({ length: columns }, (_, i) => Math.max(...rows.map((row) => row[i]?.length ?? 0)));
  for (const row of rows)
    process.stdout.write(
      `${row
        .map((cell, i) => (i === 0 || toLeft ? cell.padEnd(widths[i]!) : cell.padStart(widths[i]!)))
        .join('  ')
        .trimEnd()}\n`,
    );
}

/** Prints what is to be known about the file, a line each. */
export const printWarnings = (warnings: readonly string[]): void => {
  for (const warning of warnings) process.stdout.write(`! ${warning}\n`);
};
