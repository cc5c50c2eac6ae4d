// What happened is kept: a log that grows too large is put aside under a number, never emptied.
import { appendFileSync, existsSync, mkdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname } from 'node:path';

const LARGEST = 5 * 1024 * 1024;
const KEPT = 5;

/** Puts a log aside where it is larger than 5 MB; five old ones are kept, the newest as `.1`. */
export function rotate(file, largest = LARGEST, kept = KEPT) {
  if (!existsSync(file) || statSync(file).size < largest) return;
  rmSync(`${file}.${kept}`, { force: true });
  for (let i = kept - 1; i >= 1; i--) if (existsSync(`${file}.${i}`)) renameSync(`${file}.${i}`, `${file}.${i + 1}`);
  renameSync(file, `${file}.1`);
}

/**
 * A log that lines are written to with their time, also to the terminal. A full disk costs lines, never the program.
 * @returns (text: Buffer | string) => void
 */
export function log(file, { terminal = true } = {}) {
  mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
  let rest = '';
  return (chunk) => {
    if (terminal) process.stdout.write(chunk);
    const lines = (rest + chunk).split('\n');
    rest = lines.pop();
    if (lines.length === 0) return;
    try {
      rotate(file);
      const at = new Date().toISOString();
      appendFileSync(file, lines.map((line) => `${at} ${line}\n`).join(''), { mode: 0o600 });
    } catch {
      // Watching the disk says it; there is nobody else to tell.
    }
  };
}
