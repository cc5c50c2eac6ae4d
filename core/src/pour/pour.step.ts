import { alloyOf } from '../materials/alloys.ts';
import type { Expectation } from '../records/expectation.ts';
import type { ReadingDef } from '../records/readings.ts';
import { choice, num, yes } from '../records/readings.ts';
import { update } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { castsOfTree, openPouringOf } from '../route/shop-index.ts';
import { around } from '../route/doubts.ts';
import { again, done, lost, stepKind } from '../route/step-kind.ts';
import { wetSince } from '../route/wet.ts';
import { celsius, kelvin, kg } from '../units/quantity.ts';
import { say } from '../units/words.ts';
import { coolingMinutes } from './cooling-minutes.ts';
import { judgeWet } from './judge-wet.ts';
import { askWhereShort } from './short.step.ts';

/** Nothing was poured: the tree waits for another heat. */
export const NOT_POURED = 'not poured';

const TAKEN = [
  { code: 'cup', label: 'at the cup' },
  { code: 'ladle', label: 'in the ladle' },
  { code: 'furnace', label: 'in the furnace' },
];
const METAL_SEEN = ['poured', 'short', 'run out'];

const READ: readonly ReadingDef[] = [
  num('pouredKg', 'Metal poured', 'kg', [0, 5000, 1], {
    required: true,
    outcomes: ['poured', 'short'],
    keptIn: 'pouring',
    byOutcome: true,
  }),
  num('metalC', 'Metal at the cup', '°C', [400, 1500, 0], { outcomes: METAL_SEEN, keptIn: 'pouring' }),
  choice('tempWhere', 'Taken', TAKEN, { outcomes: METAL_SEEN, keptIn: 'pouring' }),
  num('seconds', 'Filled in', 's', [0.5, 600, 1], { outcomes: ['poured', 'short'], keptIn: 'pouring' }),
];

/** What the vents showed: a drip is no metal that rose. */
const VENTS = choice(
  'vents',
  'Vents',
  [
    { code: 'all', label: 'all showed metal' },
    { code: 'some', label: 'some stayed dry' },
    { code: 'dripping', label: 'only dripping' },
    { code: 'none', label: 'none' },
  ],
  { outcomes: ['poured', 'short'], byOutcome: true },
);

/** A tree is poured from its heat; the pouring's own record holds kilograms, temperature and seconds. */
export const pour = stepKind({
  code: 'pour',
  room: 'pour',
  name: 'Preheat and pour',
  carrier: 'tree',
  minutes: 30,
  spans: 'unbroken',
  through: 'heat',
  outcomes: [
    done('Poured', 'poured'),
    { ...done('Short', 'short'), why: true },
    lost('Run out', 'run out'),
    again('Not poured', NOT_POURED),
  ],
  readings: [...READ, VENTS],
  readingsVersion: 2,
  earlierReadings: { 1: [...READ, yes('vents', 'Every vent showed metal', { outcomes: ['poured', 'short'] })] },
  cautions: ['wetMetal', 'pourCover', 'fumes', 'lifting'],
  lifts: 'poured',
  risk: 'pour',
  facts: pouringFacts,
  expects: expectedAtCup,
  waits: (_, { metalKg, isBlock }) => ({ min: coolingMinutes(metalKg, isBlock), max: null }),
  judge: (index, step, { outcome }) => (outcome === NOT_POURED ? [] : judgeWet(wetSince(index, step.carrierId))),
  close: ({ index, step, outcome }) =>
    outcome.effect === 'done'
      ? [
          update('trees', step.carrierId, { state: 'poured' }),
          ...castsOfTree(index, step.carrierId).map((cast) => update('casts', cast.id, { state: 'metal' })),
        ]
      : [],
  asks: askWhereShort,
});

/** Liquidus and a superheat of 20 to 350 K; the pour weight as the heat was charged for it; a crucible empties in a minute or two. */
function expectedAtCup(index: ShopIndex, step: Step): Expectation[] {
  const tree = index.tree.get(step.carrierId);
  const plannedKg = openPouringOf(index, step.carrierId)?.plannedKg;
  const alloy = tree && alloyOf(tree.alloyId);
  return [
    ...(plannedKg === undefined
      ? []
      : [
          { key: 'pouredKg', ...around(plannedKg), outcomes: ['poured'], from: say`${kg(plannedKg)} is planned` },
          { key: 'pouredKg', high: plannedKg * 1.5, outcomes: ['short'], from: say`${kg(plannedKg)} is planned` },
        ]),
    ...(alloy
      ? [
          {
            key: 'metalC',
            low: alloy.liquidusC + 20,
            high: alloy.liquidusC + 350,
            from: say`${alloy.name} is poured ${kelvin(100)} to ${kelvin(280)} above its liquidus of ${celsius(alloy.liquidusC)}`,
          },
        ]
      : []),
    { key: 'seconds', low: 1, high: 180, from: 'a mould fills within a few seconds to a minute or two' },
  ];
}

/** What the pouring that a step was recorded with says of it. */
function pouringFacts(index: ShopIndex, step: Step): Readonly<Record<string, unknown>> {
  const found = (index.pouringsOf.get(step.carrierId) ?? []).find(({ stepId }) => stepId === step.id);
  if (!found) return {};
  const { pouredKg, metalC, tempWhere, seconds } = found;
  return Object.fromEntries(Object.entries({ pouredKg, metalC, tempWhere, seconds }).filter(([, v]) => v !== null));
}
