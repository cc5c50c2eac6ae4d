import type { HttpTestingController } from '@angular/common/http/testing';
import type { ComponentFixture } from '@angular/core/testing';
import type { SetUpWork, WorkAnswer } from '@kalvet/core';
import { nextStep, planStand } from '../../testing/pieces';
import { bed, page, press, show } from '../../testing/screen';
import { WorkPage } from './work.page';

const work = (rest: Partial<WorkAnswer> = {}): WorkAnswer => ({
  change: 1,
  now: '2027-03-01T10:00:00.000Z',
  plan: planStand(),
  work: {
    id: 'w-1',
    code: 'OTT',
    title: 'Otter with Reed',
    artist: 'Wilma Tarn',
    alloyId: 'C87300',
    method: 'shell',
    approval: 'first',
    finish: '',
    glyph: 'otter',
    editionSize: 2,
    artistProofs: 0,
    version: 4,
  },
  sections: [],
  moulds: [],
  pieces: [1, 2].map((n) => ({
    id: `p-${n}`,
    mark: `${n}/2`,
    state: 'not begun',
    room: '',
    dueDate: null,
    plannedFinish: null,
    likely: null,
    lateDays: 0,
    deliveredAt: null,
  })),
  route: [],
  waxBand: 0.1,
  setUp: { id: 'w-1' } as SetUpWork,
  next: [nextStep({ kind: 'make-mould', name: 'Make mould', on: 'mould M-1 whole', room: 'mould' })],
  history: [],
  ...rest,
});

describe('the page of a work', () => {
  let http: HttpTestingController;
  let fixture: ComponentFixture<WorkPage>;
  const open = async (answer: WorkAnswer) => {
    http = bed();
    fixture = await show(WorkPage, { id: 'w-1' });
    http.expectOne('/api/works/w-1').flush(answer);
    await fixture.whenStable();
  };
  const text = () => page(fixture).textContent!.replace(/\s+/g, ' ');

  it('says what comes first while nothing is begun, and leads to the form it was set up with', async () => {
    await open(work());
    expect(text()).toContain('What comes firstMake mould');
    expect(page(fixture).querySelector('[data-test=set-up-anew]')!.getAttribute('href')).toBe('/works/w-1/set-up');
    expect(page(fixture).querySelector('[data-test=change-work]')).toBeNull();
  });

  it('asks before it is taken away, says how many pieces go, and why it cannot where somebody began meanwhile', async () => {
    await open(work());
    await press(fixture, '[data-test=remove-work]');
    http.expectNone('/api/works/w-1/remove');
    expect(text()).toContain('its 2 pieces go with it');
    await press(fixture, '[data-test=remove-really]');
    const sent = http.expectOne('/api/works/w-1/remove');
    expect(sent.request.body).toEqual({ version: 4 });
    const message = 'Otter with Reed cannot be taken away: something was recorded already: Make mould.';
    sent.flush(
      { error: { code: 'refused', message, refusals: [{ rule: 'begun', message, mayOverride: false }] } },
      { status: 409, statusText: 'x' },
    );
    await fixture.whenStable();
    expect(text()).toContain(message);
  });

  it('is only changed once something of it is begun', async () => {
    await open(work({ setUp: null, next: [] }));
    expect(text()).not.toContain('What comes first');
    expect(page(fixture).querySelector('[data-test=remove-work]')).toBeNull();
    expect(page(fixture).querySelector('[data-test=change-work]')).not.toBeNull();
  });
});
