import type { PracticeAnswer } from '@kalvet/core';
import { bed, page, press, show } from '../../testing/screen';
import { Rehearsal } from './rehearsal.component';

const answer = (rest: Partial<PracticeAnswer> = {}): PracticeAnswer => ({
  scenario: { id: 'wet', title: 'A mould is found wet', about: 'Look before you pour.' },
  heatId: 'h-1',
  now: '2027-03-04T10:00:00.000Z',
  startedAt: null,
  events: [],
  outcome: null,
  ...rest,
});

describe('a rehearsal on the live screen', () => {
  const open = async (given: PracticeAnswer) => {
    const http = bed();
    const fixture = await show(Rehearsal, {});
    await new Promise((resolve) => setTimeout(resolve, 20));
    http.expectOne('/api/practice').flush(given);
    await fixture.whenStable();
    return { http, fixture, text: () => page(fixture).textContent!.replace(/\s+/g, ' ') };
  };

  it('is told what it is about, and begins by a press', async () => {
    const { http, fixture, text } = await open(answer());
    expect(text()).toContain('Rehearsal: A mould is found wet');
    await press(fixture, '[data-test=begin-rehearsal]');
    expect(http.match('/api/practice/begin').length).toBe(1);
  });

  it('says what happens while it is poured', async () => {
    const { text } = await open(
      answer({ startedAt: '2027-03-04T09:59:00.000Z', events: [{ atS: 20, order: 2, text: 'Steam at the foot.' }] }),
    );
    expect(text()).toContain('Tree 2: Steam at the foot.');
    expect(text()).not.toContain('decided right');
  });

  it('tells afterwards what came of each tree and why', async () => {
    const tree = {
      treeId: 't',
      label: 'T-2',
      order: 2,
      came: 'metal thrown' as const,
      right: false,
      nearMiss: true,
      why: 'the mould was wet',
    };
    const fine = {
      ...tree,
      treeId: 'u',
      label: 'T-1',
      order: 1,
      came: 'filled' as const,
      right: true,
      nearMiss: false,
      why: '1170 °C at the cup',
    };
    const { text } = await open(answer({ startedAt: '2027-03-04T09:59:00.000Z', outcome: [fine, tree] }));
    expect(text()).toContain('1 of 2 decided right, 1 near miss');
    expect(text()).toContain('2. T-2metal thrown');
  });
});
