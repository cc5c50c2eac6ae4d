import type { MethodRoute, RouteTemplate } from '../route/template.ts';

const SHELLED: MethodRoute['tree'] = ['join-tree', { coats: 'coat' }, 'fire', 'leak-test', 'pour', 'knock-out'];

/** From the third version on somebody looks at a casting before its shell is off, and blocks are drawn as a step. */
const LOOKED_AT: MethodRoute['tree'] = [...SHELLED.slice(0, -1), 'early-look', 'knock-out'];

/** Dewax and firing apart, with a look between. */
const IN_TWO: MethodRoute['tree'] = LOOKED_AT.flatMap((place) =>
  place === 'fire' ? ['dewax', 'look-dewaxed', 'fire'] : [place],
);

/** A ceramic shell over the wax of a mould. */
const shell: MethodRoute = { wax: ['pull', 'chase-wax'], tree: SHELLED, metal: ['inspect'] };
/** A block of refractory plaster round it; burnt out slowly, without a leak test. */
const block: MethodRoute = {
  wax: ['pull', 'chase-wax'],
  tree: ['join-tree', 'invest', 'fire-block', 'pour', 'knock-out'],
  metal: ['inspect'],
};
/** Modelled straight in wax, and shelled. */
const direct: MethodRoute = { wax: ['model-wax', 'chase-wax'], tree: SHELLED, metal: ['inspect'] };

const PATINATED = ['chase-metal', 'patina', 'wax-buff', 'final-inspection', 'deliver'];

/**
 * The routes in their versions. A piece keeps the one it began with; a change is a new entry at the end, never an edit of
 * one that pieces were grown by.
 */
export const ROUTES: readonly RouteTemplate[] = [
  {
    version: 1,
    mould: ['make-mould'],
    methods: { shell, block, direct },
    approval: 'approve-wax',
    join: 'join-section',
    // Every piece was patinated, whatever its finish said.
    finishing: { patina: PATINATED, raw: PATINATED },
  },
  {
    version: 2,
    mould: ['make-mould'],
    methods: { shell, block, direct },
    approval: 'approve-wax',
    join: 'join-section',
    finishing: { patina: PATINATED, raw: ['chase-metal', 'inspect-raw', 'deliver'] },
  },
  {
    version: 3,
    mould: ['make-mould'],
    methods: {
      shell: { ...shell, tree: LOOKED_AT },
      block: { ...block, tree: ['join-tree', 'invest', 'fire-block', 'draw-block', 'pour', 'early-look', 'knock-out'] },
      direct: { ...direct, tree: LOOKED_AT },
    },
    approval: 'approve-wax',
    join: 'join-section',
    finishing: { patina: PATINATED, raw: ['chase-metal', 'inspect-raw', 'deliver'] },
  },
  {
    version: 4,
    mould: ['make-mould'],
    methods: {
      shell: { ...shell, tree: LOOKED_AT },
      block: { ...block, tree: ['join-tree', 'invest', 'fire-block', 'draw-block', 'pour', 'early-look', 'knock-out'] },
      direct: { ...direct, tree: LOOKED_AT },
    },
    // Where a shop dewaxes and fires apart, somebody looks in between.
    twoStages: { shell: IN_TWO, direct: IN_TWO },
    approval: 'approve-wax',
    join: 'join-section',
    finishing: { patina: PATINATED, raw: ['chase-metal', 'inspect-raw', 'deliver'] },
  },
];

/** The version that new works begin with. */
export const ROUTE_VERSION = ROUTES.at(-1)!.version;
