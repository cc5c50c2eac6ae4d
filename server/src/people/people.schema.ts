import Joi from 'joi';
import type { Id } from '@kalvet/core';
import { form, id, text, version } from '../write/schemas.ts';

export interface AddPerson {
  readonly id: Id;
  readonly name: string;
  readonly shortName: string;
  readonly mayOverride: boolean;
}

export const addPerson = form<AddPerson>({
  id: id().required(),
  name: text(120).required(),
  shortName: text(12).required(),
  mayOverride: Joi.boolean().required(),
});

export interface ChangePerson {
  readonly version: number;
  readonly name?: string | undefined;
  readonly mayOverride?: boolean | undefined;
  readonly active?: boolean | undefined;
}

export const changePerson = form<ChangePerson>({
  version: version(),
  name: text(120).optional(),
  mayOverride: Joi.boolean().optional(),
  active: Joi.boolean().optional(),
});
