// Installs what is missing on a fresh machine: the npm packages, and Debian's packages where that is allowed.
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { exec } from './exec.mjs';
import { ROOT } from './paths.mjs';
import { Told, say } from './say.mjs';

const STAMP = join(ROOT, 'node_modules', '.kalvet-lock');

/** Runs `npm ci` unless node_modules was made from this very lock file. An interrupted install leaves no stamp. */
export async function ensureNodePackages() {
  const lock = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex');
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === lock) return;
  say('installing the npm packages (once, about a minute) …');
  const { code, out } = await exec('npm', ['ci', '--no-audit', '--no-fund'], { cwd: ROOT });
  if (code !== 0) {
    const offline = /ENOTFOUND|EAI_AGAIN|ETIMEDOUT|ECONNREFUSED|network/i.test(out);
    throw new Told(
      offline
        ? 'the npm registry cannot be reached. The first start needs the network; connect and run the command again.'
        : `npm ci failed:\n${out.split('\n').slice(-15).join('\n')}`,
    );
  }
  writeFileSync(STAMP, lock);
}

const onPath = (program) =>
  [...(process.env.PATH ?? '').split(':'), '/usr/sbin', '/usr/local/sbin', '/usr/local/bin', '/opt/homebrew/bin']
    .map((folder) => join(folder, program))
    .find((file) => existsSync(file));

const updated = { done: false };

/**
 * Finds each program, installing the Debian package that holds it where apt-get may be used.
 * @param wanted list of [program, package]; @returns the programs' paths by name
 */
export async function ensurePrograms(wanted) {
  const missing = wanted.filter(([program]) => !onPath(program)).map(([, name]) => name);
  if (missing.length > 0) {
    const line = `apt-get install -y --no-install-recommends ${missing.join(' ')}`;
    const mayInstall = process.getuid?.() === 0 && onPath('apt-get');
    if (!mayInstall) throw new Told(`${missing.join(' and ')} is missing. Install it with:\n    sudo ${line}`);
    say(`installing ${missing.join(', ')} (once) …`);
    const env = { DEBIAN_FRONTEND: 'noninteractive' };
    if (!updated.done) await exec('apt-get', ['update'], { env });
    updated.done = true;
    const { code, out } = await exec('apt-get', line.split(' ').slice(1), { env });
    if (code !== 0) throw new Told(`${line} failed:\n${out.split('\n').slice(-8).join('\n')}`);
  }
  return Object.fromEntries(wanted.map(([program]) => [program, onPath(program)]));
}

export const ensureDatabasePrograms = () =>
  ensurePrograms([
    ['mariadbd', 'mariadb-server-core'],
    ['mariadb-install-db', 'mariadb-server-core'],
    ['mariadb', 'mariadb-client-core'],
    ['mariadb-dump', 'mariadb-client'],
  ]);

export const ensureBrowser = () =>
  ensurePrograms([
    ['chromium', 'chromium'],
    ['chromedriver', 'chromium-driver'],
  ]);
