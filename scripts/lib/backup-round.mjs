// Backups by themselves: at the shop's own times, and when somebody asks for one on the screen.
import { BACKUPS, copyTo, keepNewest, makeBackup, programName, rowId } from './backup.mjs';
import { ask } from './records.mjs';
import { say } from './say.mjs';

/** What a shop that has said nothing gets. */
export const BACKUP_DEFAULTS = { everyHours: 6, keep: 28, secondFolder: '' };
const LOOK_MS = 15_000;

const text = (value) =>
  value === null || value === undefined
    ? 'NULL'
    : typeof value === 'number'
      ? String(value)
      : `'${String(value).slice(0, 990).replaceAll('\\', '\\\\').replaceAll("'", "\\'")}'`;
const when = (iso) => (iso ? `'${iso.replace('T', ' ').replace('Z', '')}'` : 'NULL');

/** The shop's wishes, from its settings. */
export async function wishes(reach) {
  const said = await ask(reach, "SELECT value FROM setting WHERE name = 'backups'").catch(() => '');
  try {
    return { ...BACKUP_DEFAULTS, ...JSON.parse(said.split('\n')[0].replaceAll('\\\\', '\\')) };
  } catch {
    return BACKUP_DEFAULTS;
  }
}

/** Writes down what became of a backup. A database that cannot take the line now is no reason to fail. */
export async function writeDown(reach, row) {
  await ask(
    reach,
    `INSERT INTO backup (id, why, state, askedAt, madeAt, checkedAt, file, bytes, change_, second_, error) VALUES
      (${text(row.id ?? rowId())}, ${text(row.why)}, ${text(row.state)}, ${when(row.madeAt ?? new Date().toISOString())}, ${when(row.madeAt)},
       ${when(row.checkedAt)}, ${text(row.file)}, ${text(row.bytes)}, ${text(row.change)}, ${text(row.second)}, ${text(row.error)})
      ON DUPLICATE KEY UPDATE state = VALUES(state), madeAt = VALUES(madeAt), checkedAt = VALUES(checkedAt), file = VALUES(file),
       bytes = VALUES(bytes), change_ = VALUES(change_), second_ = VALUES(second_), error = VALUES(error)`,
  ).catch((error) => {
    // Before its first migration a shop has no such list.
    if (!/doesn't exist/.test(error.message)) say(`the list of backups could not be written: ${error.message}`);
  });
}

/** Makes one backup with everything that belongs to it: proof, second place, list, and letting old ones go. */
export async function backUp(reach, { why, id = rowId(), file, quiet = false } = {}) {
  const wished = await wishes(reach);
  const change = Number(await ask(reach, "SELECT value FROM counter WHERE name = 'change'").catch(() => 0)) || 0;
  let kept;
  try {
    kept = await makeBackup(reach, { file, why, program: programName() });
  } catch (error) {
    await writeDown(reach, { id, why, state: 'failed', madeAt: new Date().toISOString(), error: error.message });
    throw error;
  }
  let second = null;
  let error = null;
  if (wished.secondFolder && !file)
    try {
      second = copyTo(wished.secondFolder, kept.file);
      keepNewest(wished.secondFolder, why, wished.keep);
    } catch (failure) {
      error = failure.message;
      say(error);
    }
  const row = { id, why, state: 'checked', madeAt: kept.manifest.madeAt, checkedAt: kept.checkedAt, file: kept.file };
  await writeDown(reach, { ...row, bytes: kept.bytes, change, second, error });
  const went = file ? [] : keepNewest(BACKUPS, why, wished.keep);
  if (!quiet)
    say(
      `backup ${kept.file}: ${(kept.bytes / 1024 / 1024).toFixed(1)} MB, read back and found the same` +
        `${second ? `; copied to ${second}` : ''}${went.length > 0 ? `; ${went.length} old ones let go` : ''}`,
    );
  return { ...kept, second, error };
}

/** Looks every quarter of a minute whether a backup is asked for or due. @returns { stop() } */
export function backupRound(reach) {
  // What a start that was killed left under way was broken off.
  void ask(reach, "UPDATE backup SET state = 'failed', error = 'broken off' WHERE state = 'running'").catch(() => {});
  let working;
  const look = async () => {
    const wanted = await ask(reach, "SELECT id FROM backup WHERE state = 'wanted' ORDER BY askedAt LIMIT 1");
    if (wanted) {
      // Of several that look, one takes it.
      const taken = await ask(
        reach,
        `UPDATE backup SET state = 'running' WHERE id = ${text(wanted)} AND state = 'wanted'; SELECT ROW_COUNT()`,
      );
      if (taken !== '1') return undefined;
      return backUp(reach, { why: 'asked', id: wanted });
    }
    const { everyHours } = await wishes(reach);
    // A failure is tried again after a quarter of an hour, not each time somebody looks.
    const due = await ask(
      reach,
      `SELECT NOT EXISTS (SELECT 1 FROM backup WHERE (state = 'checked' AND madeAt > UTC_TIMESTAMP() - INTERVAL ${Number(everyHours) * 60} MINUTE)
         OR (state = 'failed' AND madeAt > UTC_TIMESTAMP() - INTERVAL 15 MINUTE))`,
    );
    return due === '1' ? backUp(reach, { why: 'schedule' }) : undefined;
  };
  let said = '';
  const timer = setInterval(() => {
    working ??= look()
      .then(() => (said = ''))
      .catch((error) => {
        if (error.message !== said) say(`backup: ${error.message}`);
        said = error.message;
      })
      .finally(() => (working = undefined));
  }, LOOK_MS);
  return {
    stop: async () => {
      clearInterval(timer);
      await working;
    },
  };
}
