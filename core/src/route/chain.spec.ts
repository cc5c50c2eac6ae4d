import * as fc from 'fast-check';
import type { Pouring } from '../records/pour.ts';
import { EMPTY_SHOP, applyOps, insert } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import { START, closing, counter, openStep, play, playThrough, smallShop } from '../testing/play.ts';
import { cancelPieceOps } from './cancel.ts';
import { chainOf, sidesOf } from './chain.ts';
import { closeStep } from './close-step.ts';
import { plannedStep } from './grow.ts';
import { insertStep, insertableOn } from './insert-step.ts';
import { joinTree } from './join.ts';
import { loseCastOps, modelAgainOps, nextAttempt } from './lose.ts';
import { linksOf } from './links.ts';
import { indexShop } from '../shop/index-shop.ts';
import { KINDS } from '../shop/kinds.ts';
import { castsOfTree, treeOfCast } from './shop-index.ts';
import { standings, standsNow, standsOf } from './standing.ts';
import { wetSince } from './wet.ts';
import { placeOf } from './where.ts';

const newId = counter('k');
const step = (kind: Step['kind'], rest: Partial<Step> = {}) => plannedStep(newId, kind, 'tree', 'T', rest);
const of = (steps: readonly Step[]) => indexShop({ ...EMPTY_SHOP, steps });
const chain = (steps: readonly Step[]) => chainOf(of(steps), steps[0]!.carrierId);
const kinds = (steps: readonly Step[]) => chain(steps).map((each) => each.kind);

describe('the order of a carrier’s steps', () => {
  it('is the route’s, with what was inserted right behind what it was inserted after', () => {
    const test = step('leak-test');
    const patch = step('patch', { insertedAfter: test.id });
    const refire = step('refire', { insertedAfter: patch.id });
    expect(kinds([refire, step('pour'), patch, step('coat', { sequence: 1 }), test, step('join-tree')])).toEqual([
      'join-tree',
      'coat',
      'leak-test',
      'patch',
      'refire',
      'pour',
    ]);
  });

  it('keeps followers in place when the step they follow became void', () => {
    const [first, second] = [1, 2].map((sequence) => step('coat', { sequence })) as [Step, Step];
    const voided = step('dry', { state: 'void', insertedAfter: first.id });
    // By its kind alone a drying would stand after the firing.
    const again = step('dry', { insertedAfter: voided.id });
    expect(kinds([step('pour'), again, second, voided, step('fire'), first])).toEqual([
      'coat',
      'dry',
      'coat',
      'fire',
      'pour',
    ]);
  });

  it('counts coats by their number, not by their names or ids', () => {
    const coats = [10, 2, 1, 9].map((sequence) => step('coat', { sequence }));
    expect(chain(coats).map(({ sequence }) => sequence)).toEqual([1, 2, 9, 10]);
  });

  it('is the same however the steps are handed over', () => {
    const shop = smallShop({ sections: [{}, {}] }, counter());
    const steps = shop.steps.filter((each) => each.carrierId === shop.trees[0]!.id);
    const wanted = chain(steps).map(({ id }) => id);
    fc.assert(
      fc.property(fc.shuffledSubarray(steps, { minLength: steps.length }), (shuffled) =>
        expect(chain(shuffled).map(({ id }) => id)).toEqual(wanted),
      ),
      { seed: 7, numRuns: 25 },
    );
  });

  it('puts work inserted by hand on the side of what it follows', () => {
    const approve = plannedStep(newId, 'approve-wax', 'piece', 'P');
    const rework = plannedStep(newId, 'rework', 'piece', 'P', { insertedAfter: approve.id });
    const chase = plannedStep(newId, 'chase-metal', 'piece', 'P');
    const elsewhere = plannedStep(newId, 'elsewhere', 'piece', 'P', { insertedAfter: chase.id });
    const { wax, metal } = sidesOf(of([elsewhere, chase, rework, approve]), 'P');
    expect([wax.map(({ kind }) => kind), metal.map(({ kind }) => kind)]).toEqual([
      ['approve-wax', 'rework'],
      ['chase-metal', 'elsewhere'],
    ]);
  });
});

describe('wet since', () => {
  const at = (minute: number) => `2027-03-01T08:${String(minute).padStart(2, '0')}:00.000Z`;
  const done = (kind: Step['kind'], minute: number, rest: Partial<Step> = {}) =>
    step(kind, { state: 'done', endedAt: at(minute), ...rest });

  it('begins with the first wetting and ends only with drying or heat', () => {
    const coat = done('coat', 1, { sequence: 1 });
    const next = done('coat', 2, { sequence: 2 });
    expect(wetSince(of([coat, next]), 'T')).toBe(at(1));
    expect(wetSince(of([coat, next, done('fire', 3)]), 'T')).toBeNull();
    expect(wetSince(of([coat, done('fire', 3), done('leak-test', 4, { readings: { how: 'air' } })]), 'T')).toBeNull();
    expect(wetSince(of([coat, done('fire', 3), done('leak-test', 4, { readings: { how: 'water' } })]), 'T')).toBe(
      at(4),
    );
  });

  it('a firing that was lost or skipped dries nothing', () => {
    const coat = done('coat', 1, { sequence: 1 });
    expect(wetSince(of([coat, { ...done('fire', 3), state: 'skipped' }]), 'T')).toBe(at(1));
    expect(wetSince(of([coat, { ...done('fire', 3), state: 'lost' }]), 'T')).toBe(at(1));
  });
});

describe('joining other casts than planned', () => {
  const waxes = (pieces: number, ids: () => string, sections = [{}]) => {
    let shop = smallShop({ pieces, sections }, ids);
    shop = play(shop, openStep(shop, 'make-mould'), ids);
    for (let i = 0; i < pieces * sections.length; i++) shop = playThrough(shop, ['pull', 'chase-wax'], ids);
    return shop;
  };

  it('takes as many coats as the highest section needs, and drops those a lower one does not', () => {
    const ids = counter();
    const shop = waxes(1, ids, [{ metalHeightMm: 180 } as object, { metalHeightMm: 640 } as object]);
    const [low, high] = shop.casts.map((cast) => treeOfCast(indexShop(shop), cast.id)!);
    const coats = (from: typeof shop, treeId: string) =>
      from.steps.filter((each) => each.carrierId === treeId && each.kind === 'coat' && each.state === 'planned').length;
    expect([coats(shop, low!.id), coats(shop, high!.id)]).toEqual([6, 11]);
    const both = applyOps(
      shop,
      joinTree(
        indexShop(shop),
        low!.id,
        shop.casts.map(({ id }) => id),
        START,
        ids,
      ),
    );
    expect(coats(both, low!.id)).toBe(11);
    const one = applyOps(both, joinTree(indexShop(both), low!.id, [shop.casts[0]!.id], START, ids));
    expect(coats(one, low!.id)).toBe(6);
  });

  it('gives a cast that is left out a planned tree of its own, with all its steps', () => {
    const ids = counter();
    const shop = waxes(2, ids);
    const [tree] = shop.trees;
    const both = applyOps(
      shop,
      joinTree(
        indexShop(shop),
        tree!.id,
        shop.casts.map(({ id }) => id),
        START,
        ids,
      ),
    );
    const one = applyOps(both, joinTree(indexShop(both), tree!.id, [shop.casts[0]!.id], START, ids));
    const index = indexShop(one);
    const own = treeOfCast(index, shop.casts[1]!.id)!;
    expect(own.state).toBe('planned');
    expect(castsOfTree(index, own.id).length).toBe(1);
    expect(index.stepsOf.get(own.id)!.map(({ kind }) => kind)).toContain('pour');
    expect(castsOfTree(index, tree!.id).map(({ id }) => id)).toEqual([shop.casts[0]!.id]);
  });

  it('one cast broken on a shared tree leaves the others to go on', () => {
    const ids = counter();
    const shop = waxes(2, ids);
    const joined = play(shop, openStep(shop, 'join-tree'), ids, {
      readings: { castIds: shop.casts.map(({ id }) => id) },
    });
    const index = indexShop(joined);
    const after = applyOps(
      joined,
      loseCastOps(index, joined.casts[0]!, { room: 'shell', why: 'tail broke off', at: START }, ids),
    );
    const tree = after.trees.find((each) => each.state === 'joined')!;
    expect(castsOfTree(indexShop(after), tree.id).map(({ id }) => id)).toEqual([joined.casts[1]!.id]);
    expect(openStep(after, 'coat', tree.id)).toBeTruthy();
    expect(nextAttempt(indexShop(after), joined.casts[0]!)).toBe(3);
  });

  it('cancelling one piece of a shared tree does the same', () => {
    const ids = counter();
    const shop = waxes(2, ids);
    const joined = play(shop, openStep(shop, 'join-tree'), ids, {
      readings: { castIds: shop.casts.map(({ id }) => id) },
    });
    const after = applyOps(joined, cancelPieceOps(indexShop(joined), joined.pieces[0]!, START, ids));
    const tree = after.trees.find((each) => each.state === 'joined')!;
    expect(openStep(after, 'coat', tree.id)).toBeTruthy();
    expect(
      after.steps.filter((each) => each.carrierId === joined.pieces[0]!.id).every(({ state }) => state === 'void'),
    ).toBeTrue();
  });
});

describe('steps put in by hand', () => {
  it('follow the last that is done, or the one that is named', () => {
    const ids = counter();
    const shop = playThrough(smallShop({}, ids), ['make-mould', 'pull', 'chase-wax', 'join-tree', 'coat', 'coat'], ids);
    const tree = shop.trees[0]!.id;
    const dry = insertStep(indexShop(shop), tree, 'dry', 'the room was damp', ids)!;
    const after = applyOps(shop, dry);
    const order = chainOf(indexShop(after), tree);
    expect(order.map(({ kind }) => kind).slice(0, 5)).toEqual(['join-tree', 'coat', 'coat', 'dry', 'coat']);
    const found = standings(indexShop(after));
    expect(found.get(order[4]!.id)!.waitsFor.map(({ kind }) => kind)).toEqual(['dry']);
    expect(insertStep(indexShop(shop), 'nothing', 'dry', 'x', ids)).toBeUndefined();
  });

  it('a repair takes the mould out of use until it is done', () => {
    const ids = counter();
    const made = play(smallShop({}, ids), openStep(smallShop({}, counter()), 'make-mould'), ids);
    const repair = applyOps(
      made,
      insertStep(indexShop(made), made.moulds[0]!.id, 'repair-mould', 'tear at the ear', ids)!,
    );
    expect(repair.moulds[0]!.state).toBe('in repair');
    const pull = standings(indexShop(repair)).get(openStep(repair, 'pull').id)!;
    expect(pull.waitsFor.map(({ kind }) => kind)).toEqual(['repair-mould']);
    const retired = play(repair, openStep(repair, 'repair-mould'), ids, { outcome: 'retire', note: 'beyond mending' });
    const held = standings(indexShop(retired)).get(openStep(retired, 'pull').id)!;
    expect(standsNow(standsOf(held), START)).toBe('held');
    expect(held.held[0]).toContain('no usable mould');
  });

  it('are offered only for what they can be done to', () => {
    expect(insertableOn(KINDS, 'mould').map(({ code }) => code)).toEqual(['repair-mould', 'elsewhere']);
    expect(insertableOn(KINDS, 'heat')).toEqual([]);
  });
});

describe('modelling a direct wax again', () => {
  it('begins from nothing as attempt 2 and puts the piece back in work', () => {
    const ids = counter();
    const shop = smallShop({ work: { method: 'direct' } }, ids);
    const lost = play(shop, openStep(shop, 'model-wax'), ids, { outcome: 'lost', note: 'sagged' });
    const again = applyOps(lost, modelAgainOps(indexShop(lost), lost.pieces[0]!, ids));
    expect(again.pieces[0]!.state).toBe('in work');
    expect(again.casts.map(({ attempt, state }) => [attempt, state])).toEqual([
      [1, 'lost'],
      [2, 'planned'],
    ]);
    expect(placeOf(indexShop(again), again.pieces[0]!).behind).toBe('wax');
  });
});

describe('cooling before the knock-out', () => {
  it('follows what was poured: 2 h and 0.2 h a kilogram', () => {
    const ids = counter();
    const shop = playThrough(
      smallShop({}, ids),
      [
        'make-mould',
        'pull',
        'chase-wax',
        'join-tree',
        'coat',
        'coat',
        'coat',
        'coat',
        'coat',
        'coat',
        'fire',
        'leak-test',
      ],
      ids,
    );
    const pour = openStep(shop, 'pour');
    const row: Pouring = {
      id: ids(),
      heatId: 'h',
      treeId: pour.carrierId,
      stepId: pour.id,
      order: 1,
      plannedKg: 18,
      plannedSource: 'computed',
      plannedPlusMinusKg: null,
      pouredKg: 20,
      metalC: null,
      tempWhere: null,
      seconds: null,
      startedAt: null,
      outcome: 'poured',
      place: null,
      outAt: null,
      version: 1,
    };
    const poured = applyOps(shop, [
      insert('pourings', row),
      ...closeStep(indexShop(shop), pour, closing('poured', START), ids),
    ]);
    const link = linksOf(indexShop(poured)).find(({ to }) => to.kind === 'knock-out')!;
    expect(link.minLag).toBe(360);
  });
});
