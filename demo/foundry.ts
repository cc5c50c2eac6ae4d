// Marrowby Quay: an invented foundry on an invented tidal river. Nobody and nothing here is real.
import type { Room, SetUpWork } from '@kalvet/core';

export const PEOPLE = [
  { key: 'ines', name: 'Ines Marlow', shortName: 'IM', mayOverride: true, rooms: ['sprue', 'out'] },
  { key: 'petra', name: 'Petra Lund', shortName: 'PL', mayOverride: false, rooms: ['mould', 'wax'] },
  { key: 'oskar', name: 'Oskar Venn', shortName: 'OV', mayOverride: false, rooms: ['shell', 'burnout'] },
  { key: 'tomas', name: 'Tomas Quill', shortName: 'TQ', mayOverride: true, rooms: ['pour'] },
  { key: 'hanne', name: 'Hanne Brook', shortName: 'HB', mayOverride: false, rooms: ['chasing', 'patina'] },
] as const;

export type PersonKey = (typeof PEOPLE)[number]['key'];

/** Who works in a room. */
export const personOf = (room: Room): PersonKey =>
  PEOPLE.find(({ rooms }) => (rooms as readonly string[]).includes(room))?.key ?? 'ines';

const section = (name: string, rest: Partial<SetUpWork['sections'][number]>): SetUpWork['sections'][number] => ({
  name,
  wallMm: 5,
  metalHeightMm: null,
  expectedWaxKg: null,
  areaCm2: null,
  seamM: null,
  deep: false,
  ...rest,
});

type DemoWork = Omit<SetUpWork, 'id' | 'dueDate'> & {
  /** When pieces are begun: days before today, in the order of the edition. */
  readonly begun: readonly number[];
  /** Due dates by piece, days from today; null for none. */
  readonly due: readonly (number | null)[];
  readonly recipe: string;
};

const base = { artistProofs: 0, alloyId: 'C87300', method: 'shell', approval: 'first' } as const;

export const WORKS: readonly DemoWork[] = [
  {
    ...base,
    code: 'OTT',
    title: 'Otter with Reed',
    artist: 'Wilma Tarn',
    editionSize: 12,
    artistProofs: 2,
    finish: 'brown ferric, dark in the reed, waxed warm',
    glyph: 'otter',
    sections: [section('Whole', { metalHeightMm: 260, expectedWaxKg: 0.75, areaCm2: 1600 })],
    moulds: [{ name: 'whole', sections: [1], pullsBefore: 0 }],
    begun: [58, 52, 43, 29, 24, 18, 14, 11, 8, 3, 1],
    due: [-18, -12, -5, 2, -3, 12, 19, 26, 33, 40, 47, 54, null, null],
    recipe: 'ferric nitrate 20 g/l, hot, four coats, reed darkened with sulphide',
  },
  {
    ...base,
    code: 'HER',
    title: 'Heron, Listening',
    artist: 'Aldous Fenn',
    editionSize: 8,
    artistProofs: 2,
    finish: 'grey green, wings rubbed back',
    glyph: 'bird',
    sections: [
      section('Body', { metalHeightMm: 420, expectedWaxKg: 2.45, areaCm2: 5200, deep: true }),
      section('Wing A', { metalHeightMm: 310, expectedWaxKg: 1.15, areaCm2: 2500, seamM: 0.42 }),
      section('Wing B', { metalHeightMm: 310, expectedWaxKg: 1.16, areaCm2: 2520, seamM: 0.42 }),
    ],
    moulds: [
      { name: 'body', sections: [1], pullsBefore: 0 },
      { name: 'wings', sections: [2, 3], pullsBefore: 0 },
    ],
    begun: [57, 46, 28, 17, 10],
    due: [-9, -4, 15, 24, 38, 52, 66, 80, null, null],
    recipe: 'cupric nitrate 60 g/l, torch, three coats, wings rubbed back',
  },
  {
    ...base,
    code: 'HND',
    title: 'Sleeping Hound',
    artist: 'Bettina Skarre',
    editionSize: 6,
    artistProofs: 1,
    approval: 'each',
    finish: 'warm brown, muzzle polished',
    glyph: 'hound',
    sections: [
      section('Front', { metalHeightMm: 280, expectedWaxKg: 1.7, areaCm2: 3700 }),
      section('Back', { metalHeightMm: 250, expectedWaxKg: 1.45, areaCm2: 3150, seamM: 0.55 }),
    ],
    moulds: [{ name: 'front and back', sections: [1, 2], pullsBefore: 14 }],
    begun: [50, 22, 15, 6],
    due: [-6, 4, 20, 45, 60, 75, null],
    recipe: 'ferric nitrate 25 g/l, hot, muzzle polished through',
  },
  {
    ...base,
    code: 'MAL',
    title: 'Caulking Mallet',
    artist: 'Jory Pellam',
    editionSize: 30,
    alloyId: 'C90500',
    finish: 'black, edges bright',
    glyph: 'tool',
    sections: [section('Whole', { metalHeightMm: 150, expectedWaxKg: 0.21, areaCm2: 470, wallMm: 4.5 })],
    moulds: [{ name: 'whole', sections: [1], pullsBefore: 34 }],
    begun: [48, 48, 48, 38, 38, 26, 26, 25, 12, 12, 11, 4, 2],
    due: [null, null, null, 10, 10, 24, 24, 24, 38, 38, 38, 52, 52],
    recipe: 'liver of sulphur 15 g/l, cold, edges rubbed bright',
  },
  {
    ...base,
    code: 'TID',
    title: 'Tide Relief',
    artist: 'Magda Oyen',
    editionSize: 4,
    method: 'block',
    finish: 'raw, the artist finishes',
    glyph: 'block',
    sections: [section('Panel', { metalHeightMm: 620, expectedWaxKg: 6.9, areaCm2: 12800, wallMm: 6 })],
    moulds: [{ name: 'panel', sections: [1], pullsBefore: 3 }],
    begun: [30, 12],
    due: [9, 30, 58, 90],
    recipe: 'clear wax only',
  },
];

/** The trouble a real shop has: which piece, at which step, what happens once. */
export interface Trouble {
  readonly work: string;
  readonly piece: number;
  readonly kind: string;
  readonly outcome?: string;
  readonly note?: string;
  readonly readings?: Record<string, unknown>;
  /** Only for this section. */
  readonly section?: string;
}

export const TROUBLES: readonly Trouble[] = [
  { work: 'OTT', piece: 9, kind: 'chase-wax', readings: { waxKg: 0.855 }, note: 'reed side poured thick' },
  {
    work: 'HER',
    piece: 4,
    section: 'Wing B',
    kind: 'leak-test',
    outcome: 'patch',
    note: 'hairline at the tip',
    readings: { how: 'light', where: 'tip, outside' },
  },
  {
    work: 'HND',
    piece: 2,
    section: 'Back',
    kind: 'pour',
    outcome: 'short',
    note: 'stopped at the haunch, vent on the left dry',
  },
  {
    work: 'HND',
    piece: 2,
    section: 'Back',
    kind: 'inspect',
    outcome: 'recast',
    note: 'haunch missing',
    readings: { defects: ['misrun'] },
  },
  {
    work: 'OTT',
    piece: 4,
    kind: 'inspect',
    outcome: 'weld',
    note: 'two pinholes by the ear',
    readings: { defects: ['gas'] },
  },
];

/** Where no hand goes on: a patch waits for a decision, and a heavy wax for its mending. */
export const LEFT_ALONE: readonly {
  readonly work: string;
  readonly piece: number;
  readonly kind: string;
  readonly section?: string;
}[] = [
  { work: 'HER', piece: 4, section: 'Wing B', kind: 'patch' },
  { work: 'OTT', piece: 9, kind: 'join-tree' },
];

export const HOLD = {
  work: 'HER',
  piece: 5,
  daysAgo: 3,
  reason: 'artist asks for a second look at the wing joints',
  untilDays: 6,
} as const;
