import type { Id } from '../records/common.ts';
import type { CoatRow, StrengthView } from '../records/shell-page.ts';
import { isClosed } from '../records/step.ts';
import { chainOf } from '../route/chain.ts';
import { coatCount } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { castsOfTree } from '../route/shop-index.ts';
import { flatWallStress, judgeStrength, metalPressure, roundWallStress } from '../shell/strength.ts';
import { DEFAULT_COAT_MM } from '../shell/weight.ts';

/** Wall of a tree's shell: what was measured last, and so much a coat since and until it is sealed. */
export function wallOf(index: ShopIndex, treeId: Id): CoatRow['wall'] {
  const coatMm = index.shop.coatMm ?? DEFAULT_COAT_MM;
  const done = chainOf(index, treeId).filter(
    (step) => index.kind(step).coat && isClosed(step) && step.state === 'done',
  );
  const last = done.findLastIndex(({ readings }) => typeof readings['wallMm'] === 'number');
  const measured = last >= 0 ? (done[last]!.readings['wallMm'] as number) : 0;
  const nowMm = measured + (done.length - 1 - last) * coatMm;
  const left = Math.max(0, coatCount(index, treeId) - done.length);
  return { nowMm, sealedMm: nowMm + left * coatMm, measured: last >= 0 };
}

/** Whether a shell, once sealed, holds its metal: of the round and flat parts whose size somebody said. */
export function strengthOf(index: ShopIndex, treeId: Id): StrengthView[] {
  const { sealedMm: wallMm } = wallOf(index, treeId);
  const coatMm = index.shop.coatMm ?? DEFAULT_COAT_MM;
  if (wallMm <= 0) return [];
  const sections = castsOfTree(index, treeId).map(({ sectionId }) => index.section.get(sectionId)!);
  const views = sections.flatMap(({ shape, metalHeightMm }): StrengthView[] => {
    if (!shape || metalHeightMm === null) return [];
    const pressure = metalPressure(metalHeightMm).value;
    const { roundMm, flatMm } = shape;
    return [
      ...(roundMm === null ? [] : [view('round', roundMm, roundWallStress(pressure, roundMm, wallMm), 1)]),
      ...(flatMm === null ? [] : [view('flat', flatMm, flatWallStress(pressure, flatMm, wallMm), 2)]),
    ];
  });
  // Of several sections the weakest of each kind is told.
  return (['round', 'flat'] as const).flatMap((part) => {
    const own = views.filter((each) => each.part === part).sort((a, b) => b.share - a.share)[0];
    return own ? [own] : [];
  });

  function view(
    part: StrengthView['part'],
    sizeMm: number,
    stress: StrengthView['stress'],
    byWall: 1 | 2,
  ): StrengthView {
    const { share, coatsMore } = judgeStrength(stress, { wallMm, coatMm, byWall });
    return { part, sizeMm, stress, share, coatsMore };
  }
}
