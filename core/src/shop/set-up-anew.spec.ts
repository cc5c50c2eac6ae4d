import { update } from '../records/shop.ts';
import { applyOps } from '../records/shop.ts';
import { after, doingBy, said, told } from '../testing/doing.ts';
import { counter, openStep, play, smallShop } from '../testing/play.ts';
import { indexShop } from './index-shop.ts';
import { removeWork, setUpAnew, setUpOf } from './set-up-anew.ts';

describe('a work of which nothing is begun', () => {
  const newId = counter();
  const shop = smallShop({ pieces: 3 }, newId);
  const [work] = shop.works;
  const [first, , third] = shop.pieces;
  const index = indexShop(shop);
  const anew = (rest: object, from = shop) =>
    setUpAnew(indexShop(from), work!, { ...setUpOf(indexShop(from), work!), ...rest }, doingBy(newId));

  it('is read back as it was filled in', () => {
    expect(setUpOf(index, work!)).toEqual(
      jasmine.objectContaining({
        code: 'OTT',
        editionSize: 3,
        moulds: [{ name: 'whole', sections: [1], pullsBefore: 0 }],
      }),
    );
  });

  it('grows again from what is given, and its pieces stay themselves with order and due date', () => {
    const dated = applyOps(shop, [update('pieces', first!.id, { dueDate: '2027-06-01' })]);
    const { sections } = setUpOf(index, work!);
    const two = [sections[0]!, { ...sections[0]!, name: 'Wing', metalHeightMm: 450 }];
    const act = anew(
      { sections: two, moulds: [{ name: 'all', sections: [1, 2], pullsBefore: 0 }], editionSize: 2 },
      dated,
    );
    const now = after(dated, act);
    expect(now.pieces.map(({ id, of, dueDate }) => [id, of, dueDate])).toEqual([
      [first!.id, 2, '2027-06-01'],
      [shop.pieces[1]!.id, 2, null],
    ]);
    expect(now.casts.length).toBe(4);
    // 450 mm: 6 coats up to 200 mm and one more for each 100 mm begun above, on one of two trees of each piece.
    expect(now.steps.filter(({ kind }) => kind === 'coat').length).toBe(2 * (6 + 9));
    expect(told(dated, act)).toBe('Otter with Reed set up anew: edition of 2, 2 sections');
    // Nothing names what is gone.
    const alive = new Set([...now.pieces, ...now.casts, ...now.trees, ...now.moulds].map(({ id }) => id));
    expect(now.steps.every(({ carrierId }) => alive.has(carrierId))).toBeTrue();
  });

  it('leaves nothing where it is taken away', () => {
    const { works, sections, pieces, moulds, casts, trees, treeCasts, steps } = after(shop, removeWork(index, work!));
    expect([works, sections, pieces, moulds, casts, trees, treeCasts, steps].flat()).toEqual([]);
  });

  it('stays where a piece that would go is in an order, or once something is recorded', () => {
    const ordered = applyOps(shop, [update('pieces', third!.id, { orderId: 'o-1' })]);
    expect(said(anew({ editionSize: 2 }, ordered))).toEqual([
      'in order: 3/3 of Otter with Reed is in an order: take it out of it first.',
    ]);
    expect(said(anew({ editionSize: 4 }, ordered))).toEqual([]);
    const made = play(shop, openStep(shop, 'make-mould'), newId);
    expect(said(removeWork(indexShop(made), work!))).toEqual([
      'begun: Otter with Reed cannot be taken away: something was recorded already: Make mould.',
    ]);
  });
});
