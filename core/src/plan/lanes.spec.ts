// Whoever keeps the order in which units were handed on keeps every capacity, however long things take.
import { compile } from './compile.ts';
import { chance } from './engine/chance.ts';
import { handovers } from './lanes.ts';
import { planProblem } from './plan.ts';
import { oddFoundry } from '../testing/odd-foundry.ts';
import { at, problem, task } from '../testing/plan-parts.ts';

describe('handovers', () => {
  it('go from what was free longest to what starts next', () => {
    const given = problem({
      resources: [{ id: 'bench', capacity: 2 }],
      tasks: [30, 50, 10, 10].map((duration, i) => task(`t${i}`, duration, { needs: [at('bench')] })),
    });
    const compiled = compile(given);
    const placed = [
      { id: 't0', start: 0, end: 30 },
      { id: 't1', start: 0, end: 50 },
      { id: 't2', start: 50, end: 60 },
      { id: 't3', start: 50, end: 60 },
    ];
    const found = handovers(compiled, placed, ({ place }) => place);
    expect(found.map(({ from, to }) => [from, to])).toEqual([
      [0, 2],
      [1, 3],
    ]);
  });

  for (const seed of [1, 5, 9])
    it(`keep capacities when everything takes longer or shorter (shop ${seed})`, () => {
      const given = oddFoundry(seed);
      const compiled = compile(given);
      const schedule = planProblem(given, { iterations: 20, seed });
      const placed = given.tasks.map(({ id }) => schedule.tasks.find((each) => each.id === id)!);
      const found = handovers(compiled, placed, ({ place }) => place);
      const random = chance(seed);
      const order = [...compiled.tasks].sort((a, b) => placed[a.place]!.start - placed[b.place]!.start);
      const [starts, ends] = [new Float64Array(order.length), new Float64Array(order.length)];
      for (const { place } of order) {
        const { start, end } = placed[place]!;
        starts[place] = start;
        for (const { from, to } of found) if (to === place) starts[place] = Math.max(starts[place]!, ends[from]!);
        ends[place] = starts[place]! + (end - start) * (0.5 + random());
      }
      compiled.resources.forEach(({ capacity, batch }, resource) => {
        if (batch) return;
        const users = compiled.tasks.flatMap(({ place, takes }) =>
          takes.filter((take) => take.resource === resource).map(({ units }) => ({ place, units })),
        );
        for (const { place: one } of users) {
          const there = users.filter(({ place }) => starts[place]! <= starts[one]! && starts[one]! < ends[place]!);
          expect(there.reduce((sum, { units }) => sum + units, 0)).toBeLessThanOrEqual(capacity);
        }
      });
    });
});
