import type { Refusal } from '../records/refusal.ts';
import { never } from '../records/refusal.ts';
import type { Instant } from '../units/instant.ts';
import { at, say } from '../units/words.ts';

/** A wet shell, core or block is never poured; nobody can override it. @param since when it became wet, or null */
export const judgeWet = (since: Instant | null): Refusal[] =>
  since === null
    ? []
    : [never('wet', say`The mould is wet since ${at(since)}: dry or fire it first. A wet mould is never poured.`)];
