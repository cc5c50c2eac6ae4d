import { inWords } from '@kalvet/core';
import { overCrucible, withTreeAt } from './pour-order';

const tree = (treeId: string, plannedKg = 20) => ({ treeId, plannedKg, typed: false });
const ids = (trees: readonly { treeId: string }[]) => trees.map(({ treeId }) => treeId).join('');

describe('a heat’s trees in order', () => {
  it('takes a tree to another place, or one that comes to it', () => {
    const heat = [tree('a'), tree('b'), tree('c')];
    expect(ids(withTreeAt(heat, tree('c'), 0))).toBe('cab');
    expect(ids(withTreeAt(heat, tree('a'), 2))).toBe('bca');
    expect(ids(withTreeAt(heat, tree('d'), 1))).toBe('adbc');
    expect(ids(withTreeAt([], tree('d'), 0))).toBe('d');
  });

  it('is held against the usable mark with melt loss and pig', () => {
    const heat = { holdsKg: 130, usableKg: 120, meltLoss: 0.02, pigReserveKg: 2 };
    // (115 + 2) / 0.98 = 119.4 kg fits; (116 + 2) / 0.98 = 120.4 kg does not.
    expect(overCrucible(heat, [tree('a', 115)])).toBeUndefined();
    expect(inWords(overCrucible(heat, [tree('a', 60), tree('b', 56)])!)).toContain('120.4 kg would be above');
  });
});
