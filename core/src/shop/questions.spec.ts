import type { FloorPiece } from '../records/floor-page.ts';
import type { PlanNote } from '../records/plan.ts';
import type { HeatAnswer } from '../records/pour-page.ts';
import type { TreeLine } from '../records/sprue-page.ts';
import { inWords } from '../units/words.ts';
import type { AskedOf } from './questions.ts';
import { questions } from './questions.ts';

const NOW = '2027-03-05T12:00:00.000Z';
const line = (rest: Partial<TreeLine>): TreeLine =>
  ({
    stepId: 's-1',
    kind: 'coat',
    name: 'Dip coat 3 of 8',
    on: 'T-1',
    room: 'shell',
    carrierId: 't-1',
    waits: [],
    held: false,
    tooOldAt: null,
    pieceIds: ['p-1'],
    ...rest,
  }) as TreeLine;
const piece = (rest: Partial<FloorPiece> = {}) =>
  ({
    id: 'p-1',
    state: 'in work',
    decisions: [],
    version: 4,
    holdReason: null,
    holdUntil: null,
    ...rest,
  }) as unknown as FloorPiece;
const pouring = (n: number) => ({
  stepId: `pour-${n}`,
  treeId: `t-${n}`,
  label: `T-${n}`,
  plannedKg: 20,
  outcome: null,
});
const heat = (trees: number): HeatAnswer =>
  ({
    id: 'h-1',
    number: 19,
    state: 'planned',
    plannedFor: '2027-03-11T09:00:00.000Z',
    version: 2,
    pourings: Array.from({ length: trees }, (_, i) => pouring(i + 1)),
    chargeLines: [],
  }) as unknown as HeatAnswer;
const asked = (rest: Partial<AskedOf>) =>
  questions({
    now: NOW,
    pieces: [],
    moulds: [],
    lines: [],
    heats: [],
    notes: [],
    fillers: () => [],
    nextPour: () => '2027-03-18T09:00:00.000Z',
    newId: () => 'new',
    ...rest,
  });
const pin = (n: number): PlanNote => ({
  cause: 'pin',
  text: `pour ${n} cannot be kept`,
  stepId: `pour-${n}`,
  urgent: true,
});

describe('what wants a decision', () => {
  it('asks once about a heat whose trees cannot be ready, and offers to take them out or to move it', () => {
    const [one, ...more] = asked({ heats: [heat(3)], notes: [pin(1), pin(2)] });
    expect(more).toEqual([]);
    expect(inWords(one!.text)).toContain('2 of its 3 trees cannot be ready by then (T-1, T-2)');
    expect(inWords(one!.costs)).toBe('40 kg of 60 kg would not be poured');
    expect(one!.answers.map(({ label }) => inWords(label))).toEqual([
      'Take them out of H-19',
      'Move the heat to 2027-03-18T09:00:00.000Z',
    ]);
    const [out, move] = one!.answers.map(({ write }) => write!.body as { trees: unknown[]; plannedFor: string });
    expect([out!.trees, move!.trees.length, move!.plannedFor]).toEqual([
      [{ treeId: 't-3' }],
      3,
      '2027-03-18T09:00:00.000Z',
    ]);
  });

  it('offers first what would fill the heat in their place, with what it then weighs', () => {
    const fillers = (_: HeatAnswer, late: readonly string[]) => [
      { treeId: 't-8', label: `T-8 for ${late.join(' and ')}`, kg: 31.4 },
    ];
    const [one] = asked({ heats: [heat(3)], notes: [pin(1), pin(2)], fillers });
    const [swap] = one!.answers;
    // Of three trees of 20 kg one stays.
    expect(inWords(swap!.label)).toBe('Put T-8 for t-1 and t-2 in for them: 51 kg');
    expect((swap!.write!.body as { trees: unknown }).trees).toEqual([{ treeId: 't-3' }, { treeId: 't-8' }]);
  });

  it('only moves a heat of which nothing is left', () => {
    expect(asked({ heats: [heat(1)], notes: [pin(1)] })[0]!.answers.length).toBe(1);
  });

  it('says a hold and its shells in one line, not each coat that grows too old', () => {
    const held = [1, 2, 3].map((n) => line({ stepId: `s-${n}`, held: true, tooOldAt: '2027-03-04T12:00:00.000Z' }));
    const notes = held.map(({ stepId }): PlanNote => ({ cause: 'too old', text: 'longer', stepId, urgent: true }));
    const label = 'Heron 5/8';
    const found = asked({ pieces: [{ ...piece({ state: 'hold', holdReason: 'a look' }), label }], lines: held, notes });
    expect(found.length).toBe(1);
    expect(inWords(found[0]!.text)).toContain(
      'Heron 5/8 is on hold (a look), and its 3 shells half dipped are too old',
    );
    expect(found[0]!.answers.map(({ write }) => write!.path)).toEqual(['/pieces/p-1/hold', '/pieces/p-1/release']);
  });

  it('gathers what grew too old by its room', () => {
    const old = { tooOldAt: '2027-03-05T11:00:00.000Z' };
    const found = asked({
      lines: [line(old), line({ ...old, on: 'T-2' }), line({ tooOldAt: '2027-03-06T00:00:00.000Z' })],
    });
    expect(found.map(({ text }) => inWords(text))).toEqual([
      'T-1, T-2: too old for their next step since 2027-03-05T11:00:00.000Z',
    ]);
  });

  it('puts the dearest first: a leak of 19 days before a wax of half a day', () => {
    const decision = { costs: '', urgent: true, answers: [] };
    const pieces = [
      { ...piece({ decisions: [{ ...decision, text: 'wax', days: 0.45 }] }), label: 'Otter 9/12' },
      { ...piece({ id: 'p-2', decisions: [{ ...decision, text: 'leak', days: 19 }] }), label: 'Heron 4/8' },
    ];
    expect(asked({ pieces }).map(({ text }) => text)).toEqual(['leak', 'wax']);
  });
});
