import type { HistoryLine, How, Id, Text, Verb } from '@kalvet/core';
import { TAKEN_BACK } from '@kalvet/core';
import type { Row } from '../db/tables.ts';
import { fromRow } from '../db/tables.ts';
import type { Store } from '../write/store.ts';

interface EventRow extends Pick<HistoryLine, 'number' | 'room' | 'reason' | 'bad'> {
  readonly verb: Verb;
  readonly text: string;
  readonly says: Text | null;
  readonly doneAt: string;
  readonly typedAt: string;
  readonly takenBackBy: number | null;
  readonly how: How | null;
}

/** What happened to a record, the newest first. */
export async function history({ models }: Store, subject: Id, limit = 300): Promise<HistoryLine[]> {
  const concerned = await models.eventSubjects.findAll({ where: { subject }, attributes: ['number'], raw: true });
  const rows = await models.events.findAll({
    where: { number: (concerned as unknown as { number: number }[]).map(({ number }) => number) },
    attributes: { exclude: ['changes'] },
    include: [{ association: 'actor', attributes: ['name'] }],
    order: [
      ['doneAt', 'DESC'],
      ['number', 'DESC'],
    ],
    limit,
    raw: true,
  });
  return (rows as unknown as Row[]).map((found) => {
    const row = fromRow<EventRow>('events', found);
    const { number, verb, room, reason, bad } = row;
    return {
      number,
      verb,
      text: row.says ?? row.text,
      room,
      at: row.doneAt,
      typedAt: row.typedAt,
      actor: (found['actor.name'] as string | null) ?? 'Kalvet',
      // From before there was a sign-in: what a browser said.
      how: row.how ?? (found['actor.name'] ? 'stated' : null),
      reason,
      bad,
      takenBack: row.takenBackBy !== null,
      mayTakeBack: row.takenBackBy === null && TAKEN_BACK.has(verb),
    };
  });
}
