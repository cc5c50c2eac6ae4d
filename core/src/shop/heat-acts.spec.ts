import { POUR_CHECKS } from '../records/pour.ts';
import type { Shop } from '../records/shop.ts';
import type { ChangeHeat, PlanHeat, PourTree } from '../records/pour-writes.ts';
import { after, doingBy, said, told } from '../testing/doing.ts';
import { START, counter, playThrough, smallShop } from '../testing/play.ts';
import { addMinutes } from '../units/instant.ts';
import { inWords } from '../units/words.ts';
import type { Doing } from './act.ts';
import { heatCharge } from './heat-charge.ts';
import { indexShop } from './index-shop.ts';
import { abandonHeat, confirmCrew, finishHeat, pourTree } from './pour-heat.ts';
import { changeHeat, planHeat } from './plan-heat.ts';

const LATER = addMinutes(START, 400 * 1440);
const DIPS = ['coat', 'coat', 'coat', 'coat', 'coat', 'coat'] as const;
const WAY = ['pull', 'chase-wax', 'join-tree', ...DIPS, 'fire', 'leak-test'] as const;

/** Two trees of one work that wait for their pour. */
function ready(): { shop: Shop; trees: [string, string]; doing: Doing } {
  const newId = counter();
  let shop = playThrough(smallShop({ pieces: 2 }, newId), ['make-mould'], newId);
  for (let piece = 0; piece < 2; piece++) shop = playThrough(shop, WAY, newId);
  const trees = shop.trees.map(({ id }) => id) as [string, string];
  return { shop, trees, doing: doingBy(newId, { now: LATER }) };
}

const line = (kg: number, rest = {}) => ({
  what: 'ingot' as const,
  alloyId: 'C87300',
  kg,
  lot: 'B-1',
  dry: true,
  ...rest,
});
const plan = (trees: PlanHeat['trees'], rest: Partial<PlanHeat> = {}): PlanHeat => ({
  id: 'h-1',
  alloyId: 'C87300',
  plannedFor: null,
  trees,
  chargeLines: [line(30)],
  ...rest,
});
const heatOf = (shop: Shop) => shop.heats[0]!;
const crew = [{ role: 'lead' as const, personId: 'p-1', deputyId: null }];
const confirm = { version: 1, crew, signs: 'spoken' as const, checks: POUR_CHECKS, coverConfirmed: true as const };
const poured = (treeId: string, rest: Partial<PourTree> = {}): PourTree => ({
  version: 1,
  treeId,
  outcome: 'poured',
  startedAt: null,
  endedAt: LATER,
  by: ['p-1'],
  readings: { pouredKg: 12.5, metalC: 1120, tempWhere: 'cup', seconds: 8, vents: 'all' },
  note: '',
  ...rest,
});

describe('planning a heat', () => {
  it('works out what nobody typed, and keeps what somebody typed as such', () => {
    const { shop, trees, doing } = ready();
    const act = planHeat(indexShop(shop), plan([{ treeId: trees[0] }, { treeId: trees[1], plannedKg: 9.5 }]), doing);
    expect(told(shop, act)).toMatch(/^Heat H-0 planned: 2 trees, \d+\.\d kg$/);
    const { pourings } = after(shop, act);
    expect(pourings.map(({ plannedSource, plannedKg }) => [plannedSource, plannedKg > 5])).toEqual([
      ['computed', true],
      ['typed', true],
    ]);
    expect(pourings[0]!.plannedPlusMinusKg).toBeGreaterThan(0);
    expect(pourings[1]).toEqual(jasmine.objectContaining({ plannedKg: 9.5, plannedPlusMinusKg: null, order: 2 }));
  });

  it('keeps the shop’s melt loss and pig of that day: a later change counts for later heats', () => {
    const { shop, trees, doing } = ready();
    const settings = { ...doing.settings, meltLoss: 0.05, pigReserveKg: 5 };
    const planned = after(
      shop,
      planHeat(indexShop(shop), plan([{ treeId: trees[0], plannedKg: 30 }]), { ...doing, settings }),
    );
    // (30 + 5) ÷ 0.95 = 36.84 kg.
    expect(heatCharge(heatOf(planned), [30]).charge.value).toBeCloseTo(36.84, 2);
  });

  it('refuses another alloy, a tree twice or in two heats, metal of another alloy, and more than the crucible holds', () => {
    const { shop, trees, doing } = ready();
    const index = indexShop(shop);
    const rules = (given: PlanHeat) => planHeat(index, given, doing).refusals.map(({ rule }) => rule);
    const [one, other] = trees.map((treeId) => ({ treeId }));
    expect(rules(plan([one!], { alloyId: 'C90500' }))).toEqual(['alloy', 'alloy']);
    expect(rules(plan([one!, one!]))).toEqual(['twice']);
    expect(rules(plan([one!], { chargeLines: [line(5, { what: 'returns', alloyId: null })] }))).toEqual(['alloy']);
    // 125 kg is above the usable mark (120 kg), which may be passed; 140 kg is more than it holds (130 kg), which may not.
    const big = (kg: number) => planHeat(index, plan([one!], { chargeLines: [line(kg)] }), doing).refusals;
    expect(big(125).map(({ mayOverride }) => mayOverride)).toEqual([true]);
    expect(big(140).map(({ mayOverride }) => mayOverride)).toEqual([false]);
    const planned = after(shop, planHeat(index, plan([one!]), doing));
    expect(said(planHeat(indexShop(planned), plan([one!, other!], { id: 'h-2' }), doing))).toEqual([
      jasmine.stringMatching(/^twice: T-\d+ .* is in heat H-0 already\.$/),
    ]);
  });

  it('says which field is wrong: no tree, a tree that is not there', () => {
    const { shop, doing } = ready();
    expect(said(planHeat(indexShop(shop), plan([]), doing))).toEqual([jasmine.stringContaining('trees: a heat needs')]);
    expect(said(planHeat(indexShop(shop), plan([{ treeId: 'nobody' }]), doing))).toEqual([
      'trees: names a tree that is not there',
    ]);
  });
});

describe('a heat that is changed', () => {
  it('is one that the crew has to be asked about again', () => {
    const { shop, trees, doing } = ready();
    let now = after(shop, planHeat(indexShop(shop), plan([{ treeId: trees[0] }]), doing));
    now = after(now, confirmCrew(indexShop(now), heatOf(now), confirm, doing));
    expect([heatOf(now).leadId, heatOf(now).coverConfirmedById, heatOf(now).state]).toEqual(['p-1', 'p-1', 'charged']);
    const change: ChangeHeat = {
      version: heatOf(now).version,
      plannedFor: LATER,
      trees: [{ treeId: trees[1] }, { treeId: trees[0] }],
      chargeLines: [line(40)],
    };
    now = after(now, changeHeat(indexShop(now), heatOf(now), change, doing));
    expect(heatOf(now)).toEqual(
      jasmine.objectContaining({ crew: null, coverConfirmedById: null, state: 'planned', plannedFor: LATER }),
    );
    expect(now.pourings.map(({ treeId, order }) => [treeId, order])).toEqual([
      [trees[1], 1],
      [trees[0], 2],
    ]);
    expect(now.chargeLines.map(({ kg }) => kg)).toEqual([40]);
  });
});

describe('the pour', () => {
  const charged = (given: Partial<PlanHeat> = {}) => {
    const { shop, trees, doing } = ready();
    const planned = after(
      shop,
      planHeat(indexShop(shop), plan([{ treeId: trees[0] }, { treeId: trees[1] }], given), doing),
    );
    return { shop: planned, trees, doing };
  };
  const confirmed = () => {
    const { shop, trees, doing } = charged();
    return { shop: after(shop, confirmCrew(indexShop(shop), heatOf(shop), confirm, doing)), trees, doing };
  };

  it('begins with a crew of one lead and a dry charge; a wet one nobody passes', () => {
    const { shop, doing } = charged({ chargeLines: [line(20), line(10, { what: 'returns', dry: false })] });
    const overrides = [{ rule: 'wet', reason: 'it looks dry' }];
    const act = confirmCrew(indexShop(shop), heatOf(shop), confirm, { ...doing, overrides });
    expect(said(act)).toEqual([jasmine.stringMatching(/^wet: .*returns 10\.0 kg.*A wet charge is never melted\.$/)]);
    expect(said(confirmCrew(indexShop(shop), heatOf(shop), { ...confirm, crew: [] }, doing))).toEqual([
      'crew: name one who leads the pour',
    ]);
  });

  it('keeps kilograms, degrees and seconds as the pouring’s row, and nothing of them on the step', () => {
    const { shop, trees, doing } = confirmed();
    const now = after(shop, pourTree(indexShop(shop), heatOf(shop), poured(trees[0]), doing));
    const row = now.pourings.find(({ treeId }) => treeId === trees[0])!;
    expect(row).toEqual(
      jasmine.objectContaining({ pouredKg: 12.5, metalC: 1120, tempWhere: 'cup', seconds: 8, outcome: 'poured' }),
    );
    const step = now.steps.find(({ id }) => id === row.stepId)!;
    expect([step.state, step.readings]).toEqual(['done', { vents: 'all' }]);
    expect(now.trees.find(({ id }) => id === trees[0])!.state).toBe('poured');
    expect(heatOf(now).state).toBe('running');
  });

  it('without crew and cover passes only with a reason, by somebody who may', () => {
    const { shop, trees, doing } = charged();
    const pour = (rest: Partial<Doing>) =>
      pourTree(indexShop(shop), heatOf(shop), poured(trees[0]), { ...doing, ...rest });
    expect(pour({}).refusals.map(({ rule }) => rule)).toEqual(['crew']);
    const overrides = [{ rule: 'crew', reason: 'said aloud' }];
    expect(pour({ overrides, mayPass: () => false }).refusals.map(({ mayOverride }) => mayOverride)).toEqual([false]);
    expect(pour({ overrides }).passed).toEqual(overrides);
  });

  it('of a tree that was not poured leaves it waiting for another heat', () => {
    const { shop, trees, doing } = confirmed();
    const none = poured(trees[0], { outcome: 'not poured', readings: {}, note: 'metal went cold' });
    const now = after(shop, pourTree(indexShop(shop), heatOf(shop), none, doing));
    const again = planHeat(indexShop(now), plan([{ treeId: trees[0] }], { id: 'h-2' }), doing);
    expect(said(again)).toEqual([]);
    expect(now.trees.find(({ id }) => id === trees[0])!.state).not.toBe('poured');
  });

  it('ends once every tree has its outcome: the pig is a row of the heat, given up it frees its trees', () => {
    const { shop, trees, doing } = confirmed();
    const end = { version: 1, endedAt: LATER, by: ['p-1'], pigKg: 4.2, note: '' };
    expect(finishHeat(indexShop(shop), heatOf(shop), end, doing).refusals.length).toBe(1);
    let now = shop;
    for (const treeId of trees) now = after(now, pourTree(indexShop(now), heatOf(now), poured(treeId), doing));
    const act = finishHeat(indexShop(now), heatOf(now), end, doing);
    expect(told(now, act)).toContain('4.2 kg');
    now = after(now, act);
    expect([heatOf(now).state, heatOf(now).pigKg]).toEqual(['done', 4.2]);
    const whole = now.steps.find(({ carrier }) => carrier === 'heat')!;
    expect([whole.state, whole.readings]).toEqual(['done', {}]);
    expect(said(abandonHeat(indexShop(now), heatOf(now), { version: 1, reason: 'no' }, doing))[0]).toContain(
      'done already',
    );
    const given = after(
      shop,
      abandonHeat(indexShop(shop), heatOf(shop), { version: 1, reason: 'burner failed' }, doing),
    );
    expect(said(planHeat(indexShop(given), plan([{ treeId: trees[0] }], { id: 'h-2' }), doing))).toEqual([]);
  });

  it('says its refusals in the reader’s units', () => {
    const { shop, trees, doing } = ready();
    const act = planHeat(indexShop(shop), plan([{ treeId: trees[0] }], { chargeLines: [line(125)] }), doing);
    expect(inWords(act.refusals[0]!.message)).toBe('125.0 kg is above the usable mark of 120 kg.');
  });
});
