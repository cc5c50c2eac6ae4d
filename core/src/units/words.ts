import type { Day, Instant } from './instant.ts';
import { spanInWords } from './instant.ts';
import type { Quantity } from './quantity.ts';
import { isQuantity } from './quantity.ts';
import type { Units } from './system.ts';
import { METRIC, quantityInWords } from './system.ts';

/** What a sentence says beside its fixed words. */
export type Part =
  | string
  | number
  | Quantity
  | Words
  | { readonly instant: Instant }
  | { readonly day: Day }
  | { readonly span: number };

/**
 * A sentence as data: its fixed words with `{0}`, `{1}` … where its parts go. The words stand for the message, as in
 * gettext: they can be looked up for another language, and the parts are put into the reader's units.
 */
export interface Words {
  readonly say: string;
  readonly parts: readonly Part[];
}

/** A finished text, or a sentence that is worded where it is read. */
export type Text = string | Words;

/**
 * Writes a sentence as data.
 * @example
 * say`${kg(124.3)} is above the usable mark of ${kg(120, 0)}.`;
 * // inWords(…): "124.3 kg is above the usable mark of 120 kg.", in pounds "274.0 lb is …"
 */
export function say(strings: TemplateStringsArray, ...parts: readonly Part[]): Words {
  return { say: strings.reduce((all, text, i) => `${all}{${i - 1}}${text}`), parts };
}

/** An instant, a day or a span (minutes) inside a sentence. */
export const at = (instant: Instant): Part => ({ instant });
export const onDay = (day: Day): Part => ({ day });
export const span = (minutes: number): Part => ({ span: minutes });

/** Several texts as one, with something between. */
export function joined(texts: readonly Text[], between = ' '): Words {
  return { say: texts.map((_, i) => `{${i}}`).join(between), parts: [...texts] };
}

export const NOTHING: Words = { say: '', parts: [] };

/** Who reads: in which units, and how the shop's clock prints an instant. */
export interface Reader {
  readonly units: Units;
  readonly instant: (instant: Instant) => string;
  readonly day: (day: Day) => string;
}

/** Metric, and instants as they are kept: for logs and specs. Screens and answers have the shop's clock. */
export const PLAIN_READER: Reader = { units: METRIC, instant: (instant) => instant, day: (day) => day };

/** A text in the reader's units and by the shop's clock. */
export function inWords(text: Text, reader: Reader = PLAIN_READER): string {
  if (typeof text === 'string') return text;
  return text.say.replace(/\{(\d+)\}/g, (_, place: string) => partInWords(text.parts[Number(place)] ?? '', reader));
}

function partInWords(part: Part, reader: Reader): string {
  if (typeof part === 'string') return part;
  if (typeof part === 'number') return String(part);
  if (isQuantity(part)) return quantityInWords(part, reader.units);
  if ('say' in part) return inWords(part, reader);
  if ('instant' in part) return reader.instant(part.instant);
  if ('day' in part) return reader.day(part.day);
  return spanInWords(part.span);
}

/** Whether a text says nothing. */
export const isEmpty = (text: Text): boolean => (typeof text === 'string' ? text === '' : text.say === '');

/** A text that goes on after other words: its first letter small. */
export const lowered = (text: Text): Text =>
  typeof text === 'string' ? small(text) : text.say.startsWith('{') ? text : { ...text, say: small(text.say) };
const small = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);
