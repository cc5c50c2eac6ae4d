// A backup's file: a tar of manifest.json and records.sql.gz, so that it can be opened without Kalvet.
import {
  createReadStream,
  createWriteStream,
  fsyncSync,
  openSync,
  closeSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs';
import { basename } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Told } from './say.mjs';

export const MANIFEST = 'manifest.json';
export const RECORDS = 'records.sql.gz';

/** Writes the package; it carries its name only when it is whole and on the disk. */
export async function pack(file, manifest, records) {
  const { pack: begin } = await import('tar-stream');
  const part = `${file}.part`;
  try {
    const tar = begin();
    const written = pipeline(tar, createWriteStream(part, { mode: 0o600 }));
    const mtime = new Date(manifest.madeAt);
    tar.entry({ name: MANIFEST, mtime, mode: 0o600 }, `${JSON.stringify(manifest, null, 2)}\n`);
    const entry = tar.entry({ name: RECORDS, size: statSync(records).size, mtime, mode: 0o600 });
    await Promise.all([pipeline(createReadStream(records), entry).then(() => tar.finalize()), written]);
    const handle = openSync(part, 'r+');
    fsyncSync(handle);
    closeSync(handle);
    renameSync(part, file);
  } catch (error) {
    rmSync(part, { force: true });
    throw error;
  }
}

/**
 * Opens a package: its manifest, and its records written to `into`.
 * @throws Told where it is none, is cut off, or was made by a newer Kalvet's form of backup
 */
export async function unpack(file, into) {
  const { extract } = await import('tar-stream');
  const none = (why) => new Told(`${basename(file)} is not a backup of Kalvet that can be read: ${why}.`);
  const found = {};
  const tar = extract();
  const reading = pipeline(createReadStream(file), tar);
  reading.catch(() => undefined);
  try {
    for await (const entry of tar) {
      if (entry.header.name === MANIFEST) found.manifest = await text(entry);
      else if (entry.header.name === RECORDS && into) {
        await pipeline(entry, createWriteStream(into, { mode: 0o600 }));
        found.records = true;
      } else entry.resume();
    }
    await reading;
  } catch (error) {
    if (error.code === 'ENOSPC' || error.code === 'ENOENT') throw error;
    throw none(error.message.toLowerCase());
  }
  let manifest;
  try {
    manifest = JSON.parse(found.manifest);
  } catch {
    throw none('it has no manifest');
  }
  if (manifest.kalvetBackup !== 1)
    throw none(`its form is ${manifest.kalvetBackup ?? 'unknown'}, this Kalvet reads form 1`);
  if (into && !found.records) throw none('its records are missing');
  return manifest;
}

async function text(stream) {
  const parts = [];
  for await (const chunk of stream) parts.push(chunk);
  return Buffer.concat(parts).toString('utf8');
}
