// Lays the demo foundry. Only ever in Kalvet's own local database: `npm start` says so by KALVET_OWN_DB.
import { Op, QueryTypes } from 'sequelize';
import { connect } from '../server/src/db/connection.ts';
import { settingsOf } from '../server/src/people/settings.ts';
import { rowsOf } from '../server/src/db/rows.ts';
import { openStore } from '../server/src/store.ts';
import type { Store } from '../server/src/write/store.ts';
import { layFiles } from './files.ts';
import { lay } from './lay.ts';
import { play } from './play.ts';

const DAY_MS = 86_400_000;
const url = process.env['KALVET_DB_URL'];
if (!url || process.env['KALVET_OWN_DB'] !== '1') {
  console.error('kalvet: the demo is laid only in Kalvet’s own database.');
  process.exit(1);
}

interface Mark {
  readonly state: 'laying' | 'laid';
  readonly at: string;
  readonly change: number;
}

const markOf = async (store: Store): Promise<Mark | undefined> =>
  (await rowsOf<{ value: Mark }>(store, 'settings', { name: 'demo' }))[0]?.value;
const mark = (store: Store, state: Mark['state'], change: number) =>
  store.models.settings.upsert({ name: 'demo', value: { state, at: new Date().toISOString(), change } });
/** The planner's own runs leave what a person laid or recorded as it is. */
const changes = async (store: Store): Promise<number> =>
  Number((await store.models.events.max('number', { where: { verb: { [Op.ne]: 'take plan' } } })) ?? 0);

/** Laid when asked for, in an empty database, after a laying that was interrupted, and when a day old and untouched. */
async function shouldLay(store: Store): Promise<boolean> {
  if (process.argv.includes('--reset')) return true;
  const found = await markOf(store);
  const change = await changes(store);
  if (!found) return change === 0;
  if (found.state === 'laying') return true;
  return found.change === change && Date.now() - Date.parse(found.at) > DAY_MS;
}

async function dropAll(address: string): Promise<void> {
  const db = connect(address, { patient: true });
  // Raw: whatever tables there are go, also those that this program has no models of.
  await db.transaction(async (transaction) => {
    await db.query('SET FOREIGN_KEY_CHECKS = 0', { transaction });
    const tables = await db.query<Record<string, string>>('SHOW TABLES', {
      type: QueryTypes.SELECT,
      transaction,
    });
    for (const table of tables) await db.query(`DROP TABLE IF EXISTS \`${Object.values(table)[0]}\``, { transaction });
    await db.query('SET FOREIGN_KEY_CHECKS = 1', { transaction });
  });
  await db.close();
}

let store = await openStore(url);
// Asked before a reset: how many changes people made in this shop since it was laid.
if (process.argv.includes('--worked')) {
  const found = await markOf(store);
  console.log(JSON.stringify({ changes: (await changes(store)) - (found?.state === 'laid' ? found.change : 0) }));
  await store.db.close();
  process.exit(0);
}
if (await shouldLay(store)) {
  console.log('kalvet: laying the demo foundry, Marrowby Quay …');
  const began = Date.now();
  await store.db.close();
  await dropAll(url);
  store = await openStore(url);
  await mark(store, 'laying', 0);
  await store.models.settings.upsert({ name: 'shopName', value: 'Marrowby Quay' });
  const stage = play(await settingsOf(store), new Date().toISOString());
  await lay(store, stage.shop);
  const files = await layFiles(store, new Date().toISOString());
  await mark(store, 'laid', await changes(store));
  console.log(
    `kalvet: ${stage.pieces.length} pieces begun, ${files} files, ${((Date.now() - began) / 1000).toFixed(1)} s`,
  );
}
await store.db.close();
process.exit(0);
