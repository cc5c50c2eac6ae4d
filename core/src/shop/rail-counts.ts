import type { Room } from '../records/common.ts';
import { RAIL } from '../records/common.ts';
import type { FloorPiece, RailCount } from '../records/floor-page.ts';
import type { NextStep } from '../records/route.ts';
import type { Instant } from '../units/instant.ts';

const NOUNS: Record<Room, readonly [string, string]> = {
  mould: ['cast to pull', 'casts to pull'],
  wax: ['cast', 'casts'],
  sprue: ['tree', 'trees'],
  shell: ['tree', 'trees'],
  burnout: ['tree', 'trees'],
  pour: ['tree', 'trees'],
  chasing: ['piece', 'pieces'],
  patina: ['piece', 'pieces'],
  out: ['piece', 'pieces'],
};

const isReady = (step: NextStep, now: Instant): boolean =>
  step.state === 'running' || (step.waits.length === 0 && !step.held && (step.readyAt === null || step.readyAt <= now));

/** How much is in each room and how much of it can be done now. Sections are counted as casts, on trees as trees, joined as pieces. */
export function railCounts(
  pieces: readonly Pick<FloorPiece, 'sections' | 'next' | 'late' | 'behind'>[],
  now: Instant,
): RailCount[] {
  return RAIL.map((room) => {
    const here = pieces.filter((piece) => piece.sections.some((section) => section.room === room));
    const next = new Map(
      here.flatMap((piece) =>
        piece.next.filter((step) => step.room === room).map((step): [string, NextStep] => [step.stepId, step]),
      ),
    );
    const byPiece = room === 'chasing' || room === 'patina';
    const byCast = room === 'mould' || room === 'wax';
    const count = byCast
      ? here.reduce((sum, piece) => sum + piece.sections.filter((section) => section.room === room).length, 0)
      : byPiece
        ? here.length
        : new Set([...next.values()].map(({ carrierId }) => carrierId)).size;
    const able = (step: NextStep) => step.room === room && isReady(step, now);
    const ready = byPiece
      ? here.filter((piece) => piece.next.some(able)).length
      : [...next.values()].filter(able).length;
    const late = here.filter((piece) => piece.late && piece.behind === room).length;
    const noun = NOUNS[room][count === 1 ? 0 : 1];
    return {
      room,
      text: count === 0 ? '–' : `${count} ${noun}`,
      ready,
      late,
    };
  });
}
