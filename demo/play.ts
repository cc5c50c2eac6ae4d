import type { Instant, ShopSettings } from '@kalvet/core';
import {
  METRIC,
  addOpenItem,
  changePiece,
  counted,
  holdPiece,
  learnedDrying,
  onDay,
  say,
  setUpWork,
} from '@kalvet/core';
import { Bench } from './bench.ts';
import { DemoAir } from './climate.ts';
import { HOLD, OPEN_ITEMS, ORDERS, PEOPLE, WORKS } from './foundry.ts';
import { Furnace } from './furnace.ts';
import { ShellRoom } from './shell.ts';
import { Stage } from './stage.ts';
import { TankLog } from './tanks.ts';

const SLOTS = ['08:20', '09:30', '10:40', '11:50', '13:20', '14:30', '15:40'];
/** Weeks of history; with the seven weeks and more that the plan reaches ahead, eighteen in all. */
const DAYS = 77;
const THURSDAY = 4;
/** The pour day's heats: two of silicon bronze, the last one of tin bronze; the first waits for its furnace to warm. */
const HEATS = [
  ['10:45', 'C87300'],
  ['12:55', 'C87300'],
  ['15:20', 'C90500'],
] as const;
/** The shell room's shelf is filled again each month. */
const RESTOCK_EVERY = 28;
/** So long ago the tin pot was looked over. */
const POT_LOOK = 9;

/** Plays some weeks of work up to now, so that every record has its history. Which works, where not all. */
export function play(settings: ShopSettings, now: Instant, works = WORKS): Stage {
  const stage = new Stage(settings, now);
  const bench = new Bench(stage);
  const furnace = new Furnace(stage);
  stage.shop.now = stage.at(DAYS, '07:30');
  const shell = new ShellRoom(stage, openAir(stage));
  const tanks = new TankLog(stage);
  stage.shop.tankLog = tanks;
  setUpShop(stage, works);
  furnace.begin();
  tanks.begin();
  tankInstruments(stage, tanks.tanks[0]!.id);
  if (works === WORKS) takeOrders(stage);
  for (let back = DAYS - 1; back >= 0; back--) {
    const { weekday } = stage.today.minus({ days: back });
    stage.shop.now = stage.at(back, weekday > 5 ? '09:15' : '07:40');
    if (stage.shop.now > stage.end) break;
    tanks.morning(back);
    if (weekday > 5) continue;
    for (const [time, act] of agenda(stage, bench, furnace, { shell, tanks }, back, weekday)) {
      stage.shop.now = stage.at(back, time);
      // The rest lies ahead of now.
      if (stage.shop.now > stage.end) break;
      act();
    }
  }
  stage.shop.now = stage.end;
  learnDrying(stage);
  furnace.planNext();
  return stage;
}

/** The shell room's air as its sensors wrote it down; what is learned of it is learned at the end. */
function openAir(stage: Stage): DemoAir {
  const { shop } = stage;
  const air = new DemoAir(shop.newId, stage.today, DAYS, stage.end, shop.settings.dryingReferenceK);
  shop.dryingPlaces.push(...air.places);
  shop.climateReadings.push(...air.readings);
  shop.climate = air.climate;
  stage.air = air;
  for (const [i, { id, name }] of air.places.entries())
    shop.instruments.push({
      id: shop.newId(),
      code: `climate-${i + 1}`,
      name: `Climate, ${name.toLowerCase()}`,
      kind: 'climate',
      where: null,
      ofId: id,
      plusMinusK: 0.3,
      emissivity: null,
      calibratedOn: null,
      state: 'in use',
      version: 1,
    });
  return air;
}

/** A flow cup and a scale that report by themselves stand at the face tank. */
function tankInstruments(stage: Stage, tankId: string): void {
  for (const [code, name, kind] of [
    ['cup-1', 'Flow cup, face tank', 'cup'],
    ['scale-1', 'Scale, face tank', 'scale'],
  ] as const)
    stage.shop.instruments.push({
      id: stage.shop.newId(),
      ...{ code, name, kind, where: null, ofId: tankId, plusMinusK: 0, emissivity: null, calibratedOn: null },
      ...{ state: 'in use', version: 1 },
    });
}

/** What the shop's looks say of its reference times: counts from the end of the play on, as it does once it is laid. */
function learnDrying({ shop }: Stage): void {
  if (shop.climate) shop.learn(learnedDrying(shop.all().drynessReadings));
}

type Moment = readonly [time: string, act: () => void];

/** A working day in the order of its hours. */
function agenda(
  stage: Stage,
  bench: Bench,
  furnace: Furnace,
  { shell, tanks }: { readonly shell: ShellRoom; readonly tanks: TankLog },
  back: number,
  weekday: number,
): Moment[] {
  const moments: Moment[] = [['08:00', () => furnace.fire(stage.at(back, '14:10'))]];
  for (const slot of SLOTS)
    moments.push([
      slot,
      () => {
        holdOne(stage);
        shell.look();
        bench.round();
        shell.hang();
      },
    ]);
  if (weekday === THURSDAY - 1) moments.push(['15:50', () => furnace.drawBlocks()]);
  if (weekday === THURSDAY) {
    for (const [time, alloyId] of HEATS) moments.push([time, () => furnace.pour(alloyId)]);
  }
  if (weekday === 1) moments.push(['11:20', () => tanks.decide()]);
  if (back % RESTOCK_EVERY === 20) moments.push(['10:10', () => tanks.restock()]);
  if (back === POT_LOOK) moments.push(['09:10', () => furnace.lookAtPot()]);
  for (const item of OPEN_ITEMS)
    // On the day itself, or on the Monday after a weekend.
    if (item.daysAgo === back || (weekday === 1 && item.daysAgo > back && item.daysAgo <= back + 2))
      moments.push(['16:10', () => openItem(stage, item)]);
  return moments.sort(([a], [b]) => a.localeCompare(b));
}

/** People and works, before anything is done. */
export function setUpShop(stage: Stage, works: typeof WORKS): void {
  const { shop, person } = stage;
  for (const { key, name, shortName, roles, rooms, gates } of PEOPLE) {
    const id = shop.newId();
    person[key] = id;
    shop.people.push({ id, name, shortName, roles, rooms, gates, active: true, units: METRIC, version: 1 });
    const changes = [{ table: 'people', id, op: 'insert' as const }];
    shop.tell(null, { verb: 'add person', text: `${name} works here` }, [['person', id]], changes);
  }
  for (const { begun, due, recipe, ...work } of works) {
    const workId = shop.newId();
    stage.marks.set(work.code, workId);
    const { pieceIds } = shop.onWork(workId, person.ines, (_, doing) =>
      setUpWork({ ...work, id: workId, dueDate: null }, doing),
    );
    for (const [i, id] of pieceIds.entries()) {
      stage.marks.set(`${work.code} ${i + 1}`, id);
      const days = due[i];
      if (days !== undefined && days !== null) {
        const dueDate = stage.day(days);
        shop.onWork(workId, person.ines, (index) => changePiece(index, index.piece.get(id)!, { version: 1, dueDate }));
      }
      const ago = begun[i];
      if (ago !== undefined)
        stage.pieces.push({ id, workId, work: work.code, number: i + 1, begins: stage.at(ago, '08:00'), recipe });
    }
  }
}

/** Clients and orders are no part of the shop that acts are played on: they are written down as their service does. */
function takeOrders(stage: Stage): void {
  const { shop, person } = stage;
  for (const [n, { client: name, contact, due, pieces, ...order }] of ORDERS.entries()) {
    const clientId = shop.newId();
    shop.clients.push({ id: clientId, name, contact, version: 1 });
    shop.tell(
      person.ines,
      { verb: 'save client', text: `Client ${name} entered` },
      [['client', clientId]],
      [{ table: 'clients', id: clientId, op: 'insert' }],
    );
    const id = shop.newId();
    const dueDate = stage.day(due);
    shop.orders.push({ ...order, id, number: n + 1, clientId, dueDate, version: 1 });
    const pieceIds = Object.entries(pieces as Record<string, readonly number[]>).flatMap(([code, numbers]) =>
      numbers.map((number) => [stage.marks.get(code)!, stage.marks.get(`${code} ${number}`)!] as const),
    );
    const changes = pieceIds.map(([workId, pieceId]) => shop.putInOrder(workId, pieceId, id));
    const what = `Order O-${n + 1} ${order.title}: ${counted(pieceIds.length, 'piece')}`;
    shop.tell(
      person.ines,
      { verb: 'save order', text: say`${what}, due ${onDay(dueDate)}` },
      [...pieceIds.map(([, pieceId]) => ['piece', pieceId] as const), ['order', id], ['client', clientId]],
      [{ table: 'orders', id, op: 'insert' }, ...changes],
    );
  }
}

function holdOne(stage: Stage): void {
  const { shop, person } = stage;
  const id = stage.marks.get(`${HOLD.work} ${HOLD.piece}`);
  const workId = stage.marks.get(HOLD.work);
  if (!id || !workId || stage.held || shop.now < stage.at(HOLD.daysAgo, '08:00')) return;
  const piece = shop.work(workId).piece.get(id);
  if (piece?.state !== 'in work') return;
  stage.held = true;
  const given = {
    version: piece.version,
    reason: HOLD.reason,
    until: stage.day(HOLD.untilDays),
    shells: 'on' as const,
  };
  shop.onWork(workId, person.ines, (index) => holdPiece(index, index.piece.get(id)!, given));
}

function openItem(stage: Stage, item: (typeof OPEN_ITEMS)[number]): void {
  const { shop, person } = stage;
  const workId = stage.marks.get(item.work);
  const key = `${item.work} ${item.piece} ${item.what}`;
  if (!workId || stage.opened.has(key)) return;
  const index = shop.work(workId);
  const pieceId = stage.marks.get(`${item.work} ${item.piece}`)!;
  const cast = index.shop.casts.find(
    (each) =>
      each.pieceId === pieceId && each.state === 'wax' && index.section.get(each.sectionId)?.name === item.section,
  );
  if (!cast) return;
  stage.opened.add(key);
  const given = { id: shop.newId(), castId: cast.id, kind: item.kind, what: item.what };
  shop.onWork(workId, person.petra, (now, doing) => addOpenItem(now, given, doing));
}
