import type { Scenario } from '../records/practice.ts';

const KILN_C = 870;

const scenario = (given: Partial<Scenario> & Pick<Scenario, 'id' | 'title' | 'about' | 'trees'>): Scenario => ({
  metalOffK: 0,
  kilnC: KILN_C,
  wet: [],
  cracked: [],
  closed: [],
  events: [],
  wrongUnit: 0,
  dropout: 0,
  ...given,
});

/** What crews rehearse: ten pours as data. Times are seconds after the beginning. */
export const SCENARIOS: readonly Scenario[] = [
  scenario({
    id: 'plain',
    title: 'A plain pour',
    about: 'Three trees, nothing out of the way. Find the order of your hands.',
    trees: ['usual', 'usual', 'thick'],
  }),
  scenario({
    id: 'wet',
    title: 'A mould is found wet',
    about: 'Three trees. Look before you pour.',
    trees: ['usual', 'usual', 'thick'],
    wet: [2],
    events: [{ atS: 20, order: 2, text: 'Steam at the foot of the shell: it stood under the gutter.' }],
  }),
  scenario({
    id: 'crack',
    title: 'A shell cracks',
    about: 'Three trees out of a kiln that was opened twice.',
    trees: ['usual', 'usual', 'usual'],
    cracked: [2],
    events: [{ atS: 18, order: 2, text: 'A hairline opens at the shoulder, a hand long.' }],
  }),
  scenario({
    id: 'cold-metal',
    title: 'The metal is colder than it was said',
    about: 'A thin one and two thick ones. The furnace man says it is ready.',
    trees: ['thin', 'thick', 'thick'],
    metalOffK: -70,
  }),
  scenario({
    id: 'away',
    title: 'The second is called away',
    about: 'Three trees, and only two people at the crucible.',
    trees: ['usual', 'usual', 'thick'],
    closed: [{ fromS: 25, toS: 65, why: 'nobody stood at the other side of the crucible' }],
    events: [
      { atS: 25, text: 'The second at the crucible is called away.' },
      { atS: 65, text: 'The second is back.' },
    ],
  }),
  scenario({
    id: 'cold-shells',
    title: 'The kiln was not at its temperature',
    about: 'Three trees. The kiln’s door did not close well.',
    trees: ['thin', 'usual', 'thick'],
    kilnC: 560,
    events: [{ atS: 5, text: 'The kiln’s controller shows 560 °C.' }],
  }),
  scenario({
    id: 'thin-last',
    title: 'The thin one stands last',
    about: 'Somebody has set them in the order of their places. You may choose another.',
    trees: ['thick', 'thick', 'usual', 'thin'],
  }),
  scenario({
    id: 'wrong-unit',
    title: 'The pyrometer says 2,170',
    about: 'The pyrometer was lent out over the weekend.',
    trees: ['usual', 'usual'],
    wrongUnit: 0.4,
    events: [{ atS: 8, text: 'The pyrometer jumps between two readings.' }],
  }),
  scenario({
    id: 'silent',
    title: 'The pyrometer falls silent',
    about: 'Its battery is low. There is an infrared one, and there are eyes.',
    trees: ['usual', 'usual', 'thick'],
    dropout: 0.25,
    events: [{ atS: 10, text: 'The pyrometer shows nothing for a while.' }],
  }),
  scenario({
    id: 'visitor',
    title: 'A guest steps over the line',
    about: 'There is a visit in the house.',
    trees: ['usual', 'thick', 'usual'],
    closed: [{ fromS: 22, toS: 48, why: 'a guest stood between crucible and pit' }],
    events: [
      { atS: 22, text: 'A guest steps over the line to take a picture.' },
      { atS: 48, text: 'The guest is behind the line again.' },
    ],
  }),
];

/** Seconds by which what happens comes sooner or later with the seed, so that nobody learns it by heart. */
const SHIFT_S = 8;

/** A number from 0 to 1 of a seed (D. Lehmer's generator, two steps). */
const of = (seed: number): number => {
  const first = (((Math.abs(Math.floor(seed)) % 2_147_483_646) + 1) * 48_271) % 2_147_483_647;
  return ((first * 48_271) % 2_147_483_647) / 2_147_483_647;
};

/**
 * A scenario as it is played: its events some seconds sooner or later, and what befalls a tree befalls another with another seed.
 * @throws RangeError naming the scenarios that exist
 */
export function scenarioOf(id: string, seed: number): Scenario {
  const found = SCENARIOS.find((each) => each.id === id);
  if (!found) throw new RangeError(`no scenario ${id}; there are ${SCENARIOS.map((each) => each.id).join(', ')}`);
  const shift = Math.round((of(seed) * 2 - 1) * SHIFT_S);
  const turn = Math.floor(of(seed + 1) * found.trees.length);
  const turned = (order: number) => ((order - 1 + turn) % found.trees.length) + 1;
  return {
    ...found,
    wet: found.wet.map(turned),
    cracked: found.cracked.map(turned),
    closed: found.closed.map((each) => ({ ...each, fromS: each.fromS + shift, toS: each.toS + shift })),
    events: found.events.map((event) => ({
      ...event,
      atS: Math.max(2, event.atS + shift),
      ...(event.order === undefined ? {} : { order: turned(event.order) }),
    })),
  };
}
