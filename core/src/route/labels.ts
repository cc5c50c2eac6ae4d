import { defectInWords } from '../chasing/verdict.ts';
import type { Defect } from '../records/readings.ts';
import { markOf, sectionLetter } from '../records/work.ts';
import type { Cast, Piece } from '../records/work.ts';
import type { StepKindCode } from '../records/step-kinds.ts';
import { STEP_KINDS } from '../records/step-kinds.ts';
import type { Step } from '../records/step.ts';
import { castsOfTree } from './shop-index.ts';
import type { ShopIndex } from './shop-index.ts';

/** `Otter with Reed 5/8`. */
export function pieceLabel(index: ShopIndex, piece: Piece): string {
  return `${index.work.get(piece.workId)?.title ?? ''} ${markOf(piece)}`.trim();
}

/** The tag on a cast: `OTT 5 B`, without a letter where the work is cast in one, from the second attempt on `OTT 5 B · attempt 2`. */
export function castLabel(index: ShopIndex, cast: Cast): string {
  const piece = index.piece.get(cast.pieceId);
  const section = index.section.get(cast.sectionId);
  const code = index.work.get(piece?.workId ?? '')?.code ?? '';
  const series = { edition: '', ap: 'AP', fp: 'FP', unique: 'U' }[piece?.series ?? 'edition'];
  const number = piece?.series === 'unique' ? '' : String(piece?.number ?? '');
  const attempt = cast.attempt > 1 ? ` · attempt ${cast.attempt}` : '';
  const single = (index.sectionsOf.get(piece?.workId ?? '') ?? []).length === 1;
  return `${code} ${series}${number} ${section && !single ? sectionLetter(section.ordinal) : ''}`.trim() + attempt;
}

/** What a step is done to, in words for a person: `T-12 (OTT 5 A)`, `OTT 5 B`, `Heron 3/8`. */
export function carrierLabel(index: ShopIndex, step: Pick<Step, 'carrier' | 'carrierId'>): string {
  const { carrier, carrierId } = step;
  if (carrier === 'cast') {
    const cast = index.cast.get(carrierId);
    return cast ? castLabel(index, cast) : 'cast';
  }
  if (carrier === 'piece') {
    const piece = index.piece.get(carrierId);
    return piece ? pieceLabel(index, piece) : 'piece';
  }
  if (carrier === 'tree') {
    const casts = castsOfTree(index, carrierId);
    const names = casts.slice(0, 3).map((cast) => castLabel(index, cast));
    const more = casts.length > 3 ? ` +${casts.length - 3}` : '';
    return `T-${index.tree.get(carrierId)?.number ?? '?'}${names.length ? ` (${names.join(', ')}${more})` : ''}`;
  }
  if (carrier === 'mould') {
    const mould = index.mould.get(carrierId);
    return mould ? `mould M-${mould.number} ${mould.name}` : 'mould';
  }
  return carrier === 'load'
    ? `load L-${index.shop.loads.find((load) => load.id === carrierId)?.number ?? '?'}`
    : `heat H-${index.shop.heats.find((heat) => heat.id === carrierId)?.number ?? '?'}`;
}

/** How many coats a tree's shell is planned to have. */
export function coatCount(index: ShopIndex, treeId: string): number {
  return Math.max(
    0,
    ...(index.stepsOf.get(treeId) ?? [])
      .filter((step) => step.kind === 'coat' && step.state !== 'void')
      .map((step) => step.sequence),
  );
}

/** A step's own name: `Dip coat 5 of 9`, `Seal coat 9`, `Join Wing A`, `Chase and weigh wax`. */
export function stepName(index: ShopIndex, step: Step): string {
  if (step.kind === 'coat') {
    const count = coatCount(index, step.carrierId);
    const name = step.sequence === count ? `Seal coat ${step.sequence}` : `Dip coat ${step.sequence} of ${count}`;
    return step.insertedAfter ? `${name}, again` : name;
  }
  if (step.kind === 'join-section') {
    return `Join ${index.section.get(step.sectionId ?? '')?.name ?? 'section'}${step.insertedAfter ? ' again' : ''}`;
  }
  if (step.insertedAfter && (step.kind === 'leak-test' || step.kind === 'inspect'))
    return `${STEP_KINDS[step.kind].name} again`;
  return STEP_KINDS[step.kind].name;
}

/** `Dip coat 5 of 9 · T-12 (OTT 5 A)`. */
export const stepLabel = (index: ShopIndex, step: Step): string =>
  `${stepName(index, step)} · ${carrierLabel(index, step)}`;

/** What was read, in words with units: `wax weighs 0.855 kg`; lists are left to the screens. */
export function readingsInWords(kind: StepKindCode, readings: Readonly<Record<string, unknown>>): string {
  return STEP_KINDS[kind].readings
    .flatMap(({ key, label, kind: type, unit, decimals, choices }) => {
      const value = readings[key];
      const name = label.charAt(0).toLowerCase() + label.slice(1);
      if (type === 'number' && typeof value === 'number')
        return [`${name} ${value.toFixed(decimals ?? 1)}${unit ? ` ${unit}` : ''}`];
      if (type === 'choice')
        return choices?.filter(({ code }) => code === value).map((picked) => `${name} ${picked.label}`) ?? [];
      if (type === 'text' && typeof value === 'string' && value !== '') return [`${name} ${value}`];
      if (type === 'defects' && Array.isArray(value) && value.length > 0)
        return [(value as (Defect | string)[]).map(defectInWords).join('; ')];
      return [];
    })
    .join(', ');
}
