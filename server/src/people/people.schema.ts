import Joi from 'joi';
import type { AddPerson, ChangePerson, Units } from '@kalvet/core';
import { GATES, LETTERS, ROLES, ROOMS, SKILLS, UNIT_CHOICES } from '@kalvet/core';
import { form, id, oneOf, part, text, version } from '../write/schemas.ts';

const units = () =>
  part<Units>({
    mass: oneOf(UNIT_CHOICES.mass).required(),
    temperature: oneOf(UNIT_CHOICES.temperature).required(),
    length: oneOf(UNIT_CHOICES.length).required(),
    volume: oneOf(UNIT_CHOICES.volume).required(),
    area: oneOf(UNIT_CHOICES.area).required(),
  });

const several = (choices: readonly string[]) => Joi.array().items(oneOf(choices)).unique().max(choices.length);

export const addPerson = form<AddPerson>({
  id: id().required(),
  name: text(LETTERS.name).required(),
  shortName: text(LETTERS.shortName).required(),
  roles: several(ROLES).required(),
  rooms: several(ROOMS).required(),
  gates: several(GATES).required(),
  skills: several(SKILLS).optional(),
});

export const changePerson = form<ChangePerson>({
  version: version(),
  name: text(LETTERS.name).optional(),
  shortName: text(LETTERS.shortName).optional(),
  roles: several(ROLES).optional(),
  rooms: several(ROOMS).optional(),
  gates: several(GATES).optional(),
  skills: several(SKILLS).optional(),
  active: Joi.boolean().optional(),
  units: units().optional(),
});
