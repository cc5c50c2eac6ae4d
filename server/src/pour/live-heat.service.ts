import type { Day, HeatAnswer, HeatReading, Id, LiveHeat, Text, Tree, TreeCast } from '@kalvet/core';
import { TAKEN_BACK, addMinutes, coolingMinutes, dayIn, pieceLabel } from '@kalvet/core';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Server } from '../http/request.ts';
import { changeNumber } from '../live/changes.ts';
import { settingsOf } from '../people/settings.ts';
import { movesSince } from '../plan/moves-since.ts';
import { currentPlan } from '../plan/read-plan.ts';
import { labelled } from '../shop/labelled.ts';
import { notFound } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import { heatFigures } from './heat-figures.ts';
import { openHeats } from './heat-read.service.ts';

/** So long what was recorded at the furnace is taken back with one press, minutes. */
const UNDO_MIN = 2;

interface EventRow {
  readonly number: number;
  readonly verb: string;
  readonly text: string;
  readonly says: Text | null;
  readonly typedAt: string;
}

/** A heat while it is poured: what comes next, what was read, and what can still be taken back. */
export async function liveHeat({ store, now, practice }: Server, id: Id): Promise<LiveHeat> {
  const [change, [heat]] = await Promise.all([changeNumber(store), openHeats(store, [id])]);
  if (!heat) throw notFound('heat');
  const [figures, readings, undo, trees] = await Promise.all([
    heatFigures(store, { heats: [heat] }),
    rowsOf<HeatReading>(store, 'heatReadings', { heatId: id, voidReason: null }),
    undoOf(store, id, addMinutes(now(), -UNDO_MIN)),
    rowsOf<Tree>(store, 'trees', { id: heat.pourings.map(({ treeId }) => treeId) }),
  ]);
  const blocks = new Set(trees.filter(({ method }) => method === 'block').map(({ id: treeId }) => treeId));
  return {
    change,
    now: now(),
    heat: figures.view(heat),
    readings: readings.sort((a, b) => a.at.localeCompare(b.at)),
    coolUntil: Object.fromEntries(
      heat.pourings.flatMap(({ treeId, pouredKg, startedAt }) =>
        pouredKg !== null && startedAt !== null
          ? [[treeId, addMinutes(startedAt, coolingMinutes(pouredKg, blocks.has(treeId)))]]
          : [],
      ),
    ),
    undo,
    practice: practice !== undefined,
    moved: await movedOf(store, heat, dayIn(now(), (await settingsOf(store)).timeZone)),
  };
}

/** Pieces of trees that came short or ran out, with what that did to their dates so far. */
async function movedOf(store: Store, { pourings }: HeatAnswer, day: Day): Promise<LiveHeat['moved']> {
  const bad = pourings
    .filter(({ outcome }) => outcome === 'short' || outcome === 'run out')
    .map(({ treeId }) => treeId);
  if (bad.length === 0) return [];
  // Also what no longer hangs on its tree: a cast that ran out is off it at once.
  const members = await rowsOf<TreeCast>(store, 'treeCasts', { treeId: bad });
  const [index, plan, { timeZone: zone }] = await Promise.all([
    labelled(store, { casts: members.map(({ castId }) => castId) }),
    currentPlan(store),
    settingsOf(store),
  ]);
  const moves = await movesSince(store, plan, { day, zone });
  const pieceIds = [...new Set(members.flatMap(({ castId }) => index.cast.get(castId)?.pieceId ?? []))];
  return pieceIds.map((pieceId) => {
    const piece = index.piece.get(pieceId);
    const to = plan.pieces.get(pieceId)?.finishesAt ?? null;
    return { pieceId, label: piece ? pieceLabel(index, piece) : 'piece', from: moves.of.get(pieceId)?.from ?? to, to };
  });
}

async function undoOf(store: Store, heatId: Id, since: string): Promise<LiveHeat['undo']> {
  const named = await rowsOf<{ readonly number: number }>(store, 'eventSubjects', { subject: heatId });
  const events = await rowsOf<EventRow>(store, 'events', {
    number: named.map(({ number }) => number),
    typedAt: { [Op.gte]: since },
    verb: [...TAKEN_BACK],
    takenBackBy: null,
  });
  const trees = await rowsOf<{ readonly number: number; readonly subject: Id }>(store, 'eventSubjects', {
    number: events.map(({ number }) => number),
    kind: 'tree',
  });
  return events
    .sort((a, b) => b.number - a.number)
    .map(({ number, text, says, typedAt }) => ({
      number,
      at: typedAt,
      text: says ?? text,
      treeId: trees.find((each) => each.number === number)?.subject ?? null,
    }));
}
