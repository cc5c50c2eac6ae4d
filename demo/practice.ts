// Lays a practice shop for a rehearsal: a few trees that wait for their metal, their heat charged, crew and checks confirmed.
// Only ever in a database that is thrown away: `npm run rehearse` makes it. Prints the heat and the furnace's temperature.
import type { Id, Instant, PracticeTree, Scenario, ShopSettings } from '@kalvet/core';
import {
  POUR_CHECKS,
  SCENARIOS,
  confirmCrew,
  cupTarget,
  alloyOf,
  kindOf,
  lightHeat,
  planHeat,
  planLoad,
  recordStep,
  scenarioOf,
  setInPit,
  setTreesInPit,
} from '@kalvet/core';
import { settingsOf } from '../server/src/people/settings.ts';
import { PRACTICE_ABOVE_K } from '../server/src/pour/practice.service.ts';
import { openStore } from '../server/src/store.ts';
import type { WORKS } from './foundry.ts';
import { lay } from './lay.ts';
import { MetalShelf } from './metal.ts';
import { setUpShop } from './play.ts';
import { readingsOf } from './readings.ts';
import type { PlayedPiece } from './stage.ts';
import { Stage } from './stage.ts';

const KINDS: Readonly<
  Record<
    PracticeTree,
    { readonly code: string; readonly title: string; readonly wallMm: number; readonly waxKg: number }
  >
> = {
  thin: { code: 'PTH', title: 'Practice, thin', wallMm: 3.5, waxKg: 0.7 },
  usual: { code: 'PUS', title: 'Practice, usual', wallMm: 5, waxKg: 1.1 },
  thick: { code: 'PTK', title: 'Practice, thick', wallMm: 8, waxKg: 2.2 },
};
const ALLOY = 'C87300';
const BEGUN_DAYS = 9;
const MOST_STEPS = 40;

/** The works of a scenario: an edition a kind of tree. */
const worksOf = ({ trees }: Scenario): typeof WORKS =>
  (Object.keys(KINDS) as PracticeTree[]).flatMap((kind) => {
    const count = trees.filter((each) => each === kind).length;
    if (count === 0) return [];
    const { code, title, wallMm, waxKg } = KINDS[kind];
    const section = {
      name: 'Whole',
      wallMm,
      metalHeightMm: 240,
      expectedWaxKg: waxKg,
      areaCm2: (waxKg / 0.93 / wallMm) * 10_000,
      seamM: null,
      deep: false,
    };
    return [
      {
        code,
        title,
        artist: 'nobody',
        editionSize: count,
        artistProofs: 0,
        alloyId: ALLOY,
        method: 'shell',
        approval: 'none',
        finishing: 'raw',
        finish: '',
        glyph: 'block',
        sections: [section],
        moulds: [{ name: 'whole', sections: [1], pullsBefore: 0 }],
        begun: [],
        due: [],
        recipe: '',
      } as (typeof WORKS)[number],
    ];
  });

/** Plays a practice shop up to its pour. */
export function practiceShop(settings: ShopSettings, now: Instant, scenario: Scenario): { stage: Stage; heatId: Id } {
  const stage = new Stage(settings, now);
  const { shop, person } = stage;
  const begun = new Date(Date.parse(now) - BEGUN_DAYS * 86_400_000).toISOString();
  shop.now = begun;
  setUpShop(stage, worksOf(scenario));
  new MetalShelf(stage).instruments();
  const used = new Map<string, number>();
  /** When each work's mould is free again. */
  const moulds = new Map<Id, Instant>();
  const trees = scenario.trees.map((kind, i): Id => {
    const { code } = KINDS[kind];
    const number = (used.get(code) ?? 0) + 1;
    used.set(code, number);
    const workId = stage.marks.get(code)!;
    const piece: PlayedPiece = {
      id: stage.marks.get(`${code} ${number}`)!,
      workId,
      work: code,
      number,
      begins: begun,
      recipe: '',
    };
    shop.now = new Date(Date.parse(begun) + (1 + i * 4) * 3_600_000).toISOString();
    if (number === 1) makeMoulds(stage, workId);
    return carry(stage, piece, moulds);
  });
  shop.now = new Date(Date.parse(now) - 2 * 3_600_000).toISOString();
  const heatId = shop.newId();
  const kg = trees.length * 22;
  const given = {
    id: heatId,
    alloyId: ALLOY,
    plannedFor: now,
    trees: trees.map((treeId) => ({ treeId })),
    chargeLines: [{ what: 'ingot' as const, alloyId: ALLOY, kg, lot: 'PRACTICE', dry: true }],
  };
  shop.onAll(person.ines, (index, doing) => planHeat(index, given, doing));
  shop.onAll(person.tomas, (index, doing) => lightHeat(index, index.heat.get(heatId)!, { at: shop.now }, doing));
  shop.now = now;
  const places = [...setInPit(trees, settings.pitPlaces, new Set())].map(([treeId, place]) => ({ treeId, place }));
  shop.onAll(person.oskar, (index, doing) =>
    setTreesInPit(index, index.heat.get(heatId)!, { places }, doing, new Map()),
  );
  const crew = [
    { role: 'lead', personId: person.tomas, deputyId: null },
    { role: 'second', personId: person.oskar, deputyId: null },
  ] as const;
  shop.onAll(person.tomas, (index, doing) => {
    const heat = index.heat.get(heatId)!;
    const said = {
      version: heat.version,
      crew,
      signs: 'spoken' as const,
      checks: POUR_CHECKS,
      coverConfirmed: true as const,
    };
    return confirmCrew(index, heat, said, doing);
  });
  return { stage, heatId };
}

function makeMoulds({ shop, person }: Stage, workId: Id): void {
  const making = shop
    .work(workId)
    .shop.steps.filter(({ carrier, state }) => carrier === 'mould' && state === 'planned');
  for (const { id } of making)
    shop.onWork(workId, person.petra, (index, doing) =>
      recordStep(
        index,
        index.step.get(id)!,
        {
          version: 1,
          outcome: 'done',
          startedAt: null,
          endedAt: shop.now,
          by: [person.petra],
          note: '',
          readings: { rubberKg: 2, parts: 2, lifePulls: 40 },
        },
        doing,
      ),
    );
}

/** Carries a piece through its rooms up to the pour; gives its tree. */
function carry(stage: Stage, piece: PlayedPiece, moulds: Map<Id, Instant>): Id {
  const { shop, person } = stage;
  for (let guard = 0; guard < MOST_STEPS; guard++) {
    const step = stage.standing().get(piece.id)!.next[0];
    if (!step) throw new Error(`${piece.work} ${piece.number} has no next step`);
    const kind = kindOf(step.kind);
    if (kind.through === 'heat') return step.carrierId;
    shop.now = new Date(Math.max(Date.parse(shop.now), Date.parse(step.readyAt ?? shop.now)) + 120_000).toISOString();
    const free = kind.usesMould ? moulds.get(piece.workId) : undefined;
    if (free !== undefined && free > shop.now) shop.now = free;
    if (shop.now > stage.end) throw new Error('the practice shop is not ready by now');
    if (kind.through === 'load') {
      const record = {
        startedAt: null,
        endedAt: shop.now,
        by: [person.oskar],
        profile: '930 °C, 1 h 40',
        topC: 930,
        note: '',
        lost: [],
      };
      const id = shop.newId();
      shop.onAll(person.oskar, (index, doing) => planLoad(index, { id, treeIds: [step.carrierId], record }, doing));
      continue;
    }
    const now = shop.work(piece.workId).step.get(step.stepId)!;
    const said = {
      version: now.version,
      outcome: kind.outcomes[0]!.code,
      startedAt: null,
      endedAt: shop.now,
      by: [person.petra],
      readings: readingsOf(stage, piece, step, now.sequence),
      note: '',
    };
    if (kind.usesMould) moulds.set(piece.workId, new Date(Date.parse(shop.now) + 3_600_000).toISOString());
    shop.onWork(piece.workId, person.petra, (index, doing) =>
      recordStep(index, index.step.get(step.stepId)!, said, doing),
    );
  }
  throw new Error(`${piece.work} ${piece.number} does not get to its pour`);
}

if (process.env['KALVET_PRACTICE'] === 'list') {
  console.log(JSON.stringify(SCENARIOS.map(({ id, title }) => ({ id, title }))));
  process.exit(0);
}
const url = process.env['KALVET_DB_URL'];
if (process.env['KALVET_PRACTICE'] && url && process.env['KALVET_OWN_DB'] === '1') {
  const scenario = scenarioOf(process.env['KALVET_PRACTICE'], Number(process.env['KALVET_PRACTICE_SEED'] ?? 1));
  const store = await openStore(url);
  await store.models.settings.upsert({ name: 'shopName', value: 'Practice' });
  const { stage, heatId } = practiceShop(await settingsOf(store), new Date().toISOString(), scenario);
  await lay(store, stage.shop);
  await store.models.settings.upsert({
    name: 'demo',
    value: { state: 'laid', at: stage.end, change: stage.shop.events.length },
  });
  const hottest = Math.max(...scenario.trees.map((kind) => cupTarget(alloyOf(ALLOY), KINDS[kind].wallMm).value));
  console.log(
    JSON.stringify({
      heatId,
      furnaceC: hottest + PRACTICE_ABOVE_K + scenario.metalOffK,
      wrongUnit: scenario.wrongUnit,
      dropout: scenario.dropout,
    }),
  );
  await store.db.close();
  process.exit(0);
}
