import Joi from 'joi';
import type { Room } from '@kalvet/core';
import { ROOMS } from '@kalvet/core';
import { day, form, instant, text, version } from '../write/schemas.ts';

export interface Plain {
  readonly version: number;
}
export const plain = form<Plain>({ version: version() });

export interface WithReason extends Plain {
  readonly reason: string;
}
export const withReason = form<WithReason>({ version: version(), reason: text(500).required() });

export interface Hold extends WithReason {
  readonly until: string | null;
}
export const hold = form<Hold>({
  version: version(),
  reason: text(500).required(),
  until: day().allow(null).required(),
});

export interface ChangePiece extends Plain {
  readonly dueDate: string | null;
}
export const changePiece = form<ChangePiece>({ version: version(), dueDate: day().allow(null).required() });

export interface LoseCast {
  readonly version: number;
  readonly room: Room;
  readonly why: string;
  readonly at: string;
}
export const loseCast = form<LoseCast>({
  version: version(),
  room: Joi.string()
    .valid(...ROOMS)
    .required(),
  why: text(500).required(),
  at: instant().required(),
});
