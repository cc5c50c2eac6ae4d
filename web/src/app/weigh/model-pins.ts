import type { WayUp } from '@kalvet/core';
import type { PartReport, ThicknessReport } from '@kalvet/core/weigh/index';
import type { Vec } from './model-scene';

/** A numbered place on the model. */
export interface ViewPin {
  readonly at: Vec;
  readonly label: string;
  readonly words: string;
  readonly kind: 'vent' | 'gate' | 'thin' | 'thick' | 'window' | 'part';
}

type Kind = ViewPin['kind'];

/** How pins of a kind are numbered, and what they are called. */
const KINDS: Readonly<Record<Exclude<Kind, 'part'>, { readonly letter: string; readonly name: string }>> = {
  vent: { letter: '', name: 'Vent' },
  gate: { letter: 'G', name: 'Gate' },
  thin: { letter: 't', name: 'Thin place' },
  thick: { letter: 'D', name: 'Thick place' },
  window: { letter: 'W', name: 'Window' },
};

const numbered = (
  kind: Exclude<Kind, 'part'>,
  places: readonly { readonly x: number; readonly y: number; readonly z: number; readonly words?: string }[],
): ViewPin[] =>
  places.map(({ x, y, z, words }, i) => ({
    at: [x, y, z],
    label: `${KINDS[kind].letter}${i + 1}`,
    words: `${KINDS[kind].name} ${i + 1}${words ? `: ${words}` : ''}`,
    kind,
  }));

/** The parts that a model was cut into, by name, at their middles. */
export const partPins = (parts: readonly PartReport[], nameOf: (i: number) => string): ViewPin[] =>
  parts.map(({ centroidMm }, i) => ({ at: centroidMm, label: nameOf(i), words: nameOf(i), kind: 'part' }));

/** Thin places, thick ones and windows, in this order. */
export const metalPins = (found: ThicknessReport | null): ViewPin[] =>
  found
    ? [...numbered('thin', found.thin), ...numbered('thick', found.thick), ...numbered('window', found.windows)]
    : [];

/** Vents, then gates. */
export const wayPins = (way: WayUp | null): ViewPin[] =>
  way ? [...numbered('vent', way.vents), ...numbered('gate', way.gates)] : [];
