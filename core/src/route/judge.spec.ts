import type { Shop } from '../records/shop.ts';
import { applyOps } from '../records/shop.ts';
import { indexShop } from '../shop/index-shop.ts';
import { kindOf } from '../shop/kinds.ts';
import { mayJoin } from '../sprue/join-tree.step.ts';
import { inWords } from '../units/words.ts';
import { addMinutes } from '../units/instant.ts';
import { START, closing, counter, openStep, play, playThrough, readingsFor, smallShop } from '../testing/play.ts';
import { companions, judge, outcomeNamed } from './judge.ts';
import { linksOf } from './links.ts';
import { castsOfTree } from './shop-index.ts';
import { SKIPPED } from './step-kind.ts';
import { standings } from './standing.ts';

const at = (hours: number) => addMinutes(START, hours * 60);
const FAR = 20_000;

function rules(
  shop: Shop,
  kind: Parameters<typeof openStep>[1],
  given: { hours?: number; outcome?: string; readings?: Record<string, unknown> } = {},
): string[] {
  const index = indexShop(shop);
  const step = openStep(shop, kind);
  const outcome = given.outcome ?? kindOf(kind).outcomes[0]!.code;
  const said = closing(outcome, at(given.hours ?? FAR), {
    readings: { ...readingsFor(index, step), ...given.readings },
  });
  return judge(index, linksOf(index), step, said).map(({ rule }) => rule);
}

describe('what is refused', () => {
  const newId = counter();
  const waxes = playThrough(
    smallShop({ pieces: 2 }, newId),
    ['make-mould', 'pull', 'chase-wax', 'pull', 'chase-wax'],
    newId,
  );

  it('a step before the one it follows, which may be overridden', () => {
    expect(rules(smallShop(), 'chase-wax')).toEqual(['order']);
    expect(rules(waxes, 'fire')).toContain('order');
  });

  it('anything on a piece on hold, cancelled or lost', () => {
    for (const [state, rule] of [
      ['hold', 'hold'],
      ['cancelled', 'state'],
      ['lost', 'state'],
    ] as const) {
      const shop = {
        ...waxes,
        pieces: waxes.pieces.map((piece) => ({ ...piece, state, holdReason: 'waiting' })),
      };
      expect(rules(shop, 'chase-metal')).withContext(state).toEqual([rule]);
    }
  });

  it('but a tree goes on while any piece on it does', () => {
    const joined = play(waxes, openStep(waxes, 'join-tree'), newId, {
      readings: { castIds: waxes.casts.map(({ id }) => id) },
    });
    const [first, second] = joined.pieces;
    const held = { ...joined, pieces: [{ ...first!, state: 'hold' as const }, second!] };
    expect(rules(held, 'coat')).toEqual([]);
    expect(
      rules({ ...held, pieces: held.pieces.map((piece) => ({ ...piece, state: 'hold' as const })) }, 'coat'),
    ).toEqual(['hold']);
  });

  it('a step that is recorded already, naming how', () => {
    const done = waxes.steps.find((step) => step.kind === 'pull')!;
    const [refusal] = judge(indexShop(waxes), [], done, closing('done', at(FAR)));
    expect(refusal).toEqual(jasmine.objectContaining({ rule: 'closed', mayOverride: false }));
    expect(inWords(refusal!.message)).toContain('already recorded as done');
  });

  it('a pull without its mould, from a mould of other sections, or from one that is worn', () => {
    const shop = smallShop({ sections: [{}, {}] }, newId);
    const made = play(shop, openStep(shop, 'make-mould'), newId);
    expect(rules(made, 'pull', { readings: { mouldId: undefined } })).toEqual(['mould']);
    const other = {
      ...made,
      moulds: made.moulds.map((mould) => ({ ...mould, sectionIds: [made.sections[1]!.id] })),
    };
    expect(rules(other, 'pull', { readings: { mouldId: made.moulds[0]!.id } })).toContain('mould');
    const worn = { ...made, moulds: made.moulds.map((mould) => ({ ...mould, state: 'worn' as const })) };
    expect(rules(worn, 'pull')).toEqual(['order']);
  });

  it('a tree without casts, with one twice, or with one that does not exist', () => {
    const [cast] = waxes.casts;
    expect(rules(waxes, 'join-tree', { readings: { castIds: [] } })).toEqual(['casts']);
    expect(rules(waxes, 'join-tree', { readings: { castIds: [cast!.id, cast!.id] } })).toEqual(['casts']);
    expect(rules(waxes, 'join-tree', { readings: { castIds: ['nobody'] } })).toEqual(['casts']);
  });

  it('a cast that is shelled on another tree already', () => {
    const joined = play(waxes, openStep(waxes, 'join-tree'), newId);
    const index = indexShop(joined);
    const taken = joined.casts.find((cast) =>
      joined.treeCasts.some((member) => member.castId === cast.id && member.since !== null),
    )!;
    const free = openStep(joined, 'join-tree');
    expect(mayJoin(index, free.carrierId, taken)).toBeFalse();
    expect(castsOfTree(index, free.carrierId).every((cast) => mayJoin(index, free.carrierId, cast))).toBeTrue();
  });

  it('a skip, unless somebody who may decides it; its waits do not count then', () => {
    expect(rules(smallShop(), 'make-mould', { outcome: SKIPPED.code })).toEqual(['skip']);
    expect(outcomeNamed(kindOf('coat'), 'skipped').effect).toBe('skipped');
    expect(() => outcomeNamed(kindOf('coat'), 'tight')).toThrowError(RangeError, /Dip coat has no outcome "tight"/);
  });
});

describe('what may go together', () => {
  it('only trees that wait for the same kind of step, and can be done', () => {
    const newId = counter();
    let shop = playThrough(
      smallShop({ pieces: 3 }, newId),
      ['make-mould', 'pull', 'chase-wax', 'pull', 'chase-wax', 'pull', 'chase-wax'],
      newId,
    );
    for (let i = 0; i < 2; i++) shop = play(shop, openStep(shop, 'join-tree'), newId);
    const index = indexShop(shop);
    const found = standings(index);
    const [first] = shop.steps.filter((step) => step.kind === 'coat' && step.sequence === 1);
    const along = companions(index, first!, (step) => found.get(step.id)!.waitsFor.length === 0);
    expect(along.map((step) => [step.kind, step.sequence])).toEqual([['coat', 1]]);
  });
});

describe('applying changes', () => {
  it('sees later what was changed earlier, leaves the shop given as it was, and names what is not there', () => {
    const shop = smallShop();
    const { id } = shop.pieces[0]!;
    const after = applyOps(shop, [
      { op: 'update', table: 'pieces', id, patch: { state: 'hold' } },
      { op: 'update', table: 'pieces', id, patch: { holdReason: 'asked' } },
    ]);
    expect(after.pieces[0]).toEqual(jasmine.objectContaining({ state: 'hold', holdReason: 'asked' }));
    expect(shop.pieces[0]!.state).toBe('not begun');
    expect(() => applyOps(shop, [{ op: 'update', table: 'trees', id: 'none', patch: {} }])).toThrowError(
      /no trees none/,
    );
  });
});
