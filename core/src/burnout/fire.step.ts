import { done, lost, stepKind } from '../route/step-kind.ts';
import { DAY_MIN, HOUR_MIN } from '../units/instant.ts';
import { FIRED, firedFacts } from './fired.step.ts';

/** The wax leaves and the shell is fired, with all the trees of its load. */
export const fire = stepKind({
  code: 'fire',
  room: 'burnout',
  name: 'Dewax and fire',
  carrier: 'tree',
  minutes: 360,
  spans: 'through',
  minWait: 4 * HOUR_MIN,
  // Not too long before the pour: a shell that was fired is tested within the week, and poured within two weeks of that.
  maxWait: 7 * DAY_MIN,
  through: 'load',
  outcomes: [done(), lost()],
  readings: FIRED,
  cautions: ['autoclave'],
  kiln: 'shell',
  dries: true,
  risk: 'shell',
  expects: () => [{ key: 'topC', low: 600, high: 1150, from: 'a shell is fired at 800 to 1000 °C' }],
  // Where the wax has left already it is only fired.
  nameOf: (index, step) =>
    (index.stepsOf.get(step.carrierId) ?? []).some((each) => index.kind(each).kiln === 'dewax' && each.state !== 'void')
      ? 'Fire'
      : 'Dewax and fire',
  facts: firedFacts,
});
