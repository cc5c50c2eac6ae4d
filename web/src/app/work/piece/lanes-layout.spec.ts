import type { AttemptView, LaneView } from '@kalvet/core';
import { stepView } from '../../testing/pieces';
import { lanesLayout } from './lanes-layout';

const attempt = (number: number, rest: Partial<AttemptView> = {}): AttemptView => ({
  castId: `c${number}`,
  label: 'HER 4 B',
  attempt: number,
  state: 'wax',
  lostRoom: null,
  lostWhy: null,
  lostAt: null,
  version: 1,
  tree: null,
  steps: [
    stepView({ id: `pull${number}`, kind: 'pull', state: 'done' }),
    stepView({ id: `c1-${number}`, kind: 'coat', room: 'shell', state: 'done' }),
    stepView({ id: `c2-${number}`, kind: 'coat', room: 'shell' }),
    stepView({ id: `inspect${number}`, kind: 'inspect', room: 'chasing' }),
  ],
  ...rest,
});
const lane = (...attempts: AttemptView[]): LaneView => ({
  sectionId: 's',
  name: 'Wing',
  letter: 'B',
  method: 'shell',
  attempts,
  plannedWax: null,
  plannedCast: null,
  wax: null,
  castFromWax: null,
  cast: null,
  wall: null,
  wallTargetMm: 5,
  deviation: null,
});
const pieceSteps = [
  stepView({ id: 'join', kind: 'join-section', room: 'chasing' }),
  stepView({ id: 'patina', kind: 'patina', room: 'patina' }),
];

describe('the lanes', () => {
  it('stand steps of one room above each other, and what is done to the whole piece behind its sections', () => {
    const { lines, bands } = lanesLayout([lane(attempt(1)), lane(attempt(2))], pieceSteps, new Set(['c2-1']), 600);
    expect(bands.map(({ room }) => room)).toEqual(['wax', 'shell', 'chasing', 'patina']);
    expect(lines[0]!.marks.map(({ x }) => x)).toEqual(lines[1]!.marks.map(({ x }) => x));
    const join = lines[2]!.marks[0]!;
    expect(join.x).toBeGreaterThan(lines[0]!.to);
    expect(lines.flatMap(({ marks }) => marks.filter(({ next }) => next)).map(({ step }) => step.id)).toEqual(['c2-1']);
    expect(bands.at(-1)!.x + bands.at(-1)!.width).toBeCloseTo(600, 6);
  });

  it('end a lost attempt with a cross right after its last step, the next attempt on its own line', () => {
    const lost = attempt(1, {
      state: 'lost',
      lostWhy: 'leak at the tip',
      steps: attempt(1).steps.slice(0, 2),
    });
    const { lines } = lanesLayout([lane(lost, attempt(2))], [], new Set(), 600);
    expect(lines[0]!.cross).toEqual({
      x: jasmine.any(Number) as unknown as number,
      text: 'Lost: leak at the tip',
    });
    expect(lines[0]!.cross!.x).toBeGreaterThan(lines[0]!.to);
    expect(lines[1]!.y).toBeGreaterThan(lines[0]!.y);
  });

  it('draw a piece of which nothing is known yet', () => {
    expect(lanesLayout([], [], new Set(), 600)).toEqual({
      bands: [],
      lines: [],
      width: 0,
      height: jasmine.any(Number) as unknown as number,
    });
  });
});
