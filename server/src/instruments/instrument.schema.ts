import Joi from 'joi';
import type { InstrumentMessage, SaveInstrument } from '@kalvet/core';
import { INSTRUMENT_KINDS, LETTERS, LIMITS, TEMPERATURE_PLACES } from '@kalvet/core';
import { day, form, id, number, oneOf, text, versionOrNew } from '../write/schemas.ts';

export const instrument = form<SaveInstrument>({
  id: id().required(),
  version: versionOrNew(),
  code: Joi.string()
    .pattern(/^[a-z0-9][a-z0-9-]{0,39}$/, { name: 'small letters, digits and hyphens: it is part of an address' })
    .required(),
  name: text(LETTERS.name).required(),
  kind: oneOf(INSTRUMENT_KINDS).required(),
  where: oneOf(TEMPERATURE_PLACES).allow(null).required(),
  // Instruments of metal read no place.
  ofId: id().allow(null).default(null),
  plusMinusK: number(LIMITS.plusMinusK).required(),
  emissivity: number(LIMITS.emissivity).allow(null).required(),
  calibratedOn: day().allow(null).required(),
  state: oneOf(['in use', 'off']).required(),
});

/** What comes in by MQTT: more than this an instrument need not say, and less says nothing. */
export const message = Joi.object<InstrumentMessage>({
  value: Joi.number().required(),
  unit: Joi.string().allow('').max(12).required(),
  humidity: Joi.number().optional(),
  at: Joi.string().max(40).optional(),
}).unknown(true);
