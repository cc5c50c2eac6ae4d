// A backup is made while Kalvet runs, and counts only after it was read back and found the same.
import { randomBytes } from 'node:crypto';
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { startDatabase } from './database.mjs';
import { DATA, ROOT } from './paths.mjs';
import { processFacts } from './process-facts.mjs';
import { ask, dump, load, throughSocket } from './records.mjs';
import { pack, unpack } from './package-file.mjs';
import { Told } from './say.mjs';

export const BACKUPS = join(DATA, 'backups');

/** `2027-03-14-0905-33`, in UTC, so that names stand in the order they were made. */
const stamp = (at) =>
  at
    .toISOString()
    .slice(0, 19)
    .replace('T', '-')
    .replaceAll(':', '')
    .replace(/(\d{4})(\d\d)$/, '$1-$2');

/** Where a backup goes that nobody named. `why` stands in its name: `kalvet-2027-03-14-0905-33-asked.tar`. */
export const fileFor = (why, at = new Date()) => join(BACKUPS, `kalvet-${stamp(at)}-${why.replaceAll(' ', '-')}.tar`);

/**
 * Writes the records of a database into a file and proves it: the file is opened again, read into a throw-away database,
 * and what that one writes out must be the same, byte for byte.
 * @returns what was kept: { file, bytes, manifest, checkedAt }
 */
export async function makeBackup(reach, { file, why, program }) {
  const target = file ?? fileFor(why);
  if (existsSync(target)) throw new Told(`${target} is there already; name another file.`);
  if (!existsSync(dirname(target))) mkdirSync(dirname(target), { recursive: true, mode: 0o700 });
  const work = workFolder();
  try {
    const records = join(work, 'records.sql.gz');
    const madeAt = new Date().toISOString();
    const held = await dump(reach, records);
    const manifest = {
      kalvetBackup: 1,
      madeAt,
      why,
      program,
      database: { name: reach.name, server: await ask(reach, 'SELECT VERSION()') },
      migrations: (await ask(reach, 'SELECT name FROM migration ORDER BY name').catch(() => ''))
        .split('\n')
        .filter(Boolean),
      ...held,
    };
    await pack(target, manifest, records);
    try {
      await checkBackup(target, reach.programs);
    } catch (error) {
      // What cannot be read back is no backup, and must not look like one.
      renameSync(target, `${target}.bad`);
      throw error;
    }
    return { file: target, bytes: statSync(target).size, manifest, checkedAt: new Date().toISOString() };
  } finally {
    rmSync(work, { recursive: true, force: true });
  }
}

/** Reads a backup into a throw-away database and compares. @returns its manifest. @throws Told where it is not the same */
export async function checkBackup(file, programs) {
  const work = workFolder();
  let database;
  try {
    const records = join(work, 'records.sql.gz');
    const manifest = await unpack(file, records);
    database = await startDatabase({ folder: work, programs, fast: true, quiet: true, memory: '128M' });
    await database.query('CREATE DATABASE checking CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci');
    const reach = throughSocket(database, 'checking', programs);
    await load(reach, records);
    compare(
      manifest,
      await dump(reach),
      basename(file),
      (await ask(reach, 'SELECT VERSION()')) === manifest.database.server,
    );
    return manifest;
  } finally {
    await database?.stop();
    rmSync(work, { recursive: true, force: true });
  }
}

/**
 * @param sameServer written and read by the same MariaDB: then how the tables are made must be the same too
 * @throws Told with the tables that are not what the manifest says
 */
export function compare(manifest, held, what, sameServer) {
  const names = [...new Set([...Object.keys(manifest.tables), ...Object.keys(held.tables)])];
  const wrong = names.filter((name) => manifest.tables[name]?.sha256 !== held.tables[name]?.sha256);
  if (wrong.length > 0)
    throw new Told(
      `${what} does not give back what was written: ${wrong
        .slice(0, 5)
        .map(
          (name) => `${name} (${manifest.tables[name]?.rows ?? 0} rows written, ${held.tables[name]?.rows ?? 0} read)`,
        )
        .join(', ')}.`,
    );
  if (sameServer && manifest.sha256 !== held.sha256)
    throw new Told(`${what} does not give back what was written: its tables are not made the same way.`);
}

/** Puts a copy into a second folder. @returns its name. @throws Told where it cannot be written there */
export function copyTo(folder, file) {
  const target = join(folder, basename(file));
  try {
    if (!statSync(folder).isDirectory()) throw new Error('it is not a folder');
    copyFileSync(file, `${target}.part`);
    renameSync(`${target}.part`, target);
    return target;
  } catch (error) {
    rmSync(`${target}.part`, { force: true });
    throw new Told(`the second place ${folder} cannot be written: ${error.message}.`);
  }
}

/** Keeps the newest backups of a folder that were made for one reason, and lets the older ones go. @returns those that went */
export function keepNewest(folder, why, count) {
  if (!existsSync(folder)) return [];
  const old = readdirSync(folder)
    .filter(
      (name) => /^kalvet-\d{4}-\d\d-\d\d-\d{4}-\d\d-/.test(name) && name.endsWith(`-${why.replaceAll(' ', '-')}.tar`),
    )
    .sort()
    .reverse()
    .slice(count);
  for (const name of old) rmSync(join(folder, name), { force: true });
  return old;
}

/** A folder for files on their way, beside the data, so that a full small /tmp is nobody's trouble. */
export function workFolder() {
  mkdirSync(DATA, { recursive: true, mode: 0o700 });
  clearWork();
  return mkdtempSync(join(DATA, `work-${process.pid}-`));
}

/** Takes away what a command left that was killed in the middle: its folder, and the throw-away database in it. */
function clearWork() {
  for (const name of readdirSync(DATA)) {
    const [, pid] = /^work-(\d+)-/.exec(name) ?? [];
    if (!pid || processFacts(Number(pid))) continue;
    const folder = join(DATA, name);
    const file = join(folder, 'db.pid');
    const left = existsSync(file) ? Number(readFileSync(file, 'utf8')) : 0;
    if (processFacts(left)?.command.includes(`--datadir=${join(folder, 'db')} `)) process.kill(left, 'SIGKILL');
    rmSync(folder, { recursive: true, force: true });
  }
}

/** What this Kalvet calls itself in a manifest. */
export const programName = () => `kalvet ${JSON.parse(readFileSync(join(ROOT, 'package.json'), 'utf8')).version}`;

/** A new id for a row that the scripts write: time first, as everywhere. */
export function rowId(at = Date.now()) {
  const hex = at.toString(16).padStart(12, '0');
  const rest = randomBytes(10).toString('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8)}-7${rest.slice(0, 3)}-8${rest.slice(3, 6)}-${rest.slice(6, 18)}`;
}
