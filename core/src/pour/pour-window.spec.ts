import { alloyOf } from '../materials/alloys.ts';
import { pourWindow } from './pour-window.ts';

const silicon = alloyOf('C87300');

describe('the window of a pour', () => {
  it('takes thin walls hot and fast, thick ones cooler and slow', () => {
    // Silicon bronze: liquidus 916 °C, superheat 120–280 K; the middle is 200 K.
    expect(pourWindow(silicon, 'shell', 3)).toEqual(jasmine.objectContaining({ metalC: [1116, 1196], pace: 'fast' }));
    expect(pourWindow(silicon, 'shell', 5)).toEqual(jasmine.objectContaining({ metalC: [1036, 1196], pace: 'steady' }));
    expect(pourWindow(silicon, 'shell', 9)).toEqual(jasmine.objectContaining({ metalC: [1036, 1116], pace: 'slow' }));
  });

  it('keeps a shell a hundred degrees under the solidus, and a block cool', () => {
    // 821 − 100 = 721 °C.
    expect(pourWindow(silicon, 'shell', 5).mouldC).toEqual([400, 721]);
    expect(pourWindow(silicon, 'block', 5).mouldC).toEqual([100, 300]);
    // Aluminium freezes at 557 °C: its shell is never above 457.
    expect(pourWindow(alloyOf('A356'), 'shell', 5).mouldC).toEqual([400, 457]);
  });
});
