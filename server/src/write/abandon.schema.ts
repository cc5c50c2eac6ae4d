import type { Abandon } from '@kalvet/core';
import { LETTERS } from '@kalvet/core';
import { form, text, version } from './schemas.ts';

/** Giving up a heat or a load. */
export const abandon = form<Abandon>({ version: version(), reason: text(LETTERS.why).required() });
