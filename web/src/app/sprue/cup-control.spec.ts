import { DEFAULT_CUPS } from '@kalvet/core';
import { stepForm } from '../testing/pieces';
import { bed, page, show } from '../testing/screen';
import { CupControl } from './cup-control.component';

describe('the cup of a tree', () => {
  const open = async (value: unknown) => {
    bed();
    const form = stepForm({ kind: 'join-tree', carrier: 'tree' }, {});
    return show(CupControl, { def: { key: 'cup', label: 'Cup', kind: 'cup' }, form, inputId: 'reading-cup', value });
  };
  const labels = (fixture: Awaited<ReturnType<typeof open>>) =>
    [...page(fixture).querySelectorAll<HTMLElement>('[role=radio]')].map((each) => each.textContent!.trim());

  it('is one of the shop’s, each with what it holds, or none', async () => {
    const fixture = await open(DEFAULT_CUPS[1]);
    expect(labels(fixture)).toEqual(['small 95 cm³', 'middle 296 cm³', 'large 659 cm³', 'none']);
    const radios = [...page(fixture).querySelectorAll<HTMLElement>('[role=radio]')];
    expect(radios.map((each) => each.getAttribute('aria-checked'))).toEqual(['false', 'true', 'false', 'false']);
    radios[3]!.click();
    await fixture.whenStable();
    expect(fixture.componentInstance.value()).toBeFalse();
    radios[0]!.click();
    await fixture.whenStable();
    expect(fixture.componentInstance.value()).toEqual(DEFAULT_CUPS[0]);
  });

  it('that the shop has no longer stays to be seen', async () => {
    const old = { name: 'old', topRadiusMm: 50, bottomRadiusMm: 20, heightMm: 90 };
    // π · 9 / 3 · (5² + 5 · 2 + 2²) cm³
    expect(labels(await open(old))).toContain('old 368 cm³');
  });
});
