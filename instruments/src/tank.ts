/** A slurry tank as it stands in: what a flow cup reads of it, s, and what stands on its scale, kg. */
export interface StandInTank {
  readonly viscosityS: number;
  readonly kg: number;
}

/** Water that goes out of an open tank in a day, kg, and how much thicker each kilogram makes it, s. */
const [DRIES_KG_A_DAY, THICKER_S_A_KG] = [0.55, 1.1];
/** Where nothing stirs the flour settles: what runs out of the cup loses so much of its seconds in an hour. */
const SETTLES_AN_HOUR = 0.03;
const THINNEST_S = 9;

/** So many seconds later: its mixer turns or stands, trees took slurry out of it, somebody added water. */
export function tankLater(
  { viscosityS, kg }: StandInTank,
  seconds: number,
  {
    mixer,
    takenKg = 0,
    waterKg = 0,
  }: { readonly mixer: boolean; readonly takenKg?: number; readonly waterKg?: number },
): StandInTank {
  const dried = (DRIES_KG_A_DAY * seconds) / 86_400;
  const thick = viscosityS + (dried - waterKg) * THICKER_S_A_KG;
  const settled = mixer ? thick : THINNEST_S + (thick - THINNEST_S) * Math.exp((-SETTLES_AN_HOUR * seconds) / 3600);
  return { viscosityS: Math.max(THINNEST_S, settled), kg: Math.max(0, kg - dried - takenKg + waterKg) };
}
