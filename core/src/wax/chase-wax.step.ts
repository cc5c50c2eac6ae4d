import { heaviest } from '../materials/heaviest.ts';
import { scaleWeight } from '../materials/scale-weight.ts';
import { num, yes } from '../records/readings.ts';
import { never } from '../records/refusal.ts';
import { insert, update } from '../records/shop.ts';
import { markOf } from '../records/work.ts';
import { again, done, lost, stepKind } from '../route/step-kind.ts';
import { DAY_MIN } from '../units/instant.ts';
import { kg } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/** No wax is denser, g/cm³. */
const WAX_AT_MOST = 1;

/** Seams off, bubbles filled, mark put in, and weighed: the cheapest way to know the metal. */
export const chaseWax = stepKind({
  code: 'chase-wax',
  room: 'wax',
  name: 'Chase and weigh wax',
  carrier: 'cast',
  minutes: 90,
  maxWait: 30 * DAY_MIN,
  outcomes: [done(), again('Too thin: mend and weigh again', 'thin'), lost('Remake it', 'remake')],
  readings: [
    num('waxKg', 'Wax weighs', 'kg', [0.005, 500, 3], {
      required: true,
      outcomes: ['done', 'thin'],
      keptIn: 'weight',
      ofEach: true,
    }),
    yes('markPutIn', 'Mark put in', { required: true, outcomes: ['done'], ofEach: true }),
  ],
  weighs: 'wax',
  risk: 'wax',
  facts: (index, step) => {
    const weight = (index.weightsOf.get(step.carrierId) ?? []).find(({ stepId }) => stepId === step.id);
    return weight ? { waxKg: weight.kg } : {};
  },
  judge: (index, step, { readings: { waxKg } }) => {
    const section = index.section.get(index.cast.get(step.carrierId)!.sectionId)!;
    if (section.areaCm2 === null || typeof waxKg !== 'number') return [];
    const most = heaviest(section.areaCm2, WAX_AT_MOST);
    return waxKg > most
      ? [
          never(
            'impossible',
            say`${kg(waxKg, 3)} of wax: ${section.name} weighs ${kg(most)} at most, solid through and through.`,
          ),
        ]
      : [];
  },
  close: ({ index, step, closing, outcome, newId }) => {
    const cast = index.cast.get(step.carrierId)!;
    const piece = index.piece.get(cast.pieceId)!;
    const { waxKg, markPutIn } = closing.readings;
    const marked = outcome.effect === 'done' && markPutIn === true && piece.markInWax === null;
    return [
      ...(typeof waxKg === 'number'
        ? [insert('weights', scaleWeight(newId(), 'wax', cast.id, waxKg, { at: closing.endedAt, step }))]
        : []),
      ...(marked ? [update('pieces', piece.id, { markInWax: markOf(piece) })] : []),
    ];
  },
});
