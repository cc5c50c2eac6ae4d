import { WAXES } from '../materials/waxes.ts';

/** The waxes that a cast is made of; sprue wax is for bars. */
export const CAST_WAXES = WAXES.filter(({ cast }) => cast).map(({ code, short }) => ({ code, label: short }));
