import { METRIC, addDays, dayIn, dayNumber, inWords, projections, shopReader, weekday } from '@kalvet/core';
import type { Calendar, Id, Shop } from '@kalvet/core';
import type { Transaction } from 'sequelize';
import { rowsOf } from '../server/src/db/rows.ts';
import type { AnyTable, TableName } from '../server/src/db/tables.ts';
import { toRow } from '../server/src/db/tables.ts';
import { holidaysFrom } from '../server/src/plan/holidays.ts';
import { newId } from '../server/src/write/new-id.ts';
import type { Store } from '../server/src/write/store.ts';
import type { Memory, PlayedEvent } from './memory.ts';

type Row = Record<string, unknown>;

/** Rows in one statement. */
const BATCH = 500;
/** Tables in an order in which each names only those before it. */
const ORDER = [
  'works',
  'sections',
  'pieces',
  'moulds',
  'pulls',
  'casts',
  'trees',
  'treeCasts',
  'loads',
  'loadPlaces',
  'heats',
  'pourings',
  'chargeLines',
  'heatReadings',
  'steps',
  'weights',
  'openItems',
  'drynessReadings',
] as const satisfies readonly (keyof Shop & TableName)[];

/** Writes a foundry that was played in memory into an empty database, in bulk and in one transaction. */
export async function lay(store: Store, memory: Memory): Promise<void> {
  const shop = memory.all();
  await store.db.transaction(async (transaction) => {
    const put = async (table: AnyTable, rows: readonly Row[]) => {
      for (let start = 0; start < rows.length; start += BATCH)
        await store.models[table].bulkCreate(rows.slice(start, start + BATCH), { transaction });
    };
    await put('people', memory.people as unknown as Row[]);
    await put('clients', memory.clients as unknown as Row[]);
    await put('orders', memory.orders as unknown as Row[]);
    await put(
      'lots',
      memory.lots.map((row) => toRow('lots', row as unknown as Row)),
    );
    await put(
      'crucibles',
      memory.crucibles.map((row) => toRow('crucibles', row as unknown as Row)),
    );
    await put(
      'crucibleLooks',
      memory.looks.map((row) => toRow('crucibleLooks', row as unknown as Row)),
    );
    await put(
      'instruments',
      memory.instruments.map((row) => toRow('instruments', row as unknown as Row)),
    );
    await put('dryingPlaces', memory.dryingPlaces as unknown as Row[]);
    await put(
      'climate',
      memory.climateReadings.map((row) => ({ ...row, at: new Date(row.at) })),
    );
    if (memory.tankLog) {
      await put('tanks', memory.tankLog.tanks as unknown as Row[]);
      await put('tankChecks', memory.tankLog.checks as unknown as Row[]);
      await put('tankDecisions', memory.tankLog.decisions as unknown as Row[]);
      await put('supplies', memory.tankLog.supplies as unknown as Row[]);
    }
    for (const table of ORDER)
      await put(
        table,
        (shop[table] as unknown as Row[]).map((row) => toRow(table, row)),
      );
    if (memory.kiln) {
      await put(
        'profiles',
        memory.kiln.profiles.map((row) => toRow('profiles', row as unknown as Row)),
      );
      await put(
        'kilnReadings',
        memory.kiln.readings.map((row) => ({ ...row, at: new Date(row.at) })),
      );
    }
    await put(
      'mouldSections',
      pairs(shop.moulds, 'mouldId', 'sectionId', ({ sectionIds }) => sectionIds),
    );
    await put(
      'pullCasts',
      pairs(shop.pulls, 'pullId', 'castId', ({ castIds }) => castIds),
    );
    await closeOnHolidays(store, memory, transaction);
    await put('visits', visits(memory));
    await putEvents(put, memory);
    const works = new Set(shop.works.map(({ id }) => id));
    await put('projections', projections(shop, works, memory.settings) as unknown as Row[]);
    for (const [name, value] of [
      ...memory.counters,
      ['orders', memory.orders.length] as const,
      ['lots', memory.lots.length] as const,
      ['crucibles', memory.crucibles.length] as const,
      ['change', memory.events.length] as const,
      ['climate', memory.climateReadings.length > 0 ? 1 : 0] as const,
    ])
      await store.models.counters.update({ value }, { where: { name }, transaction });
  });
}

/** Guests in the weeks to come; the second visit is on a pour day. */
function visits({ now, settings }: Memory): Row[] {
  const today = dayIn(now, settings.timeZone);
  // The first such weekday from a few days ahead on.
  const ahead = (weekdayWanted: number, least: number) =>
    addDays(today, least + ((weekdayWanted - weekday(dayNumber(today)! + least) + 7) % 7));
  return [
    { day: ahead(2, 3), from: '10:30', to: '11:30', who: 'Hollow Quay Gallery', note: 'looks at the Cockle Rakes' },
    { day: ahead(4, 8), from: '13:30', to: '15:00', who: 'Marrowby College, 11 students', note: 'closed shoes' },
  ].map((visit) => ({ ...visit, id: newId(), version: 1 }));
}

/** Marrowby lies in England: shut on its holidays, and between the years. A day that a heat is planned for stays a working day. */
async function closeOnHolidays(store: Store, memory: Memory, transaction: Transaction): Promise<void> {
  const today = dayIn(memory.now, memory.settings.timeZone);
  const heats = new Set(memory.all().heats.flatMap(({ plannedFor }) => plannedFor?.slice(0, 10) ?? []));
  const between = [0, 1].flatMap((more) => {
    const year = Number(today.slice(0, 4)) + more;
    return Array.from({ length: 9 }, (_, i) => addDays(`${year}-12-24`, i));
  });
  const days = [...holidaysFrom(today, 'GB', 'ENG').map(({ day }) => day), ...between];
  const closed = [...new Set(days)].filter((day) => day >= today && !heats.has(day)).sort();
  for (const { id, always, name } of await rowsOf<Calendar>(store, 'calendars', {}, transaction))
    // A kiln burns on whether anybody is there or not.
    if (!always && !name.startsWith('Kiln'))
      await store.models.calendars.update(toRow('calendars', { closed }) as never, { where: { id }, transaction });
}

const pairs = <T extends { readonly id: Id }>(
  records: readonly T[],
  one: string,
  other: string,
  of: (record: T) => readonly Id[],
): Row[] => records.flatMap((record) => of(record).map((id) => ({ [one]: record.id, [other]: id })));

async function putEvents(put: (table: AnyTable, rows: readonly Row[]) => Promise<void>, memory: Memory): Promise<void> {
  const reader = shopReader(memory.settings.timeZone, METRIC);
  const row = ({ event, typedAt, actorId, changes }: PlayedEvent, i: number): Row => ({
    number: i + 1,
    doneAt: event.doneAt ?? typedAt,
    typedAt,
    actorId,
    requestId: 'played',
    verb: event.verb,
    text: inWords(event.text, reader).slice(0, 600),
    says: typeof event.text === 'string' ? null : event.text,
    room: event.room ?? null,
    bad: event.bad ?? false,
    reason: event.reason ?? null,
    changes,
    takenBackBy: null,
    how: actorId ? 'password' : null,
  });
  await put('events', memory.events.map(row));
  await put(
    'eventSubjects',
    memory.events.flatMap(({ subjects }, i) =>
      [...subjects].map(([subject, kind]) => ({ subject, number: i + 1, kind })),
    ),
  );
}
