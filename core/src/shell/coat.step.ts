import type { ReadingDef } from '../records/readings.ts';
import { choice, num, text, yes } from '../records/readings.ts';
import { USUAL_COAT_PLAN } from '../records/coat-plan.ts';
import { never } from '../records/refusal.ts';
import { coatOf } from '../route/coat-of.ts';
import { coatCount } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { again, done, lost, stepKind } from '../route/step-kind.ts';
import { HOUR_MIN } from '../units/instant.ts';
import { at, inWords, say } from '../units/words.ts';
import { plannedCoat } from './coats-by-plan.ts';
import { inDoubt } from './tank-stand.ts';

/** Fine face coats dry sooner; a deep hollow takes three times as long. */
const FACE_COATS = 2;
const FACE_WAIT = 3 * HOUR_MIN;
const DEEP_FACTOR = 3;

const SLURRIES = [
  { code: 'face', label: 'face' },
  { code: 'backup', label: 'back-up' },
];
const STUCCOS = [
  { code: 'fine', label: 'fine' },
  { code: 'medium', label: 'medium' },
  { code: 'coarse', label: 'coarse' },
  { code: 'none', label: 'none (seal)' },
];

const FIRST_READINGS: readonly ReadingDef[] = [
  choice('slurry', 'Slurry', SLURRIES, { required: true }),
  choice('stucco', 'Stucco', STUCCOS, { required: true }),
  num('roomC', 'Room', '°C', [0, 50, 1], { lastsHours: 12 }),
  num('roomRh', 'Humidity', '%', [0, 100, 0], { lastsHours: 12 }),
];
/** How slurry and stucco came on. */
const HOW: readonly ReadingDef[] = [
  choice('method', 'Slurry by', [
    { code: 'dip', label: 'dipping' },
    { code: 'pour', label: 'pouring' },
    { code: 'brush', label: 'brush' },
    { code: 'spray', label: 'spraying' },
  ]),
  choice('stuccoBy', 'Stucco by', [
    { code: 'rain', label: 'rain' },
    { code: 'bed', label: 'bed' },
  ]),
  num('wallMm', 'Wall, where it was measured', 'mm', [0.3, 80, 1]),
];
/** The first coat decides the surface: it is looked over with a light. */
const FIRST_COAT: readonly ReadingDef[] = [
  yes('covered', 'Undercuts covered, bubbles blown off', { firstOnly: true }),
  text('where', 'Where to look again', { firstOnly: true, max: 200 }),
];

const blockedTank = ({ shop }: ShopIndex, slurry: unknown) =>
  shop.tanks?.find((tank) => tank.slurry === slurry && tank.blockedSince !== null);

/** One dip: slurry, then stucco, then drying. The last one seals and has no stucco. */
export const coat = stepKind({
  code: 'coat',
  room: 'shell',
  name: 'Dip coat',
  carrier: 'tree',
  minutes: 10,
  spans: 'unbroken',
  minWait: 4 * HOUR_MIN,
  maxWait: 72 * HOUR_MIN,
  outcomes: [done(), again('Not good: coat again'), lost()],
  readings: [...FIRST_READINGS.slice(0, 2), ...HOW, ...FIRST_READINGS.slice(2), ...FIRST_COAT],
  readingsVersion: 2,
  earlierReadings: { 1: FIRST_READINGS },
  cautions: ['silica', 'lifting'],
  coat: true,
  driesInAir: true,
  wets: () => true,
  lifts: 'dipping',
  // A shell room is held at 18–26 °C and 35–75 %; the damp and the heat of a bad week are let pass.
  expects: () => [
    { key: 'roomC', low: 12, high: 35, from: 'a shell room is held at 18 to 26 °C' },
    { key: 'roomRh', low: 20, high: 95, from: 'a shell room is held at 35 to 75 %' },
  ],
  held: (index, step) => {
    const tank = blockedTank(index, coatOf(index, step)?.slurry);
    return tank ? [inWords(say`${tank.name}: ${tank.why ?? 'to be decided'}`)] : [];
  },
  // A tank that was not as it should be is dipped in again when somebody has decided it, and not before.
  judge: (index, _, { readings, startedAt }) => {
    const tank = blockedTank(index, readings['slurry']);
    return tank && startedAt >= tank.blockedSince!
      ? [
          never(
            'tank',
            say`${tank.name}: ${tank.why ?? ''} (${at(tank.blockedSince!)}). Nothing is dipped in it until somebody who leads the shell room has decided it, on the page of the tanks.`,
          ),
        ]
      : [];
  },
  notes: (index, _, { readings, startedAt }) => {
    const tank = blockedTank(index, readings['slurry']);
    return tank && tank.doubtFrom !== null && startedAt > tank.doubtFrom && startedAt < tank.blockedSince!
      ? [inDoubt(tank)]
      : [];
  },
  nameOf: (index, step) => {
    const count = coatCount(index, step.carrierId);
    const name = step.sequence === count ? `Seal coat ${step.sequence}` : `Dip coat ${step.sequence} of ${count}`;
    return step.insertedAfter ? `${name}, again` : name;
  },
  // Only a green coat grows too old for the next one; a sealed shell may hang.
  waits: ({ min, max }, { sequence, deep, isSeal, coatMinutes }) => ({
    min: (coatMinutes ?? (sequence <= FACE_COATS ? FACE_WAIT : min)) * (deep ? DEEP_FACTOR : 1),
    max: isSeal ? null : max,
  }),
  // The clean tank first.
  dayOrder: ({ sequence }) => (sequence <= FACE_COATS ? 0 : 1),
  // As the tree's plan has it; where it has none, fine on a face slurry first, then medium and coarse on the back-up.
  starts: ({ sequence }, seal, coat = plannedCoat(USUAL_COAT_PLAN, sequence, seal)) => ({
    slurry: coat.slurry,
    stucco: coat.stucco,
    method: coat.method,
    ...(coat.stucco === 'none' ? {} : { stuccoBy: coat.stuccoBy }),
  }),
});
