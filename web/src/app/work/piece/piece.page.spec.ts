import type { HttpTestingController } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { By } from '@angular/platform-browser';
import { Router } from '@angular/router';
import { RouterTestingHarness } from '@angular/router/testing';
import type { PieceAnswer, StepView } from '@kalvet/core';
import { floorPiece, nextStep, planStand, stepForm, stepView } from '../../testing/pieces';
import { StepPanel } from '../../route/step-panel.component';
import { bed } from '../../testing/screen';
import { PiecePage } from './piece.page';

const answer = (steps: readonly StepView[], rest: Partial<PieceAnswer['piece']> = {}): PieceAnswer => ({
  change: 1,
  plan: planStand(),
  piece: {
    ...floorPiece(4, ['wax', 'shell'], { id: 'p4', next: [nextStep({ stepId: 'open' })], ...rest }),
    markInWax: '4/8',
    deliveredAt: null,
    ...rest,
  },
  work: {
    id: 'w',
    code: 'HER',
    title: 'Heron',
    artist: 'Aldous Fenn',
    alloyId: 'C90500',
    method: 'shell',
    approval: 'first',
    finish: '',
    glyph: 'bird',
    delivered: 2,
    of: 10,
  },
  order: { id: 'o-1', number: 3, title: 'Quayside', client: 'Marrow Gallery', dueDate: null },
  lanes: [],
  pieceSteps: steps,
  openItems: [],
  trees: [
    {
      id: 't',
      number: 26,
      casts: ['HER 4 C'],
      loads: [{ id: 'l-1', number: 12 }],
      heats: [{ id: 'h-1', number: 7 }],
      wetSince: '2027-03-01T08:00:00.000Z',
      pourWeight: null,
      yield: null,
      shell: null,
      dipping: null,
      poured: null,
    },
  ],
  history: [],
  waxBand: 0.1,
});

describe('the page of a piece', () => {
  let http: HttpTestingController;
  let harness: RouterTestingHarness;
  const root = () => harness.routeNativeElement!;
  const text = () => root().textContent!.replace(/\s+/g, ' ');
  const page = () =>
    harness.routeDebugElement!.componentInstance as PiecePage & { read(): void; open(id: string | null): void };
  const give = async (given: PieceAnswer) => {
    await new Promise((resolve) => setTimeout(resolve, 90));
    http.expectOne('/api/pieces/p4').flush(given);
    await harness.fixture.whenStable();
  };

  const open = async (path: string, given: PieceAnswer) => {
    http = bed([{ path: 'pieces/:id', component: PiecePage }]);
    harness = await RouterTestingHarness.create(path);
    await give(given);
  };

  const running = stepView({ id: 'open', kind: 'coat', room: 'shell' });
  const over = stepView({
    id: 'over',
    kind: 'pull',
    state: 'done',
    outcome: 'done',
    endedAt: '2027-03-01T10:00:00.000Z',
    by: ['Petra Lund'],
    flags: ['too old: 3 days'],
  });

  it('says whose it is, what it is made of, where it stands, and that a mould is wet', async () => {
    await open('/pieces/p4', answer([over, running]));
    expect(text()).toContain('Heron 4/8');
    expect(text()).toContain('tin bronze 88-10-2');
    expect(text()).toContain('2 of 10 delivered');
    expect(text()).toContain('not to be poured');
    expect(document.title).toBe('Heron 4/8 · Kalvet');
  });

  it('shows a step that is over, with its flags, and does not offer to record it again', async () => {
    await open('/pieces/p4?step=over', answer([over, running]));
    expect(root().querySelector('.panel')!.textContent).toContain('too old: 3 days');
    expect(root().querySelector('kv-step-panel')).toBeNull();
  });

  it('keeps an open panel, and what is typed in it, when somebody else records the step meanwhile', async () => {
    await open('/pieces/p4?step=open', answer([over, running]));
    http
      .expectOne('/api/steps/open/form')
      .flush(stepForm({ id: 'open', kind: 'patch', room: 'burnout', name: 'Patch' }));
    await harness.fixture.whenStable();
    const note = root().querySelector('textarea')!;
    note.value = 'paste at the tip';
    note.dispatchEvent(new Event('input'));
    page().read();
    await give(answer([over, { ...running, state: 'done', outcome: 'done' }]));
    expect(root().querySelector('textarea')).toBe(note);
    expect(note.value).toBe('paste at the tip');
  });

  it('opens the panel of a next step in the address, so that it can be shared', async () => {
    await open('/pieces/p4', answer([over, running]));
    root().querySelector<HTMLElement>('[data-test=record-next]')!.click();
    await harness.fixture.whenStable();
    expect(TestBed.inject(Router).url).toBe('/pieces/p4?step=open');
    http
      .expectOne('/api/steps/open/form')
      .flush({ error: { code: 'not found', message: 'There is no such step.' } }, { status: 404, statusText: 'x' });
    await harness.fixture.whenStable();
    expect(text()).toContain('There is no such step.');
  });

  it('does not offer again what was recorded a moment ago, before the piece is read again', async () => {
    await open('/pieces/p4?step=open', answer([over, running]));
    http
      .expectOne('/api/steps/open/form')
      .flush(stepForm({ id: 'open', kind: 'patch', room: 'burnout', name: 'Patch' }));
    await harness.fixture.whenStable();
    harness.routeDebugElement!.query(By.directive(StepPanel)).componentInstance.done.emit();
    await harness.fixture.whenStable();
    expect(root().querySelector('[data-test=record-next]')).toBeNull();
    await give(answer([over], { next: [nextStep({ stepId: 'then', name: 'Refire' })] }));
    expect(root().querySelector('[data-test=record-next]')!.getAttribute('aria-label')).toContain('Record Refire');
  });

  it('offers nothing to record on a piece that is delivered or cancelled', async () => {
    for (const state of ['delivered', 'cancelled'] as const) {
      await open('/pieces/p4', answer([over], { state, deliveredAt: '2027-03-02T10:00:00.000Z' }));
      expect(root().querySelector('[data-test=record-next]')).withContext(state).toBeNull();
      expect(text()).not.toContain('Put a step in');
    }
  });

  it('says that there is no such piece, with a way on', async () => {
    http = bed([{ path: 'pieces/:id', component: PiecePage }]);
    harness = await RouterTestingHarness.create('/pieces/p4');
    await new Promise((resolve) => setTimeout(resolve, 90));
    http
      .expectOne('/api/pieces/p4')
      .flush({ error: { code: 'not found', message: 'There is no such piece.' } }, { status: 404, statusText: 'x' });
    await harness.fixture.whenStable();
    expect(text()).toContain('There is no such piece.');
    expect(root().querySelector('a')!.getAttribute('href')).toBe('/floor');
  });
});
