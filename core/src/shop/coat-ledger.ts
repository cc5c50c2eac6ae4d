import type { Id } from '../records/common.ts';
import type { CoatRow, CoatView } from '../records/shell-page.ts';
import type { Step } from '../records/step.ts';
import { isClosed } from '../records/step.ts';
import { chainOf, firstOpen } from '../route/chain.ts';
import { coatOf } from '../route/coat-of.ts';
import { stepName } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { castsOfTree } from '../route/shop-index.ts';
import { dryingView } from './drying-view.ts';
import { readingsInWords, readingsShown } from './readings.ts';
import { strengthOf, wallOf } from './shell-wall.ts';
import { treeFigures } from './tree-figures.ts';

/** A tree's coats as they are kept ready: whose hands they are by id, since names change. */
export interface CoatLedger {
  readonly coats: readonly (Omit<CoatView, 'by'> & { readonly by: readonly Id[] })[];
  readonly lift: CoatRow['lift'];
  readonly drying: CoatRow['drying'];
  readonly hangs: CoatRow['hangs'];
  readonly version: number;
  readonly coatPlan: CoatRow['coatPlan'];
  readonly slurry: CoatRow['slurry'];
  readonly stucco: CoatRow['stucco'];
  readonly wall: CoatRow['wall'];
  readonly poured: CoatRow['poured'];
  readonly strength: CoatRow['strength'];
  readonly sections: CoatRow['sections'];
}

/** Where a tree hangs, where somebody said so. */
function hangsNow(index: ShopIndex, treeId: Id): CoatRow['hangs'] {
  const last = index.tree.get(treeId)?.hangs?.at(-1);
  return last ? { placeId: last.placeId, hook: last.hook } : null;
}

/** The sections whose casts hang on a tree, each once. */
function sectionsOn(index: ShopIndex, treeId: Id): CoatRow['sections'] {
  const ids = new Set(castsOfTree(index, treeId).map(({ sectionId }) => sectionId));
  return [...ids].map((id) => {
    const { name, version, metalHeightMm, shape = null } = index.section.get(id)!;
    return { id, name, version, metalHeightMm, shape };
  });
}

function planOf(index: ShopIndex, treeId: Id): CoatRow['coatPlan'] {
  const plan = index.tree.get(treeId)?.coatPlan;
  return plan ? { name: plan.name, number: plan.number, why: plan.why } : null;
}

/** The coats of a tree that is being dipped, done and to come; null of one whose next step is no coat. */
export function coatLedger(index: ShopIndex, treeId: Id, liftLimitKg: number): CoatLedger | null {
  const isCoat = (step: Step | undefined): step is Step => step !== undefined && index.kind(step).coat === true;
  const next = firstOpen(index, chainOf(index, treeId));
  if (!isCoat(next)) return null;
  return {
    coats: chainOf(index, treeId)
      .filter(isCoat)
      .map((step) => ({
        stepId: step.id,
        kind: step.kind,
        version: step.version,
        sequence: step.sequence,
        name: stepName(index, step),
        state: isClosed(step) ? 'done' : step.id === next.id ? 'next' : 'later',
        at: step.endedAt,
        by: step.by,
        readings: readingsInWords(
          index.kind(step),
          readingsShown(index, step),
          step.readingsVersion,
          step.taken,
          index,
        ),
        flags: step.flags,
      })),
    lift: treeFigures(index, treeId, liftLimitKg).dipping ?? null,
    drying: dryingView(index, treeId),
    hangs: hangsNow(index, treeId),
    version: index.tree.get(treeId)!.version,
    coatPlan: planOf(index, treeId),
    slurry: coatOf(index, next)?.slurry ?? null,
    stucco: coatOf(index, next)?.stucco ?? null,
    wall: wallOf(index, treeId),
    poured: treeFigures(index, treeId, liftLimitKg).poured ?? null,
    strength: strengthOf(index, treeId),
    sections: sectionsOn(index, treeId),
  };
}
