import type {
  AttachedTo,
  Cast,
  Concern,
  Defect,
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
import { DEFECTS, carrierLabel, castLabel, markOf, pieceLabel, stepName } from '@kalvet/core';
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
  /** The page it is on. */
  readonly path: string;
  /** Of an inspection: what was found, a line each. */
  readonly defects?: readonly string[];
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

const hook = (on: string, concerns: readonly Concern[], path: string, rest: Partial<Hook> = {}): Hook => ({
  ...{ on, concerns, path, mark: null, room: null },
  ...rest,
});

const HOOKS: { readonly [K in AttachedTo]: (index: ShopIndex, row: Rows[K]) => Hook } = {
  work: (_, { title, id }) => hook(title, [['work', id]], `/works/${id}`),
  section: (_, { name, workId }) => hook(name, [['work', workId]], `/works/${workId}`),
  piece: (index, piece) =>
    hook(pieceLabel(index, piece), [['piece', piece.id]], `/pieces/${piece.id}`, { mark: markOf(piece) }),
  mould: (_, mould) => hook(`M-${mould.number} ${mould.name}`, ...mouldPlace(mould), { room: 'mould' }),
  pull: (index, { number, mouldId }) =>
    hook(`pull ${number}`, ...mouldPlace(index.mould.get(mouldId)!), { room: 'wax' }),
  cast: (index, cast) => {
    const piece = index.piece.get(cast.pieceId)!;
    return hook(castLabel(index, cast), castConcerns(cast), `/pieces/${piece.id}`, { mark: markOf(piece) });
  },
  tree: (index, { id, number }) => {
    const casts = castsOf(index, id);
    return hook(`T-${number}`, treeConcerns(index, id), pieceOf(casts), { room: 'sprue' });
  },
  step: (index, step) => stepHook(index, step),
  load: (_, { number, id }) => hook(`L-${number}`, [['load', id]], `/loads/${id}`, { room: 'burnout' }),
  heat: (_, { number, id }) => hook(`H-${number}`, [['heat', id]], `/heats/${id}`, { room: 'pour' }),
  order: (_, { number, title, id }) => hook(`O-${number} ${title}`, [['order', id]], `/orders?order=${id}`),
};

const mouldPlace = ({ id, workId }: Pick<Mould, 'id' | 'workId'>): [Concern[], string] => [
  [
    ['mould', id],
    ['work', workId],
  ],
  `/works/${workId}`,
];

const castConcerns = ({ id, pieceId }: Cast): Concern[] => [
  ['cast', id],
  ['piece', pieceId],
];

const castsOf = (index: ShopIndex, treeId: Id): Cast[] =>
  (index.membersOf.get(treeId) ?? []).flatMap(({ castId }) => index.cast.get(castId) ?? []);

const treeConcerns = (index: ShopIndex, treeId: Id): Concern[] => [
  ['tree', treeId],
  ...castsOf(index, treeId).flatMap(castConcerns),
];

/** A tree is looked at on the page of its first piece. */
const pieceOf = ([cast]: readonly Cast[]): string => (cast ? `/pieces/${cast.pieceId}` : '/floor');

/** Of a step: its name, on what it was done, and everybody whose it is. */
function stepHook(index: ShopIndex, step: Step): Hook {
  const { carrier, carrierId } = step;
  const own = index.cast.get(carrierId);
  const casts = carrier === 'tree' ? castsOf(index, carrierId) : own ? [own] : [];
  const concerns: readonly Concern[] = [
    ['step', step.id],
    [carrier, carrierId],
    ...casts.map(({ pieceId }) => ['piece', pieceId] as const),
  ];
  const piece = index.piece.get(own?.pieceId ?? carrierId);
  const paths: Readonly<Record<Step['carrier'], string>> = {
    cast: pieceOf(casts),
    tree: pieceOf(casts),
    piece: `/pieces/${carrierId}`,
    mould: `/works/${index.mould.get(carrierId)?.workId}`,
    load: `/loads/${carrierId}`,
    heat: `/heats/${carrierId}`,
  };
  const label = carrier === 'load' || carrier === 'heat' ? '' : `, ${carrierLabel(index, step)}`;
  return hook(`${stepName(index, step)}${label}`, concerns, paths[carrier], {
    mark: piece ? markOf(piece) : null,
    room: index.kind(step).room,
    defects: defectsOf(step),
  });
}

/** The defects that a step's record holds, in words: `crack, neck, 12 mm`. */
function defectsOf({ readings }: Step): string[] {
  const found = readings['defects'];
  if (!Array.isArray(found)) return [];
  return (found as Defect[])
    .filter((each) => typeof each === 'object')
    .map(({ code, where, mm }) => {
      const label = DEFECTS.find((each) => each.code === code)?.label ?? code;
      return [label, where, mm === null ? '' : `${mm} mm`].filter(Boolean).join(', ');
    });
}
