import type { Work } from '../records/work.ts';
import { counter, smallShop } from '../testing/play.ts';

/** What grows of a work's first and second piece, kind by kind in order of growing. */
const grown = (work: Partial<Work>, pieces = 2) => {
  const shop = smallShop({ work, pieces }, counter());
  const on = (carrier: string, ids: readonly string[]) =>
    shop.steps.filter((step) => step.carrier === carrier && ids.includes(step.carrierId)).map(({ kind }) => kind);
  const [first, second] = shop.pieces.map(({ id }) => id);
  const castsOf = (pieceId: string | undefined) =>
    shop.casts.filter((cast) => cast.pieceId === pieceId).map(({ id }) => id);
  return {
    moulds: on(
      'mould',
      shop.moulds.map(({ id }) => id),
    ),
    firstCasts: on('cast', castsOf(first)),
    tree: on('tree', [shop.trees[0]!.id]),
    first: on('piece', [first!]),
    second: on('piece', second ? [second] : []),
  };
};
const shows = (kinds: readonly string[]) => kinds.includes('approve-wax');

describe('what grows of a work', () => {
  it('by the shell: a mould, coats by the height, a leak test before the pour', () => {
    const { moulds, firstCasts, tree } = grown({ method: 'shell' });
    expect(moulds).toEqual(['make-mould']);
    expect(firstCasts).toEqual(['pull', 'chase-wax', 'inspect']);
    // 200 mm of metal: six coats.
    expect(tree).toEqual(['join-tree', ...Array<string>(6).fill('coat'), 'fire', 'leak-test', 'pour', 'knock-out']);
  });

  it('by the block: invested in one go, without coats or leak test', () => {
    expect(grown({ method: 'block' }).tree).toEqual(['join-tree', 'invest', 'fire-block', 'pour', 'knock-out']);
  });

  it('directly: modelled, not pulled, and no mould is made', () => {
    const { moulds, firstCasts } = grown({ method: 'direct' }, 1);
    expect([moulds, firstCasts]).toEqual([[], ['model-wax', 'chase-wax', 'inspect']]);
  });

  it('shows the first wax, each, or none', () => {
    const shown = (approval: Work['approval']) => {
      const { first, second } = grown({ approval });
      return [shows(first), shows(second)];
    };
    expect([shown('first'), shown('each'), shown('none')]).toEqual([
      [true, false],
      [true, true],
      [false, false],
    ]);
  });

  it('raw leaves out patina and wax, from the second version on; a piece of the first keeps its way', () => {
    const finish = (routeVersion: number) => grown({ finishing: 'raw', routeVersion }).first;
    expect(finish(2)).toEqual(['chase-metal', 'inspect-raw', 'deliver']);
    expect(finish(1)).toEqual(['chase-metal', 'patina', 'wax-buff', 'final-inspection', 'deliver']);
    expect(grown({ finishing: 'patina', routeVersion: 2 }).first).toContain('patina');
  });
});
