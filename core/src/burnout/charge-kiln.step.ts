import { stepKind } from '../route/step-kind.ts';
import { FIRED, loadFacts } from './fired.step.ts';

/** What concerns the whole load: it was charged and fired. */
export const chargeKiln = stepKind({
  code: 'charge-kiln',
  room: 'burnout',
  name: 'Fire the load',
  carrier: 'load',
  minutes: 60,
  through: 'load',
  readings: FIRED,
  cautions: ['autoclave'],
  facts: (index, step) => loadFacts(index, step.carrierId),
});
