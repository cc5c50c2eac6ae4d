import { defectInWords } from '../chasing/verdict.ts';
import type { Defect } from '../records/chasing.ts';
import type { ReadingDef, ReadingKind } from '../records/readings.ts';
import type { Sight } from '../records/rights.ts';
import type { StepView } from '../records/route.ts';
import type { Step } from '../records/step.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import type { StepKind } from '../route/step-kind.ts';
import { readingsAt } from '../route/step-kind.ts';
import { quantity } from '../units/quantity.ts';
import type { Text, Words } from '../units/words.ts';
import { joined, say } from '../units/words.ts';

/** Everything that was read at a step: what it keeps itself, and what records hold of it. */
export const readingsShown = (index: ShopIndex, step: Step): Readonly<Record<string, unknown>> => ({
  ...step.readings,
  ...index.kind(step).facts?.(index, step),
});

/** Readings that not everybody sees, but for those whom `sights` show. */
function withoutHidden<V>(
  kind: StepKind,
  all: Readonly<Record<string, V>>,
  sights: readonly Sight[] = [],
): Readonly<Record<string, V>> {
  const hidden = kind.readings.flatMap(({ key, sight }) => (sight && !sights.includes(sight) ? [key] : []));
  return hidden.length === 0 ? all : Object.fromEntries(Object.entries(all).filter(([key]) => !hidden.includes(key)));
}

/** A step as somebody may see it: what is not for them is left out. */
export const veiled = <T extends Pick<StepView, 'readings' | 'typed'>>(
  kind: StepKind,
  step: T,
  sights: readonly Sight[],
): T => ({
  ...step,
  readings: withoutHidden(kind, step.readings, sights),
  typed: withoutHidden(kind, step.typed ?? {}, sights),
});

/** What the history tells of readings: it is read by everybody who sees the piece. */
export const toldReadings = (
  kind: StepKind,
  readings: Readonly<Record<string, unknown>>,
  taken: readonly string[] = [],
): Words => readingsInWords(kind, withoutHidden(kind, readings), kind.readingsVersion, taken);

type InWords = (value: unknown, def: ReadingDef) => Text | undefined;

const named = (def: ReadingDef) => def.label.charAt(0).toLowerCase() + def.label.slice(1);
/** Lists of records are left to the screens, which know their names. */
const leftToScreens: InWords = () => undefined;

/** How each kind of reading is said: the one place in core where a new one is entered. */
const IN_WORDS: Readonly<Record<ReadingKind, InWords>> = {
  number: (value, def) =>
    typeof value === 'number' ? say`${named(def)} ${quantity(value, def.unit ?? '', def.decimals ?? 1)}` : undefined,
  text: (value, def) => (typeof value === 'string' && value !== '' ? `${named(def)} ${value}` : undefined),
  choice: (value, def) => {
    const picked = def.choices?.find(({ code }) => code === value);
    return picked ? `${named(def)} ${picked.label}` : undefined;
  },
  defects: (value) =>
    Array.isArray(value) && value.length > 0 ? joined((value as Defect[]).map(defectInWords), '; ') : undefined,
  codes: (value, def) =>
    Array.isArray(value) && value.length > 0
      ? value.map((code) => def.choices?.find((each) => each.code === code)?.label ?? String(code)).join('; ')
      : undefined,
  yes: leftToScreens,
  mould: leftToScreens,
  casts: leftToScreens,
  perCast: leftToScreens,
  bars: leftToScreens,
};

/** What was read, by the definitions of the version it was recorded with: `wax weighs 0.855 kg`. */
export function readingsInWords(
  kind: StepKind,
  readings: Readonly<Record<string, unknown>>,
  version = kind.readingsVersion,
  taken: readonly string[] = [],
): Words {
  const said = readingsAt(kind, version).flatMap((def) => {
    const text = IN_WORDS[def.kind](readings[def.key], def);
    if (text === undefined) return [];
    return taken.includes(def.key) ? say`${text} (taken over)` : text;
  });
  return joined(said, ', ');
}
