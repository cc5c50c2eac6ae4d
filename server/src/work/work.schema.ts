import Joi from 'joi';
import type { AddMould, ChangeMould, ChangeSection, ChangeWork, SetUpAnew } from '@kalvet/core';
import { APPROVALS, LETTERS, LIMITS, MOST } from '@kalvet/core';
import { section, setUp } from '../shop/set-up.schema.ts';
import { form, id, oneOf, text, version, whole, words } from '../write/schemas.ts';

export const setUpAnew = form<SetUpAnew>({ ...setUp, version: version() });
export const removeWork = form<{ version: number }>({ version: version() });

export const changeWork = form<ChangeWork>({
  version: version(),
  title: text(LETTERS.title).required(),
  artist: text(LETTERS.title).required(),
  finish: words(LETTERS.finish),
  approval: oneOf(APPROVALS).required(),
});

export const changeSection = form<ChangeSection>({ version: version(), ...section });

export const changeMould = form<ChangeMould>({
  version: version(),
  lifePulls: whole(LIMITS.lifePulls).allow(null).required(),
  retire: Joi.boolean().required(),
});

export const addMould = form<AddMould>({
  id: id().required(),
  name: text(LETTERS.name).required(),
  sectionIds: Joi.array().items(id()).min(1).max(MOST.sections).unique().required(),
});
