import { RouterTestingHarness } from '@angular/router/testing';
import type { CoatRow, CoatsAnswer } from '@kalvet/core';
import { planStand } from '../testing/pieces';
import { bed } from '../testing/screen';
import { CoatsPage } from './coats.page';

const at = (minutes: number) => new Date(Date.now() + minutes * 60_000).toISOString();
const row = (n: number, rest: Partial<CoatRow> = {}): CoatRow => ({
  treeId: `t-${n}`,
  label: `T-${n}`,
  pieceIds: ['p'],
  readyAt: at(-60),
  tooOldAt: at(600),
  waits: [],
  plannedStart: null,
  coats: (['done', 'next', 'later'] as const).map((state, i) => ({
    stepId: `st-${n}-${i}`,
    kind: 'coat',
    version: 2,
    sequence: i + 1,
    name: i === 2 ? 'Seal coat 3' : `Dip coat ${i + 1} of 3`,
    state,
    at: state === 'done' ? at(-300) : null,
    by: state === 'done' ? ['Oskar Venn'] : [],
    readings: '',
    flags: [],
  })),
  lift: null,
  ...rest,
});

describe('the coat ledger', () => {
  const open = async (rows: readonly CoatRow[]) => {
    const http = bed([{ path: '', component: CoatsPage }]);
    const harness = await RouterTestingHarness.create('/');
    const settle = async () => {
      harness.detectChanges();
      await harness.fixture.whenStable();
    };
    await settle();
    const answer: CoatsAnswer = { change: 1, now: at(0), plan: planStand(), rows };
    http.expectOne('/api/coats').flush(answer);
    await settle();
    const root = harness.routeNativeElement!;
    return { http, root, settle, text: () => root.textContent!.replace(/\s+/g, ' ') };
  };

  it('tells what is ready, drying, too old or waiting', async () => {
    const { text } = await open([
      row(1),
      row(2, { readyAt: at(90) }),
      row(3, { tooOldAt: at(-5) }),
      row(4, { waits: ['Join tree, wash'] }),
      row(5, { waits: ['on hold: artist asks'] }),
    ]);
    expect(text()).toContain('ready; too old from');
    expect(text()).toContain('dries until');
    expect(text()).toContain('too old since');
    expect(text()).toContain('waits for Join tree, wash');
    expect(text()).toContain('on hold: artist asks');
  });

  it('takes every ready tree onto one tray, and none that is drying or too old', async () => {
    const { settle, http } = await open([row(1), row(2, { readyAt: at(90) }), row(3), row(4, { tooOldAt: at(-5) })]);
    for (const name of ['tick-ready', 'together']) {
      document.body.querySelector<HTMLElement>(`[data-test=${name}]`)!.click();
      await settle();
    }
    http.expectOne('/api/steps/forms?ids=st-1-1,st-3-1');
    expect(document.body.querySelector('kv-record-many h2')!.textContent).toContain('2 ×');
  });

  it('says so where nothing is being shelled', async () => {
    const { root } = await open([]);
    expect(root.querySelector('.kv-soft')!.textContent!.trim().length).toBeGreaterThan(10);
  });
});
