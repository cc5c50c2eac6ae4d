// A shop of many works, written straight into the tables in bulk.
import type { Id, Instant, Shop, Step } from '@kalvet/core';
import { METRIC, addDays, dayIn, isClosed, kindOf, projections } from '@kalvet/core';
import type * as mariadb from 'mariadb';
import { DataTypes } from 'sequelize';
import { sqlInstant } from '../server/src/db/instant.ts';
import { toRow } from '../server/src/db/tables.ts';
import type { AnyTable, TableName } from '../server/src/db/tables.ts';
import { settingsOf } from '../server/src/people/settings.ts';
import { loadShop } from '../server/src/shop/load.ts';
import { newId } from '../server/src/write/new-id.ts';
import { openStore } from '../server/src/store.ts';
import type { Store } from '../server/src/write/store.ts';
import { driver } from './driver.ts';
import { TEMPLATE_ID, templates } from './template.ts';

const WORKS = 200;
const TEMPLATES = 20;
const PEOPLE = ['Ann Ash', 'Ben Birch', 'Cis Cedar', 'Dan Dogwood', 'Eve Elder'];
/** Rows in one statement. */
const BATCH = 2000;
const COPIED: readonly TableName[] = [
  'works',
  'sections',
  'pieces',
  'moulds',
  'pulls',
  'casts',
  'trees',
  'treeCasts',
  'steps',
  'weights',
];

export interface Filled {
  readonly works: number;
  readonly pieces: number;
  readonly inWork: number;
  readonly steps: number;
  readonly events: number;
  readonly seconds: number;
}

type Row = Record<string, unknown>;

/** Fills an empty database: 200 works, 2,000 pieces, 400 of them in work, some 120,000 steps, with an event for each that is done. */
export async function fill(url: string, now: Instant): Promise<Filled> {
  const began = Date.now();
  const store = await openStore(url);
  const db = await driver(url);
  // Its people are chosen without a proof, as in the demo.
  await store.models.settings.upsert({ name: 'demo', value: { state: 'laid', at: now, change: 0 } });
  const people = PEOPLE.map(() => newId());
  await insert(
    db,
    'person',
    people.map((id, i) => ({
      id,
      version: 1,
      name: PEOPLE[i],
      shortName: PEOPLE[i]!.replace(/[a-z ]/g, ''),
      roles: JSON.stringify(i === 0 ? ['manager'] : ['hand']),
      rooms: '[]',
      gates: '[]',
      active: true,
      units: JSON.stringify(METRIC),
    })),
  );
  const numbers = new Map<string, number>();
  const made = templates(TEMPLATES, now).map((shop) =>
    JSON.stringify(Object.fromEntries(COPIED.map((name) => [name, shop[name as keyof Shop]]))),
  );
  const counts = { pieces: 0, inWork: 0, steps: 0, events: 0 };
  await db.query('SET FOREIGN_KEY_CHECKS = 0');
  await db.query('SET UNIQUE_CHECKS = 0');
  for (let first = 0; first < WORKS; first += TEMPLATES) {
    await db.beginTransaction();
    const copies = made.map((text, i) => copyOf(text, first + i, people, numbers, now));
    for (const name of COPIED)
      await insert(
        db,
        tableOf(store, name),
        copies.flatMap((copy) => rowsOf(store, name, copy[name]!)),
      );
    const all = (name: TableName) => copies.flatMap((copy) => copy[name] ?? []);
    await insert(db, 'mould_section', pairs(all('moulds'), 'mouldId', 'sectionId', 'sectionIds'));
    await insert(db, 'pull_cast', pairs(all('pulls'), 'pullId', 'castId', 'castIds'));
    counts.events = await events(db, copies, people, counts.events);
    counts.pieces += all('pieces').length;
    counts.inWork += all('pieces').filter((piece) => piece['state'] === 'in work').length;
    counts.steps += all('steps').length;
    await db.commit();
    // Kept ready as every write keeps it: by the service's own function.
    const workIds = all('works').map((work) => work['id'] as Id);
    const shop = await loadShop(store, { workIds });
    await insert(
      db,
      'projection',
      projections(shop, new Set(workIds), await settingsOf(store)).map((each) => ({
        ...each,
        readyAt: each.readyAt && sqlInstant(each.readyAt),
        tooOldAt: each.tooOldAt && sqlInstant(each.tooOldAt),
        data: JSON.stringify(each.data),
      })),
    );
  }
  for (const [name, value] of [...numbers, ['change', counts.events] as const])
    await db.query('UPDATE counter SET value = ? WHERE name = ?', [value, name]);
  await db.query('SET FOREIGN_KEY_CHECKS = 1');
  await db.query('ANALYZE TABLE step, event, event_subject, piece, cast_, tree, tree_cast, projection');
  await db.end();
  await store.db.close();
  return { works: WORKS, ...counts, seconds: (Date.now() - began) / 1000 };
}

/** A template's records with ids, running numbers and a name of their own. */
function copyOf(
  text: string,
  n: number,
  people: readonly Id[],
  numbers: Map<string, number>,
  now: Instant,
): Record<string, Row[]> {
  const ids = new Map<string, Id>();
  const fresh = text.replace(TEMPLATE_ID, (id) => {
    if (!ids.has(id)) ids.set(id, newId());
    return ids.get(id)!;
  });
  const copy = JSON.parse(fresh.replaceAll('"p-1"', `"${people[n % people.length]}"`)) as Record<string, Row[]>;
  for (const name of ['works', 'moulds', 'pulls', 'trees'])
    for (const row of copy[name]!) {
      numbers.set(name, (numbers.get(name) ?? 0) + 1);
      row['number'] = numbers.get(name);
    }
  const letters = [n / 676, n / 26, n].map((each) => String.fromCharCode(65 + (Math.floor(each) % 26))).join('');
  const work = copy['works']![0]!;
  Object.assign(work, { code: letters, title: `Study ${n + 1}`, artist: `Sculptor ${1 + (n % 17)}` });
  copy['pieces']!.forEach((piece, i) => {
    if (piece['state'] === 'in work' && (n + i) % 3 > 0)
      piece['dueDate'] = addDays(dayIn(now, 'UTC'), ((n * 7 + i) % 90) - 10);
  });
  return copy;
}

const tableOf = (store: Store, name: AnyTable): string => String(store.models[name].getTableName());

/** Records as the driver takes them, by the columns and types of the model. */
function rowsOf(store: Store, name: TableName, records: readonly Row[]): Row[] {
  const columns = Object.entries(store.models[name].getAttributes());
  return records.map((record) => {
    const row = toRow(name, record);
    return Object.fromEntries(
      columns.map(([field, { type }]) => {
        const value = row[field] ?? null;
        if (value === null) return [field, null];
        if (type instanceof DataTypes.JSON) return [field, JSON.stringify(value)];
        return [field, type instanceof DataTypes.DATE ? sqlInstant(value as string) : value];
      }),
    );
  });
}

const pairs = (records: readonly Row[], one: string, other: string, list: string): Row[] =>
  records.flatMap((record) => ((record[list] as Id[]) ?? []).map((id) => ({ [one]: record['id'], [other]: id })));

/** An event for every step that is done, on its piece or carrier, in the order of their times. */
async function events(
  db: mariadb.Connection,
  copies: readonly Record<string, Row[]>[],
  people: readonly Id[],
  last: number,
): Promise<number> {
  const done = copies
    .flatMap((copy) => copy['steps'] as unknown as Step[])
    .filter((step) => isClosed(step) && step.endedAt !== null)
    .sort((a, b) => a.endedAt!.localeCompare(b.endedAt!));
  const rows: Row[] = [];
  const subjects: Row[] = [];
  done.forEach((step, i) => {
    const number = last + i + 1;
    const at = sqlInstant(step.endedAt!);
    rows.push({
      number,
      doneAt: at,
      typedAt: at,
      actorId: people[i % people.length],
      requestId: 'filled',
      verb: 'record step',
      text: kindOf(step.kind).name,
      room: kindOf(step.kind).room,
      bad: false,
      reason: null,
      changes: '[]',
    });
    subjects.push({ subject: step.id, number, kind: 'step' }, { subject: step.carrierId, number, kind: step.carrier });
  });
  await insert(db, 'event', rows);
  await insert(db, 'event_subject', subjects);
  return last + done.length;
}

async function insert(db: mariadb.Connection, table: string, rows: readonly Row[]): Promise<void> {
  if (rows.length === 0) return;
  const columns = Object.keys(rows[0]!);
  const sql = `INSERT INTO ${table} (${columns.map((name) => `\`${name}\``).join(',')}) VALUES (${columns.map(() => '?').join(',')})`;
  for (let start = 0; start < rows.length; start += BATCH)
    await db.batch(
      sql,
      rows.slice(start, start + BATCH).map((row) => columns.map((name) => row[name])),
    );
}
