import type {
  AttachedTo,
  Cast,
  Concern,
  Heat,
  Id,
  Load,
  Mould,
  Order,
  Piece,
  Pull,
  Room,
  Section,
  ShopIndex,
  Step,
  Tree,
  Work,
} from '@kalvet/core';
import { castLabel, markOf, stepName, carrierLabel } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import { labelled } from '../shop/labelled.ts';
import type { Store } from '../write/store.ts';

/** What something is attached to. */
export interface Subjected {
  readonly subject: AttachedTo;
  readonly subjectId: Id;
}

/** What a file hangs on: in words, whose it is, and which records' histories tell of it. */
export interface Hook {
  readonly on: string;
  readonly mark: string | null;
  readonly room: Room | null;
  readonly concerns: readonly Concern[];
}

const TABLE = {
  work: 'works',
  section: 'sections',
  piece: 'pieces',
  mould: 'moulds',
  pull: 'pulls',
  cast: 'casts',
  tree: 'trees',
  step: 'steps',
  load: 'loads',
  heat: 'heats',
  order: 'orders',
} as const;

interface Rows {
  work: Work;
  section: Section;
  piece: Piece;
  mould: Mould;
  pull: Pull;
  cast: Cast;
  tree: Tree;
  step: Step;
  load: Load;
  heat: Heat;
  order: Order;
}

/** What each of some records is called and belongs to; those that there are not are left out. */
export async function hooksOf(store: Store, all: readonly Subjected[]): Promise<Map<Id, Hook>> {
  const rows: { [K in AttachedTo]?: Rows[K][] } = {};
  const subjects = [...new Set(all.map(({ subject }) => subject))];
  await Promise.all(
    subjects.map(async (subject) => {
      const ids = [...new Set(all.filter((each) => each.subject === subject).map(({ subjectId }) => subjectId))];
      rows[subject] = (await rowsOf(store, TABLE[subject], { id: ids })) as never;
    }),
  );
  const of = <K extends AttachedTo>(subject: K): readonly Rows[K][] => rows[subject] ?? [];
  const steps = of('step');
  const carried = (carrier: Step['carrier']) =>
    steps.filter((step) => step.carrier === carrier).map(({ carrierId }) => carrierId);
  const ids = (subject: AttachedTo) => of(subject).map(({ id }: { id: Id }) => id);
  const index = await labelled(store, {
    casts: [...ids('cast'), ...carried('cast')],
    trees: [...ids('tree'), ...carried('tree')],
    pieces: [...ids('piece'), ...carried('piece')],
    moulds: [...ids('mould'), ...carried('mould'), ...of('pull').map(({ mouldId }) => mouldId)],
    steps,
  });
  return new Map(
    subjects.flatMap((subject) =>
      of(subject).map((row: { id: Id }) => [row.id, HOOKS[subject](index, row as never)] as const),
    ),
  );
}

const hook = (on: string, concerns: readonly Concern[], rest: Partial<Hook> = {}): Hook => ({
  ...{ on, concerns, mark: null, room: null },
  ...rest,
});

const HOOKS: { readonly [K in AttachedTo]: (index: ShopIndex, row: Rows[K]) => Hook } = {
  work: (_, { title, id }) => hook(title, [['work', id]]),
  section: (_, { name, workId }) => hook(name, [['work', workId]]),
  piece: (_, piece) => hook(`piece ${markOf(piece)}`, [['piece', piece.id]], { mark: markOf(piece) }),
  mould: (_, { number, name, id }) => hook(`M-${number} ${name}`, [['mould', id]], { room: 'mould' }),
  pull: (_, { number, mouldId }) => hook(`pull ${number}`, [['mould', mouldId]], { room: 'wax' }),
  cast: (index, cast) => hook(castLabel(index, cast), castConcerns(index, cast.id), markAndRoom(index, cast.id)),
  tree: (index, { id, number }) => hook(`T-${number}`, treeConcerns(index, id), { room: 'sprue' }),
  step: (index, step) => stepHook(index, step),
  load: (_, { number, id }) => hook(`L-${number}`, [['load', id]], { room: 'burnout' }),
  heat: (_, { number, id }) => hook(`H-${number}`, [['heat', id]], { room: 'pour' }),
  order: (_, { number, title, id }) => hook(`O-${number} ${title}`, [['order', id]]),
};

function castConcerns(index: ShopIndex, castId: Id): Concern[] {
  const cast = index.cast.get(castId);
  return [['cast', castId], ...(cast ? ([['piece', cast.pieceId]] as const) : [])];
}

const treeConcerns = (index: ShopIndex, treeId: Id): Concern[] => [
  ['tree', treeId],
  ...(index.membersOf.get(treeId) ?? []).flatMap(({ castId }) => castConcerns(index, castId)),
];

function markAndRoom(index: ShopIndex, castId: Id): Pick<Hook, 'mark'> {
  const piece = index.piece.get(index.cast.get(castId)?.pieceId ?? '');
  return { mark: piece ? markOf(piece) : null };
}

/** Of a step: its name, on what it was done, and everybody whose it is. */
function stepHook(index: ShopIndex, step: Step): Hook {
  const { carrier, carrierId } = step;
  const concerns: readonly Concern[] =
    carrier === 'cast'
      ? castConcerns(index, carrierId)
      : carrier === 'tree'
        ? treeConcerns(index, carrierId)
        : [[carrier, carrierId]];
  const piece = index.piece.get(carrier === 'piece' ? carrierId : (index.cast.get(carrierId)?.pieceId ?? ''));
  const label = carrier === 'load' || carrier === 'heat' ? '' : `, ${carrierLabel(index, step)}`;
  return hook(`${stepName(index, step)}${label}`, [['step', step.id], ...concerns], {
    mark: piece ? markOf(piece) : null,
    room: index.kind(step).room,
  });
}
