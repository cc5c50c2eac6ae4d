import { choice, num } from '../records/readings.ts';
import { coatCount } from '../route/labels.ts';
import { again, done, lost, stepKind } from '../route/step-kind.ts';
import { HOUR_MIN } from '../units/instant.ts';

/** Fine face coats dry sooner; a deep hollow takes three times as long. */
const FACE_COATS = 2;
const FACE_WAIT = 3 * HOUR_MIN;
const DEEP_FACTOR = 3;
/** After the face coats come so many of medium grain; then coarse ones. */
const MEDIUM_UNTIL = 4;

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
  readings: [
    choice('slurry', 'Slurry', SLURRIES, { required: true }),
    choice('stucco', 'Stucco', STUCCOS, { required: true }),
    num('roomC', 'Room', '°C', [0, 50, 1], { lastsHours: 12 }),
    num('roomRh', 'Humidity', '%', [0, 100, 0], { lastsHours: 12 }),
  ],
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
  nameOf: (index, step) => {
    const count = coatCount(index, step.carrierId);
    const name = step.sequence === count ? `Seal coat ${step.sequence}` : `Dip coat ${step.sequence} of ${count}`;
    return step.insertedAfter ? `${name}, again` : name;
  },
  // Only a green coat grows too old for the next one; a sealed shell may hang.
  waits: ({ min, max }, { sequence, deep, isSeal }) => ({
    min: (sequence <= FACE_COATS ? FACE_WAIT : min) * (deep ? DEEP_FACTOR : 1),
    max: isSeal ? null : max,
  }),
  // The clean tank first.
  dayOrder: ({ sequence }) => (sequence <= FACE_COATS ? 0 : 1),
  // Fine on a face slurry first, then medium and coarse on the back-up; the seal coat has no stucco.
  starts: ({ sequence }, seal) => ({
    slurry: sequence <= FACE_COATS ? 'face' : 'backup',
    stucco: seal ? 'none' : sequence <= FACE_COATS ? 'fine' : sequence <= MEDIUM_UNTIL ? 'medium' : 'coarse',
  }),
});
