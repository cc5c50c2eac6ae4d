import type { AddMould } from '../records/mould-writes.ts';
import type { Id } from '../records/common.ts';
import type { Mould } from '../records/mould.ts';
import type { Work } from '../records/work.ts';
import { growMould } from '../route/grow.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { say } from '../units/words.ts';
import type { Act } from './act.ts';
import { invalidAct } from './act.ts';

/** A further mould for some of a work's sections, with the step of making it. */
export function addMould(index: ShopIndex, work: Work, given: AddMould, newId: () => Id): Act<{ id: Id }> {
  const own = new Set((index.sectionsOf.get(work.id) ?? []).map((section) => section.id));
  if (given.sectionIds.some((sectionId) => !own.has(sectionId)))
    return invalidAct({ sectionIds: 'names a section of another work' });
  if (work.method === 'direct') return invalidAct({ name: 'a direct wax has no mould' });
  const mould: Mould = {
    ...given,
    workId: work.id,
    number: 0,
    state: 'making',
    lifePulls: null,
    pullsBefore: 0,
    version: 1,
  };
  return {
    refusals: [],
    fields: {},
    passed: [],
    ops: growMould(newId, index.route(work.routeVersion), mould),
    answer: { id: given.id },
    tell: () => ({
      event: { verb: 'change work', text: say`${work.title}: a further mould, ${given.name}`, room: 'mould' },
      concerns: [
        ['work', work.id],
        ['mould', given.id],
      ],
    }),
  };
}
