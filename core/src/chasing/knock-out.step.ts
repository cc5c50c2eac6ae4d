import { scaleWeight } from '../materials/scale-weight.ts';
import type { Id } from '../records/common.ts';
import { num } from '../records/readings.ts';
import { insert, update } from '../records/shop.ts';
import { castsOfTree } from '../route/shop-index.ts';
import { stepKind } from '../route/step-kind.ts';

/** The shell is off, the casts are cut from the tree and weighed; from here each goes its own way. */
export const knockOut = stepKind({
  code: 'knock-out',
  room: 'chasing',
  name: 'Knock out, blast, cut, weigh',
  carrier: 'tree',
  minutes: 60,
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
