import type { LearnedLine, QualityAnswer } from '@kalvet/core';
import { bed, page, press, show } from '../testing/screen';
import { QualityPage } from './quality.page';

const line = (rest: Partial<LearnedLine> = {}): LearnedLine => ({
  ...{ id: 'cast factor C87300 pattern', group: 'cast factor', name: 'silicon bronze, pattern wax' },
  ...{ usual: 8.5385, inUse: 8.5385, learned: { value: 8.487, spread: 0.061, n: 38 }, range: null, good: null },
  ...{ offered: 8.487, taken: null, points: [{ at: '2027-02-01T10:00:00.000Z', value: 8.49 }] },
  ...rest,
});
const share = (id: string, name: string, value: number): LearnedLine =>
  line({
    ...{ id, group: 'yield', name, usual: null, inUse: null, offered: null, range: [value - 0.05, value + 0.02] },
    ...{ learned: { value, spread: 0.03, n: 50 }, good: [46, 50] },
  });

describe('the page of what the shop knows of itself', () => {
  const open = async (lines: readonly LearnedLine[]) => {
    const http = bed();
    const fixture = await show(QualityPage, {});
    http.expectOne('/api/quality').flush({ settingsVersion: 4, lines } satisfies QualityAnswer);
    await fixture.whenStable();
    return { http, fixture, words: () => page(fixture).textContent!.replace(/\s+/g, ' ') };
  };

  it('offers what differs, with its cases, and takes it over as it was seen', async () => {
    const { http, fixture, words } = await open([line(), line({ id: 'x', name: 'tin bronze', offered: null })]);
    expect(words()).toContain('One figure differs from what is reckoned with');
    expect(words()).toContain('8.49± 0.06, n 38');
    expect(page(fixture).querySelectorAll('[data-test=take]').length).toBe(1);
    expect(page(fixture).querySelectorAll('[data-test=back]').length).toBe(0);
    await press(fixture, '[data-test=take]');
    const { request } = http.expectOne('/api/quality/take');
    expect(request.body).toEqual({ version: 4, line: 'cast factor C87300 pattern', back: false, n: 38 });
  });

  it('says since when a figure was taken over, and the way back', async () => {
    const taken = { value: 8.487, spread: 0.061, n: 38, at: '2027-02-02T10:00:00.000Z' };
    const { http, fixture, words } = await open([line({ taken, inUse: 8.487, offered: null })]);
    expect(words()).toMatch(/taken over Tue 2 Feb.*, n 38/);
    await press(fixture, '[data-test=back]');
    expect((http.expectOne('/api/quality/take').request.body as { back: boolean }).back).toBeTrue();
  });

  it('multiplies the rooms’ shares: 0.9 of 0.8 is 72 %', async () => {
    const { words } = await open([share('yield wax', 'Wax', 0.9), share('yield pour', 'Pour', 0.8)]);
    expect(words()).toContain('72 % of what is begun comes through every room');
    expect(words()).toContain('46 of 50');
    expect(words()).toContain('Nothing yet: no cast was weighed');
  });
});
