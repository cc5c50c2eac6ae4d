import Joi from 'joi';
import type { AttachFile, BeginUpload, ChangeAttachment, Pin, RemoveAttachment } from '@kalvet/core';
import { ATTACHED_TO, FILE_LIMITS, LETTERS, PICTURE_ROLES } from '@kalvet/core';
import { form, id, instant, oneOf, part, text, version, words } from '../write/schemas.ts';

export const beginUpload = form<BeginUpload>({
  id: id().required(),
  name: text(LETTERS.title).required(),
  bytes: Joi.number().integer().min(0).max(Number.MAX_SAFE_INTEGER).required(),
  fingerprint: Joi.string().min(1).max(300).required(),
});

const pins = () =>
  Joi.array()
    .items(
      part<Pin>({
        x: Joi.number().min(0).max(1).required(),
        y: Joi.number().min(0).max(1).required(),
        words: words(LETTERS.what),
      }),
    )
    .max(FILE_LIMITS.pins)
    .required();

export const attachFile = form<AttachFile>({
  id: id().required(),
  contentId: id().required(),
  subject: oneOf(ATTACHED_TO).required(),
  subjectId: id().required(),
  defect: Joi.number().integer().min(0).max(59).allow(null).required(),
  name: text(LETTERS.title).required(),
  role: oneOf(PICTURE_ROLES).required(),
  words: words(LETTERS.note),
  pins: pins(),
  at: instant().allow(null).required(),
});

export const changeAttachment = form<ChangeAttachment>({
  version: version(),
  defect: Joi.number().integer().min(0).max(59).allow(null).required(),
  role: oneOf(PICTURE_ROLES).required(),
  words: words(LETTERS.note),
  pins: pins(),
});

export const removeAttachment = form<RemoveAttachment>({
  version: version(),
  reason: text(LETTERS.why).required(),
});
