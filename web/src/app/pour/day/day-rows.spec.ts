import type { PourStretch } from '@kalvet/core';
import { heatAnswer } from '../../testing/pieces';
import { dayExtent, dayRows } from './day-rows';

const stretch = (part: PourStretch['part'], from: string, to: string, treeId: string | null = null): PourStretch => ({
  heatId: 'h-1',
  part,
  from: `2026-12-03T${from}:00.000Z`,
  to: `2026-12-03T${to}:00.000Z`,
  treeId,
  label: '',
});

describe('the lines of a pour day', () => {
  const stretches = [
    stretch('preheat', '10:29', '12:59', 't-1'),
    stretch('lining', '10:20', '11:20'),
    stretch('pour', '13:00', '13:02', 't-1'),
    stretch('pig', '13:02', '13:12'),
  ];

  it('are the furnace and each tree by itself', () => {
    const [{ rows }] = dayRows({ heats: [heatAnswer() as never], stretches, noKiln: ['t-1'] }) as [
      ReturnType<typeof dayRows>[0],
    ];
    expect(rows.map(({ label, noKiln, stretches: own }) => [label, noKiln, own.map(({ part }) => part)])).toEqual([
      ['Furnace', false, ['lining', 'pig']],
      ['1. T-1', true, ['preheat', 'pour']],
    ]);
  });

  it('reach over whole hours', () => {
    expect(dayExtent(stretches)!.map((at) => at.slice(11, 16))).toEqual(['10:00', '14:00']);
    expect(dayExtent([])).toBeUndefined();
  });
});
