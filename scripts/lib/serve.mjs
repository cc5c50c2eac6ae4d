// The server as a process of its own: begun, given its port when it is ready for it, and told what happens around it.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { log } from './logs.mjs';
import { DATA, DIST, ROOT } from './paths.mjs';

const bundle = (file) => ['--enable-source-maps', join(DIST, 'server', file)];

/** Runs one of Kalvet's own bundles. @returns { child, ended } with its exit code */
export function runBundle(file, args, env, stdio = 'inherit') {
  const child = spawn(process.execPath, [...bundle(file), ...args], {
    cwd: ROOT,
    env: { ...process.env, ...env },
    stdio,
  });
  return { child, ended: new Promise((resolve) => child.on('exit', (code, signal) => resolve(signal ? 1 : code))) };
}

/** What a bundle prints as JSON. */
export async function askBundle(file, args, env) {
  const { child, ended } = runBundle(file, args, env, ['ignore', 'pipe', 'inherit']);
  let out = '';
  child.stdout.on('data', (chunk) => (out += chunk));
  const code = await ended;
  try {
    return JSON.parse(out);
  } catch {
    throw new Error(`${file} ended with ${code} and said ${out.slice(0, 200) || 'nothing'}`);
  }
}

/**
 * Begins the server. It asks for its port when everything else is ready; `mayListen` resolves when nobody else answers there.
 * @returns { child, ended, tell(words) }, `ended` being how it ended, in words
 */
export function serve(env, mayListen) {
  const child = spawn(process.execPath, bundle('main.mjs'), {
    cwd: ROOT,
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'pipe', 'ipc'],
  });
  const keep = log(join(DATA, 'logs', 'kalvet.log'));
  child.stdout.on('data', keep);
  child.stderr.on('data', keep);
  const state = { listened: false };
  child.on('message', (said) => {
    if (said === 'port') void mayListen().then(() => child.connected && child.send('listen'));
    if (said === 'ready') state.listened = true;
  });
  const ended = new Promise((resolve) =>
    child.on('exit', (code, signal) => resolve(signal ? `killed by ${signal}` : `ended with code ${code}`)),
  );
  const tell = (words) => child.connected && child.send({ around: words });
  return { child, ended, tell, state };
}
