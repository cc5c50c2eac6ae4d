import type { FloorAnswer, Id, PlanAnswer, PourAnswer, Refusal } from '@kalvet/core';
import { addMinutes, inWords, shellAfter } from '@kalvet/core';
import { makePlan } from '../plan/make-plan.ts';
import { TestShop, section } from '../testing/shop.ts';
import { newId } from '../write/new-id.ts';

describe('a heat and the trees that can be poured in it', () => {
  let shop: TestShop;
  let pieces: readonly Id[];
  let trees: readonly Id[];
  beforeEach(async () => {
    shop = await TestShop.open();
    ({ pieceIds: pieces } = await shop.setUp({ editionSize: 3 }));
    await shop.makeMould(pieces[0]!);
    // The first only waits for its heat, the third for one coat and the fire; the second is not waxed yet.
    await shop.carry(pieces[0]!, 'pour');
    await shop.carry(pieces[2]!, 'fire');
    await makePlan(shop.store, shop.now);
    const { waiting, coming } = await shop.get<PourAnswer>('/api/pour');
    trees = [waiting[0]!.carrierId, ...coming.map(({ treeId }) => treeId)];
  });

  const plan = (treeIds: readonly Id[], plannedFor: string | null, rest: object = {}) =>
    shop.send('post', '/api/heats', {
      id: newId(),
      alloyId: 'C87300',
      plannedFor,
      trees: treeIds.map((treeId) => ({ treeId })),
      chargeLines: [],
      ...rest,
    });
  const refusals = (body: unknown) => (body as { error: { refusals: Refusal[] } }).error.refusals;

  it('says from when each tree on its way could be poured, and what comes before it', async () => {
    const { coming } = await shop.get<PourAnswer>('/api/pour');
    expect(coming.map(({ ready }) => inWords(ready.needs))).toEqual([
      'dewax and fire, leak test',
      jasmine.stringMatching(/^join tree, wash, \d+ coats, dewax and fire, leak test$/),
    ]);
    expect(coming[0]!.ready.from! > addMinutes(shop.now, 600)).toBeTrue();
    expect(coming[1]!.ready.from! > coming[0]!.ready.from!).toBeTrue();
  });

  it('is refused by name with one that cannot be ready, passed with a reason, and planned once it can', async () => {
    const hour = addMinutes(shop.now, 120);
    const { status, body } = await plan(trees.slice(0, 2), hour);
    expect(status).toBe(409);
    expect(refusals(body).map(({ rule, mayOverride }) => [rule, mayOverride])).toEqual([['ready', true]]);
    expect(inWords(refusals(body)[0]!.message)).toMatch(
      /^T-\d+ \(.*\) can be poured from .*: dewax and fire, leak test before it\.$/,
    );
    expect((await plan(trees.slice(0, 1), hour)).status).toBe(201);
    const override = [{ rule: 'ready', reason: 'fired elsewhere tonight' }];
    expect((await plan(trees.slice(1, 2), hour, { override })).status).toBe(201);
    // Without a day it is only put together.
    expect((await plan(trees.slice(2), null)).status).toBe(201);
  });

  it('has a target at each cup and for the furnace, and a better order where thin walls come last', async () => {
    const thick = await shop.setUp({
      code: 'THK',
      title: 'Thick',
      sections: [{ ...section('Whole'), wallMm: 10 }],
    });
    await shop.makeMould(thick.pieceIds[0]!);
    await shop.carry(thick.pieceIds[0]!, 'pour');
    const { waiting } = await shop.get<PourAnswer>('/api/pour');
    const thin = trees[0]!;
    const other = waiting.find(({ carrierId }) => carrierId !== thin)!.carrierId;
    expect((await plan([other, thin], null)).status).toBe(201);
    const [heat] = (await shop.get<PourAnswer>('/api/pour')).heats;
    // Silicon bronze: 1036 °C at 10 mm; the thin one a minute and a half later loses 1 − e^(−1.5 · 7.4 ÷ 1130) of what it is above the air.
    expect(Math.round(heat!.windows[other]!.cup.value)).toBe(1036);
    // Coats of 0.9 mm; silicon bronze wants its mould at 721 °C at most: bare from 870 °C that takes half a minute or so.
    const out = heat!.kilnOut[other]!;
    expect(out.wallMm / 0.9).toBeCloseTo(Math.round(out.wallMm / 0.9), 6);
    expect(shellAfter(out.fromS, out)).toBeCloseTo(721, 0);
    expect(shellAfter(out.toS, out)).toBeCloseTo(400, 0);
    const { value } = heat!.windows[thin]!.cup;
    expect(heat!.furnace!.value).toBeCloseTo(20 + (value + 30 - 20) * Math.exp((1.5 * 7.4) / 1130), 6);
    expect(heat!.order!.treeIds).toEqual([thin, other]);
    expect(heat!.order!.coolerK).toBeCloseTo(heat!.furnace!.value - (value + 30), 6);
  });

  it('is looked at three quarters of an hour after, once, and no more once its shell is off', async () => {
    const looks = async () => (await shop.get<PourAnswer>('/api/pour')).looks;
    expect(await looks()).toEqual([]);
    await shop.pour(trees[0]!, 'C87300');
    const [look] = await looks();
    expect(look!.treeId).toBe(trees[0]!);
    expect(look!.from).toBe(addMinutes(look!.pouredAt, 45));
    await shop.carry(pieces[0]!, 'inspect');
    expect(await looks()).toEqual([]);
  });

  it('that cannot be kept is asked about on the Floor, the Plan and its page, with the trees that would fill it', async () => {
    // A Thursday, on which metal flows until the evening.
    const hour = `${shop.now.slice(0, 10)}T15:00:00.000Z`;
    const override = [{ rule: 'ready', reason: 'we try' }];
    expect((await plan(trees.slice(2), hour, { override })).status).toBe(201);
    await makePlan(shop.store, shop.now);
    const { questions } = await shop.get<FloorAnswer>('/api/floor');
    const asked = questions.filter(({ key }) => key.startsWith('heat '));
    const onPlan = (await shop.get<PlanAnswer>('/api/plan')).asks;
    const onPour = (await shop.get<PourAnswer>('/api/pour')).asks;
    expect(asked.map(({ key }) => key)).toEqual(onPlan.map(({ key }) => key));
    expect(onPlan).toEqual(onPour);
    expect(inWords(asked[0]!.text)).toContain('none of its trees can be ready by then');
    const [swap, move] = asked[0]!.answers;
    // To a Thursday on which it can be poured, not to the very next one.
    const { ready } = await shop.get<PourAnswer>('/api/pour');
    expect((move!.write!.body as { plannedFor: string }).plannedFor >= ready[trees[2]!]!.from!).toBeTrue();
    expect(inWords(swap!.label)).toMatch(/^Put T-\d+ .* in for it/);
    const { write } = swap!;
    expect((await shop.send(write!.method, `/api${write!.path}`, write!.body as object)).status).toBe(200);
    await makePlan(shop.store, shop.now);
    expect((await shop.get<PlanAnswer>('/api/plan')).asks).toEqual([]);
  });
});
