import { defectInWords } from '../chasing/verdict.ts';
import type { Defect } from '../records/chasing.ts';
import type { ReadingDef, ReadingKind } from '../records/readings.ts';
import type { Sight } from '../records/rights.ts';
import type { ReadingLine, StepView } from '../records/route.ts';
import type { Step } from '../records/step.ts';
import { castLabel } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import type { StepKind } from '../route/step-kind.ts';
import { readingsAt } from '../route/step-kind.ts';
import type { NamedCup } from '../records/tree-stock.ts';
import { cupSaid } from '../sprue/cups.ts';
import { cupVolumeCm3 } from '../sprue/tree-metal.ts';
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
export const veiled = <T extends Pick<StepView, 'readings' | 'typed' | 'told'>>(
  kind: StepKind,
  step: T,
  sights: readonly Sight[],
): T => ({
  ...step,
  readings: withoutHidden(kind, step.readings, sights),
  typed: withoutHidden(kind, step.typed ?? {}, sights),
  told: step.told.filter(({ key }) => key in withoutHidden(kind, { [key]: true }, sights)),
});

/** What the history tells of readings: it is read by everybody who sees the piece. */
export const toldReadings = (
  kind: StepKind,
  readings: Readonly<Record<string, unknown>>,
  taken: readonly string[] = [],
  index?: ShopIndex,
): Words => readingsInWords(kind, withoutHidden(kind, readings), kind.readingsVersion, taken, index);

/** Records by the names that readings point at; left out where nobody knows them. */
type Names = ShopIndex;
type InWords = (value: unknown, def: ReadingDef, index?: Names) => Text | undefined;

const listed = (value: unknown): readonly unknown[] => (Array.isArray(value) ? value : []);
const nameOfCast = (index: Names, id: unknown): string => {
  const cast = index.cast.get(String(id));
  return cast ? castLabel(index, cast) : 'a cast';
};

/** What each kind of reading says: the one place in core where a new one is entered. */
const VALUE: Readonly<Record<ReadingKind, InWords>> = {
  number: (value, def) =>
    typeof value === 'number' ? say`${quantity(value, def.unit ?? '', def.decimals ?? 1)}` : undefined,
  text: (value) => (typeof value === 'string' && value !== '' ? value : undefined),
  choice: (value, def) => def.choices?.find(({ code }) => code === value)?.label,
  yes: (value) => (typeof value === 'boolean' ? (value ? 'yes' : 'no') : undefined),
  defects: (value) => {
    const defects = listed(value) as Defect[];
    return defects.length > 0 ? joined(defects.map(defectInWords), '; ') : undefined;
  },
  codes: (value, def) => {
    const codes = listed(value).map((code) => def.choices?.find((each) => each.code === code)?.label ?? String(code));
    return codes.length > 0 ? codes.join('; ') : undefined;
  },
  mould: (value, _, index) => {
    const mould = index?.mould.get(String(value));
    return mould && `M-${mould.number} ${mould.name}`;
  },
  casts: (value, _, index) => {
    const ids = index ? listed(value) : [];
    return ids.length > 0 ? ids.map((id) => nameOfCast(index!, id)).join(', ') : undefined;
  },
  perCast: (value, def, index) => {
    const each = index ? Object.entries((value ?? {}) as Record<string, number>) : [];
    const said = each.map(([id, number]) => {
      const amount = quantity(number, def.unit ?? '', def.decimals ?? 1);
      return say`${nameOfCast(index!, id)} ${amount}`;
    });
    return said.length > 0 ? joined(said, ', ') : undefined;
  },
  cup: (value) => {
    if (value === false) return 'none';
    const cup = cupSaid(value, null);
    return cup === null ? undefined : say`${(cup as NamedCup).name ?? ''} ${quantity(cupVolumeCm3(cup), 'cm3', 0)}`;
  },
  bars: (value) => {
    const bars = listed(value) as { readonly stock: string; readonly count: number; readonly lengthMm: number }[];
    const said = bars.map(({ stock, count, lengthMm }) => say`${count} × ${stock} ${quantity(lengthMm, 'mm', 0)}`);
    return said.length > 0 ? joined(said, ', ') : undefined;
  },
};

/** Lists of defects name themselves; whatever else is read stands behind its name. */
const BY_ITSELF: ReadonlySet<ReadingKind> = new Set<ReadingKind>(['defects', 'codes']);
const named = (def: ReadingDef) => def.label.charAt(0).toLowerCase() + def.label.slice(1);

function inAList(def: ReadingDef, value: unknown, index?: Names): Text | undefined {
  const text = VALUE[def.kind](value, def, index);
  return text === undefined || BY_ITSELF.has(def.kind) ? text : say`${named(def)} ${text}`;
}

/** Everything that was read at a step, a line each, by the definitions of the version it was recorded with. */
export function readingLines(index: ShopIndex, step: Step): ReadingLine[] {
  const kind = index.kind(step);
  const all = readingsShown(index, step);
  return readingsAt(kind, step.readingsVersion).flatMap((def): ReadingLine[] => {
    const value = VALUE[def.kind](all[def.key], def, index);
    if (value === undefined) return [];
    const typed = step.typed[def.key];
    return [
      {
        key: def.key,
        label: def.label,
        value,
        taken: step.taken.includes(def.key),
        ...(typed === undefined ? {} : { typed }),
      },
    ];
  });
}

/** What was read, by the definitions of the version it was recorded with: `wax weighs 0.855 kg`. */
export function readingsInWords(
  kind: StepKind,
  readings: Readonly<Record<string, unknown>>,
  version = kind.readingsVersion,
  taken: readonly string[] = [],
  index?: ShopIndex,
): Words {
  const said = readingsAt(kind, version).flatMap((def) => {
    const text = inAList(def, readings[def.key], index);
    if (text === undefined) return [];
    return taken.includes(def.key) ? say`${text} (taken over)` : text;
  });
  return joined(said, ', ');
}
