import type { Backup, BackupWishes, BackupsAnswer, Id, SaveBackupWishes, StandingAnswer } from '@kalvet/core';
import { BACKUP_OLD_HOURS, BACKUP_WISHES, inWords, never } from '@kalvet/core';
import type { Model } from 'sequelize';
import { Op } from 'sequelize';
import type { Server } from '../http/request.ts';
import { claimSettings, keepSetting } from '../people/keep-settings.ts';
import { rowsOf } from '../db/rows.ts';
import type { Context } from '../write/context.ts';
import { refused } from '../write/problem.ts';
import type { Store } from '../write/store.ts';

const SHOWN = 40;
const HOUR_MS = 3_600_000;
const GIVEN_UP_MS = 10 * 60_000;

interface Row extends Omit<Backup, 'change' | 'second'> {
  readonly change_: number | null;
  readonly second_: string | null;
}

const wishesOf = async (store: Store): Promise<BackupWishes> => ({
  ...BACKUP_WISHES,
  ...(await rowsOf<{ value: Partial<BackupWishes> }>(store, 'settings', { name: 'backups' }))[0]?.value,
});

const versionOf = async (store: Store): Promise<number> =>
  (await rowsOf<{ value: number }>(store, 'counters', { name: 'settings' }))[0]?.value ?? 0;

/** The copies made, the newest first, and what the shop wishes. */
export async function backups({ store, now }: Server): Promise<BackupsAnswer> {
  const found = await store.models.backups.findAll({ raw: true, order: [['askedAt', 'DESC']], limit: SHOWN });
  const ids = (found as unknown as { id: Id }[]).map(({ id }) => id);
  const rows = await rowsOf<Row>(store, 'backups', { id: ids });
  return {
    version: await versionOf(store),
    wishes: await wishesOf(store),
    backups: rows
      .map(({ change_: change, second_: second, ...row }) => ({ ...row, change, second }))
      .sort((a, b) => b.askedAt.localeCompare(a.askedAt)),
    now: now(),
  };
}

/** How the records are kept: the newest proven copy, and the room that is left. Counts by the machine's clock, as copies do. */
export async function standing({ store, now, disk }: Server): Promise<StandingAnswer> {
  const { backups: model } = store.models;
  const checked = await model.max<Date | string | null, Model>('madeAt', { where: { state: 'checked' } });
  const checkedAt = checked === null ? null : new Date(checked).toISOString();
  const [failed] = (await model.findAll({
    raw: true,
    where: { error: { [Op.ne]: null }, ...(checkedAt ? { madeAt: { [Op.gte]: checkedAt } } : {}) } as never,
    order: [['madeAt', 'DESC']],
    limit: 1,
  })) as unknown as { error: string }[];
  const first = await model.min<Date | string | null, Model>('askedAt');
  const since = checkedAt ?? (first === null ? null : new Date(first).toISOString());
  return {
    now: now(),
    disk: disk?.() ?? null,
    backup: {
      checkedAt,
      overdue: since !== null && Date.now() - Date.parse(since) > BACKUP_OLD_HOURS * HOUR_MS,
      trouble: failed?.error ?? null,
    },
  };
}

/** Changes when copies are made, and where they go. */
export async function saveWishes(ctx: Context, { version, ...wishes }: SaveBackupWishes): Promise<object> {
  ctx.may('keep records');
  await claimSettings(ctx, version, wishes);
  await keepSetting(ctx, 'backups', wishes);
  ctx.event = {
    verb: 'keep records',
    text: `Backups every ${wishes.everyHours} h, ${wishes.keep} kept${wishes.secondFolder ? `, a second copy in ${wishes.secondFolder}` : ''}`,
  };
  await ctx.audit('backup', inWords(ctx.event.text));
  return {};
}

/** Asks for a copy now; whoever keeps Kalvet running makes it within half a minute. */
export async function askBackup(ctx: Context, { id }: { id: Id }): Promise<{ id: Id }> {
  ctx.may('keep records');
  // One that nobody took up within ten minutes waits for nobody.
  const since = new Date(Date.now() - GIVEN_UP_MS);
  const waiting = await ctx.rows('backups', { state: ['wanted', 'running'], askedAt: { [Op.gt]: since } });
  if (waiting.length > 0) throw refused([never('busy', 'A backup is being made already.')]);
  await ctx.store.models.backups.create(
    { id, why: 'asked', state: 'wanted', askedAt: new Date().toISOString() },
    { transaction: ctx.tx },
  );
  ctx.event = { verb: 'keep records', text: 'A backup was asked for' };
  await ctx.audit('backup', 'asked for a backup');
  return { id };
}
