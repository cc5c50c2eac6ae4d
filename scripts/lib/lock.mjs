// One start at a time in one folder: the lock names the process, and a lock whose process is gone is taken over.
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { DATA } from './paths.mjs';
import { processFacts } from './process-facts.mjs';
import { Told } from './say.mjs';

const FILE = join(DATA, 'start.lock');

/** Who holds the lock and still lives: { pid, port, name }, or undefined. */
export function holder() {
  let held;
  try {
    held = JSON.parse(readFileSync(FILE, 'utf8'));
  } catch {
    return undefined;
  }
  const facts = processFacts(held.pid);
  return facts && facts.started === held.started ? held : undefined;
}

/** Takes the lock until this process ends; `facts` are told to whoever finds it. @throws Told where somebody else has it */
export function takeLock(facts) {
  mkdirSync(DATA, { recursive: true, mode: 0o700 });
  const me = JSON.stringify({ pid: process.pid, started: processFacts(process.pid)?.started, ...facts });
  for (let attempt = 0; ; attempt++) {
    try {
      writeFileSync(FILE, me, { flag: 'wx' });
      process.on('exit', () => rmSync(FILE, { force: true }));
      return;
    } catch (error) {
      if (error.code !== 'EEXIST' || attempt > 3) throw error;
      const held = holder();
      if (held)
        throw new Told(
          held.port
            ? `Kalvet is already running from this folder (process ${held.pid}, http://127.0.0.1:${held.port}). ` +
                'Use that one, or stop it with Ctrl-C first.'
            : `another command of Kalvet is at work in this folder (process ${held.pid}: ${held.what}). Let it end first.`,
        );
      rmSync(FILE, { force: true });
    }
  }
}
