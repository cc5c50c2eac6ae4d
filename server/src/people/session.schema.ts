import Joi from 'joi';
import type { AuditWhat, ChangePassword, Id, PairTablet, SetPin, SetUpShop, SignIn, SignInByPin } from '@kalvet/core';
import { AUDITED, LETTERS, PASSWORD_MOST, PIN_MOST, ROOMS } from '@kalvet/core';
import { form, id, oneOf, text } from '../write/schemas.ts';

/** Taken as it is typed: a password's letters are nobody's business. */
const secret = (max: number = PASSWORD_MOST) => Joi.string().min(1).max(max).required();

export const setUp = form<SetUpShop>({
  shopName: text(80).optional(),
  name: text(LETTERS.name).required(),
  shortName: text(LETTERS.shortName).required(),
  password: secret(),
});
export const signIn = form<SignIn>({ name: text(LETTERS.name).required(), password: secret() });
export const signInByPin = form<SignInByPin>({ personId: id().required(), pin: secret(PIN_MOST) });
export const choose = form<{ readonly personId: Id }>({ personId: id().required() });
export const changePassword = form<ChangePassword>({ before: secret(), password: secret() });
export const setPin = form<SetPin>({ password: secret(), pin: secret(PIN_MOST) });
export const pair = form<PairTablet>({
  name: text(80).required(),
  room: oneOf(ROOMS).allow(null).required(),
});
export const openid = form<{ readonly openid: string }>({ openid: Joi.string().trim().allow('').max(200).required() });
export const nothing = form<object>({});
export const auditAsked = form<{ readonly what?: AuditWhat | undefined; readonly before?: Id | undefined }>({
  what: oneOf(AUDITED).optional(),
  before: id().optional(),
});
