import {
  counter,
  closing,
  openStep,
  play,
  playThrough,
  readingsFor,
  smallShop,
  START,
  topologicalOrder,
} from '../testing/play.ts';
import type { Shop } from '../records/shop.ts';
import { addMinutes } from '../units/instant.ts';
import { cancelPieceOps } from './cancel.ts';
import { chainOf } from './chain.ts';
import { judge, judgeStart, tooOld } from './judge.ts';
import { stepName } from './labels.ts';
import { linksOf } from './links.ts';
import { loseCastOps } from './lose.ts';
import { indexShop } from '../shop/index-shop.ts';
import { inWords } from '../units/words.ts';
import { castsOfTree, currentCasts } from './shop-index.ts';
import { standings, standsNow, standsOf } from './standing.ts';
import { wetSince } from './wet.ts';
import { placeOf } from './where.ts';
import { applyOps } from '../records/shop.ts';

const at = (hours: number) => addMinutes(START, hours * 60);
const toShell = ['make-mould', 'pull', 'chase-wax', 'join-tree'] as const;
const sixCoats = Array.from({ length: 6 }, () => 'coat' as const);
const toPour = [...toShell, ...sixCoats, 'fire', 'leak-test'] as const;
const kindsOf = (shop: Shop, carrier: string): string[] =>
  shop.steps
    .filter((step) => step.carrier === carrier)
    .slice(0, 1)
    .flatMap(({ carrierId }) => chainOf(indexShop(shop), carrierId))
    .map((step) => step.kind);

const judged = (
  shop: Shop,
  kind: Parameters<typeof openStep>[1],
  hours: number,
  readings: Record<string, unknown> = {},
  outcome = 'done',
) => {
  const index = indexShop(shop);
  const step = openStep(shop, kind);
  return judge(
    index,
    linksOf(index),
    step,
    closing(outcome, at(hours), { readings: { ...readingsFor(index, step), ...readings } }),
  );
};

describe('the default routes', () => {
  it('shell: join, coats by metal height, fire, test, pour, knock out', () => {
    expect(kindsOf(smallShop({ sections: [{ metalHeightMm: 200 }] }), 'tree')).toEqual([
      'join-tree',
      ...sixCoats,
      'fire',
      'leak-test',
      'pour',
      'knock-out',
    ]);
  });

  it('block: invested and burnt out slowly, no coats', () => {
    expect(kindsOf(smallShop({ work: { method: 'block' } }), 'tree')).toEqual([
      'join-tree',
      'invest',
      'fire-block',
      'pour',
      'knock-out',
    ]);
  });

  it('direct: modelled in wax, no mould and no pull, then shelled', () => {
    const shop = smallShop({ work: { method: 'direct' } });
    expect(kindsOf(shop, 'cast')).toEqual(['model-wax', 'chase-wax', 'inspect']);
    expect(shop.moulds).toEqual([]);
    expect(kindsOf(shop, 'tree')).toContain('coat');
  });

  it('three sections meet in two joins before the metal is chased', () => {
    const shop = smallShop({ sections: [{}, {}, {}] });
    expect(kindsOf(shop, 'piece')).toEqual([
      'join-section',
      'join-section',
      'chase-metal',
      'patina',
      'wax-buff',
      'final-inspection',
      'deliver',
    ]);
  });
});

describe('approval of the wax', () => {
  const joins = (shop: Shop) => {
    const found = standings(indexShop(shop));
    return shop.steps
      .filter((step) => step.kind === 'join-tree')
      .map((step) => found.get(step.id)!.waitsFor.some((w) => w.kind === 'approve-wax'));
  };

  it('"first" holds the sprueing of all pieces until the first is approved', () => {
    const newId = counter();
    let shop = smallShop({ work: { approval: 'first' }, pieces: 3 }, newId);
    expect(shop.steps.filter((step) => step.kind === 'approve-wax').length).toBe(1);
    expect(joins(shop)).toEqual([true, true, true]);
    shop = play(shop, openStep(shop, 'approve-wax'), newId);
    expect(joins(shop)).toEqual([false, false, false]);
  });

  it('"each" holds every piece by its own, "none" holds nothing', () => {
    const newId = counter();
    let shop = smallShop({ work: { approval: 'each' }, pieces: 2 }, newId);
    shop = play(shop, openStep(shop, 'approve-wax'), newId);
    expect(joins(shop)).toEqual([false, true]);
    expect(joins(smallShop({ work: { approval: 'none' }, pieces: 2 }))).toEqual([false, false]);
  });

  it('a change grows rework and asks again; a refusal makes new waxes', () => {
    const newId = counter();
    const shop = playThrough(
      smallShop({ work: { approval: 'first' } }, newId),
      ['make-mould', 'pull', 'chase-wax'],
      newId,
    );
    const changed = play(shop, openStep(shop, 'approve-wax'), newId, {
      outcome: 'change',
      note: 'ear sharper',
    });
    expect(kindsOf(changed, 'piece').slice(0, 3)).toEqual(['approve-wax', 'rework', 'approve-wax']);
    const refused = play(shop, openStep(shop, 'approve-wax'), newId, {
      outcome: 'refused',
      note: 'wrong tail',
    });
    expect(refused.casts.map((cast) => [cast.attempt, cast.state])).toEqual([
      [1, 'lost'],
      [2, 'planned'],
    ]);
  });

  it('passes to the next piece when the first is cancelled', () => {
    const newId = counter();
    const shop = smallShop({ work: { approval: 'first' }, pieces: 2 }, newId);
    const after = applyOps(shop, cancelPieceOps(indexShop(shop), shop.pieces[0]!, START, newId));
    expect(openStep(after, 'approve-wax').carrierId).toBe(shop.pieces[1]!.id);
  });
});

describe('coats one by one', () => {
  const newId = counter();
  const shelled = playThrough(smallShop({}, newId), toShell, newId);

  it('refuses a coat before its minimum wait: 3 h after the first', () => {
    const shop = play(shelled, openStep(shelled, 'coat'), newId, { at: at(1000) });
    const early = judged(shop, 'coat', 1002);
    expect(early.map((refusal) => [refusal.rule, refusal.mayOverride])).toEqual([['min wait', true]]);
    expect(inWords(early[0]!.message)).toContain('needs 3 h; only 2 h have passed');
    expect(judged(shop, 'coat', 1003)).toEqual([]);
  });

  it('takes three times as long on a deep hollow', () => {
    let shop = playThrough(smallShop({ sections: [{ deep: true }] }, newId), toShell, newId);
    shop = play(shop, openStep(shop, 'coat'), newId, { at: at(1000) });
    expect(inWords(judged(shop, 'coat', 1008)[0]!.message)).toContain('needs 9 h');
  });

  it('flags, and does not refuse, a green coat after its maximum of 72 h; a sealed shell may hang', () => {
    const shop = play(shelled, openStep(shelled, 'coat'), newId, { at: at(1000) });
    const index = indexShop(shop);
    expect(judged(shop, 'coat', 1090)).toEqual([]);
    expect(tooOld(index, linksOf(index), openStep(shop, 'coat'), at(1070))).toEqual([]);
    expect(tooOld(index, linksOf(index), openStep(shop, 'coat'), at(1090))[0]).toContain(
      '3 days 18 h after Dip coat 1',
    );
    const coats = shop.steps.filter(
      ({ kind, carrierId }) => kind === 'coat' && carrierId === openStep(shop, 'coat').carrierId,
    );
    const seal = linksOf(index).find(({ from }) => from.id === coats.at(-1)!.id)!;
    expect([seal.to.kind, seal.maxLag]).toEqual(['fire', null]);
  });

  it('names the last one the seal coat, and a repeated one as such', () => {
    const shop = shelled;
    const coats = shop.steps.filter((step) => step.kind === 'coat');
    expect(stepName(indexShop(shop), coats.at(-1)!)).toBe('Seal coat 6');
    const again = play(shop, openStep(shop, 'coat'), newId, { outcome: 'again', note: 'bare undercut' });
    expect(stepName(indexShop(again), openStep(again, 'coat', openStep(again, 'fire').carrierId))).toContain('coat');
    expect(kindsOf(again, 'tree').filter((kind) => kind === 'coat').length).toBe(7);
  });
});

describe('leak, patch, refire, test again', () => {
  const newId = counter();
  const fired = playThrough(smallShop({}, newId), toPour.slice(0, -1), newId);

  it('grows patch, refire and a new test, and the patched shell is wet until it is fired', () => {
    let shop = play(fired, openStep(fired, 'leak-test'), newId, {
      outcome: 'patch',
      note: 'at the tip',
      at: at(2000),
    });
    expect(kindsOf(shop, 'tree').slice(-6)).toEqual(['leak-test', 'patch', 'refire', 'leak-test', 'pour', 'knock-out']);
    shop = play(shop, openStep(shop, 'patch'), newId, { at: at(2001) });
    const wet = () => wetSince(indexShop(shop), shop.trees[0]!.id);
    expect(wet()).toBe(at(2001));
    expect(judged(shop, 'pour', 2010, {}, 'poured').map((refusal) => [refusal.rule, refusal.mayOverride])).toEqual([
      ['leak', true],
      ['wet', false],
    ]);
    shop = play(shop, openStep(shop, 'refire'), newId, { at: at(2005) });
    expect(wet()).toBeNull();
  });

  it('a water test passed still leaves it wet: drying is put in', () => {
    const shop = play(fired, openStep(fired, 'leak-test'), newId, {
      readings: { how: 'water' },
      at: at(2000),
    });
    expect(kindsOf(shop, 'tree').slice(-4)).toEqual(['leak-test', 'dry', 'pour', 'knock-out']);
    expect(judged(shop, 'pour', 2010, {}, 'poured').map((refusal) => refusal.rule)).toEqual(['order', 'wet']);
    const dried = play(shop, openStep(shop, 'dry'), newId, { at: at(2004) });
    expect(judged(dried, 'pour', 2008, {}, 'poured')).toEqual([]);
  });
});

describe('losses', () => {
  const fiveOnOne = (newId: () => string) => {
    let shop = smallShop({ pieces: 5 }, newId);
    shop = play(shop, openStep(shop, 'make-mould'), newId);
    for (let i = 0; i < 5; i++) shop = playThrough(shop, ['pull', 'chase-wax'], newId);
    return play(shop, openStep(shop, 'join-tree'), newId, {
      readings: { castIds: shop.casts.map((cast) => cast.id) },
    });
  };

  it('joining five pieces on one tree empties the other four planned trees', () => {
    const shop = fiveOnOne(counter());
    expect(shop.trees.map((tree) => tree.state).sort()).toEqual(['joined', 'void', 'void', 'void', 'void']);
    expect(castsOfTree(indexShop(shop), shop.trees.find((tree) => tree.state === 'joined')!.id).length).toBe(5);
  });

  it('a tree with five casts in it is lost once, and all five grow again', () => {
    const newId = counter();
    const shop = fiveOnOne(newId);
    const after = play(shop, openStep(shop, 'coat'), newId, { outcome: 'lost', note: 'fell off the rack' });
    expect(after.casts.filter((cast) => cast.state === 'lost').map((cast) => cast.lostRoom)).toEqual(
      Array(5).fill('shell'),
    );
    expect(after.casts.filter((cast) => cast.attempt === 2 && cast.state === 'planned').length).toBe(5);
    expect(after.trees.filter((tree) => tree.state === 'lost').length).toBe(1);
    expect(after.trees.filter((tree) => tree.state === 'planned').length).toBe(5);
    expect(placeOf(indexShop(after), after.pieces[0]!).behind).toBe('mould');
  });

  it('a recast after joining opens the seam and the chasing anew, and leaves what was done', () => {
    const newId = counter();
    let shop = smallShop({ sections: [{}, {}] }, newId);
    const tree = [...sixCoats, 'fire', 'leak-test', 'pour', 'knock-out', 'inspect'] as const;
    for (let i = 0; i < 2; i++)
      shop = playThrough(
        shop,
        [...(i === 0 ? (['make-mould'] as const) : []), 'pull', 'chase-wax', 'join-tree', ...tree],
        newId,
      );
    shop = playThrough(shop, ['join-section', 'chase-metal'], newId);
    const cast = currentCasts(indexShop(shop), shop.pieces[0]!)[1]!;
    const done = shop.steps.filter((step) => step.state === 'done');
    const after = applyOps(
      shop,
      loseCastOps(indexShop(shop), cast, { room: 'chasing', why: 'crack', at: at(9000) }, newId),
    );
    const piece = chainOf(indexShop(after), after.pieces[0]!.id);
    expect(piece.slice(0, 4).map((each) => [each.kind, each.state])).toEqual([
      ['join-section', 'done'],
      ['chase-metal', 'done'],
      ['join-section', 'planned'],
      ['chase-metal', 'planned'],
    ]);
    expect(after.casts.find((each) => each.id === cast.id)).toEqual(
      jasmine.objectContaining({ state: 'lost', recast: true }),
    );
    for (const before of done) expect(after.steps.find((each) => each.id === before.id)).toEqual(before);
  });

  it('a direct wax has no second attempt: the piece is lost until a person decides', () => {
    const newId = counter();
    const shop = smallShop({ work: { method: 'direct' } }, newId);
    const after = play(shop, openStep(shop, 'model-wax'), newId, { outcome: 'lost', note: 'sagged' });
    expect(after.pieces[0]!.state).toBe('lost');
    expect(after.casts.length).toBe(1);
  });
});

describe('moulds', () => {
  it('refuses a second wax while the first is still in the mould', () => {
    const newId = counter();
    let shop = smallShop({ pieces: 2 }, newId);
    shop = play(shop, openStep(shop, 'make-mould'), newId, { at: at(0) });
    const index = indexShop(shop);
    const mould = shop.moulds[0]!;
    const pull = {
      id: 'pull-1',
      number: 1,
      mouldId: mould.id,
      castIds: [shop.casts[0]!.id],
      startedAt: at(100),
      endedAt: null,
      wax: 'pattern',
      outcome: null,
      stepId: null,
      version: 1,
    };
    const step = shop.steps.filter((each) => each.kind === 'pull')[1]!;
    const busy = judgeStart(indexShop({ ...shop, pulls: [pull] }), linksOf(index), step, at(101), {
      mouldId: mould.id,
    });
    expect(busy.map((refusal) => [refusal.rule, refusal.mayOverride])).toEqual([['mould in use', false]]);
    expect(judgeStart(index, linksOf(index), step, at(101), { mouldId: mould.id })).toEqual([]);
  });

  it('a pull waits for the mould and its 24 h of curing', () => {
    const newId = counter();
    const shop = smallShop({}, newId);
    expect(judged(shop, 'pull', 5).map((refusal) => refusal.rule)).toContain('order');
    const made = play(shop, openStep(shop, 'make-mould'), newId, { at: at(0) });
    expect(inWords(judged(made, 'pull', 23)[0]!.message)).toContain('1 h too early');
    expect(judged(made, 'pull', 24)).toEqual([]);
    const standing = standings(indexShop(made)).get(openStep(made, 'pull').id)!;
    expect(standsNow(standsOf(standing), at(23))).toBe('too early');
    expect(standsNow(standsOf(standing), at(24))).toBe('ready');
  });
});

describe('a lost cast', () => {
  it('is never used again, whoever asks', () => {
    const newId = counter();
    let shop = playThrough(smallShop({ pieces: 2 }, newId), ['make-mould', 'pull'], newId);
    const lostId = shop.casts[0]!.id;
    shop = play(shop, openStep(shop, 'chase-wax', lostId), newId, { outcome: 'remake', note: 'broken' });
    shop = playThrough(shop, ['pull', 'chase-wax'], newId);
    const refusals = judged(shop, 'join-tree', 9000, { castIds: [lostId] });
    expect(refusals.some((refusal) => refusal.rule === 'lost' && !refusal.mayOverride)).toBeTrue();
  });
});

describe('links', () => {
  it('keep the 14 days from the leak test to the pour, also with a drying between', () => {
    const newId = counter();
    let shop = playThrough(smallShop({}, newId), toPour.slice(0, -1), newId);
    shop = play(shop, openStep(shop, 'leak-test'), newId, { readings: { how: 'water' } });
    const into = linksOf(indexShop(shop)).filter((link) => link.to.kind === 'pour');
    const drying = linksOf(indexShop(shop)).find((link) => link.to.kind === 'dry')!;
    expect([drying.from.kind, drying.maxLag]).toEqual(['leak-test', null]);
    expect(into.map((link) => [link.from.kind, link.maxLag]).sort()).toEqual([
      ['dry', null],
      ['leak-test', 14 * 1440],
    ]);
  });

  it('form no circle in a shop with everything in it', () => {
    expect(
      topologicalOrder(smallShop({ work: { approval: 'first' }, sections: [{}, {}, {}], pieces: 4 })),
    ).toBeDefined();
  });
});
