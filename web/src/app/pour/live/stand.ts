import type { Figure, HeatReading, KilnOut } from '@kalvet/core';
import { secondsUntil, shellAfter } from '@kalvet/core';

/** What a reading beside its target asks for. */
export interface CupStand {
  readonly offK: number;
  readonly is: 'cold' | 'good' | 'hot';
}

/** How metal stands to a tree's target, °C: read at the cup it is compared with it, in crucible or ladle with what pouring over costs on top. */
export function metalStand(
  cup: Figure,
  transferK: number,
  { celsius, where }: Pick<HeatReading, 'celsius' | 'where'>,
): CupStand {
  const wanted = cup.value + (where === 'cup' ? 0 : transferK);
  const offK = celsius - wanted;
  const band = cup.plusMinus ?? 0;
  return { offK, is: offK < -band ? 'cold' : offK > band ? 'hot' : 'good' };
}

/** Where a shell stands so many seconds after the kiln. */
export interface ShellStand {
  readonly seconds: number;
  readonly celsius: number;
  readonly is: 'too hot' | 'ready' | 'too cold';
  /** Until it is ready, or until it is too cold; 0 where it is. */
  readonly leftS: number;
}

/**
 * A shell on its clock: by the law from the kiln's temperature on, or from a reading of the mould that is newer.
 * @param read the last reading of this mould, seconds after it left the kiln
 */
export function shellStand(
  out: KilnOut,
  seconds: number,
  read?: { readonly celsius: number; readonly atS: number },
): ShellStand {
  const byRead = read !== undefined && read.atS >= 0 && read.atS <= seconds;
  // A reading is where the law goes on from: the window's ends move with it.
  const fall = { fromC: Math.max(out.fromC, 21), wallMm: out.wallMm, share: out.share };
  const shift = byRead ? read.atS - secondsUntil(read.celsius, fall) : 0;
  const own = Math.max(0, seconds - shift);
  const celsius = shellAfter(Math.min(own, 3600), fall);
  const [fromS, toS] = [out.fromS, out.toS];
  if (own < fromS) return { seconds, celsius, is: 'too hot', leftS: fromS - own };
  return own > toS
    ? { seconds, celsius, is: 'too cold', leftS: 0 }
    : { seconds, celsius, is: 'ready', leftS: toS - own };
}
