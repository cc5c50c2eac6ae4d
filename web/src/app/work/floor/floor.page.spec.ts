import { TestBed } from '@angular/core/testing';
import type { HttpTestingController } from '@angular/common/http/testing';
import { Router } from '@angular/router';
import { RouterTestingHarness } from '@angular/router/testing';
import type { FloorAnswer } from '@kalvet/core';
import { floorPiece, floorWork, planStand, question } from '../../testing/pieces';
import { bed } from '../../testing/screen';
import { FloorPage } from './floor.page';

const floor = (works: FloorAnswer['works'], rest: Partial<FloorAnswer> = {}): FloorAnswer => ({
  change: 1,
  now: '2027-03-01T10:00:00.000Z',
  today: '2027-03-01',
  works,
  mouldsInUse: 0,
  plan: planStand(),
  orders: [],
  questions: [],
  dips: [],
  fire: [],
  pour: [],
  heats: [],
  ...rest,
});

describe('the Floor', () => {
  let http: HttpTestingController;
  let harness: RouterTestingHarness;
  const root = () => harness.routeNativeElement!;
  const text = () => root().textContent!.replace(/\s+/g, ' ');

  const open = async (path: string, answer: FloorAnswer) => {
    http = bed([
      { path: 'floor', component: FloorPage },
      { path: 'pieces/:id', component: FloorPage },
    ]);
    harness = await RouterTestingHarness.create(path);
    await new Promise((resolve) => setTimeout(resolve, 80));
    http.expectOne('/api/floor').flush(answer);
    await harness.fixture.whenStable();
  };

  it('leads to setting up where there is no work yet', async () => {
    await open('/floor', floor([]));
    expect(text()).toContain('No work has been set up yet');
    expect(root().querySelector('.empty a')!.getAttribute('href')).toBe('/set-up');
    // The rooms are there from the first day.
    expect(root().querySelectorAll('kv-rail a').length).toBe(8);
  });

  it('says in words what each disc shows', async () => {
    const held = floorPiece(4, ['shell', 'pour'], { state: 'hold', holdReason: 'client undecided' });
    const recast = floorPiece(2, ['wax', 'chasing'], { late: true, lateDays: 3, dueDate: '2027-02-01' });
    recast.sections.forEach((section, i) => Object.assign(section, { recast: i === 0, attempt: i === 0 ? 2 : 1 }));
    await open('/floor', floor([floorWork([held, recast], { title: 'Heron', sectionCount: 2 })]));
    const labels = [...root().querySelectorAll('.disc')].map((disc) => disc.getAttribute('aria-label'));
    expect(labels).toEqual([
      'Heron 2/8 · 2 sections: 1 in Wax, 1 in Chasing · Section 1 is cast again, attempt 2 · late by 3 days, due Mon 1 Feb 2027',
      'Heron 4/8 · 2 sections: 1 in Shell, 1 in Pour · on hold: client undecided',
    ]);
    expect(root().querySelectorAll('.tail').length).toBe(2);
  });

  it('shows only what the address asks for, and a way back', async () => {
    await open(
      '/floor?room=pour',
      floor([
        floorWork([floorPiece(1, ['wax'])], { title: 'Otter' }),
        floorWork([floorPiece(2, ['pour'])], { id: 'w2', title: 'Hound' }),
      ]),
    );
    expect([...root().querySelectorAll('.names h2')].map((title) => title.textContent)).toEqual(['Hound']);
    expect(text()).toContain('Filtered: 1 works shown');
    root().querySelector<HTMLElement>('.room.chosen .only')!.click();
    await harness.fixture.whenStable();
    expect(TestBed.inject(Router).url).toBe('/floor');
    expect(root().querySelectorAll('.names h2').length).toBe(2);
  });

  it('shows the dearest questions under the rows, and all of them with their buttons when asked', async () => {
    await open('/floor', floor([floorWork([floorPiece(1, ['shell'])])], { questions: [1, 2, 3, 4, 5].map(question) }));
    const lines = () =>
      [...root().querySelectorAll('[aria-labelledby=strip-decide] li')].map((li) => li.textContent!.trim());
    expect(lines()).toEqual(['Thing 1?', 'Thing 2?', 'Thing 3?', 'all 5, with what they cost']);
    root().querySelector<HTMLElement>('[data-test=decide]')!.click();
    await harness.fixture.whenStable();
    expect(document.body.querySelectorAll('kv-question').length).toBe(5);
    document.body.querySelector<HTMLElement>('kv-question [data-test=answer]')!.click();
    const { request } = http.expectOne('/api/steps/st-1/decide');
    expect([request.method, request.body]).toEqual(['POST', { version: 3, answer: 'patch' }]);
  });

  it('keeps the floor on the screen when reading it again fails', async () => {
    await open('/floor', floor([floorWork([floorPiece(1, ['wax'])], { title: 'Otter' })]));
    (harness.routeDebugElement!.componentInstance as unknown as { read: () => void }).read();
    await new Promise((resolve) => setTimeout(resolve, 80));
    http
      .expectOne('/api/floor')
      .flush({ error: { code: 'unavailable', message: 'away' } }, { status: 503, statusText: 'x' });
    await harness.fixture.whenStable();
    expect(text()).toContain('Otter');
  });
});
