import { num } from '../records/readings.ts';
import { stepKind } from '../route/step-kind.ts';

/** What concerns the whole heat: it was melted, poured, and what was left is pigged. */
export const melt = stepKind({
  code: 'melt',
  room: 'pour',
  name: 'Melt and pig',
  carrier: 'heat',
  minutes: 120,
  through: 'heat',
  readings: [num('pigKg', 'Pigged', 'kg', [0, 5000, 1], { keptIn: 'heat' })],
  cautions: ['wetMetal', 'pourCover', 'fumes', 'lifting'],
  facts: (index, step) => {
    const pigKg = index.heat.get(step.carrierId)?.pigKg;
    return typeof pigKg === 'number' ? { pigKg } : {};
  },
});
