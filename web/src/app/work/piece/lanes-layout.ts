import type { LaneView, Room, StepView } from '@kalvet/core';
import { ROOMS, kindOf } from '@kalvet/core';

/** A step's place on a lane. */
export interface Mark {
  readonly step: StepView;
  readonly x: number;
  readonly bead: boolean;
  readonly next: boolean;
}

/** One attempt at a section on a line of its own, or the piece's own line. */
export interface LaneLine {
  readonly key: string;
  readonly name: string;
  readonly attempt: number;
  readonly marks: readonly Mark[];
  /** Where its first and last mark stand. */
  readonly from: number;
  readonly to: number;
  /** Where the cast was lost. */
  readonly cross: { readonly x: number; readonly text: string } | null;
  readonly y: number;
}

/** The stretch of a room. */
export interface Band {
  readonly room: Room;
  readonly x: number;
  readonly width: number;
}

export interface LanesLayout {
  readonly bands: readonly Band[];
  readonly lines: readonly LaneLine[];
  readonly width: number;
  readonly height: number;
}

const TOP = 26;
const LANE = 44;
const PAD = 10;

/**
 * Lays out every section's steps in their planned order: the rooms side by side, each as wide as the lane with most steps in
 * it needs, so that steps of one room stand above each other. There are no planned dates yet; what is done says when on hover.
 */
export function lanesLayout(
  lanes: readonly LaneView[],
  pieceSteps: readonly StepView[],
  nextIds: ReadonlySet<string>,
  width: number,
): LanesLayout {
  const attempts = lanes.flatMap((lane) => lane.attempts.map((attempt) => ({ lane, attempt, steps: attempt.steps })));
  const inRoom = (steps: readonly StepView[], room: Room) => steps.filter((step) => step.room === room);
  const most = (room: Room) => Math.max(0, ...attempts.map(({ steps }) => inRoom(steps, room).length));
  // What is done to the whole piece comes after what is done to its sections, so it stands further right in the same room.
  const counts = ROOMS.map((room) => ({ room, count: most(room) + inRoom(pieceSteps, room).length })).filter(
    ({ count }) => count > 0,
  );
  const total = counts.reduce((sum, { count }) => sum + count + 1, 0);
  const unit = width / total;
  let x = 0;
  const bands = counts.map(({ room, count }): Band => {
    const band = { room, x, width: (count + 1) * unit };
    x += band.width;
    return band;
  });
  const place = (steps: readonly StepView[], after: (room: Room) => number): Mark[] =>
    bands.flatMap((band) =>
      inRoom(steps, band.room).map((step, i) => ({
        step,
        x: band.x + (after(band.room) + i + 1) * unit,
        bead: kindOf(step.kind).coat === true,
        next: nextIds.has(step.id),
      })),
    );
  const lines: LaneLine[] = attempts.map(({ lane, attempt, steps }, i) => {
    const marks = place(attempt.state === 'lost' ? steps.filter(({ state }) => state !== 'void') : steps, () => 0);
    const last = marks.at(-1);
    return {
      key: attempt.castId,
      name: lane.name,
      attempt: attempt.attempt,
      marks,
      from: marks[0]?.x ?? 0,
      to: last?.x ?? 0,
      cross:
        attempt.state === 'lost' ? { x: (last?.x ?? 0) + unit * 0.85, text: `Lost: ${attempt.lostWhy ?? ''}` } : null,
      y: TOP + PAD + LANE / 2 + i * LANE,
    };
  });
  const own = place(pieceSteps, most);
  if (own.length > 0)
    lines.push({
      key: 'piece',
      name: 'Piece',
      attempt: 1,
      marks: own,
      from: own[0]!.x,
      to: own.at(-1)!.x,
      cross: null,
      y: TOP + PAD + LANE / 2 + lines.length * LANE,
    });
  return { bands, lines, width: x, height: TOP + PAD * 2 + lines.length * LANE };
}
