// One work carried through its route by a script, played in memory or through the services.
import type { Heat, Id, Instant, Person, Piece, Shop, Step } from '@kalvet/core';
import {
  DEFAULT_SETTINGS,
  METRIC,
  POUR_CHECKS,
  addMinutes,
  changePiece,
  confirmCrew,
  finishHeat,
  indexShop,
  holdPiece,
  isOpen,
  planHeat,
  planLoad,
  pourTree,
  putInStep,
  recordMany,
  recordStep,
  setUpWork,
  standings,
} from '@kalvet/core';
import { v7 } from 'uuid';
import * as loads from '../server/src/burnout/load.service.ts';
import * as heats from '../server/src/pour/heat.service.ts';
import * as steps from '../server/src/route/step.service.ts';
import { loadWholeShop } from '../server/src/shop/load.ts';
import { write } from '../server/src/shop/write-shop.ts';
import { workBody, section } from '../server/src/testing/shop.ts';
import * as pieces from '../server/src/work/piece.service.ts';
import { setUpWork as setUp } from '../server/src/work/work.service.ts';
import type { Context } from '../server/src/write/context.ts';
import type { Store } from '../server/src/write/store.ts';
import { Memory } from './memory.ts';

const START = '2027-03-01T08:00:00.000Z';

/** What a hand does next, on the shop as it stands; the same for both ways of playing. */
type Move =
  | {
      readonly do: 'record';
      readonly kind: string;
      readonly outcome?: string;
      readonly readings?: (shop: Shop, step: Step) => object;
    }
  | { readonly do: 'tray'; readonly kind: string; readonly readings: object }
  | { readonly do: 'fire' | 'plan heat' | 'crew' | 'finish' | 'hold' | 'due' | 'put in' }
  | { readonly do: 'pour'; readonly outcome: string };

const record = (
  kind: string,
  readings: object | ((shop: Shop, step: Step) => object) = {},
  outcome?: string,
): Move => ({
  do: 'record',
  kind,
  ...(outcome ? { outcome } : {}),
  readings: typeof readings === 'function' ? (readings as (shop: Shop, step: Step) => object) : () => readings,
});

const castsOn = (shop: Shop, treeId: Id) =>
  shop.treeCasts.filter((member) => member.treeId === treeId && member.until === null).map(({ castId }) => castId);

/** Two pieces of two sections: waxes, an approval, shells, a leak, a pour that is short, a recast, a hold. */
export function theScript(): Move[] {
  const pull = record('pull', (shop: Shop, step: Step) => {
    const cast = shop.casts.find(({ id }) => id === step.carrierId)!;
    return { mouldId: shop.moulds.find((m) => m.sectionIds.includes(cast.sectionId))!.id, wax: 'micro', potC: 81 };
  });
  const chase = record('chase-wax', { waxKg: 0.812, markPutIn: true });
  const join = record('join-tree', (shop: Shop, step: Step) => ({
    castIds: castsOn(shop, step.carrierId),
    bars: [{ stock: 'S12', count: 2, lengthMm: 160 }],
  }));
  const dip: Move = { do: 'tray', kind: 'coat', readings: { slurry: 'backup', stucco: 'coarse', roomC: 21.5 } };
  const weigh = record('knock-out', (shop: Shop, step: Step) => ({
    castKg: Object.fromEntries(castsOn(shop, step.carrierId).map((id) => [id, 6.9])),
    returnsKg: 5.4,
  }));
  return [
    { do: 'due' },
    record('make-mould', { rubberKg: 4.2, lifePulls: 60 }),
    pull,
    chase,
    pull,
    chase,
    record('approve-wax', { by: 'the artist' }),
    join,
    join,
    ...Array.from({ length: 6 }, () => dip),
    { do: 'fire' },
    record('leak-test', { how: 'light', where: 'tip' }, 'patch'),
    record('patch'),
    record('leak-test', { how: 'water' }),
    { do: 'fire' },
    record('leak-test', { how: 'air' }),
    record('dry'),
    { do: 'plan heat' },
    { do: 'crew' },
    { do: 'pour', outcome: 'poured' },
    { do: 'pour', outcome: 'short' },
    { do: 'finish' },
    weigh,
    weigh,
    record('inspect', { defects: [{ code: 'gas', where: 'ear', mm: 2, verdict: 'accept' }] }, 'accept'),
    record('inspect', { defects: [{ code: 'misrun', where: 'haunch', mm: 40, verdict: 'recast' }] }, 'recast'),
    { do: 'put in' },
    { do: 'hold' },
  ];
}

const WORK = {
  code: 'HND',
  title: 'Sleeping Hound',
  editionSize: 2,
  approval: 'first' as const,
  sections: [section('Front'), section('Back', { seamM: 0.55 })],
  moulds: [{ name: 'whole', sections: [1, 2], pullsBefore: 14 }],
};

/** What both ways of playing need to do a move. */
interface Said {
  readonly person: Id;
  readonly now: Instant;
  readonly shop: Shop;
  readonly id: Id;
}

/** The first step of a kind whose turn it is. */
function first(shop: Shop, kind: string): Step {
  const turn = standings(indexShop(shop));
  const able = shop.steps.filter((step) => step.kind === kind && turn.get(step.id)?.waitsFor.length === 0);
  return able.sort((a, b) => a.id.localeCompare(b.id))[0]!;
}

/** The script takes steps in the order of their numbers; a coat is next when the one before it is done. */
const isNext = (shop: Shop, step: Step): boolean =>
  !shop.steps.some(
    (other) =>
      other.carrierId === step.carrierId && other.kind === step.kind && isOpen(other) && other.sequence < step.sequence,
  );

const trees = (shop: Shop, states: readonly string[]) =>
  [...shop.trees].sort((a, b) => a.number - b.number).filter(({ state }) => states.includes(state));

const said = ({ person, now }: Said, outcome: string, readings: object) => ({
  outcome,
  startedAt: null,
  endedAt: now,
  by: [person],
  readings: readings as Record<string, unknown>,
  note: outcome === 'done' || outcome === 'accept' || outcome === 'poured' ? '' : 'seen at the bench',
});

/** The body of a move, the same for both. */
function bodyOf(move: Move, given: Said) {
  const { shop, person, now, id } = given;
  const waiting = (kind: string) =>
    shop.steps.filter((step) => step.kind === kind && isOpen(step)).map((step) => step.carrierId);
  const heat = [...shop.heats].at(-1);
  switch (move.do) {
    case 'record': {
      const step = first(shop, move.kind);
      return {
        step,
        body: { version: step.version, ...said(given, move.outcome ?? 'done', move.readings!(shop, step)) },
      };
    }
    case 'tray': {
      const of = trees(shop, ['joined']).map(
        (tree) =>
          shop.steps.filter((s) => s.carrierId === tree.id && s.kind === move.kind && isOpen(s) && isNext(shop, s))[0]!,
      );
      return {
        steps: of,
        body: { steps: of.map((s) => ({ id: s.id, version: s.version })), ...said(given, 'done', move.readings) },
      };
    }
    case 'fire': {
      const treeIds = trees(shop, ['joined'])
        .map((tree) => tree.id)
        .filter((treeId) => waiting('fire').includes(treeId) || waiting('refire').includes(treeId));
      return {
        body: {
          id,
          treeIds,
          record: {
            startedAt: null,
            endedAt: now,
            by: [person],
            profile: '900 °C, 2 h',
            topC: 905,
            note: '',
            lost: [],
          },
        },
      };
    }
    case 'plan heat':
      return {
        body: {
          id,
          alloyId: 'C87300',
          plannedFor: now,
          trees: trees(shop, ['joined']).map((tree) => ({ treeId: tree.id })),
          chargeLines: [{ what: 'ingot' as const, alloyId: 'C87300', kg: 40, lot: 'B-1', dry: true }],
        },
      };
    case 'crew':
      return {
        heat: heat!,
        body: {
          version: heat!.version,
          crew: [{ role: 'lead' as const, personId: person, deputyId: null }],
          signs: 'spoken' as const,
          checks: POUR_CHECKS,
          coverConfirmed: true as const,
        },
      };
    case 'pour': {
      const next = shop.pourings.filter((p) => p.outcome === null).sort((a, b) => a.order - b.order)[0]!;
      return {
        heat: heat!,
        body: {
          version: heat!.version,
          treeId: next.treeId,
          ...said(given, move.outcome, { pouredKg: 12.4, metalC: 1120, tempWhere: 'cup', seconds: 8, vents: 'all' }),
        },
      };
    }
    case 'finish': {
      const sum = (values: readonly (number | null)[]) =>
        values.reduce<number>((total, each) => total + (each ?? 0), 0);
      const charged = sum(shop.chargeLines.filter(({ heatId }) => heatId === heat!.id).map(({ kg }) => kg));
      const poured = sum(shop.pourings.filter(({ heatId }) => heatId === heat!.id).map(({ pouredKg }) => pouredKg));
      const pigKg = charged * (1 - heat!.meltLoss) - poured;
      return { heat: heat!, body: { version: heat!.version, endedAt: now, by: [person], pigKg, note: '' } };
    }
    case 'hold': {
      const piece = shop.pieces.find(({ number }) => number === 1)!;
      return { piece, body: { version: piece.version, reason: 'second look', until: '2027-06-01' } };
    }
    case 'due': {
      const piece = shop.pieces.find(({ number }) => number === 2)!;
      return { piece, body: { version: piece.version, dueDate: '2027-07-01' } };
    }
    case 'put in': {
      const cast = shop.casts.find(({ state }) => state === 'metal')!;
      return { body: { kind: 'weld', carrier: 'cast' as const, carrierId: cast.id, why: 'pinhole' } };
    }
  }
}

/** What a move was made to: which of these there are is the move's to know. */
interface Made {
  readonly step: Step;
  readonly steps: readonly Step[];
  readonly heat: Heat;
  readonly piece: Piece;
  readonly body: never;
}
const made = (move: Move, given: Said): Made => bodyOf(move, given) as unknown as Made;

const HOUR_STEP = 24 * 60;

const MANAGER: Pick<Person, 'roles' | 'rooms' | 'gates'> = { roles: ['manager'], rooms: [], gates: [] };

export async function playInMemory(script: readonly Move[]): Promise<Memory> {
  const memory = new Memory(DEFAULT_SETTINGS);
  memory.now = START;
  const id = v7({ msecs: Date.parse(START) });
  const person: Person = {
    id,
    name: 'Ines Marlow',
    shortName: 'IM',
    ...MANAGER,
    active: true,
    units: METRIC,
    version: 1,
  };
  memory.people.push(person);
  memory.tell(
    null,
    { verb: 'add person', text: 'Ines Marlow works here' },
    [['person', id]],
    [{ table: 'people', id, op: 'insert' }],
  );
  memory.now = addMinutes(memory.now, HOUR_STEP);
  const given = { ...workBody(WORK), id: v7({ msecs: Date.parse(memory.now) - 1 }) };
  memory.onWork(given.id, id, (_, doing) => setUpWork(given, doing));
  for (const move of script) {
    memory.now = addMinutes(memory.now, HOUR_STEP);
    const said = { person: id, now: memory.now, shop: memory.all(), id: v7({ msecs: Date.parse(memory.now) - 1 }) };
    const { step, steps: many, heat, piece, body } = made(move, said);
    const act = {
      record: () => memory.onWork(given.id, id, (index, doing) => recordStep(index, step, body, doing)),
      tray: () => memory.onWork(given.id, id, (index, doing) => recordMany(index, many, body, doing)),
      fire: () => memory.onAll(id, (index, doing) => planLoad(index, body, doing)),
      'plan heat': () => memory.onAll(id, (index, doing) => planHeat(index, body, doing)),
      crew: () => memory.onAll(id, (index, doing) => confirmCrew(index, heat, body, doing)),
      pour: () => memory.onAll(id, (index, doing) => pourTree(index, heat, body, doing)),
      finish: () => memory.onAll(id, (index, doing) => finishHeat(index, heat, body, doing)),
      hold: () => memory.onWork(given.id, id, (index) => holdPiece(index, piece, body)),
      due: () => memory.onWork(given.id, id, (index) => changePiece(index, piece, body)),
      'put in': () => memory.onWork(given.id, id, (index, doing) => putInStep(index, body, doing)),
    }[move.do];
    act();
  }
  return memory;
}

export async function playThroughServices(store: Store, script: readonly Move[]): Promise<void> {
  let now = START;
  const id = v7({ msecs: Date.parse(START) });
  let actor: Person | null = null;
  const does = <T extends object>(work: (ctx: Context) => Promise<T>) =>
    write(store, { actor, now, requestId: 'played', ...(actor ? { how: 'password' as const } : {}) }, work);
  const ines: Person = {
    id,
    name: 'Ines Marlow',
    shortName: 'IM',
    ...MANAGER,
    active: true,
    units: METRIC,
    version: 1,
  };
  // The first person is there before anybody may do anything.
  await does(async (ctx) => {
    await ctx.insert('people', [ines]);
    ctx.concern('person', id);
    ctx.event = { verb: 'add person', text: 'Ines Marlow works here' };
    return {};
  });
  actor = ines;
  now = addMinutes(now, HOUR_STEP);
  const given = { ...workBody(WORK), id: v7({ msecs: Date.parse(now) - 1 }) };
  await does((ctx) => setUp(ctx, given));
  for (const move of script) {
    now = addMinutes(now, HOUR_STEP);
    const shop = await loadWholeShop(store);
    const { step, heat, piece, body } = made(move, { person: id, now, shop, id: v7({ msecs: Date.parse(now) - 1 }) });
    const act: (ctx: Context) => Promise<object> = {
      record: (ctx: Context) => steps.recordStep(ctx, step.id, body),
      tray: (ctx: Context) => steps.recordMany(ctx, body),
      fire: (ctx: Context) => loads.planLoad(ctx, body),
      'plan heat': (ctx: Context) => heats.planHeat(ctx, body),
      crew: (ctx: Context) => heats.confirmCrew(ctx, heat.id, body),
      pour: (ctx: Context) => heats.pourTree(ctx, heat.id, body),
      finish: (ctx: Context) => heats.finishHeat(ctx, heat.id, body),
      hold: (ctx: Context) => pieces.hold(ctx, piece.id, body),
      due: (ctx: Context) => pieces.changePiece(ctx, piece.id, body),
      'put in': (ctx: Context) => steps.insertStep(ctx, body),
    }[move.do];
    await does(act);
  }
}
