import { alloyOf } from '../materials/alloys.ts';
import { balanceOf, offInWords } from '../materials/balance.ts';
import { heaviest } from '../materials/heaviest.ts';
import { scaleWeight } from '../materials/scale-weight.ts';
import type { Id } from '../records/common.ts';
import { num } from '../records/readings.ts';
import type { Refusal } from '../records/refusal.ts';
import { askOnce, never } from '../records/refusal.ts';
import { insert, update } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { castsOfTree } from '../route/shop-index.ts';
import { stepKind } from '../route/step-kind.ts';
import { knockOutMinutes } from './hours.ts';
import { kg } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/** Scales, sand that sticks and what was spilt: so much more than was poured is let pass. */
const SCALE_SLACK = 1.03;
const SLACK_KG = 0.3;

/** What cannot be: casts heavier than the metal that was poured into their tree, or than a solid ball of their surface. */
function judgeCasts(index: ShopIndex, { carrierId }: Step, castKg: Readonly<Record<Id, number>>): Refusal[] {
  const pouredKg = (index.pouringsOf.get(carrierId) ?? []).findLast((pouring) => pouring.pouredKg !== null)?.pouredKg;
  const total = Object.values(castKg).reduce((sum, each) => sum + each, 0);
  const tooMuch =
    pouredKg !== null && pouredKg !== undefined && total > pouredKg * SCALE_SLACK + SLACK_KG
      ? [
          never(
            'impossible',
            say`The casts weigh ${kg(total, 2)} together, but ${kg(pouredKg)} was poured into the tree.`,
          ),
        ]
      : [];
  const solid = Object.entries(castKg).flatMap(([id, weighs]) => {
    const section = index.section.get(index.cast.get(id)?.sectionId ?? '');
    if (!section || section.areaCm2 === null) return [];
    const most = heaviest(section.areaCm2, alloyOf(index.tree.get(carrierId)!.alloyId).densityGPerCm3);
    return weighs > most
      ? [
          never(
            'impossible',
            say`${kg(weighs, 2)} of bronze: ${section.name} weighs ${kg(most)} at most, solid through and through.`,
          ),
        ]
      : [];
  });
  return [...tooMuch, ...solid];
}

/** Casts and returns together are what was poured: where they are not, somebody weighs again. */
function asksToWeigh(
  index: ShopIndex,
  { carrierId }: Step,
  castKg: Readonly<Record<Id, number>>,
  returnsKg: unknown,
): Refusal[] {
  const pouredKg = (index.pouringsOf.get(carrierId) ?? []).findLast((pouring) => pouring.pouredKg !== null)?.pouredKg;
  if (pouredKg === null || pouredKg === undefined || typeof returnsKg !== 'number') return [];
  const castsKg = Object.values(castKg).reduce((sum, each) => sum + each, 0);
  const balance = balanceOf(pouredKg, castsKg + returnsKg);
  if (!balance.isOff) return [];
  return [
    askOnce({
      field: 'readings.returnsKg',
      value: kg(returnsKg),
      says: say`${offInWords(balance)}: ${kg(pouredKg)} poured, casts ${kg(castsKg)} and returns ${kg(returnsKg)}. Weigh again`,
    }),
  ];
}

/** The shell is off, the casts are cut from the tree and weighed; from here each goes its own way. */
export const knockOut = stepKind({
  code: 'knock-out',
  room: 'chasing',
  name: 'Knock out, blast, cut, weigh',
  carrier: 'tree',
  minutes: 60,
  effort: ({ casts, metalKg }) => knockOutMinutes(casts, metalKg),
  readings: [
    {
      key: 'castKg',
      label: 'Casts weigh',
      kind: 'perCast',
      unit: 'kg',
      min: 0.01,
      max: 5000,
      decimals: 2,
      required: true,
      keptIn: 'weight',
    },
    num('returnsKg', 'Returns', 'kg', [0, 5000, 1]),
  ],
  cautions: ['silica', 'hotCasting', 'lifting'],
  freesCasts: true,
  lifts: 'poured',
  weighs: 'cast',
  facts: (index, step) => {
    const weighed = (index.membersOf.get(step.carrierId) ?? []).flatMap(({ castId }) =>
      (index.weightsOf.get(castId) ?? [])
        .filter(({ stepId }) => stepId === step.id)
        .map(({ kg }): [Id, number] => [castId, kg]),
    );
    return weighed.length > 0 ? { castKg: Object.fromEntries(weighed) } : {};
  },
  judge: (index, step, { readings }) => {
    const castKg = (readings['castKg'] ?? {}) as Record<Id, number>;
    const impossible = judgeCasts(index, step, castKg);
    return impossible.length > 0 ? impossible : asksToWeigh(index, step, castKg, readings['returnsKg']);
  },
  close: ({ index, step, closing, newId }) => {
    const weighed = (closing.readings['castKg'] ?? {}) as Record<Id, number>;
    return [
      update('trees', step.carrierId, { state: 'knocked out' }),
      ...castsOfTree(index, step.carrierId).flatMap(({ id }) => {
        const kg = weighed[id];
        return kg === undefined
          ? []
          : [insert('weights', scaleWeight(newId(), 'cast', id, kg, { at: closing.endedAt, step }))];
      }),
    ];
  },
});
