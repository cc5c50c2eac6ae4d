import type { HeatBook } from '@kalvet/core';
import { bed, page, press, show } from '../../testing/screen';
import { BookPage } from './book.page';

const heat = (number: number, rest: object = {}) => ({
  id: `h-${number}`,
  number,
  alloyId: 'C87300',
  state: 'done' as const,
  at: `2027-02-${10 + number}T12:00:00.000Z`,
  trees: 4,
  troubled: 0,
  chargeKg: 100,
  returnsKg: 40,
  pouredKg: 95,
  pigKg: 3,
  castsKg: 66.5,
  castsPouredKg: 95,
  energyKwh: 200,
  ...rest,
});
const book: HeatBook = {
  change: 1,
  year: 2027,
  years: [2026, 2027],
  heats: [heat(2, { troubled: 1, chargeKg: 60, pouredKg: 50, pigKg: 4 }), heat(1)],
  taught: [
    { key: 'crucibleLossK', now: 7.4, learned: 6.93, spread: 0.31, n: 12 },
    { key: 'furnaceEfficiency', now: 0.12, learned: 0.1201, spread: 0.01, n: 5 },
  ],
  settingsVersion: 7,
};

describe('the heats of a year', () => {
  const open = async () => {
    const http = bed();
    const fixture = await show(BookPage, {});
    http.expectOne('/api/heats/book').flush(book);
    await fixture.whenStable();
    return { http, fixture, text: () => page(fixture).textContent!.replace(/\s+/g, ' ') };
  };

  it('are added up by their kilograms and drawn each', async () => {
    const { text, fixture } = await open();
    // 2 of 100 and 6 of 60 kg.
    expect(text()).toContain('5.0 % burnt and skimmed');
    expect(text()).toContain('12.5 % of trees short');
    expect(page(fixture).querySelectorAll('kv-year-chart circle').length).toBe(2);
    await press(fixture, 'Energy');
    expect(page(fixture).querySelector('kv-year-chart svg')!.getAttribute('aria-label')).toContain('Energy');
  });

  it('teach the furnace, and a person takes it over into the settings', async () => {
    const { http, fixture, text } = await open();
    expect(text()).toContain('6.9 K± 0.3 K12 readings');
    // 12.0 % by both: nothing to take over.
    expect(text()).toContain('the same');
    await press(fixture, '[aria-label="Count with it: The crucible loses a minute at 1150 °C"]');
    const { body } = http.expectOne('/api/settings').request as {
      body: { version: number; numbers: { crucibleLossK: number; transferK: number } };
    };
    expect([body.version, body.numbers.crucibleLossK, body.numbers.transferK]).toEqual([7, 6.9, 30]);
  });
});
