import { spawn } from 'node:child_process';

/**
 * Runs a program to its end. Resolves to { code, out }, `out` being what it printed on both channels (also passed
 * through while it runs where `show` is set). A program that cannot be started resolves to code 127.
 */
export function exec(command, args, { cwd, env, show = false, input, prefix } = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd,
      env: { ...process.env, ...env },
      stdio: ['pipe', 'pipe', 'pipe'],
    });
    let out = '';
    const take = (chunk) => {
      out += chunk;
      if (show) process.stdout.write(prefix ? String(chunk).replace(/^(?=.)/gm, prefix) : chunk);
    };
    child.stdout.on('data', take);
    child.stderr.on('data', take);
    child.on('error', (error) => resolve({ code: 127, out: out + error.message }));
    child.on('close', (code) => resolve({ code: code ?? 1, out }));
    child.stdin.on('error', () => {});
    child.stdin.end(input ?? '');
  });
}
