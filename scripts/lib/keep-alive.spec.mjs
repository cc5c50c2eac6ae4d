import { keepAlive, pauses } from './keep-alive.mjs';

describe('what dies', () => {
  it('is started again after pauses that double up to half a minute, and begin anew after a minute’s life', () => {
    const died = pauses();
    const HOUR = 3_600_000;
    expect([0, 1, 2, 3, 4, 5, 6].map((i) => died(i * HOUR, 0))).toEqual([500, 1000, 2000, 4000, 8000, 16_000, 30_000]);
    expect(died(8 * HOUR, 0)).toBe(30_000);
    expect(died(9 * HOUR, 61_000)).toBe(500);
  });

  it('is given up after ten deaths within a quarter of an hour, but not for ten in a week', () => {
    const quick = pauses();
    for (let i = 0; i < 10; i++) expect(quick(i * 1000, 0)).toBeGreaterThan(0);
    expect(quick(11_000, 0)).toBeUndefined();
    const slow = pauses();
    for (let i = 0; i < 40; i++) expect(slow(i * 6 * 3_600_000, 0)).toBeGreaterThan(0);
  });

  it('is told of with how and for how long, begins that fail included, until it is stopped', async () => {
    const told = [];
    let begun = 0;
    let stopping = false;
    await keepAlive({
      name: 'the server',
      begin: async () => {
        begun++;
        if (begun === 2) throw new Error('no port');
        if (begun === 3) stopping = true;
        return { ended: Promise.resolve('killed by SIGKILL') };
      },
      told: (how, pause) => told.push([how, pause]),
      stopping: () => stopping,
      wait: async () => {},
    });
    expect(begun).toBe(3);
    expect(told).toEqual([
      ['killed by SIGKILL', 500],
      ['no port', 1000],
    ]);
    const failing = keepAlive({
      name: 'the server',
      begin: () => Promise.reject(new Error('broken')),
      told: () => {},
      stopping: () => false,
      wait: async () => {},
    });
    await expectAsync(failing).toBeRejectedWithError(/the server ended 11 times within 15 minutes, last: broken/);
  });
});
