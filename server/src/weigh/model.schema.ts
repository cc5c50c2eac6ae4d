import Joi from 'joi';
import type {
  AskModelJob,
  CurvePoint,
  CutPlane,
  EstimateSection,
  ModelMeasured,
  ModelPlace,
  ModelSizing,
  SaveModel,
  SaveSilhouette,
  SaveWayUp,
  WayUp,
} from '@kalvet/core';
import { ESTIMATE_KINDS, LETTERS, LIMITS, RUBBERS } from '@kalvet/core';
import { form, id, number, oneOf, part, text, version, versionOrNew, words } from '../write/schemas.ts';

/** Lengths and volumes of models: from a grain to a monument. */
const length = () => Joi.number().min(-1e6).max(1e6).required();
const amount = () => Joi.number().min(0).max(1e12).required();
const direction = () => Joi.array().items(Joi.number().min(-1e3).max(1e3)).length(3).required();
const MOST = { planes: 6, places: 60, warnings: 60, curve: 40, parts: 60 } as const;

const sizing = part<ModelSizing>({
  unit: oneOf(['micron', 'mm', 'cm', 'm', 'in', 'ft']).required(),
  bronzeMm: number(LIMITS.bronzeMm).allow(null).required(),
  axis: oneOf(['x', 'y', 'z']).required(),
  rubber: oneOf(RUBBERS.map(({ code }) => code)).required(),
});

const curve = () =>
  Joi.array()
    .items(part<CurvePoint>({ wallMm: number(LIMITS.wallMm).required(), volumeCm3: amount(), plusMinusCm3: amount() }))
    .max(MOST.curve);

const measured = part<ModelMeasured>({
  format: text(20).required(),
  triangles: amount().integer(),
  watertight: Joi.boolean().required(),
  volumeCm3: amount().allow(null),
  volumePlusMinusCm3: amount(),
  areaCm2: amount(),
  sizeMm: Joi.array().items(amount()).length(3).required(),
  up: oneOf(['y', 'z']).required(),
  toWax: number(LIMITS.scale).required(),
  curve: curve().required(),
  thickestMm: amount().allow(null),
  warnings: Joi.array().items(text(300)).max(MOST.warnings).required(),
});

const place = part<ModelPlace>({ x: length(), y: length(), z: length(), words: words(LETTERS.what) });
const wayUp = part<WayUp>({
  up: direction(),
  heightMm: amount(),
  vents: Joi.array().items(place).max(MOST.places).required(),
  gates: Joi.array().items(place).max(MOST.places).required(),
});

export const saveModel = form<SaveModel>({
  id: id().required(),
  version: versionOrNew(),
  workId: id().required(),
  sectionId: id().allow(null).required(),
  contentId: id().required(),
  name: text(LETTERS.title).required(),
  sizing: sizing.required(),
  measured: measured.required(),
  planes: Joi.array()
    .items(part<CutPlane>({ normal: direction(), offsetMm: length() }))
    .max(MOST.planes)
    .required(),
  cutNames: Joi.array().items(words(LETTERS.name).optional()).max(MOST.parts).required(),
  wayUp: wayUp.allow(null).required(),
});

export const askModelJob = form<AskModelJob>({
  id: id().required(),
  contentId: id().required(),
  name: text(LETTERS.title).required(),
  question: part<AskModelJob['question']>({
    unit: oneOf(['micron', 'mm', 'cm', 'm', 'in', 'ft']).required(),
    scale: number(LIMITS.scale).required(),
  }).required(),
});

export const putModelAway = form<{ readonly version: number; readonly reason: string }>({
  version: version(),
  reason: text(LETTERS.why).required(),
});

export const estimateSection = form<EstimateSection>({
  version: version(),
  add: part<NonNullable<EstimateSection['add']>>({
    id: id().required(),
    kind: oneOf(ESTIMATE_KINDS).required(),
    waxKg: number(LIMITS.waxKg).allow(null).required(),
    plusMinusKg: Joi.number().min(0).max(2000).allow(null).required(),
    curve: curve().min(1).allow(null).required(),
    areaCm2: amount().allow(null),
    says: Joi.alternatives(
      text(LETTERS.note),
      Joi.object({ say: text(LETTERS.note).required(), parts: Joi.array().max(20).required() }),
    ).required(),
    modelId: id().allow(null).required(),
  })
    .allow(null)
    .required(),
  putAway: part<NonNullable<EstimateSection['putAway']>>({
    id: id().required(),
    reason: text(LETTERS.why).required(),
  })
    .allow(null)
    .required(),
});

export const saveWayUp = form<SaveWayUp>({ version: version(), wayUp: wayUp.allow(null).required() });

export const saveSilhouette = form<SaveSilhouette>({
  version: version(),
  glyph: text(LETTERS.glyph)
    .pattern(/^([a-z]{1,40}|[MLz\d. ]+)$/, { name: 'a silhouette' })
    .required(),
});
