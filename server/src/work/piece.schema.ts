import type { ChangePiece, HoldPiece, LoseCast, Versioned, WithReason } from '@kalvet/core';
import { HOLD_SHELLS, LETTERS, PRIORITIES, ROOMS } from '@kalvet/core';
import { day, form, instant, oneOf, text, version } from '../write/schemas.ts';

const why = () => text(LETTERS.why).required();

export const plain = form<Versioned>({ version: version() });
export const withReason = form<WithReason>({ version: version(), reason: why() });
export const hold = form<HoldPiece>({
  version: version(),
  reason: why(),
  until: day().allow(null).required(),
  shells: oneOf(HOLD_SHELLS).optional(),
});
export const changePiece = form<ChangePiece>({
  version: version(),
  dueDate: day().allow(null).required(),
  priority: oneOf(PRIORITIES).optional(),
});
export const loseCast = form<LoseCast>({
  version: version(),
  room: oneOf(ROOMS).required(),
  why: why(),
  at: instant().required(),
});
