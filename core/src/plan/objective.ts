import type { ObjectiveValue, PlanProblem } from './problem.ts';

/**
 * What a schedule costs: tardiness, flow and loads before their factors, the last finish, and the whole.
 * @param endOfTask the end of each task by its place
 * @param loads each load's resource, by the load's name
 */
export function objectiveOf(
  problem: PlanProblem,
  endOfTask: ArrayLike<number>,
  loads: ReadonlyMap<string, string>,
): ObjectiveValue {
  const finish = new Map<string, number>();
  problem.tasks.forEach(({ job }, i) => finish.set(job, Math.max(finish.get(job) ?? -Infinity, endOfTask[i]!)));
  let tardiness = 0;
  let flow = 0;
  let makespan = 0;
  for (const { id, weight = 1, due, release = 0 } of problem.jobs) {
    const end = finish.get(id);
    if (end === undefined) continue;
    if (due !== undefined) tardiness += weight * Math.max(0, end - due);
    flow += weight * (end - release);
    makespan = Math.max(makespan, end);
  }
  const costs = new Map(problem.resources.map(({ id, batch }) => [id, batch?.loadCost ?? 0]));
  const loadCost = [...loads.values()].reduce((sum, resource) => sum + costs.get(resource)!, 0);
  const factors = problem.objective;
  const value =
    (factors.tardiness ?? 0) * tardiness +
    (factors.flow ?? 0) * flow +
    (factors.loads ?? 0) * loadCost +
    (factors.makespan ?? 0) * makespan;
  return { value, tardiness, flow, loads: loadCost, makespan };
}
