import type { Bars } from '@kalvet/core';

/** Bars whose length is a number by now: while one is typed, the others are summed up. */
export const readable = (bars: readonly Bars[]): Bars[] =>
  bars.filter(({ count, lengthMm }) => count > 0 && lengthMm > 0);
