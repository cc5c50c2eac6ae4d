import { TestShop } from '../testing/shop.ts';
import { rowsOf } from '../db/rows.ts';
import { Replanner } from './replanner.ts';

interface Row {
  readonly state: string;
  readonly leaseUntil: string | null;
}

describe('planning by itself', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
    await shop.setUp();
  });
  const computation = async () => (await rowsOf<Row>(shop.store, 'computations', { kind: 'plan' }))[0]!;
  const until = async (so: () => Promise<boolean> | boolean, ms: number) => {
    const end = Date.now() + ms;
    while (!(await so()) && Date.now() < end) await new Promise((resolve) => setTimeout(resolve, 50));
    return so();
  };

  it('is taken over within seconds from one that was killed, and left to one that lives', async () => {
    const { computations } = shop.store.models;
    const lease = (ms: number) =>
      computations.update({ state: 'running', leaseUntil: new Date(Date.now() + ms) }, { where: { kind: 'plan' } });
    await lease(60_000);
    let planned = 0;
    let end = () => {};
    const plan = () => new Promise<void>((resolve) => (planned++, (end = resolve)));
    const replanner = new Replanner(shop.store, () => shop.now, plan);
    replanner.start();
    // Changes have settled after a second and a half; somebody else's lease still runs.
    await new Promise((resolve) => setTimeout(resolve, 3500));
    expect(planned).toBe(0);
    await lease(-1);
    expect(await until(() => planned === 1, 5000)).toBeTrue();
    // Whoever plans says so again and again: its lease moves on.
    const first = (await computation()).leaseUntil!;
    expect(await until(async () => (await computation()).leaseUntil! > first, 6000)).toBeTrue();
    expect(Date.parse((await computation()).leaseUntil!) - Date.now()).toBeLessThan(10_000);
    end();
    await replanner.stop();
  }, 30_000);
});
