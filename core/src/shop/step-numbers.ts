import { firingMinutes } from '../burnout/firing-minutes.ts';
import { alloyOf } from '../materials/alloys.ts';
import type { Id } from '../records/common.ts';
import type { Step } from '../records/step.ts';
import { pourWindow } from '../pour/pour-window.ts';
import { startsAt } from '../route/coat-of.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { castsOfTree } from '../route/shop-index.ts';
import type { StepKind } from '../route/step-kind.ts';
import { celsius, kg, mm, quantity } from '../units/quantity.ts';
import type { Text, Words } from '../units/words.ts';
import { joined, say, span } from '../units/words.ts';
import { castFromWax } from '../wax/bronze-from-wax.ts';
import { plannedWax } from '../wax/planned-wax.ts';
import { blockOf } from './block-of.ts';
import { countingWeight, ownFactorOfCast, waxDensityOfCast } from './cast-weights.ts';
import { minutesOf } from './minutes.ts';
import { firingProfileOf } from './firing-profile-of.ts';
import { treeFigures } from './tree-figures.ts';

/**
 * The numbers that a step is done by, as its line on the Day sheet has them: wax and wall, slurry and stucco with what is to
 * be lifted, the firing, kilograms and °C, hours. What nobody knows yet is left out.
 */
export function stepNumbers(index: ShopIndex, step: Step, liftLimitKg: number): Words {
  const kind = index.kind(step);
  const said = [
    ...(kind.beginsWax || kind.weighs === 'wax' ? ofWax(index, step, kind) : []),
    ...ofPlan(index, step, kind),
    ...(step.carrier === 'tree' ? ofTree(index, step, kind, liftLimitKg) : []),
    ...(kind.effort ? [say`${span(Math.max(30, Math.round(minutesOf(index, step) / 30) * 30))}`] : []),
  ];
  return joined(said, ' · ');
}

function ofWax(index: ShopIndex, { carrierId }: Step, kind: StepKind): Text[] {
  const section = index.section.get(index.cast.get(carrierId)?.sectionId ?? '');
  if (!section) return [];
  const wax = plannedWax(section, waxDensityOfCast(index, carrierId));
  return [
    ...(wax ? [say`wax ${kg(wax.value, wax.value < 1 ? 3 : 2)}`] : []),
    ...(kind.beginsWax ? [say`wall ${mm(section.wallMm)}`] : []),
  ];
}

/** What its own plan says, by the labels of its choices: `face, fine`; the profile that a kiln is fired with. */
function ofPlan(index: ShopIndex, step: Step, kind: StepKind): Text[] {
  const own = startsAt(index, step);
  const labels = Object.entries(own).map(([key, value]) => {
    const choices = kind.readings.find((def) => def.key === key)?.choices;
    return choices?.find(({ code }) => code === value)?.label ?? String(value);
  });
  const firing = firingProfileOf(index, step);
  return [
    ...(labels.length > 0 ? [labels.join(', ')] : []),
    ...(firing ? [say`${firing.name}, ${span(firingMinutes(firing))}`] : []),
  ];
}

function ofTree(index: ShopIndex, { carrierId }: Step, kind: StepKind, liftLimitKg: number): Text[] {
  const casts = castsOfTree(index, carrierId);
  if (casts.length === 0) return [];
  const alloy = alloyOf(index.tree.get(carrierId)!.alloyId);
  const said: Text[] = [];
  if (kind.mixes) said.push(...ofBlock(index, carrierId, liftLimitKg));
  if (kind.joinsTree) said.push(`${casts.length} ${casts.length === 1 ? 'cast' : 'casts'}`);
  const figures = treeFigures(index, carrierId, liftLimitKg);
  const heavy = kind.lifts && figures[kind.lifts];
  if (kind.through === 'heat') {
    const walls = casts.map(({ sectionId }) => index.section.get(sectionId)!.wallMm);
    const method = index.tree.get(carrierId)!.method === 'block' ? 'block' : 'shell';
    const { cup } = pourWindow(alloy, method, Math.min(...walls));
    if (figures.metal) said.push(say`${kg(figures.metal.pourWeight.value)}`);
    said.push(say`${celsius(cup.value)} at the cup`);
  } else if (kind.freesCasts) {
    const expected = casts.flatMap(({ id }) => {
      const wax = countingWeight(index, id, 'wax');
      return wax ? [castFromWax(wax.kg, alloy, waxDensityOfCast(index, id), ownFactorOfCast(index, id)).value] : [];
    });
    if (expected.length === casts.length) said.push(say`${kg(expected.reduce((a, b) => a + b, 0))} of casts`);
  } else if (heavy)
    said.push(heavy.tooHeavy ? say`${kg(heavy.weight.value)}: two people` : say`${kg(heavy.weight.value)}`);
  return said;
}

/** What a block is mixed of, and who can move it. */
function ofBlock(index: ShopIndex, treeId: Id, liftLimitKg: number): Text[] {
  const mix = blockOf(index, treeId, liftLimitKg);
  if (!mix) return [];
  const { powderKg, waterL, wetKg } = mix;
  return [
    say`${kg(powderKg, 0)} of powder, ${quantity(waterL, 'l', 0)} of water`,
    wetKg.value > liftLimitKg
      ? say`about ${kg(wetKg.value, 0)}: a hoist or a trolley`
      : say`about ${kg(wetKg.value, 0)}`,
  ];
}
