import type { Alloy } from '../materials/alloys.ts';
import type { PourWindow, Range } from '../records/pour-page.ts';
import { celsius, kelvin, mm } from '../units/quantity.ts';
import { say } from '../units/words.ts';
import { superheatOf } from './superheat.ts';
import { cupTarget } from './targets.ts';

/** Warned of within this of the solidus: metal in so hot a mould stays open for minutes. */
const MOULD_MARGIN_K = 100;

const SHELL_C: Range = [400, 800];

const BLOCK_C: Range = [100, 300];

const THIN_MM = 4;

const THICK_MM = 8;

/**
 * The window a tree is poured in: thin walls want the upper half of the superheat and the pour fast, thick ones the lower
 * half and slow. A shell is 400–800 °C and at least 100 K under the solidus, a block 100–300 °C.
 */
export function pourWindow(alloy: Alloy, method: 'shell' | 'block', thinnestWallMm: number): PourWindow {
  const [low, high] = superheatOf(alloy);
  const middle = (low + high) / 2;
  const [from, to] =
    thinnestWallMm <= THIN_MM ? [middle, high] : thinnestWallMm >= THICK_MM ? [low, middle] : [low, high];
  const pace = thinnestWallMm <= THIN_MM ? 'fast' : thinnestWallMm >= THICK_MM ? 'slow' : 'steady';
  const mould: Range =
    method === 'block' ? BLOCK_C : [SHELL_C[0], Math.min(SHELL_C[1], alloy.solidusC - MOULD_MARGIN_K)];
  return {
    metalC: [alloy.liquidusC + from, alloy.liquidusC + to],
    cup: cupTarget(alloy, thinnestWallMm),
    mouldC: [Math.min(mould[0], mould[1]), mould[1]],
    pace,
    inWords: say`liquidus ${celsius(alloy.liquidusC)} + ${kelvin(from)}–${kelvin(to)} for a wall of ${mm(thinnestWallMm)}; the mould ${method === 'block' ? 'a block' : say`a shell, ${kelvin(MOULD_MARGIN_K)} under the solidus at most`}`,
  };
}
