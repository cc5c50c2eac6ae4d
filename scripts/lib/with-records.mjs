// Commands that work on the records beside a running Kalvet, or start the database for themselves.
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { startDatabase } from './database.mjs';
import { ensureDatabasePrograms, ensureNodePackages } from './install.mjs';
import { holder, takeLock } from './lock.mjs';
import { DATA } from './paths.mjs';
import { ask, throughSocket, throughUrl } from './records.mjs';
import { Told } from './say.mjs';

/** Which of the shops in this folder: the one that is served, or `--empty` says so. */
const shopName = (held) => held?.name ?? (process.argv.includes('--empty') ? 'kalvet_empty' : 'kalvet');

/**
 * Runs `work({ reach, database, programs })` on the records of this folder, or of KALVET_DB_URL. Where Kalvet is not running its
 * database is started for it and stopped afterwards; then nobody else can start meanwhile.
 * @param stopped work that may not go on beside a running Kalvet: refused then
 */
export async function withRecords(what, work, { stopped = false, mayBeNew = false } = {}) {
  const foreign = process.env.KALVET_DB_URL;
  const held = holder();
  if (held && stopped)
    throw new Told(`Kalvet is running from this folder (process ${held.pid}). Stop it first, then run this again.`);
  if (!held) takeLock({ what });
  await ensureNodePackages();
  const programs = await ensureDatabasePrograms();
  if (foreign) {
    const reach = throughUrl(foreign, programs);
    try {
      return await work({ reach, programs });
    } finally {
      reach.close();
    }
  }
  if (!existsSync(join(DATA, 'db')) && !mayBeNew) throw new Told(`there are no records in ${DATA} yet.`);
  const database = await startDatabase({ folder: DATA, programs, quiet: true });
  try {
    const name = shopName(held);
    const reach = throughSocket(database, name, programs);
    if (!mayBeNew && !(await has(reach)))
      throw new Told(
        `there is no shop in ${DATA} yet.${name === 'kalvet' ? ' The one of start:empty is named by --empty.' : ''}`,
      );
    return await work({ reach, database, programs });
  } finally {
    // Beside a running Kalvet the database is that one's.
    if (!held) await database.stop();
  }
}

/** Whether a database is there and holds tables. */
export const has = async (reach) =>
  (await ask(
    reach,
    `SELECT COUNT(*) FROM information_schema.TABLES WHERE TABLE_SCHEMA = '${reach.name}' AND TABLE_NAME = 'migration'`,
    { onto: '' },
  )) === '1';
