import { spawn, spawnSync } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { ROOT, until } from './kalvet.ts';

/** One run of the start command, and what it said. */
export class Start {
  said = '';
  readonly child: ChildProcess;
  readonly ended: Promise<number | null>;
  constructor(
    folder: string,
    port: number | string,
    env: Record<string, string> = {},
    args: readonly string[] = ['--empty'],
  ) {
    this.child = spawn(process.execPath, [join(ROOT, 'scripts/start.mjs'), ...args], {
      env: { ...process.env, KALVET_DATA: folder, PORT: String(port), ...env },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    const take = (chunk: Buffer) => (this.said += chunk);
    this.child.stdout!.on('data', take);
    this.child.stderr!.on('data', take);
    this.ended = new Promise((resolve) => this.child.once('exit', resolve));
  }

  ready = () => until(`ready (${this.said})`, async () => this.said.includes('ready at'), 180_000);
  async stop(): Promise<void> {
    if (this.child.exitCode === null && this.child.signalCode === null) this.child.kill('SIGINT');
    await this.ended;
  }
}

/** Runs another command of Kalvet to its end. */
export function command(
  script: string,
  folder: string,
  ...args: readonly string[]
): { code: number | null; said: string } {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(ROOT, 'scripts', script), ...args], {
    env: { ...process.env, KALVET_DATA: folder },
    encoding: 'utf8',
  });
  return { code: status, said: stdout + stderr };
}
