import { choice, num, text, yes } from '../records/readings.ts';
import { insert } from '../records/shop.ts';
import { plannedStep } from '../route/grow.ts';
import { shortened } from '../route/lose.ts';
import type { Closed } from '../route/step-kind.ts';
import { again, done, stepKind } from '../route/step-kind.ts';
import { joinMinutes } from './hours.ts';

const JOINING = [
  { code: 'tig', label: 'TIG' },
  { code: 'mig', label: 'MIG' },
  { code: 'gas', label: 'gas torch' },
  { code: 'braze', label: 'brazed' },
  { code: 'pinned', label: 'pinned and peened' },
];
const FILLER = text('filler', 'Filler and lot', { lastsHours: 24 * 30 });
const HOURS = num('hours', 'Hours', 'h', [0.1, 500, 1], { ofEach: true });

/** A section is aligned, tacked and welded to the piece. Cut off again, it is inspected anew before it is joined. */
export const joinSection = stepKind({
  code: 'join-section',
  skill: 'weld',
  room: 'chasing',
  name: 'Join',
  carrier: 'piece',
  minutes: 240,
  outcomes: [done(), again('Cut off again', 'cut off')],
  readings: [
    choice('how', 'Joined by', JOINING),
    FILLER,
    num('fillerKg', 'Filler used', 'kg', [0.001, 200, 3], { ofEach: true }),
    HOURS,
    yes('straight', 'Checked straight against the reference set'),
  ],
  readingsVersion: 2,
  earlierReadings: { 1: [FILLER, HOURS] },
  cautions: ['welding', 'lifting'],
  joinsSection: true,
  nameOf: (index, step) =>
    `Join ${index.section.get(step.sectionId ?? '')?.name ?? 'section'}${step.insertedAfter ? ' again' : ''}`,
  effort: ({ seamM }) => joinMinutes(seamM),
  close: inspectAgain,
});

function inspectAgain({ index, step, closing, outcome, newId }: Closed) {
  if (outcome.effect !== 'again') return [];
  const casts = index.castsOf.get(step.carrierId) ?? [];
  const cast = casts.filter((each) => each.sectionId === step.sectionId && each.state === 'metal').at(-1);
  const last = (index.stepsOf.get(cast?.id ?? '') ?? []).filter((each) => index.kind(each).inspects).at(-1);
  return last
    ? [
        insert(
          'steps',
          plannedStep(newId, last.kind, 'cast', cast!.id, {
            insertedAfter: last.id,
            insertedWhy: shortened(closing.note),
          }),
        ),
      ]
    : [];
}
