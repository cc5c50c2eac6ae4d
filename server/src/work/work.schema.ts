import Joi from 'joi';
import type {
  AddMould,
  ChangeMould,
  ChangeSection,
  ChangeWork,
  SectionGiven,
  SetUpAnew,
  SetUpWork,
} from '@kalvet/core';
import { APPROVALS, FINISHINGS, LETTERS, LIMITS, METHODS, MOST } from '@kalvet/core';
import {
  alloyCode,
  day,
  form,
  id,
  number,
  oneOf,
  override,
  part,
  text,
  typed,
  version,
  whole,
  words,
} from '../write/schemas.ts';

const section = {
  name: text(LETTERS.name).required(),
  wallMm: number(LIMITS.wallMm).required(),
  metalHeightMm: number(LIMITS.metalHeightMm).allow(null).required(),
  expectedWaxKg: number(LIMITS.waxKg).allow(null).required(),
  areaCm2: number(LIMITS.areaCm2).allow(null).required(),
  seamM: number(LIMITS.seamM).allow(null).required(),
  deep: Joi.boolean().required(),
  typed: typed(),
};

const setUp = {
  id: id().required(),
  code: Joi.string()
    .pattern(/^[A-Z0-9]{2,6}$/, { name: '2 to 6 capital letters or digits' })
    .required(),
  title: text().required(),
  artist: text().required(),
  editionSize: whole(LIMITS.editionSize).required(),
  artistProofs: whole(LIMITS.artistProofs).required(),
  alloyId: alloyCode().required(),
  method: oneOf(METHODS).required(),
  approval: oneOf(APPROVALS).required(),
  finish: words(LETTERS.finish),
  finishing: oneOf(FINISHINGS).required(),
  glyph: words(40),
  dueDate: day().allow(null).required(),
  sections: Joi.array()
    .items(part<SectionGiven>(section))
    .min(1)
    .max(MOST.sections)
    // A section that is no object at all is said by the schema of its own; here only names are compared.
    .unique((a: { name?: unknown } | null, b: { name?: unknown } | null) => nameOf(a) !== '' && nameOf(a) === nameOf(b))
    .required(),
  moulds: Joi.array()
    .items(
      part<SetUpWork['moulds'][number]>({
        name: text(LETTERS.name).required(),
        sections: Joi.array()
          .items(whole({ min: 1, max: MOST.sections }))
          .min(1)
          .unique()
          .required(),
        pullsBefore: whole(LIMITS.pullsBefore).required(),
      }),
    )
    .max(MOST.moulds)
    .required(),
  override: override(),
};

export const setUpWork = form<SetUpWork>(setUp);
export const setUpAnew = form<SetUpAnew>({ ...setUp, version: version() });
export const removeWork = form<{ version: number }>({ version: version() });

const nameOf = (given: { name?: unknown } | null): string =>
  typeof given?.name === 'string' ? given.name.trim().toLowerCase() : '';

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
