import Joi from 'joi';
import type { SectionGiven, SetUpWork } from '@kalvet/core';
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
  whole,
  words,
} from '../write/schemas.ts';

/** A section's figures. */
export const section = {
  name: text(LETTERS.name).required(),
  wallMm: number(LIMITS.wallMm).required(),
  metalHeightMm: number(LIMITS.metalHeightMm).allow(null).required(),
  expectedWaxKg: number(LIMITS.waxKg).allow(null).required(),
  areaCm2: number(LIMITS.areaCm2).allow(null).required(),
  seamM: number(LIMITS.seamM).allow(null).required(),
  deep: Joi.boolean().required(),
  typed: typed(),
};

/** What a work is set up with. */
export const setUp = {
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
  glyph: words(LETTERS.glyph),
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

const nameOf = (given: { name?: unknown } | null): string =>
  typeof given?.name === 'string' ? given.name.trim().toLowerCase() : '';
