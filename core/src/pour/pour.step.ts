import { choice, num, yes } from '../records/readings.ts';
import { update } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { castsOfTree } from '../route/shop-index.ts';
import { again, done, lost, stepKind } from '../route/step-kind.ts';
import { wetSince } from '../route/wet.ts';
import { coolingMinutes } from './cooling-minutes.ts';
import { judgeWet } from './judge-wet.ts';

/** Nothing was poured: the tree waits for another heat. */
export const NOT_POURED = 'not poured';

const TAKEN = [
  { code: 'cup', label: 'at the cup' },
  { code: 'ladle', label: 'in the ladle' },
  { code: 'furnace', label: 'in the furnace' },
];
const METAL_SEEN = ['poured', 'short', 'run out'];

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
  readings: [
    num('pouredKg', 'Metal poured', 'kg', [0, 5000, 1], {
      required: true,
      outcomes: ['poured', 'short'],
      keptIn: 'pouring',
    }),
    num('metalC', 'Metal at the cup', '°C', [400, 1500, 0], { outcomes: METAL_SEEN, keptIn: 'pouring' }),
    choice('tempWhere', 'Taken', TAKEN, { start: 'furnace', outcomes: METAL_SEEN, keptIn: 'pouring' }),
    num('seconds', 'Filled in', 's', [0.5, 600, 1], { outcomes: ['poured', 'short'], keptIn: 'pouring' }),
    yes('vents', 'Every vent showed metal', { start: true, outcomes: ['poured', 'short'] }),
  ],
  cautions: ['wetMetal', 'pourCover', 'fumes', 'lifting'],
  lifts: 'poured',
  risk: 'pour',
  facts: pouringFacts,
  waits: (_, { metalKg }) => ({ min: coolingMinutes(metalKg), max: null }),
  judge: (index, step, { outcome }) => (outcome === NOT_POURED ? [] : judgeWet(wetSince(index, step.carrierId))),
  close: ({ index, step, outcome }) =>
    outcome.effect === 'done'
      ? [
          update('trees', step.carrierId, { state: 'poured' }),
          ...castsOfTree(index, step.carrierId).map((cast) => update('casts', cast.id, { state: 'metal' })),
        ]
      : [],
  asks: ({ outcome }, { inspected }) =>
    outcome === 'short' && !inspected ? { text: 'poured short. Weld or recast?', urgent: true } : undefined,
});

/** What the pouring that a step was recorded with says of it. */
function pouringFacts(index: ShopIndex, step: Step): Readonly<Record<string, unknown>> {
  const found = (index.pouringsOf.get(step.carrierId) ?? []).find(({ stepId }) => stepId === step.id);
  if (!found) return {};
  const { pouredKg, metalC, tempWhere, seconds } = found;
  return Object.fromEntries(Object.entries({ pouredKg, metalC, tempWhere, seconds }).filter(([, v]) => v !== null));
}
