import { DAY_MIN, HOUR_MIN } from '../units/instant.ts';
import type { CautionCode } from './cautions.ts';
import type { Carrier, Room } from './common.ts';
import type { ReadingDef } from './readings.ts';
import { DEFECTS, choice, num, text } from './readings.ts';

/** How an outcome leaves the step. */
export type Effect = 'done' | 'again' | 'lost' | 'skipped';

export interface OutcomeDef {
  readonly code: string;
  readonly label: string;
  readonly effect: Effect;
  /** Steps that grow after this one, in order, on the same carrier. */
  readonly inserts?: readonly StepKindCode[];
  /** Asks why, in words. */
  readonly why?: boolean;
}

export interface StepKind {
  readonly code: StepKindCode;
  readonly room: Room;
  /** `Chase and weigh wax`. */
  readonly name: string;
  readonly carrier: Carrier;
  /** Recorded with a whole kiln load or heat, not by itself. */
  readonly through?: 'load' | 'heat';
  /** Hands-on minutes. */
  readonly minutes: number;
  readonly spans: 'pausing' | 'unbroken' | 'through';
  /** Elapsed minutes before what follows may begin. */
  readonly minWait: number;
  readonly maxWait: number | null;
  /** An expected wait is for planning only: nobody is refused because an answer came sooner. */
  readonly waitIs: 'physical' | 'expected';
  /** Grown only where a record asks for it, never from the start. */
  readonly insertedOnly?: boolean;
  readonly outcomes: readonly OutcomeDef[];
  readonly readings: readonly ReadingDef[];
  readonly readingsVersion: number;
  readonly cautions: readonly CautionCode[];
}

const H = HOUR_MIN;
const DONE: OutcomeDef = { code: 'done', label: 'Done', effect: 'done' };
const LOST: OutcomeDef = { code: 'lost', label: 'Lost', effect: 'lost', why: true };
const again = (label: string, code = 'again'): OutcomeDef => ({ code, label, effect: 'again', why: true });

const kind = (
  code: StepKindCode,
  room: Room,
  name: string,
  carrier: Carrier,
  minutes: number,
  rest: Partial<StepKind> = {},
): StepKind => ({
  code,
  room,
  name,
  carrier,
  minutes,
  spans: 'pausing',
  minWait: 0,
  maxWait: null,
  waitIs: 'physical',
  outcomes: [DONE],
  readings: [],
  readingsVersion: 1,
  cautions: [],
  ...rest,
});

const WAX_CHOICES = [
  { code: 'pattern', label: 'pattern' },
  { code: 'micro', label: 'microcrystalline' },
  { code: 'beeswax', label: 'beeswax' },
];

const JOINING = [
  { code: 'tig', label: 'TIG' },
  { code: 'mig', label: 'MIG' },
  { code: 'gas', label: 'gas torch' },
  { code: 'braze', label: 'brazed' },
  { code: 'pinned', label: 'pinned and peened' },
];

const fired = [
  text('profile', 'Profile', { required: true, start: '900 °C, 2 h' }),
  num('topC', 'Hottest', '°C', [100, 1200, 0], { required: true }),
];

const APPROVAL_OUTCOMES: readonly OutcomeDef[] = [
  { ...DONE, label: 'Approved' },
  { code: 'change', label: 'Change asked for', effect: 'again', inserts: ['rework'], why: true },
];
const seen = [text('by', 'Approved by', { required: true }), text('shown', 'What was shown')];

/**
 * The step kinds, in the order of the rooms. Times, waits and outcomes are the default routes' (minutes hands-on, waits
 * elapsed). The order within a carrier's base steps is the order in this list.
 */
const KINDS: readonly StepKind[] = [
  kind('make-mould', 'mould', 'Make mould', 'mould', 480, {
    minWait: 24 * H,
    outcomes: [DONE, again('Remake', 'remake')],
    readings: [
      num('rubberKg', 'Rubber', 'kg', [0.01, 500, 2]),
      num('parts', 'Parts', '', [1, 60, 0]),
      num('lifePulls', 'Life', 'pulls', [1, 1000, 0], { required: true, start: 60 }),
    ],
  }),
  kind('repair-mould', 'mould', 'Repair mould', 'mould', 120, {
    minWait: 12 * H,
    insertedOnly: true,
    outcomes: [
      { ...DONE, label: 'Repaired' },
      { code: 'retire', label: 'Retire it', effect: 'done', why: true },
    ],
    readings: [num('atPull', 'At pull no.', '', [0, 1000, 0])],
  }),
  kind('pull', 'wax', 'Pull', 'cast', 60, {
    minWait: H,
    outcomes: [DONE, { ...LOST, label: 'Spoilt' }],
    readings: [
      { key: 'mouldId', label: 'Mould', kind: 'mould', required: true },
      choice('wax', 'Wax', WAX_CHOICES, { required: true, start: 'pattern' }),
      num('potC', 'Pot', '°C', [40, 160, 0], { required: true, start: 82 }),
    ],
    cautions: ['waxPot'],
  }),
  kind('model-wax', 'wax', 'Model in wax', 'cast', 960, {
    outcomes: [DONE, LOST],
    readings: [choice('wax', 'Wax', WAX_CHOICES, { start: 'micro' })],
    cautions: ['waxPot'],
  }),
  kind('chase-wax', 'wax', 'Chase and weigh wax', 'cast', 90, {
    maxWait: 30 * DAY_MIN,
    outcomes: [DONE, again('Too thin: mend and weigh again', 'thin'), { ...LOST, code: 'remake', label: 'Remake it' }],
    readings: [
      num('waxKg', 'Wax weighs', 'kg', [0.005, 500, 3], { required: true, outcomes: ['done', 'thin'] }),
      { key: 'markPutIn', label: 'Mark put in', kind: 'yes', start: true },
    ],
  }),
  kind('approve-wax', 'wax', 'Approve wax', 'piece', 0, {
    minWait: DAY_MIN,
    waitIs: 'expected',
    outcomes: [...APPROVAL_OUTCOMES, { code: 'refused', label: 'Refused: new wax', effect: 'again', why: true }],
    readings: seen,
  }),
  kind('join-tree', 'sprue', 'Join tree, wash', 'tree', 90, {
    minWait: 2 * H,
    maxWait: 14 * DAY_MIN,
    readings: [
      { key: 'castIds', label: 'Casts on this tree', kind: 'casts', required: true },
      { key: 'bars', label: 'Bars', kind: 'bars' },
      { key: 'cup', label: 'Cup (659 cm³)', kind: 'yes', start: true },
      num('treeKg', 'Tree weighs', 'kg', [0.01, 500, 2]),
    ],
  }),
  kind('coat', 'shell', 'Dip coat', 'tree', 10, {
    spans: 'unbroken',
    minWait: 4 * H,
    maxWait: 48 * H,
    outcomes: [DONE, again('Not good: coat again'), LOST],
    readings: [
      choice(
        'slurry',
        'Slurry',
        [
          { code: 'face', label: 'face' },
          { code: 'backup', label: 'back-up' },
        ],
        { required: true, start: 'backup' },
      ),
      choice(
        'stucco',
        'Stucco',
        [
          { code: 'fine', label: 'fine' },
          { code: 'medium', label: 'medium' },
          { code: 'coarse', label: 'coarse' },
          { code: 'none', label: 'none (seal)' },
        ],
        { required: true, start: 'coarse' },
      ),
      num('roomC', 'Room', '°C', [0, 50, 1]),
      num('roomRh', 'Humidity', '%', [0, 100, 0]),
    ],
    cautions: ['silica', 'lifting'],
  }),
  kind('invest', 'shell', 'Build flask and invest', 'tree', 120, {
    minWait: 24 * H,
    outcomes: [DONE, LOST],
    readings: [num('blockKg', 'Block', 'kg', [0.5, 5000, 0]), num('waterL', 'Water, litres', '', [0.1, 3000, 1])],
    cautions: ['silica', 'lifting'],
  }),
  kind('fire', 'burnout', 'Dewax and fire', 'tree', 180, {
    through: 'load',
    spans: 'through',
    minWait: 4 * H,
    outcomes: [DONE, LOST],
    readings: fired,
    cautions: ['autoclave'],
  }),
  kind('fire-block', 'burnout', 'Burn out block', 'tree', 4 * DAY_MIN, {
    through: 'load',
    spans: 'through',
    maxWait: 12 * H,
    outcomes: [DONE, LOST],
    readings: fired,
    cautions: ['autoclave'],
  }),
  kind('leak-test', 'burnout', 'Leak test', 'tree', 15, {
    spans: 'unbroken',
    maxWait: 14 * DAY_MIN,
    outcomes: [
      { ...DONE, label: 'Tight' },
      { code: 'patch', label: 'Leaks: patch', effect: 'again', inserts: ['patch', 'refire'], why: true },
      { ...LOST, label: 'Leaks: lost' },
    ],
    readings: [
      choice(
        'how',
        'Tested by',
        [
          { code: 'light', label: 'light' },
          { code: 'air', label: 'air' },
          { code: 'water', label: 'water' },
          { code: 'eye', label: 'eye only' },
        ],
        { required: true, start: 'light' },
      ),
      text('where', 'Where it leaks', { outcomes: ['patch', 'lost'] }),
    ],
  }),
  kind('patch', 'burnout', 'Patch', 'tree', 30, { insertedOnly: true }),
  kind('refire', 'burnout', 'Refire', 'tree', 120, {
    insertedOnly: true,
    through: 'load',
    spans: 'through',
    minWait: 4 * H,
    outcomes: [DONE, LOST],
    readings: fired,
    cautions: ['autoclave'],
  }),
  kind('dry', 'burnout', 'Dry', 'tree', 0, { insertedOnly: true, minWait: 4 * H }),
  kind('pour', 'pour', 'Preheat and pour', 'tree', 30, {
    through: 'heat',
    spans: 'unbroken',
    outcomes: [
      { ...DONE, code: 'poured', label: 'Poured' },
      { code: 'short', label: 'Short', effect: 'done', why: true },
      { code: 'run out', label: 'Run out', effect: 'lost', why: true },
      { code: 'not poured', label: 'Not poured', effect: 'again', why: true },
    ],
    readings: [
      num('pouredKg', 'Metal poured', 'kg', [0, 5000, 1], { required: true, outcomes: ['poured', 'short'] }),
      num('metalC', 'Metal at the cup', '°C', [400, 1500, 0], { outcomes: ['poured', 'short', 'run out'] }),
      choice(
        'tempWhere',
        'Taken',
        [
          { code: 'cup', label: 'at the cup' },
          { code: 'ladle', label: 'in the ladle' },
          { code: 'furnace', label: 'in the furnace' },
        ],
        { start: 'furnace', outcomes: ['poured', 'short', 'run out'] },
      ),
      num('seconds', 'Filled in', 's', [0.5, 600, 1], { outcomes: ['poured', 'short'] }),
      {
        key: 'vents',
        label: 'Every vent showed metal',
        kind: 'yes',
        start: true,
        outcomes: ['poured', 'short'],
      },
    ],
    cautions: ['wetMetal', 'pourCover', 'fumes', 'lifting'],
  }),
  kind('knock-out', 'chasing', 'Knock out, blast, cut, weigh', 'tree', 60, {
    readings: [
      {
        key: 'castKg',
        label: 'Casts weigh',
        kind: 'perCast',
        unit: 'kg',
        min: 0.01,
        max: 5000,
        decimals: 2,
        required: true,
      },
      num('returnsKg', 'Returns', 'kg', [0, 5000, 1]),
    ],
    cautions: ['silica', 'hotCasting', 'lifting'],
  }),
  kind('inspect', 'chasing', 'Inspect', 'cast', 15, {
    outcomes: [
      { ...DONE, code: 'accept', label: 'Accept' },
      { code: 'weld', label: 'Weld', effect: 'again', inserts: ['weld'], why: true },
      { code: 'recast', label: 'Recast', effect: 'lost', why: true },
    ],
    readings: [{ key: 'defects', label: 'Defects', kind: 'defects', choices: DEFECTS }],
    readingsVersion: 2,
  }),
  kind('weld', 'chasing', 'Weld defects', 'cast', 60, {
    insertedOnly: true,
    readings: [text('filler', 'Filler')],
    cautions: ['welding'],
  }),
  kind('join-section', 'chasing', 'Join', 'piece', 240, {
    outcomes: [DONE, again('Cut off again', 'cut off')],
    readings: [
      choice('how', 'Joined by', JOINING),
      text('filler', 'Filler and lot'),
      num('fillerKg', 'Filler used', 'kg', [0.001, 200, 3]),
      num('hours', 'Hours', 'h', [0.1, 500, 1]),
      { key: 'straight', label: 'Checked straight against the reference set', kind: 'yes', start: false },
    ],
    readingsVersion: 2,
    cautions: ['welding', 'lifting'],
  }),
  kind('chase-metal', 'chasing', 'Chase metal', 'piece', 480, {
    readings: [num('hours', 'Hours', 'h', [0.1, 2000, 1])],
    cautions: ['silica'],
  }),
  kind('patina', 'patina', 'Patina', 'piece', 180, {
    minWait: 12 * H,
    outcomes: [DONE, again('Strip, do again', 'strip'), again('One more time')],
    readings: [text('recipe', 'Recipe', { required: true })],
    cautions: ['chemicals'],
  }),
  kind('wax-buff', 'patina', 'Wax and buff', 'piece', 30, { minWait: 12 * H }),
  kind('final-inspection', 'patina', 'Final inspection', 'piece', 30, {
    outcomes: [
      DONE,
      {
        code: 'to patina',
        label: 'Back to patina',
        effect: 'again',
        inserts: ['patina', 'wax-buff'],
        why: true,
      },
      {
        code: 'to chasing',
        label: 'Back to chasing',
        effect: 'again',
        inserts: ['chase-metal', 'patina', 'wax-buff'],
        why: true,
      },
    ],
    readings: [num('finishedKg', 'Finished weight', 'kg', [0.01, 10000, 2], { required: true, outcomes: ['done'] })],
  }),
  kind('deliver', 'out', 'Pack and deliver', 'piece', 60, {
    readings: [text('toWhom', 'Handed to', { required: true })],
    cautions: ['lifting'],
  }),
  // Inserted where a person asks for them, in the room of the step they follow.
  kind('rework', 'wax', 'Rework', 'piece', 60, { insertedOnly: true }),
  kind('approval', 'chasing', 'Approval', 'piece', 0, {
    insertedOnly: true,
    minWait: DAY_MIN,
    waitIs: 'expected',
    outcomes: APPROVAL_OUTCOMES,
    readings: seen,
  }),
  kind('elsewhere', 'chasing', 'Work done elsewhere', 'piece', 0, {
    insertedOnly: true,
    readings: [
      text('where', 'Where', { required: true }),
      text('what', 'What', { required: true }),
      num('kgOut', 'Weight out', 'kg', [0, 10000, 2]),
      num('kgBack', 'Weight back', 'kg', [0, 10000, 2]),
    ],
  }),
  // What concerns a whole load or heat.
  kind('charge-kiln', 'burnout', 'Fire the load', 'load', 60, {
    through: 'load',
    insertedOnly: true,
    readings: fired,
    cautions: ['autoclave'],
  }),
  kind('melt', 'pour', 'Melt and pig', 'heat', 120, {
    through: 'heat',
    insertedOnly: true,
    readings: [num('pigKg', 'Pigged', 'kg', [0, 5000, 1])],
    cautions: ['wetMetal', 'pourCover', 'fumes', 'lifting'],
  }),
];

export type StepKindCode =
  | 'make-mould'
  | 'repair-mould'
  | 'pull'
  | 'model-wax'
  | 'chase-wax'
  | 'approve-wax'
  | 'join-tree'
  | 'coat'
  | 'invest'
  | 'fire'
  | 'fire-block'
  | 'leak-test'
  | 'patch'
  | 'refire'
  | 'dry'
  | 'pour'
  | 'knock-out'
  | 'inspect'
  | 'weld'
  | 'join-section'
  | 'chase-metal'
  | 'patina'
  | 'wax-buff'
  | 'final-inspection'
  | 'deliver'
  | 'rework'
  | 'approval'
  | 'elsewhere'
  | 'charge-kiln'
  | 'melt';

/** Every step kind by its code. */
export const STEP_KINDS = Object.fromEntries(KINDS.map((each) => [each.code, each])) as Readonly<
  Record<StepKindCode, StepKind>
>;

/** The kinds in the order of the rooms. */
export const KIND_ORDER: readonly StepKindCode[] = KINDS.map((each) => each.code);

/** The outcome of a code at a kind of step, or undefined. */
export const outcomeOf = (code: StepKindCode, outcome: string): OutcomeDef | undefined =>
  STEP_KINDS[code].outcomes.find((candidate) => candidate.code === outcome);
