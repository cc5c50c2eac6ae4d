import type { Id } from '../records/common.ts';
import type { Mould, Pull } from '../records/mould.ts';
import { choice, num } from '../records/readings.ts';
import type { Refusal } from '../records/refusal.ts';
import { never, unless } from '../records/refusal.ts';
import type { Step } from '../records/step.ts';
import { beginWax } from '../route/begin-wax.ts';
import { mouldsFor } from '../route/links.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { pullOf } from '../route/shop-index.ts';
import type { Closed, Judged } from '../route/step-kind.ts';
import { done, lost, stepKind } from '../route/step-kind.ts';
import { HOUR_MIN, toMs } from '../units/instant.ts';
import { say } from '../units/words.ts';
import { endPull, overlaps, startPull } from './pull.ts';
import { CAST_WAXES } from './wax-choices.ts';

const running = (index: ShopIndex, { carrierId }: Step): Pull | undefined => {
  const pull = pullOf(index, carrierId);
  return pull?.endedAt === null ? pull : undefined;
};

/** Wax is poured, painted or pressed into a mould and taken out of it: the mould is in use from its begin to its end. */
export const pull = stepKind({
  code: 'pull',
  room: 'wax',
  name: 'Pull',
  carrier: 'cast',
  minutes: 60,
  minWait: HOUR_MIN,
  outcomes: [done(), lost('Spoilt')],
  readings: [
    { key: 'mouldId', label: 'Mould', kind: 'mould', required: true, keptIn: 'pull', ofEach: true },
    choice('wax', 'Wax', CAST_WAXES, { required: true, start: 'pattern', keptIn: 'pull' }),
    num('potC', 'Pot', '°C', [40, 160, 0], { required: true, start: 82, lastsHours: 24 }),
  ],
  cautions: ['waxPot'],
  beginsWax: true,
  usesMould: true,
  facts: (index, step) => {
    const found = step.state === 'planned' ? undefined : pullOf(index, step.carrierId);
    return found ? { mouldId: found.mouldId, ...(found.wax ? { wax: found.wax } : {}) } : {};
  },
  held: (index, step) => {
    const cast = step.state === 'planned' ? index.cast.get(step.carrierId) : undefined;
    return cast && mouldsFor(index, cast.sectionId).length === 0
      ? [`no usable mould for ${index.section.get(cast.sectionId)?.name ?? 'this section'}`]
      : [];
  },
  // Pattern wax is poured at 70–85 °C, brushed detail wax from 60, poured detail wax up to 130 (handbook 2.2).
  expects: () => [{ key: 'potC', low: 55, high: 130, from: 'wax is worked between 60 and 130 °C' }],
  judge: judgePull,
  begin: (index, step, { startedAt, readings }, newId) => [
    startPull({
      id: newId(),
      castId: step.carrierId,
      stepId: step.id,
      startedAt,
      mouldId: String(readings['mouldId']),
      wax: typeof readings['wax'] === 'string' ? readings['wax'] : '',
    }),
    ...beginWax(index, index.cast.get(step.carrierId)!),
  ],
  close: pulled,
});

/** A pull begins the wax, and with the first one the piece; it counts on the mould even when it was spoilt. */
function pulled({ index, step, closing, outcome, newId }: Closed) {
  const { readings, startedAt, endedAt } = closing;
  const good = outcome.effect === 'done';
  const wax = typeof readings['wax'] === 'string' ? readings['wax'] : undefined;
  const begun = running(index, step);
  const id = begun?.id ?? newId();
  const fill = begun
    ? []
    : [
        startPull({
          id,
          castId: step.carrierId,
          stepId: step.id,
          startedAt: startedAt ?? endedAt,
          mouldId: String(readings['mouldId']),
          wax: wax ?? '',
        }),
      ];
  const begins = beginWax(index, index.cast.get(step.carrierId)!).filter((op) => good || op.table === 'pieces');
  return [...fill, endPull(id, { endedAt, good, wax }), ...begins];
}

/** One mould makes one wax at a time, and only of its own sections. */
function judgePull(index: ShopIndex, step: Step, { readings, startedAt, endedAt }: Judged): Refusal[] {
  const mouldId = readings['mouldId'] as Id | undefined;
  const begun = running(index, step);
  if (begun) return judgeSameMould(index, begun, mouldId);
  const cast = index.cast.get(step.carrierId)!;
  const mould = index.mould.get(mouldId ?? '');
  if (!mould) return [never('mould', 'Say which mould the wax comes from.')];
  if (!mould.sectionIds.includes(cast.sectionId))
    return [
      never('mould', say`${nameOf(mould)} does not make ${index.section.get(cast.sectionId)?.name ?? 'this section'}.`),
    ];
  const usable = mouldsFor(index, cast.sectionId).some((each) => each.id === mould.id && each.state === 'good');
  if (!usable) return [unless('order', say`${nameOf(mould)} is ${mould.state}.`)];
  const until = endedAt === null ? Infinity : toMs(endedAt);
  const clash = index.shop.pulls.find((other) => other.mouldId === mould.id && overlaps(other, toMs(startedAt), until));
  return clash ? [never('mould in use', inUse(mould, clash))] : [];
}

const nameOf = (mould: Mould): string => `Mould M-${mould.number} ${mould.name}`;

/** A wax comes out of the mould that it was begun in. */
function judgeSameMould(index: ShopIndex, begun: Pull, mouldId: Id | undefined): Refusal[] {
  if (mouldId === undefined || mouldId === begun.mouldId) return [];
  const mould = index.mould.get(begun.mouldId);
  return [
    never(
      'mould',
      say`This wax was begun in ${mould ? nameOf(mould) : 'another mould'}. Take its begin back to say another mould.`,
    ),
  ];
}

const inUse = (mould: Mould, { number, endedAt }: Pull) =>
  say`${nameOf(mould)} is in use: pull ${number} ${endedAt === null ? 'has not been taken out yet' : 'was in it at that time'}.`;
