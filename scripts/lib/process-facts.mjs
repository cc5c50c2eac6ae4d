import { existsSync, readFileSync } from 'node:fs';
import { spawnSync } from 'node:child_process';

/**
 * What is known of a process: { command } or undefined where none with this id is alive. A zombie that nobody has
 * reaped yet answers to `kill -0` and still counts as dead here.
 */
export function processFacts(pid) {
  if (!Number.isInteger(pid) || pid <= 0) return undefined;
  if (existsSync('/proc/self/stat')) {
    try {
      const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
      const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
      if (fields[0] === 'Z' || fields[0] === 'X') return undefined;
      return {
        command: readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' '),
        started: fields[19],
      };
    } catch {
      return undefined;
    }
  }
  const asked = spawnSync('ps', ['-p', String(pid), '-o', 'stat=,lstart=,command='], { encoding: 'utf8' });
  const line = asked.stdout?.trim();
  if (asked.status !== 0 || !line || line.startsWith('Z')) return undefined;
  return { command: line, started: line.slice(0, 30) };
}

/** Resolves when the process is gone; false where it still lives after `ms`. */
export async function gone(pid, ms) {
  const until = Date.now() + ms;
  while (processFacts(pid)) {
    if (Date.now() > until) return false;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  return true;
}
