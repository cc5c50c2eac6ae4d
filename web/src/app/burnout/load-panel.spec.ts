import type { Companion } from '@kalvet/core';
import { stepForm } from '../testing/pieces';
import { bed, page, press, show, type } from '../testing/screen';
import { LoadPanel } from './load-panel.component';

const tree = (number: number, rest: Partial<Companion> = {}): Companion => ({
  stepId: `st-${number}`,
  treeId: `t-${number}`,
  label: `T-${number}`,
  ready: true,
  why: 'ready',
  pour: { value: 10, unit: 'kg', source: 'computed', inWords: '', inputs: {} },
  alloyId: 'C87300',
  ...rest,
});

describe('recording a load', () => {
  it('sends the trees that were in it, what was lost and why, with profile and temperature', async () => {
    const http = bed();
    const form = stepForm(
      { kind: 'fire', name: 'Dewax and fire', carrier: 'tree', carrierId: 't-1', through: 'load' },
      {
        companions: [tree(1), tree(2), tree(3, { ready: false, why: 'too early' })],
        starts: { profile: '900 °C, 2 h' },
      },
    );
    const fixture = await show(LoadPanel, { form });
    expect(page(fixture).textContent).toContain('1 of 12 places');
    expect(page(fixture).textContent).toContain('too early');
    (fixture.componentInstance as unknown as { choose(id: string, on: boolean): void }).choose('t-2', true);
    await fixture.whenStable();
    await press(fixture, 'Lost it');
    await type(fixture, '[aria-label="What happened to T-1"]', 'cracked at the cup');
    await type(fixture, '#reading-topC', '905');
    await press(fixture, '[data-test=record]');
    const { request } = http.expectOne('/api/loads');
    expect(request.body.treeIds).toEqual(['t-1', 't-2']);
    expect(request.body.record).toEqual(
      jasmine.objectContaining({
        profile: '900 °C, 2 h',
        topC: 905,
        by: ['p-1'],
        lost: [{ treeId: 't-1', why: 'cracked at the cup' }],
      }),
    );
  });
});
