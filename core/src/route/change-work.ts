import type { Op } from '../records/shop.ts';
import { insert, update } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import { isOpen } from '../records/step.ts';
import type { ApprovalRule, Piece, Section, Work } from '../records/work.ts';
import { markOf } from '../records/work.ts';
import { coatsOf, plannedStep } from './grow.ts';
import type { ShopIndex } from './shop-index.ts';
import type { NewId } from './step-kind.ts';
import { castsOfTree, currentCasts, treeOfCast } from './shop-index.ts';

/** What a change does: the records' changes, and the same in words for a person who decides whether to make it. */
export interface WorkChange {
  readonly ops: readonly Op[];
  readonly lines: readonly string[];
}

/** A piece keeps the route it began with: a change counts for pieces not begun. */
const notBegun = (index: ShopIndex, workId: string): Piece[] =>
  (index.piecesOf.get(workId) ?? []).filter(({ state }) => state === 'not begun');

const marks = (pieces: readonly Piece[]): string => {
  const names = pieces.slice(0, 6).map(markOf);
  return `${names.join(', ')}${pieces.length > 6 ? ` and ${pieces.length - 6} more` : ''}`;
};

/** Changes a section's figures; another metal height gives the shells of pieces not begun another number of coats. */
export function changeSection(
  index: ShopIndex,
  section: Section,
  patch: Partial<Omit<Section, 'id' | 'version'>>,
  newId: NewId,
): WorkChange {
  const changed = { ...section, ...patch };
  const ops: Op[] = [update('sections', section.id, patch)];
  const lines: string[] = [];
  const pieces = notBegun(index, section.workId);
  const grown: Piece[] = [];
  let by = 0;
  for (const piece of pieces) {
    const cast = currentCasts(index, piece).find(({ sectionId }) => sectionId === section.id);
    const tree = cast && treeOfCast(index, cast.id);
    if (!tree || tree.state !== 'planned' || tree.method === 'block') continue;
    const on = castsOfTree(index, tree.id).map(({ sectionId }) =>
      sectionId === section.id ? changed : index.section.get(sectionId)!,
    );
    const coats = (index.stepsOf.get(tree.id) ?? []).filter((step) => index.kind(step).coat && isOpen(step));
    const wanted = coatsOf(on, index.shop.coatPlans?.[0]);
    if (wanted === coats.length || coats.length === 0) continue;
    grown.push(piece);
    by = wanted - coats.length;
    ops.push(...(by > 0 ? addCoats(newId, coats[0]!, coats.length, wanted) : dropCoats(coats, wanted)));
  }
  if (grown.length > 0)
    lines.push(
      `${Math.abs(by)} ${Math.abs(by) === 1 ? 'coat' : 'coats'} ${by > 0 ? 'more' : 'fewer'} on the shells of ${marks(grown)}`,
    );
  const begun = (index.piecesOf.get(section.workId) ?? []).filter(
    ({ state }) => state === 'in work' || state === 'hold',
  );
  if (begun.length > 0 && patch.metalHeightMm !== undefined && patch.metalHeightMm !== section.metalHeightMm)
    lines.push(`${marks(begun)} ${begun.length === 1 ? 'keeps its' : 'keep their'} coats: begun already`);
  if (patch.seamM !== undefined && patch.seamM !== section.seamM)
    lines.push('The hours for joining change in every plan');
  if (patch.areaCm2 !== undefined && patch.areaCm2 !== section.areaCm2)
    lines.push('Chasing hours, walls and shell weights are worked out anew');
  return { ops, lines };
}

const addCoats = (newId: NewId, { kind, carrierId }: Step, from: number, to: number): Op[] =>
  Array.from({ length: to - from }, (_, i) =>
    insert('steps', plannedStep(newId, kind, 'tree', carrierId, { sequence: from + i + 1 })),
  );

const dropCoats = (coats: readonly Step[], keep: number): Op[] =>
  coats.filter(({ sequence }) => sequence > keep).map(({ id }) => update('steps', id, { state: 'void' }));

/** Changes whose waxes are shown for approval; steps come and go for pieces not begun. */
export function changeApproval(index: ShopIndex, work: Work, rule: ApprovalRule, newId: NewId): WorkChange {
  if (rule === work.approval) return { ops: [], lines: [] };
  const [first] = index.piecesOf.get(work.id) ?? [];
  const ops: Op[] = [update('works', work.id, { approval: rule })];
  const added: Piece[] = [];
  const gone: Piece[] = [];
  for (const piece of notBegun(index, work.id)) {
    const wants = rule === 'each' || (rule === 'first' && piece.id === first?.id);
    const approval = (index.stepsOf.get(piece.id) ?? []).find((step) => index.kind(step).approvesWax && isOpen(step));
    if (wants && !approval) {
      ops.push(insert('steps', plannedStep(newId, index.route(piece.routeVersion).approval, 'piece', piece.id)));
      added.push(piece);
    } else if (!wants && approval) {
      ops.push(update('steps', approval.id, { state: 'void' }));
      gone.push(piece);
    }
  }
  return {
    ops,
    lines: [
      ...(added.length > 0 ? [`A wax approval comes to ${marks(added)}`] : []),
      ...(gone.length > 0 ? [`The wax approval of ${marks(gone)} goes`] : []),
    ],
  };
}
