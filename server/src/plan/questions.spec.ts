import type { WhatIf } from '@kalvet/core';
import { Questions } from './questions.ts';

const ANSWER: WhatIf = { feasible: true, pieces: [] };

/** A question whose answer the spec gives. */
function held() {
  let give = (_: WhatIf) => {};
  let begun = 0;
  const work = () => {
    begun++;
    return new Promise<WhatIf>((resolve) => (give = resolve));
  };
  return { work, give: (answer: WhatIf) => give(answer), begun: () => begun };
}

describe('questions about dates', () => {
  it('are worked out one at a time, equal ones once, the others told their place', async () => {
    const questions = new Questions();
    const [first, second] = [held(), held()];
    const one = await questions.ask('a', first.work, { waitMs: 1 });
    const same = await questions.ask('a', first.work, { waitMs: 1 });
    const other = await questions.ask('b', second.work, { waitMs: 1 });
    expect([one, same, other]).toEqual([
      { place: 0, ticket: 'a' },
      { place: 0, ticket: 'a' },
      { place: 1, ticket: 'b' },
    ]);
    expect([first.begun(), second.begun()]).toEqual([1, 0]);
    first.give(ANSWER);
    expect(await questions.ask('a', first.work)).toEqual({ answer: ANSWER });
    expect(second.begun()).toBe(1);
    // Whoever waited gets the answer by the ticket although the shop has moved on since.
    expect(await questions.ask('a later', first.work, { ticket: 'a' })).toEqual({ answer: ANSWER });
  });

  it('are refused in words where too many wait, and one that fails fails for who asked it alone', async () => {
    const questions = new Questions();
    const running = held();
    await questions.ask('0', running.work, { waitMs: 1 });
    for (let i = 1; i <= 8; i++) await questions.ask(String(i), held().work, { waitMs: 1 });
    await expectAsync(questions.ask('9', held().work, { waitMs: 1 })).toBeRejectedWithError(
      /8 questions about dates wait/,
    );
    const broken = new Questions();
    await expectAsync(broken.ask('x', () => Promise.reject(new Error('no such step')))).toBeRejectedWithError(
      'no such step',
    );
    expect(await broken.ask('x', () => Promise.resolve(ANSWER))).toEqual({ answer: ANSWER });
  });
});
