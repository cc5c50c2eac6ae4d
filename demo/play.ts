import type { Id, Instant } from '@kalvet/core';
import { addOpenItem } from '../server/src/chasing/open-item.service.ts';
import { addPerson } from '../server/src/people/people.service.ts';
import { saveClient, saveOrder } from '../server/src/work/order.service.ts';
import { changePiece, hold } from '../server/src/work/piece.service.ts';
import { setUpWork } from '../server/src/work/work.service.ts';
import { newId } from '../server/src/write/context.ts';
import type { Store } from '../server/src/write/context.ts';
import { Bench } from './bench.ts';
import { HOLD, OPEN_ITEMS, ORDERS, PEOPLE, WORKS } from './foundry.ts';
import { Furnace } from './furnace.ts';
import { Stage } from './stage.ts';

const SLOTS = ['08:20', '09:30', '10:40', '11:50', '13:20', '14:30', '15:40'];
/** Weeks of history; with the seven weeks and more that the plan reaches ahead, eighteen in all. */
const DAYS = 77;
const THURSDAY = 4;
/** The pour day's heats: two or three of silicon bronze, the last one of tin bronze. */
const HEATS = [
  ['09:05', 'C87300'],
  ['11:05', 'C87300'],
  ['13:05', 'C87300'],
  ['15:05', 'C90500'],
] as const;

/** Plays some weeks of work up to now, so that every record has its history. Gives how many pieces were begun. */
export async function play(store: Store, now: Instant): Promise<number> {
  const stage = new Stage(store, now);
  const bench = new Bench(stage);
  const furnace = new Furnace(stage);
  stage.hand.now = stage.at(DAYS, '07:30');
  await setUp(stage);
  await takeOrders(stage);
  for (let back = DAYS - 1; back >= 0; back--) {
    const { weekday } = stage.today.minus({ days: back });
    if (weekday > 5) continue;
    for (const [time, act] of agenda(stage, bench, furnace, back, weekday)) {
      stage.hand.now = stage.at(back, time);
      // The rest lies ahead of now.
      if (stage.hand.now > stage.end) break;
      await act();
    }
  }
  stage.hand.now = stage.end;
  await furnace.planNext();
  return stage.pieces.length;
}

type Moment = readonly [time: string, act: () => Promise<void>];

/** A working day in the order of its hours. */
function agenda(stage: Stage, bench: Bench, furnace: Furnace, back: number, weekday: number): Moment[] {
  const moments: Moment[] = [['08:00', () => furnace.fire(stage.at(back, '14:10'))]];
  for (const slot of SLOTS)
    moments.push([
      slot,
      async () => {
        await holdOne(stage);
        await bench.round();
      },
    ]);
  if (weekday === THURSDAY) {
    moments.push(['08:00', () => furnace.drawBlocks()]);
    for (const [time, alloyId] of HEATS) moments.push([time, () => furnace.pour(alloyId)]);
  }
  for (const item of OPEN_ITEMS)
    // On the day itself, or on the Monday after a weekend.
    if (item.daysAgo === back || (weekday === 1 && item.daysAgo > back && item.daysAgo <= back + 2))
      moments.push(['16:10', () => openItem(stage, item)]);
  return moments.sort(([a], [b]) => a.localeCompare(b));
}

async function setUp(stage: Stage): Promise<void> {
  const { hand, person } = stage;
  for (const { key, name, shortName, mayOverride } of PEOPLE) {
    const id = newId(Date.parse(hand.now));
    person[key] = id;
    await hand.write(null, (ctx) => addPerson(ctx, { id, name, shortName, mayOverride }));
  }
  for (const { begun, due, recipe, ...work } of WORKS) {
    const { pieceIds } = await hand.write(person.ines, (ctx) =>
      setUpWork(ctx, { ...work, id: newId(), dueDate: null }),
    );
    for (const [i, id] of pieceIds.entries()) {
      stage.marks.set(`${work.code} ${i + 1}`, id);
      const days = due[i];
      if (days !== undefined && days !== null) {
        const dueDate = stage.day(days);
        await hand.write(person.ines, (ctx) => changePiece(ctx, id, { version: 1, dueDate }));
      }
      if (begun[i] !== undefined)
        stage.pieces.push({ id, work: work.code, number: i + 1, begins: stage.at(begun[i], '08:00'), recipe });
    }
  }
}

async function takeOrders(stage: Stage): Promise<void> {
  const { hand, person } = stage;
  for (const { client: name, contact, due, pieces, ...order } of ORDERS) {
    const clientId = newId();
    await hand.write(person.ines, (ctx) => saveClient(ctx, { id: clientId, version: 0, name, contact }));
    const pieceIds = Object.entries(pieces as Record<string, readonly number[]>).flatMap(([code, numbers]) =>
      numbers.map((number) => stage.marks.get(`${code} ${number}`)!),
    );
    await hand.write(person.ines, (ctx) =>
      saveOrder(ctx, { ...order, id: newId(), version: 0, clientId, dueDate: stage.day(due), pieceIds }),
    );
  }
}

async function holdOne(stage: Stage): Promise<void> {
  const { hand, person } = stage;
  if (stage.held || hand.now < stage.at(HOLD.daysAgo, '08:00')) return;
  const id = stage.marks.get(`${HOLD.work} ${HOLD.piece}`)!;
  const [row] = await hand.select<{ version: number; state: string }>('SELECT version, state FROM piece WHERE id = ?', [
    id,
  ]);
  if (row?.state !== 'in work') return;
  stage.held = true;
  await hand.write(person.ines, (ctx) =>
    hold(ctx, id, { version: row.version, reason: HOLD.reason, until: stage.day(HOLD.untilDays) }),
  );
}

async function openItem(stage: Stage, item: (typeof OPEN_ITEMS)[number]): Promise<void> {
  const { hand, person } = stage;
  const key = `${item.work} ${item.piece} ${item.what}`;
  const [cast] = await hand.select<{ id: Id }>(
    "SELECT c.id FROM cast_ c JOIN section s ON s.id = c.sectionId WHERE c.pieceId = ? AND s.name = ? AND c.state = 'wax'",
    [stage.marks.get(`${item.work} ${item.piece}`)!, item.section],
  );
  if (!cast || stage.opened.has(key)) return;
  stage.opened.add(key);
  await hand.write(person.petra, (ctx) =>
    addOpenItem(ctx, { id: newId(), castId: cast.id, kind: item.kind, what: item.what }),
  );
}
