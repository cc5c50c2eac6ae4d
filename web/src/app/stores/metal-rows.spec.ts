import type { MetalNeed } from '@kalvet/core';
import { metalRows } from './metal-rows';

const need = (alloyId: string, day: string, ingotLeftKg: number): MetalNeed => ({
  at: `2026-12-${day}T13:00:00.000Z`,
  alloyId,
  heatId: null,
  label: day,
  chargeKg: 100,
  returnsKg: 40,
  ingotKg: 60,
  ingotLeftKg,
});

describe('the lines of metal', () => {
  it('go down with each heat, and begin left of nothing where metal is missing', () => {
    const stock = [{ alloyId: 'C87300', ingotKg: 75, returnsKg: 12 }];
    const needs = [
      need('C87300', '03', 30),
      need('C87300', '03', 15),
      need('C87300', '10', -25),
      need('C90500', '10', 20),
    ];
    const [row, other] = metalRows(stock, needs, ['C87300', 'C90500'], (at) => at.slice(0, 10));
    // The two of the 3rd are one line, with what is left after both.
    expect(row!.steps.map(({ heats, ingotKg }) => [heats.length, ingotKg])).toEqual([
      [2, 120],
      [1, 60],
    ]);
    // From −25 to 75 kg: nothing lies at a quarter of the width.
    expect(row!.steps.map(({ from, width, missing }) => [from, width, missing])).toEqual([
      [25, 15, false],
      [0, 25, true],
    ]);
    expect(row!.short!.label).toBe('10');
    expect([other!.ingotKg, other!.short]).toEqual([0, undefined]);
  });
});
