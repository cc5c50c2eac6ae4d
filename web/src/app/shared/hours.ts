import { minuteOfDay } from '@kalvet/core';

export interface Window {
  readonly from: string;
  readonly to: string;
}

const two = (text: string) => text.padStart(2, '0');

/** One time as people type it, `8`, `8:30`, `16.30`, as `HH:MM`; undefined where it is none. */
function timeOf(text: string): string | undefined {
  const found = /^(\d{1,2})(?:[:.](\d{2}))?$/.exec(text.trim());
  if (!found) return undefined;
  const time = `${two(found[1]!)}:${found[2] ?? '00'}`;
  return minuteOfDay(time) === undefined ? undefined : time;
}

/** Reads a day's hours, `8–12, 12:30–16:30`; nothing typed is closed. @returns the windows, or what is wrong */
export function parseHours(text: string): { readonly windows: Window[]; readonly wrong?: string } {
  const windows: Window[] = [];
  for (const part of text
    .split(/[,;]/)
    .map((each) => each.trim())
    .filter(Boolean)) {
    const [from, to, more] = part.split(/\s*(?:-|–|to)\s*/).map(timeOf);
    if (!from || !to || more !== undefined) return { windows: [], wrong: `“${part}” is not from–to, as 8:00–12:00` };
    if (minuteOfDay(from)! >= minuteOfDay(to)!) return { windows: [], wrong: `“${part}” ends before it begins` };
    windows.push({ from, to });
  }
  return { windows };
}

/** A day's hours as they are typed. */
export const hoursInWords = (windows: readonly Window[]): string =>
  windows.map(({ from, to }) => `${from}–${to}`).join(', ');

/** Minutes as a shop says them: `90`, `3 h`, `2 d`; undefined where it is no such thing, null for nothing. */
export function parseSpan(text: string): number | null | undefined {
  const words = text.trim();
  if (words === '' || words === '–' || words === '-') return null;
  let minutes = 0;
  const parts = words.matchAll(/(\d+(?:[.,]\d+)?)\s*(min|m|h|d)?\s*/gy);
  let read = 0;
  for (const [all, value, unit] of parts) {
    minutes += Number(value!.replace(',', '.')) * (unit === 'd' ? 1440 : unit === 'h' ? 60 : 1);
    read += all.length;
  }
  return read === words.length && read > 0 ? Math.round(minutes) : undefined;
}

/** Minutes as short as they are typed: `2 d`, `4 h`, `1 h 30 min`. */
export function spanShort(minutes: number | null): string {
  if (minutes === null) return '–';
  const days = Math.floor(minutes / 1440);
  const hours = Math.floor((minutes % 1440) / 60);
  const rest = minutes % 60;
  const parts = [days ? `${days} d` : '', hours ? `${hours} h` : '', rest ? `${rest} min` : ''].filter(Boolean);
  return parts.join(' ') || '0';
}
