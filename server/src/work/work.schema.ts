import Joi from 'joi';
import type { SetUpWork } from '@kalvet/core';
import { ALLOYS, APPROVALS, METHODS } from '@kalvet/core';
import { day, form, id, part, text } from '../write/schemas.ts';

/** Casts of one work: beyond this a set-up would be a slip of the finger. */
const MOST_CASTS = 2000;

export const setUpWork = form<SetUpWork>({
  id: id().required(),
  code: Joi.string()
    .pattern(/^[A-Z0-9]{2,6}$/, { name: '2 to 6 capital letters or digits' })
    .required(),
  title: text().required(),
  artist: text().required(),
  editionSize: Joi.number().integer().min(0).max(999).required(),
  artistProofs: Joi.number().integer().min(0).max(99).required(),
  alloyId: Joi.string()
    .valid(...ALLOYS.map((alloy) => alloy.id))
    .required(),
  method: Joi.string()
    .valid(...METHODS)
    .required(),
  approval: Joi.string()
    .valid(...APPROVALS)
    .required(),
  finish: Joi.string().trim().allow('').max(500).required(),
  glyph: Joi.string().trim().allow('').max(40).required(),
  dueDate: day().allow(null).required(),
  sections: Joi.array()
    .items(
      part<SetUpWork['sections'][number]>({
        name: text(120).required(),
        wallMm: Joi.number().min(1).max(100).required(),
        metalHeightMm: Joi.number().min(5).max(20000).allow(null).required(),
        expectedWaxKg: Joi.number().min(0.005).max(2000).allow(null).required(),
        areaCm2: Joi.number().min(1).max(1e6).allow(null).required(),
        seamM: Joi.number().min(0).max(200).allow(null).required(),
        deep: Joi.boolean().required(),
      }),
    )
    .min(1)
    .max(60)
    .unique((a: { name: string }, b: { name: string }) => a.name.toLowerCase() === b.name.toLowerCase())
    .required(),
  moulds: Joi.array()
    .items(
      part<SetUpWork['moulds'][number]>({
        name: text(120).required(),
        sections: Joi.array().items(Joi.number().integer().min(1).max(60)).min(1).unique().required(),
        pullsBefore: Joi.number().integer().min(0).max(10000).required(),
      }),
    )
    .max(60)
    .required(),
});

/** What no single field shows to be wrong. */
export function acrossFields(work: SetUpWork): Record<string, string> {
  const fields: Record<string, string> = {};
  const unique = work.method === 'direct';
  const pieces = unique ? 1 : work.editionSize + work.artistProofs;
  if (pieces === 0) fields['editionSize'] = 'an edition needs at least one piece';
  if (unique && work.editionSize + work.artistProofs !== 1)
    fields['editionSize'] = 'a direct wax is unique: 1 piece, no proofs';
  if (pieces * work.sections.length > MOST_CASTS)
    fields['editionSize'] = `${pieces} pieces of ${work.sections.length} sections are more than ${MOST_CASTS} casts`;
  work.moulds.forEach((mould, i) => {
    if (mould.sections.some((place) => place > work.sections.length))
      fields[`moulds.${i}.sections`] = 'names a section that is not there';
  });
  if (unique && work.moulds.length > 0) fields['moulds'] = 'a direct wax has no mould';
  const made = new Set(work.moulds.flatMap((mould) => mould.sections));
  const missing = work.sections.filter((_, i) => !made.has(i + 1));
  if (!unique && missing.length > 0) fields['moulds'] = `no mould makes ${missing.map(({ name }) => name).join(', ')}`;
  return fields;
}
