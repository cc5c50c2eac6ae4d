import type { Heat } from '../records/pour.ts';
import type { Charge } from '../pour/charge.ts';
import { charge } from '../pour/charge.ts';

/** The charge that a heat's pour weights ask for, by the heat's own melt loss, pig reserve and crucible. */
export const heatCharge = (
  heat: Pick<Heat, 'pigReserveKg' | 'meltLoss' | 'usableKg' | 'holdsKg'>,
  plannedKg: readonly number[],
  returns: { readonly returnsKg?: number; readonly returnsShare?: number } = {},
): Charge =>
  charge({
    pourWeightsKg: plannedKg,
    pigReserveKg: heat.pigReserveKg,
    meltLoss: heat.meltLoss,
    usableKg: heat.usableKg,
    holdsKg: heat.holdsKg,
    ...returns,
  });
