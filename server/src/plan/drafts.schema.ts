import Joi from 'joi';
import type { DraftChange, SaveDraft, TakeDraft } from '@kalvet/core';
import { HOLD_SHELLS, LETTERS, LIMITS, MOST, PRIORITIES } from '@kalvet/core';
import { handsChange, inOrder } from './planning.schema.ts';
import { setUpWork } from '../shop/set-up.schema.ts';
import { day, form, id, oneOf, part, text, version, versionOrNew, whole } from '../write/schemas.ts';

const kind = (name: DraftChange['kind']) => Joi.string().valid(name).required();

const hands = part<Extract<DraftChange, { kind: 'hands' }>>({
  kind: kind('hands'),
  resourceId: id().required(),
  ...handsChange(),
}).custom(inOrder);

/** Every change by its kind; anything else has no such kind. */
const BY_KIND: Readonly<Record<DraftChange['kind'], Joi.ObjectSchema>> = {
  'open day': part({ kind: kind('open day'), calendarId: id().required(), date: day().required() }),
  'closed day': part({ kind: kind('closed day'), calendarId: id().required(), date: day().required() }),
  count: part({ kind: kind('count'), resourceId: id().required(), count: whole(LIMITS.hands).required() }),
  hands,
  mould: part({ kind: kind('mould'), mouldId: id().required() }),
  due: part({ kind: kind('due'), pieceId: id().required(), dueDate: day().allow(null).required() }),
  priority: part({ kind: kind('priority'), pieceId: id().required(), priority: oneOf(PRIORITIES).required() }),
  hold: part({
    kind: kind('hold'),
    pieceId: id().required(),
    until: day().allow(null).required(),
    shells: oneOf(HOLD_SHELLS).required(),
  }),
  'lost cast': part({ kind: kind('lost cast'), castId: id().required() }),
  enquiry: part({ kind: kind('enquiry'), work: setUpWork.required() }),
};

const change = () =>
  Joi.alternatives().conditional('.kind', {
    switch: Object.entries(BY_KIND).map(([name, then]) => ({ is: name, then })),
    otherwise: Joi.forbidden(),
  });

export const draft = form<SaveDraft>({
  id: id().required(),
  version: versionOrNew(),
  name: text(LETTERS.name).required(),
  changes: Joi.array().items(change()).min(1).max(MOST.changes).required(),
});

export const take = form<TakeDraft>({
  version: version(),
  basis: Joi.number().integer().min(0).required(),
  order: part<NonNullable<TakeDraft['order']>>({
    id: id().required(),
    clientId: id().required(),
    title: text(LETTERS.title).required(),
    dueDate: day().required(),
  }).optional(),
});

export const drop = form<{ version: number }>({ version: version() });

/** Asked again by the ticket of a question that waits; of a draft as it was read. */
export const asked = form<{ readonly ticket?: string | undefined; readonly version?: string | undefined }>({
  ticket: text(100).optional(),
  version: text(12).optional(),
});
