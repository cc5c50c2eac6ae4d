// Marrowby Quay: an invented foundry on an invented tidal river. Nobody and nothing here is real.
import type { Gate, Role, Room, SetUpWork } from '@kalvet/core';

interface DemoPerson {
  readonly name: string;
  readonly shortName: string;
  readonly roles: readonly Role[];
  readonly rooms: readonly Room[];
  readonly gates: readonly Gate[];
}

const person = (
  name: string,
  shortName: string,
  roles: readonly Role[],
  rooms: readonly Room[] = [],
  gates: readonly Gate[] = [],
): DemoPerson => ({ name, shortName, roles, rooms, gates });

/** Who works at Marrowby Quay, and the sculptor who comes to look. */
const CREW = {
  ines: person('Ines Marlow', 'IM', ['manager']),
  petra: person('Petra Lund', 'PL', ['lead'], ['mould', 'wax', 'sprue']),
  oskar: person('Oskar Venn', 'OV', ['hand'], ['shell', 'burnout'], ['leak test']),
  tomas: person('Tomas Quill', 'TQ', ['pour lead'], ['pour']),
  hanne: person('Hanne Brook', 'HB', ['lead'], ['chasing', 'patina', 'out']),
  dora: person('Dora Wick', 'DW', ['office']),
  wilma: person('Wilma Tarn', 'WT', ['visitor']),
} as const satisfies Record<string, DemoPerson>;

export type PersonKey = keyof typeof CREW;
export const PEOPLE = (Object.keys(CREW) as PersonKey[]).map((key) => ({ key, ...CREW[key] }));

/** Whose hands a room's records are, in the play. */
const ROOM_HANDS: Partial<Record<Room, PersonKey>> = {
  mould: 'petra',
  wax: 'petra',
  shell: 'oskar',
  burnout: 'oskar',
  pour: 'tomas',
  chasing: 'hanne',
  patina: 'hanne',
};

/** Who works in a room. */
export const personOf = (room: Room): PersonKey => ROOM_HANDS[room] ?? 'ines';

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

const base = {
  artistProofs: 0,
  alloyId: 'C87300',
  method: 'shell',
  approval: 'first',
  finishing: 'patina',
} as const;

export const WORKS: readonly DemoWork[] = [
  {
    ...base,
    code: 'OTT',
    title: 'Otter with Reed',
    artist: 'Wilma Tarn',
    editionSize: 12,
    artistProofs: 1,
    finish: 'brown ferric, dark in the reed, waxed warm',
    glyph: 'otter',
    sections: [section('Whole', { metalHeightMm: 260, expectedWaxKg: 0.75, areaCm2: 1600 })],
    moulds: [{ name: 'whole', sections: [1], pullsBefore: 0 }],
    begun: [58, 52, 43, 29, 24, 18, 14, 11, 9, 3, 1],
    due: [-18, -12, -5, 2, -3, 12, 19, null, null, null, 47, 54, null, null],
    recipe: 'ferric nitrate 20 g/l, hot, four coats, reed darkened with sulphide',
  },
  {
    ...base,
    code: 'HER',
    title: 'Heron, Listening',
    artist: 'Aldous Fenn',
    editionSize: 8,
    artistProofs: 1,
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
    begun: [66, 48, 28, 18, 10, 1],
    due: [-22, -4, null, 24, null, 66, 80, null, null],
    recipe: 'cupric nitrate 60 g/l, torch, three coats, wings rubbed back',
  },
  {
    ...base,
    code: 'HND',
    title: 'Sleeping Hound',
    artist: 'Bettina Skarre',
    editionSize: 6,
    approval: 'each',
    finish: 'warm brown, muzzle polished',
    glyph: 'hound',
    sections: [
      section('Front', { metalHeightMm: 280, expectedWaxKg: 1.7, areaCm2: 3700 }),
      section('Back', { metalHeightMm: 250, expectedWaxKg: 1.45, areaCm2: 3150, seamM: 0.55 }),
    ],
    moulds: [{ name: 'front and back', sections: [1, 2], pullsBefore: 14 }],
    begun: [50, 31, 15, 6],
    due: [-6, 4, 20, 45, 60, 75],
    recipe: 'ferric nitrate 25 g/l, hot, muzzle polished through',
  },
  {
    ...base,
    code: 'MAL',
    title: 'Caulking Mallet',
    artist: 'Jory Pellam',
    editionSize: 16,
    alloyId: 'C90500',
    finish: 'black, edges bright',
    glyph: 'tool',
    sections: [section('Whole', { metalHeightMm: 150, expectedWaxKg: 0.21, areaCm2: 470, wallMm: 4.5 })],
    moulds: [{ name: 'whole', sections: [1], pullsBefore: 45 }],
    begun: [52, 52, 52, 38, 38, 26, 26, 25, 12, 12, 11, 4, 2],
    due: [null, null, null, 10, 10, 24, 24, 24, null, null, null, null, null],
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
    finishing: 'raw',
    glyph: 'block',
    sections: [section('Panel', { metalHeightMm: 620, expectedWaxKg: 6.9, areaCm2: 12800, wallMm: 6 })],
    moulds: [{ name: 'panel', sections: [1], pullsBefore: 3 }],
    begun: [30, 12],
    due: [9, 30, 58, 90],
    recipe: '',
  },
  {
    ...base,
    code: 'NET',
    title: 'The Net Mender',
    artist: 'Wilma Tarn',
    editionSize: 5,
    finish: 'dark brown, hands and twine rubbed back',
    glyph: 'figure',
    sections: [
      section('Torso', { metalHeightMm: 480, expectedWaxKg: 3.1, areaCm2: 6400, deep: true }),
      section('Head', { metalHeightMm: 190, expectedWaxKg: 0.74, areaCm2: 1500, seamM: 0.31 }),
      section('Arms and net', { metalHeightMm: 330, expectedWaxKg: 1.05, areaCm2: 2650, seamM: 0.36 }),
      section('Crate', { metalHeightMm: 260, expectedWaxKg: 1.9, areaCm2: 4100, seamM: 0.62 }),
    ],
    moulds: [
      { name: 'torso', sections: [1], pullsBefore: 0 },
      { name: 'head and arms', sections: [2, 3], pullsBefore: 0 },
      { name: 'crate', sections: [4], pullsBefore: 0 },
    ],
    begun: [60, 37, 19, 6, 1],
    due: [null, 16, 44, 70, null],
    recipe: 'ferric nitrate 30 g/l over sulphide, hot, five coats, hands rubbed back',
  },
  {
    ...base,
    code: 'TRN',
    title: 'Tern Column',
    artist: 'Aldous Fenn',
    editionSize: 4,
    finish: 'sea green, terns bright',
    glyph: 'column',
    sections: [
      section('Shaft', { metalHeightMm: 760, expectedWaxKg: 5.2, areaCm2: 10400, wallMm: 5.5 }),
      section('Terns', { metalHeightMm: 380, expectedWaxKg: 1.6, areaCm2: 3900, seamM: 0.38 }),
    ],
    moulds: [
      { name: 'shaft', sections: [1], pullsBefore: 2 },
      { name: 'terns', sections: [2], pullsBefore: 2 },
    ],
    begun: [48, 25, 9],
    due: [null, 21, null, null],
    recipe: 'cupric nitrate 80 g/l, torch, six coats, terns polished through',
  },
  {
    ...base,
    code: 'BRA',
    title: 'Bramble Bowl',
    artist: 'Magda Oyen',
    editionSize: 1,
    method: 'direct',
    approval: 'none',
    finish: 'green in the leaves, berries bright',
    glyph: 'bowl',
    sections: [section('Whole', { metalHeightMm: 140, expectedWaxKg: 1.25, areaCm2: 3300, wallMm: 4 })],
    moulds: [],
    begun: [16],
    due: [35],
    recipe: 'cupric nitrate 40 g/l, cold, berries rubbed bright',
  },
  {
    ...base,
    code: 'PIL',
    title: 'Harbour Pilot',
    artist: 'Bettina Skarre',
    editionSize: 9,
    finish: 'brown, cap black',
    glyph: 'head',
    sections: [section('Head', { metalHeightMm: 330, expectedWaxKg: 1.45, areaCm2: 2900 })],
    moulds: [{ name: 'head', sections: [1], pullsBefore: 0 }],
    begun: [56, 41, 32, 22, 13, 5, 2],
    due: [null, -1, 8, null, 34, 48],
    recipe: 'ferric nitrate 20 g/l, hot, cap with liver of sulphur',
  },
  {
    ...base,
    code: 'RAK',
    title: 'Cockle Rake',
    artist: 'Jory Pellam',
    editionSize: 8,
    alloyId: 'C90500',
    approval: 'none',
    finish: 'iron grey, teeth bright',
    glyph: 'tool',
    sections: [section('Rake', { metalHeightMm: 420, expectedWaxKg: 0.52, areaCm2: 1350, wallMm: 4.5 })],
    moulds: [{ name: 'rake', sections: [1], pullsBefore: 6 }],
    begun: [50, 38, 33, 23, 15, 8, 2],
    due: [null, null, 5, 18, 18, null, null],
    recipe: 'liver of sulphur 8 g/l, cold, teeth rubbed bright',
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
    readings: { defects: [{ code: 'misrun', where: 'left haunch', mm: 60, verdict: 'recast' }] },
  },
  {
    work: 'OTT',
    piece: 4,
    kind: 'inspect',
    outcome: 'weld',
    note: 'two pinholes by the ear',
    readings: { defects: [{ code: 'gas', where: 'by the ear', mm: 2, verdict: 'weld' }] },
  },
];

/** What was cut out, cut off or put in, and by when it was put back: of the piece's cast of that section. */
export const OPEN_ITEMS = [
  {
    work: 'HER',
    piece: 3,
    section: 'Body',
    kind: 'window',
    what: 'window under the left wing, 60 × 40 mm',
    daysAgo: 24,
  },
  { work: 'NET', piece: 2, section: 'Torso', kind: 'window', what: 'window in the back, 90 × 70 mm', daysAgo: 33 },
  { work: 'NET', piece: 2, section: 'Torso', kind: 'pins', what: 'six core pins, 3 mm bronze', daysAgo: 33 },
  { work: 'TRN', piece: 2, section: 'Shaft', kind: 'armature', what: 'steel rod inside, 12 mm', daysAgo: 20 },
] as const;

/** A week in which the room was wet and the shells dried slowly: from and to, in days before today. */
export const DAMP = { from: 27, to: 21 } as const;

/** Who ordered what: pieces by work and number in the edition; due in days from today. */
export const ORDERS = [
  {
    client: 'Marrowby Harbour Trust',
    contact: 'the clerk, at the harbour office',
    title: 'Quay front',
    place: 'on the old slip, by crane',
    due: 44,
    partDelivery: false,
    note: 'The three are set up on one day.',
    pieces: { NET: [3], TRN: [3], HER: [5] },
  },
  {
    client: 'Saltgate Gallery',
    contact: 'the front desk, mornings',
    title: 'Summer hanging',
    place: 'Saltgate, back door',
    due: 33,
    partDelivery: true,
    note: '',
    pieces: { OTT: [8, 9, 10], HER: [3], RAK: [6] },
  },
  {
    client: 'Guild of Chandlers',
    contact: 'the guild’s steward',
    title: 'Members’ mallets',
    place: 'the guild hall',
    due: 38,
    partDelivery: true,
    note: 'Stamped with the members’ numbers.',
    pieces: { MAL: [9, 10, 11, 12, 13] },
  },
  {
    client: 'Odile Marsh',
    contact: 'by letter',
    title: 'For the garden room',
    place: 'collected here',
    due: 35,
    partDelivery: false,
    note: '',
    pieces: { BRA: [1], PIL: [4] },
  },
] as const;

/** Where no hand goes on: a patch waits for a decision, a heavy wax for its mending, a casting for its inspection. */
export const LEFT_ALONE: readonly {
  readonly work: string;
  readonly piece: number;
  readonly kind: string;
  readonly section?: string;
}[] = [
  { work: 'HER', piece: 4, section: 'Wing B', kind: 'patch' },
  { work: 'OTT', piece: 9, kind: 'join-tree' },
  { work: 'NET', piece: 2, kind: 'inspect', section: 'Crate' },
];

export const HOLD = {
  work: 'HER',
  piece: 5,
  daysAgo: 3,
  reason: 'artist asks for a second look at the wing joints',
  untilDays: 6,
} as const;
