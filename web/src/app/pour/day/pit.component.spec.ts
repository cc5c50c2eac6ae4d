import type { PourDayAnswer } from '@kalvet/core';
import { heatAnswer } from '../../testing/pieces';
import { bed, page, show } from '../../testing/screen';
import { Pit } from './pit.component';

const place = (number: number, rest: object = {}) => ({
  number,
  xMm: number * 600 - 300,
  yMm: 300,
  treeId: null,
  label: '',
  stands: 'free' as const,
  order: null,
  ...rest,
});

describe('the pit from above', () => {
  const open = async () => {
    bed();
    const day = {
      heats: [heatAnswer()],
      pit: [
        place(1, { treeId: 't-1', label: 'T-1', stands: 'set', order: 1 }),
        place(2, { treeId: 'x', label: 'T-9', stands: 'poured' }),
        place(3),
      ],
      wouldSet: {},
    } as unknown as PourDayAnswer;
    const fixture = await show(Pit, { day });
    const set: unknown[] = [];
    fixture.componentInstance.set.subscribe((given) => set.push(given));
    const press = async (number: number) => {
      page(fixture)
        .querySelectorAll('g circle')
        [number - 1]!.dispatchEvent(new MouseEvent('click', { bubbles: true }));
      await fixture.whenStable();
    };
    return { set, press, said: () => page(fixture).querySelector('svg')!.getAttribute('aria-label')! };
  };

  it('says what stands in each place', async () => {
    const { said } = await open();
    expect(said()).toBe('Place 1: T-1, set; Place 2: T-9, poured; Place 3: free');
  });

  it('moves a tree by pressing it and then a place, and takes it out when it is pressed twice', async () => {
    const { set, press } = await open();
    await press(1);
    await press(3);
    expect(set).toEqual([{ heatId: 'h-1', places: [{ treeId: 't-1', place: 3 }] }]);
    await press(1);
    await press(1);
    expect(set[1]).toEqual({ heatId: 'h-1', places: [{ treeId: 't-1', place: null }] });
    // What was poured stays where it is.
    await press(2);
    await press(3);
    expect(set.length).toBe(2);
  });
});
