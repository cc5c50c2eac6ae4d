import type { InstrumentsAnswer } from '@kalvet/core';
import { bed, page, press, show, type } from '../testing/screen';
import { InstrumentsPage } from './instruments.page';

const NOW = '2027-03-04T13:00:00.000Z';
const instrument = (code: string, at: string | null, rest: object = {}) => ({
  id: code,
  version: 2,
  code,
  name: code,
  kind: 'immersion' as const,
  where: 'furnace' as const,
  ofId: null,
  plusMinusK: 3,
  emissivity: null,
  calibratedOn: null,
  state: 'in use' as const,
  last:
    at === null ? null : { instrumentId: code, value: 1163.4, humidityPercent: null, at, settled: true, doubt: null },
  ...rest,
});

describe('the page of instruments', () => {
  const open = async () => {
    const http = bed();
    const fixture = await show(InstrumentsPage, {});
    await new Promise((resolve) => setTimeout(resolve, 20));
    const given: InstrumentsAnswer = {
      now: NOW,
      instruments: [
        instrument('pyro-1', '2027-03-04T12:59:58.000Z'),
        instrument('pyro-2', '2027-03-04T12:40:00.000Z'),
        instrument('pyro-3', null),
      ],
      places: [],
      broker: 'mqtt://127.0.0.1:4310',
    };
    http.expectOne('/api/instruments').flush(given);
    await fixture.whenStable();
    return { http, fixture };
  };

  it('shows what each says now; what fell silent shows no number', async () => {
    const { fixture } = await open();
    const rows = [...page(fixture).querySelectorAll('tbody tr')].map((row) =>
      [4, 5].map((cell) => row.children[cell]!.textContent!.replace(/\s+/g, ' ').trim()),
    );
    expect(rows[0]).toEqual(['1163 °C', 'at rest']);
    expect([rows[1]![0], rows[1]![1]!.startsWith('silent since')]).toEqual(['–', true]);
    expect(rows[2]).toEqual(['–', 'never heard']);
  });

  it('enters one', async () => {
    const { http, fixture } = await open();
    await press(fixture, '[data-test=add-instrument]');
    await type(fixture, '#i-name', 'Dip pyrometer 2');
    await type(fixture, '#i-code', 'pyro-4');
    await press(fixture, '[data-test=save-instrument]');
    const [sent] = http.match(({ method, url }) => method === 'POST' && url === '/api/instruments');
    expect(sent!.request.body).toEqual(
      jasmine.objectContaining({ version: 0, code: 'pyro-4', kind: 'immersion', where: 'furnace', plusMinusK: 3 }),
    );
  });
});
