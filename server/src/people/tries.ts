import { createHash } from 'node:crypto';
import type { Transaction } from 'sequelize';
import { Op, literal } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import { Problem } from '../write/problem.ts';
import type { Store } from '../write/store.ts';

/** How many tries are free, and how long one waits at most after the later ones. */
interface Manner {
  readonly free: number;
  readonly mostS: number;
}

const MANNERS = {
  /** One name from one address: where guessing is done. */
  pair: { free: 3, mostS: 15 * 60 },
  /** Many names from one address. */
  address: { free: 20, mostS: 5 * 60 },
  /** A browser at which this person signed in before has a count of its own, so nobody else can lock it out. */
  browser: { free: 5, mostS: 5 * 60 },
  /** A PIN is short: its tries are few. */
  pin: { free: 3, mostS: 15 * 60 },
} as const satisfies Record<string, Manner>;

export type TryKind = keyof typeof MANNERS;
export interface Try {
  readonly kind: TryKind;
  readonly of: string;
}

const keyOf = ({ kind, of }: Try): string => createHash('sha256').update(`${kind}\0${of}`).digest('hex');
/** A count is forgotten after a day without a failure. */
const FORGOTTEN_MS = 24 * 3_600_000;

/** Seconds to wait after so many failures: none for the free ones, then one, and twice as long each time. */
export const waitAfter = (failures: number, { free, mostS }: Manner): number =>
  failures < free ? 0 : Math.min(mostS, 2 ** Math.min(20, failures - free));

interface Row {
  readonly id: string;
  readonly failures: number;
  readonly lastAt: string;
}

/**
 * Counts the tries as failed before they are judged, so that many at once are no way round; whoever was right is forgiven.
 * @throws Problem `wait` where one of them may not be made yet; then nothing is counted
 */
export async function beginTry(store: Store, tries: readonly Try[]): Promise<void> {
  const now = Date.now();
  const ids = tries.map(keyOf).sort();
  const model = store.models.tries;
  // Made by themselves and taken in the order of their ids: so many tries at once wait for one another in turn.
  for (const id of ids)
    await model.bulkCreate([{ id, failures: 0, lastAt: new Date(now) }], { ignoreDuplicates: true });
  await store.db.transaction(async (tx: Transaction) => {
    await model.findAll({ where: { id: ids }, order: [['id', 'ASC']], lock: true, raw: true, transaction: tx });
    const rows = new Map((await rowsOf<Row>(store, 'tries', { id: ids }, tx)).map((row) => [row.id, row]));
    const waits = tries.map((each) => {
      const row = rows.get(keyOf(each));
      if (!row || now - Date.parse(row.lastAt) > FORGOTTEN_MS) return 0;
      return Date.parse(row.lastAt) + waitAfter(row.failures, MANNERS[each.kind]) * 1000 - now;
    });
    const waitMs = Math.max(...waits);
    if (waitMs > 0) {
      const waitS = Math.ceil(waitMs / 1000);
      throw new Problem(
        'wait',
        `Too many tries. Wait ${waitS < 90 ? `${waitS} s` : `${Math.ceil(waitS / 60)} min`} and try again.`,
        {
          waitS,
        },
      );
    }
    await model.update(
      {
        failures: literal(`IF(lastAt < UTC_TIMESTAMP() - INTERVAL 1 DAY, 1, failures + 1)`),
        lastAt: new Date(now),
      },
      { where: { id: ids }, transaction: tx },
    );
  });
}

/** It was right: its counts begin anew, but for the address, which others may be guessing from. */
export async function forgive(store: Store, tries: readonly Try[]): Promise<void> {
  const own = tries.filter(({ kind }) => kind !== 'address').map(keyOf);
  const shared = tries.filter(({ kind }) => kind === 'address').map(keyOf);
  await store.models.tries.destroy({ where: { id: own } });
  if (shared.length > 0)
    await store.models.tries.update({ failures: literal('GREATEST(0, failures - 1)') }, { where: { id: shared } });
}

/** Lets counts go that nobody needs any more. */
export const dropOldTries = (store: Store): Promise<number> =>
  store.models.tries.destroy({ where: { lastAt: { [Op.lt]: new Date(Date.now() - FORGOTTEN_MS) } } });
