import type { Lot, MetalAnswer } from '@kalvet/core';
import { bed, page, press, show, type } from '../testing/screen';
import { MetalPage } from './metal.page';

const lot = (rest: Partial<Lot & { leftKg: number }> = {}): Lot & { leftKg: number } => ({
  id: 'l-1',
  number: 1,
  what: 'ingot',
  alloyId: 'C87300',
  mark: 'MQ-204',
  supplier: 'Tolver Ingot',
  kg: 500,
  receivedOn: '2027-02-01',
  analysis: { Cu: 95.1, Si: 3.9 },
  state: 'good',
  note: '',
  version: 3,
  leftKg: 120,
  ...rest,
});
const need = {
  at: '2027-03-04T13:00:00.000Z',
  alloyId: 'C87300',
  heatId: null,
  label: 'planned, 4 trees',
  chargeKg: 110,
  returnsKg: 30,
  ingotKg: 80,
  ingotLeftKg: -40,
};
const answer = (rest: Partial<MetalAnswer> = {}): MetalAnswer => ({
  change: 1,
  stock: [{ alloyId: 'C87300', ingotKg: 40, returnsKg: 30 }],
  needs: [need],
  shorts: [need],
  balance: [{ alloyId: 'C87300', inKg: 500, castsKg: 300, lostKg: 12, inWorkKg: 20, stockKg: 165, openKg: 3 }],
  lots: [lot(), lot({ id: 'l-2', mark: 'slip', alloyId: null, state: 'quarantine', leftKg: 38, analysis: {} })],
  crucibles: [],
  movements: [],
  ...rest,
});

describe('the page of metal', () => {
  const open = async (given: MetalAnswer) => {
    const http = bed();
    const fixture = await show(MetalPage, {});
    http.expectOne('/api/metal').flush(given);
    await fixture.whenStable();
    return { http, fixture, text: () => page(fixture).textContent!.replace(/\s+/g, ' ') };
  };

  it('says first where metal runs short, then what there is, and what does not add up', async () => {
    const { text, fixture } = await open(answer());
    expect(page(fixture).querySelector('[data-test=short]')!.textContent).toMatch(
      /short of 40 kg silicon bronze on\s+Thu 4 Mar/,
    );
    expect(text()).toContain('80 kg ingot + 30 kg returns');
    expect(text()).toContain('40 kg missing');
    expect(text()).toContain('3.0 kg: weigh again');
    expect(text()).toContain('no sheet yet');
  });

  it('takes a delivery in, with its sheet read, and keeps one that cannot be read back', async () => {
    const { http, fixture, text } = await open(answer({ lots: [], shorts: [], needs: [], stock: [], balance: [] }));
    expect(text()).toContain('Nothing is entered yet');
    await press(fixture, '[data-test=add-lot]');
    await type(fixture, '#f-mark', 'MQ-300');
    await type(fixture, '#f-kg', '250,5');
    await type(fixture, '#f-analysis', 'mostly copper');
    await press(fixture, '[data-test=save-lot]');
    expect(text()).toContain('write elements with their per cent');
    await type(fixture, '#f-analysis', 'Cu 95,1; Si 3.9');
    await press(fixture, '[data-test=save-lot]');
    expect(http.expectOne('/api/metal/lots').request.body).toEqual(
      jasmine.objectContaining({
        version: 0,
        mark: 'MQ-300',
        kg: 250.5,
        analysis: { Cu: 95.1, Si: 3.9 },
        state: 'good',
      }),
    );
  });
});
