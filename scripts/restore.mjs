// `npm run restore FILE`: puts a backup in the place of the records. What was there is copied first, and stays until the new is proven.
import { existsSync, rmSync } from 'node:fs';
import { basename, join, resolve } from 'node:path';
import { compare, rowId, workFolder } from './lib/backup.mjs';
import { backUp, writeDown } from './lib/backup-round.mjs';
import { unpack } from './lib/package-file.mjs';
import { ask, dump, load, throughSocket } from './lib/records.mjs';
import { Told, run, say } from './lib/say.mjs';
import { has, withRecords } from './lib/with-records.mjs';

const CHARACTERS = 'CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci';

async function restore(file, { reach: asked, database, programs }) {
  const work = workFolder();
  try {
    const packed = join(work, 'records.sql.gz');
    const manifest = await unpack(file, packed);
    // Own records go back to the shop they came from; a database of somebody's own is the one its URL names.
    const name = database ? ownName(manifest.database.name, asked.name) : asked.name;
    const reach = database ? throughSocket(database, name, programs) : asked;
    say(
      `${basename(file)}: made ${manifest.madeAt}, ${rows(manifest)} rows of ${Object.keys(manifest.tables).length} tables`,
    );
    if (await has(reach)) {
      say('there are records here already; a copy is made first …');
      await backUp(reach, { why: 'before restore' });
    }
    if (database) await swapIn(reach, packed, manifest, file);
    else await refill(reach, packed, manifest, file);
    await ask(
      reach,
      `INSERT INTO audit (id, at, what, how, text, personId, name, address, agent) VALUES ('${rowId()}', UTC_TIMESTAMP(3), 'restore', 'server', 'restored from ${basename(file).replaceAll("'", '')}', NULL, '', '', '')`,
    ).catch(() => undefined);
    await writeDown(reach, {
      why: 'restored',
      state: 'checked',
      madeAt: manifest.madeAt,
      checkedAt: new Date().toISOString(),
      file,
    });
    const start = name === 'kalvet_empty' ? 'npm run start:empty' : 'npm start';
    say(`restored, and found the same as written. ${database ? `Start it with: ${start}` : ''}`);
  } finally {
    rmSync(work, { recursive: true, force: true });
  }
}

const rows = (manifest) => Object.values(manifest.tables).reduce((sum, each) => sum + each.rows, 0);
const ownName = (named, asked) => (named === 'kalvet' || named === 'kalvet_empty' ? named : asked);

/** Reads the backup beside the records, proves it, and only then puts its tables in their place, all in one statement. */
async function swapIn(reach, packed, manifest, file) {
  const beside = { ...reach, name: 'kalvet_restoring' };
  await ask(reach, `DROP DATABASE IF EXISTS ${beside.name}; CREATE DATABASE ${beside.name} ${CHARACTERS}`, {
    onto: '',
  });
  await load(beside, packed);
  compare(manifest, await dump(beside), basename(file), false);
  const tables = (await ask(beside, 'SHOW TABLES')).split('\n');
  const replaced = 'kalvet_replaced';
  await ask(
    reach,
    `CREATE DATABASE IF NOT EXISTS ${reach.name} ${CHARACTERS}; DROP DATABASE IF EXISTS ${replaced}; CREATE DATABASE ${replaced} ${CHARACTERS}`,
    { onto: '' },
  );
  const there = (await ask(reach, 'SHOW TABLES')).split('\n').filter(Boolean);
  const move = (names, from, to) => names.map((table) => `${from}.\`${table}\` TO ${to}.\`${table}\``);
  await ask(
    reach,
    `SET FOREIGN_KEY_CHECKS = 0;
     RENAME TABLE ${[...move(there, reach.name, replaced), ...move(tables, beside.name, reach.name)].join(', ')};
     DROP DATABASE ${beside.name}; DROP DATABASE ${replaced}`,
    { onto: '' },
  );
}

/** Somebody's own database has one name only: it is emptied and read in; the copy made before is what one goes back to. */
async function refill(reach, packed, manifest, file) {
  const tables = (await ask(reach, 'SHOW TABLES')).split('\n').filter(Boolean);
  if (tables.length > 0)
    await ask(reach, `SET FOREIGN_KEY_CHECKS = 0; DROP TABLE ${tables.map((table) => `\`${table}\``).join(', ')}`);
  await load(reach, packed);
  compare(manifest, await dump(reach), basename(file), false);
}

await run(async () => {
  const [given] = process.argv.slice(2).filter((word) => !word.startsWith('-'));
  if (!given) throw new Told('say which backup: npm run restore FILE');
  const file = resolve(given);
  if (!existsSync(file)) throw new Told(`there is no file ${file}.`);
  await withRecords('restoring a backup', (records) => restore(file, records), { stopped: true, mayBeNew: true });
});
