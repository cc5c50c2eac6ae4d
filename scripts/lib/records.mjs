// The records as text: written out of a database and read into one, by MariaDB's own programs.
import { createHash } from 'node:crypto';
import { spawn } from 'node:child_process';
import { createReadStream, createWriteStream, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PassThrough, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGunzip, createGzip } from 'node:zlib';
import { exec } from './exec.mjs';
import { Told } from './say.mjs';

/**
 * A way to one database for the client programs.
 * @typedef {{ name: string, args: string[], programs: Record<string, string>, close(): void }} Reach
 */

/** Kalvet's own database, through its socket. @returns {Reach} */
export const throughSocket = (database, name, programs) => ({
  name,
  args: ['--no-defaults', `--socket=${database.socket}`, '-uroot'],
  programs,
  close: () => {},
});

const OPTION = (value) => `"${String(value).replaceAll('\\', '\\\\').replaceAll('"', '\\"')}"`;

/** Somebody's own database by its URL; the password goes by a file that only we can read, never by the command line. @returns {Reach} */
export function throughUrl(url, programs) {
  const { hostname, port, username, password, pathname, searchParams } = new URL(url);
  const folder = mkdtempSync(join(tmpdir(), 'kalvet-client-'));
  const file = join(folder, 'client.cnf');
  const lines = [
    '[client]',
    `host=${OPTION(hostname)}`,
    `port=${Number(port || 3306)}`,
    'protocol=tcp',
    `user=${OPTION(decodeURIComponent(username))}`,
    `password=${OPTION(decodeURIComponent(password))}`,
    ...(searchParams.get('tls') || searchParams.get('ca') ? ['ssl'] : []),
    ...(searchParams.get('ca') ? [`ssl-ca=${OPTION(searchParams.get('ca'))}`] : []),
    // Who names a CA wants it looked at.
    ...(searchParams.get('tls') === 'verify' || (!searchParams.get('tls') && searchParams.get('ca'))
      ? ['ssl-verify-server-cert']
      : []),
  ];
  writeFileSync(file, `${lines.join('\n')}\n`, { mode: 0o600 });
  return {
    name: decodeURIComponent(pathname.slice(1)),
    args: [`--defaults-file=${file}`],
    programs,
    close: () => rmSync(folder, { recursive: true, force: true }),
  };
}

/** Asks a database in SQL; what it answers, a line a row, the columns apart by tabs. */
export async function ask(reach, sql, { onto = reach.name } = {}) {
  const args = [...reach.args, '--batch', '--skip-column-names', '--connect-timeout=8', ...(onto ? [onto] : [])];
  const { code, out } = await exec(reach.programs.mariadb, args, { input: sql });
  if (code !== 0) throw new Error(`database: ${out.trim()}`);
  return out.trim();
}

/**
 * Counts what a dump holds as it goes by: its bytes and hash, and for each table its rows and the hash of their lines. The
 * dump writes one row a line; a line break inside a value is written as \n.
 */
export function counting() {
  const whole = createHash('sha256');
  const tables = {};
  let bytes = 0;
  let table;
  let rest = '';
  const line = (text) => {
    const begins = /^INSERT INTO `([^`]+)` VALUES/.exec(text);
    if (begins) table = tables[begins[1]] ??= { rows: 0, hash: createHash('sha256') };
    const row = begins ? text.slice(begins[0].length).trimStart() : text;
    if (!table || !row.startsWith('(')) {
      if (!begins) table = undefined;
      return;
    }
    table.rows++;
    // The last row of a statement ends it; the same row elsewhere is followed by a comma.
    table.hash.update(row.replace(/[,;]$/, '')).update('\n');
  };
  const through = new Transform({
    transform(chunk, _encoding, done) {
      whole.update(chunk);
      bytes += chunk.length;
      const lines = (rest + chunk.toString('latin1')).split('\n');
      rest = lines.pop();
      lines.forEach(line);
      done(undefined, chunk);
    },
    flush(done) {
      if (rest) line(rest);
      done();
    },
  });
  const found = () => ({
    bytes,
    sha256: whole.digest('hex'),
    tables: Object.fromEntries(
      Object.entries(tables).map(([name, { rows, hash }]) => [name, { rows, sha256: hash.digest('hex') }]),
    ),
  });
  return { through, found };
}

const DUMP = [
  '--single-transaction',
  '--skip-lock-tables',
  '--skip-add-locks',
  '--order-by-primary',
  '--skip-comments',
  '--hex-blob',
  '--no-tablespaces',
  '--skip-tz-utc',
  '--default-character-set=utf8mb4',
  '--max-allowed-packet=256M',
];

/** Writes everything out, as it is at one moment, while others go on writing. @returns what the dump holds */
export async function dump(reach, file) {
  const { through, found } = counting();
  await streamed(
    reach.programs['mariadb-dump'],
    [...reach.args, ...DUMP, reach.name],
    { out: [through, ...(file ? [createGzip({ level: 6 }), createWriteStream(file, { mode: 0o600 })] : [nowhere()])] },
    'the records could not be written out',
  );
  return found();
}

/** Reads a packed dump into a database that is empty. */
export async function load(reach, file) {
  await streamed(
    reach.programs.mariadb,
    [...reach.args, '--batch', '--max-allowed-packet=256M', reach.name],
    { in: [createReadStream(file), createGunzip()] },
    'the records could not be read in',
  );
}

function nowhere() {
  const sink = new PassThrough();
  sink.resume();
  return sink;
}

/** Runs a program with streams at its ends; what it says on its error channel is what went wrong. */
async function streamed(command, args, ends, what) {
  const child = spawn(command, args, { stdio: [ends.in ? 'pipe' : 'ignore', ends.out ? 'pipe' : 'ignore', 'pipe'] });
  let said = '';
  child.stderr.on('data', (chunk) => (said = (said + chunk).slice(-2000)));
  const ended = new Promise((resolve, reject) => {
    child.on('error', reject);
    child.on('close', resolve);
  });
  const flow = ends.in ? pipeline(...ends.in, child.stdin) : pipeline(child.stdout, ...ends.out);
  const [code, flowed] = await Promise.all([
    ended,
    flow.then(
      () => undefined,
      (error) => error,
    ),
  ]);
  if (flowed?.code === 'ENOSPC') throw flowed;
  if (code !== 0 || flowed) throw new Told(`${what}: ${said.trim() || flowed?.message || `code ${code}`}`);
}
