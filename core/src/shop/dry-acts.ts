import type { DrynessReading, Hanging } from '../records/climate.ts';
import type { Id } from '../records/common.ts';
import type { Concern } from '../records/history.ts';
import type { HangTrees, LookAtCoat } from '../records/shell-writes.ts';
import { never } from '../records/refusal.ts';
import { insert, update } from '../records/shop.ts';
import { isClosed } from '../records/step.ts';
import { dryingOf } from '../route/drying.ts';
import { stepLabel, treeLabel } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { piecesOfStep } from '../route/standing.ts';
import { referenceWaits } from '../route/waits.ts';
import { toMs } from '../units/instant.ts';
import { percent } from '../units/quantity.ts';
import { say } from '../units/words.ts';
import type { Act, Doing } from './act.ts';
import { concernsOf, invalidAct, refusedAct, wrongTimes } from './act.ts';
import { greenCoat } from './drying-view.ts';

const MEANS = { scale: 'by scale', conductivity: 'by conductivity', touch: 'by hand' } as const;

/** Somebody looked whether a coat is dry: from then on that counts, whatever the sum says. */
export function lookAtCoat(index: ShopIndex, given: LookAtCoat, doing: Doing): Act<{ id: Id }> {
  const step = index.step.get(given.stepId);
  if (!step || !index.kind(step).driesInAir || step.carrier !== 'tree')
    return refusedAct([never('state', 'Only a coat can be looked at whether it is dry.')]);
  if (!isClosed(step) || step.endedAt === null)
    return refusedAct([never('state', say`${stepLabel(index, step)} is not dipped yet.`)]);
  if (greenCoat(index, step.carrierId)?.id !== step.id)
    return refusedAct([never('closed', say`${stepLabel(index, step)} lies under another coat already.`)]);
  const wrong = Object.values(wrongTimes(doing.now, step.endedAt, given.at));
  if (toMs(given.at) < toMs(step.endedAt)) return invalidAct({ at: 'lies before the dip' });
  if (wrong.length > 0) return invalidAct({ at: wrong[0]! });
  if (given.dry && given.share !== null && given.share < 1)
    return invalidAct({ share: 'a coat that is dry has lost all of its water' });
  const { min } = referenceWaits(index, step);
  const plain = dryingOf(index, step, min, { learned: false });
  const row: DrynessReading = {
    id: given.id,
    treeId: step.carrierId,
    stepId: step.id,
    at: given.at,
    means: given.means,
    dry: given.dry,
    share: given.share,
    formulaShare: plain ? plain.shareAt(toMs(given.at)) : null,
    note: given.note,
    byId: doing.actor?.id ?? null,
    voidReason: null,
    version: 1,
  };
  const far = given.share === null ? '' : say` (${percent(given.share)})`;
  return {
    refusals: [],
    fields: {},
    passed: [],
    ops: [insert('drynessReadings', row)],
    answer: { id: row.id },
    tell: () => ({
      event: {
        verb: 'look at coat',
        text: say`${stepLabel(index, step)}: ${given.dry ? 'dry' : 'still wet'}${far}, ${MEANS[given.means]}`,
        room: 'shell',
        doneAt: given.at,
      },
      concerns: concernsOf(index, step),
    }),
  };
}

/** Trees are hung in another place, or on another hook: from then on they dry in the air there. */
export function hangTrees(index: ShopIndex, given: HangTrees, placeName: string, doing: Doing): Act<{ ids: Id[] }> {
  const wrong = Object.values(wrongTimes(doing.now, null, given.at));
  if (wrong.length > 0) return invalidAct({ at: wrong[0]! });
  const trees = given.treeIds.map((id) => index.tree.get(id)!);
  const over = trees.find(({ state }) => !['planned', 'joined'].includes(state));
  if (over) return refusedAct([never('state', say`${treeLabel(index, over.id)} is ${over.state}: it hangs nowhere.`)]);
  const moved = trees.find(({ hangs }) => (hangs ?? []).some(({ since }) => since > given.at));
  if (moved) return invalidAct({ at: say`${treeLabel(index, moved.id)} was hung somewhere after that` });
  const hung: Hanging = { placeId: given.placeId, hook: given.hook, since: given.at };
  const concerns = trees.flatMap(({ id }): Concern[] => [
    ['tree', id],
    ...piecesOfStep(index, { carrier: 'tree', carrierId: id }).map((pieceId): Concern => ['piece', pieceId]),
  ]);
  const labels = trees.slice(0, 4).map(({ id }) => treeLabel(index, id));
  const more = trees.length > 4 ? ` and ${trees.length - 4} more` : '';
  return {
    refusals: [],
    fields: {},
    passed: [],
    ops: trees.map(({ id, hangs = [] }) => update('trees', id, { hangs: [...hangs, hung] })),
    answer: { ids: trees.map(({ id }) => id) },
    tell: () => ({
      event: {
        verb: 'hang trees',
        text: say`${labels.join(', ')}${more} hung in ${placeName}${given.hook ? `, ${given.hook}` : ''}`,
        room: 'shell',
        doneAt: given.at,
      },
      concerns,
    }),
  };
}
