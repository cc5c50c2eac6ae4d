// What holds whatever the shop: every plan keeps every rule, lies above its bound, and a part of it can be told before.
import { checkSchedule } from './check.ts';
import { planProblem } from './plan.ts';
import { promiseDates } from './promise.ts';
import { holdingChain } from './why.ts';
import { oddFoundry } from '../testing/odd-foundry.ts';

describe('in any shop', () => {
  for (let seed = 1; seed <= 18; seed++)
    it(`number ${seed} is planned, searched and planned anew by the rules`, () => {
      const given = oddFoundry(seed, { fires: seed > 12 });
      const first = planProblem(given, { iterations: 0 });
      expect(first.status).withContext(JSON.stringify(first.messages)).toBe('feasible');
      const searched = planProblem(given, { iterations: 80, seed });
      expect(checkSchedule(given, searched)).toEqual([]);
      expect(searched.objective!.value).toBeLessThanOrEqual(first.objective!.value);
      expect(searched.lowerBound!.value).toBeLessThanOrEqual(searched.objective!.value);
      // Two days later: what began is fixed, what was told for the next two days stays where it can.
      const now = 2 * 1440;
      const starts = searched.tasks.map(({ id, start, load }) => ({
        id,
        start,
        ...(load === undefined ? {} : { load }),
      }));
      const was = new Map(starts.map(({ id, start }) => [id, start]));
      const later = {
        ...given,
        tasks: given.tasks.map((task) =>
          was.get(task.id)! < now ? { ...task, fixedStart: was.get(task.id)! } : { ...task, earliest: now },
        ),
        previous: { starts, weight: 0.0001, frozen: 2 * now },
      };
      const anew = planProblem(later, { iterations: 20, seed });
      expect(anew.status).withContext(JSON.stringify(anew.messages)).toBe('feasible');
      expect(checkSchedule(later, anew)).toEqual([]);
      for (const { id, start } of anew.tasks)
        if (was.get(id)! < 2 * now) expect([id, start]).toEqual([id, was.get(id)!]);
      // What starts no sooner than planned ends at most by what its last step can be quicker.
      for (const { planned, p50, p90 } of promiseDates(given, searched, { runs: 20 }).jobs)
        expect(planned - 1440 <= p50 && p50 <= p90).toBeTrue();
      // What holds a piece leads back to something that holds nothing.
      const { chain } = holdingChain(given, searched, 'P0');
      expect(chain[0]!.end).toBe(
        Math.max(...searched.tasks.filter(({ id }) => id.startsWith('P0.')).map(({ end }) => end)),
      );
      for (const { waited, closed } of chain) expect(waited >= 0 && closed >= 0).toBeTrue();
    });
});
