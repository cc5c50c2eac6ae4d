import type { Id } from '../records/common.ts';
import type { FloorPiece } from '../records/floor-page.ts';
import type { PlanNote } from '../records/plan.ts';
import type { HeatAnswer, HeatFill } from '../records/pour-page.ts';
import type { Answer, Decision, Question } from '../records/question.ts';
import type { TreeLine } from '../records/sprue-page.ts';
import type { TankStand } from '../records/tanks.ts';
import type { Instant } from '../units/instant.ts';
import { toMs } from '../units/instant.ts';
import { kg } from '../units/quantity.ts';
import type { Text } from '../units/words.ts';
import { at, say } from '../units/words.ts';
import { counted } from './act.ts';

/** A mould, as far as its question goes. */
export interface MouldAsked {
  readonly id: Id;
  readonly workId: Id;
  readonly name: string;
  readonly sectionIds: readonly Id[];
  readonly pieceId: Id | null;
  readonly decisions: readonly Decision[];
}

/** What questions are made from. */
export interface AskedOf {
  readonly now: Instant;
  readonly pieces: readonly (FloorPiece & { readonly label: string })[];
  readonly moulds: readonly MouldAsked[];
  /** Trees from the shell room to the pour. */
  readonly lines: readonly TreeLine[];
  readonly heats: readonly HeatAnswer[];
  readonly notes: readonly PlanNote[];
  /** Slurry tanks; those that were out of order wait for a decision. */
  readonly tanks?: readonly TankStand[];
  /** Trees that could be poured with a heat at its hour in place of those that cannot, the best set of them. */
  readonly fillers: (heat: HeatAnswer, late: readonly Id[]) => readonly HeatFill[];
  /** The same hour of the next pour day on which all of a heat's trees can be ready. */
  readonly nextPour: (heat: HeatAnswer) => Instant | null;
  readonly newId: () => Id;
}

/** A heat that cannot happen costs the days to the next pour day. */
const POUR_DAYS = 7;
/** Shells that hang too long are coated again, or lost. */
const SHELL_DAYS = 5;
/** What the plan cannot keep somewhere ahead. */
const AHEAD_DAYS = 2;

/** Heats that cannot be kept, each with what would make it one that can happen. */
export const heatQuestions = (of: Pick<AskedOf, 'heats' | 'lines' | 'notes' | 'fillers' | 'nextPour'>): Question[] =>
  of.heats.flatMap((heat) => heatQuestion(heat, of));

/**
 * Everything that waits for a person's judgement: one line a cause, with what it costs and the buttons that decide it, the
 * dearest first. What several records say of one cause is said once.
 */
export function questions(of: AskedOf): Question[] {
  const heats = heatQuestions(of);
  const held = of.pieces.flatMap((piece) => holdQuestion(piece, of));
  const old = tooOldQuestion(of);
  return [
    ...of.pieces.flatMap(({ id, decisions }) => decisions.map((decision) => questionOf(decision, id))),
    ...of.moulds.flatMap((mould) => mouldQuestions(mould, of)),
    ...heats,
    ...held,
    ...old,
    ...noteQuestions(of),
    ...tankQuestions(of),
  ].sort((a, b) => b.days - a.days || a.key.localeCompare(b.key));
}

/** A tank that was out of order: nothing is dipped in it until somebody decides. */
const tankQuestions = ({ tanks = [], lines }: AskedOf): Question[] =>
  tanks
    .filter(({ blockedSince }) => blockedSince !== null)
    .map(({ tankId, name, why, blockedSince }) => {
      const waiting = lines.filter(({ waits }) => waits.some((text) => text.startsWith(`${name}:`))).length;
      return {
        key: `tank ${tankId}`,
        text: say`${name}: ${why ?? ''} since ${at(blockedSince!)}. Dip in it again, and do its coats stand?`,
        costs:
          waiting > 0
            ? say`${counted(waiting, 'tree')} ${waiting === 1 ? 'waits' : 'wait'} for it`
            : 'nothing is dipped in it',
        days: SHELL_DAYS,
        urgent: true,
        pieceId: null,
        answers: [{ label: 'Decide on the tanks’ page', open: { path: '/coats/tanks' } }],
      };
    });

/** A decision that is kept ready, as a question with its buttons. */
export function questionOf(decision: Decision, pieceId: Id | null): Question {
  const { text, costs, days, urgent, stepId, castId, version, answers } = decision;
  return {
    key: stepId ? `step ${stepId} ${castId ?? ''}` : `piece ${pieceId ?? ''}`,
    text,
    costs,
    days,
    urgent,
    pieceId,
    answers:
      stepId === undefined
        ? pieceId === null
          ? []
          : [{ label: 'Decide on its page', open: { path: `/pieces/${pieceId}` } }]
        : answers.map(({ code, label }) => ({
            label,
            write: {
              path: `/steps/${stepId}/decide`,
              method: 'post',
              body: { version, answer: code, ...(castId ? { castId } : {}) },
            },
          })),
  };
}

function mouldQuestions(
  { id, workId, name, sectionIds, pieceId, decisions }: MouldAsked,
  { notes, newId }: AskedOf,
): Question[] {
  // By when the next one is needed is in the plan.
  const dated = notes.find(({ mouldId }) => mouldId === id);
  return decisions.map((decision) => ({
    ...questionOf(decision, pieceId),
    ...(dated ? { costs: dated.text } : {}),
    key: `mould ${id}`,
    answers: [
      {
        label: 'Make the next mould',
        write: {
          path: `/works/${workId}/moulds`,
          method: 'post',
          body: { id: newId(), name: `${name}, new`, sectionIds },
        },
      },
      { label: 'Give it more pulls', open: { path: `/works/${workId}` } },
    ],
  }));
}

/** A heat with trees that cannot be ready on its day: they go out of it, or it moves to the next pour day. */
function heatQuestion(
  heat: HeatAnswer,
  { notes, nextPour, lines, fillers }: Pick<AskedOf, 'lines' | 'notes' | 'fillers' | 'nextPour'>,
): Question[] {
  const pinned = new Set(notes.filter(({ cause }) => cause === 'pin').map(({ stepId }) => stepId));
  const held = new Set(lines.filter((line) => line.held).map(({ carrierId }) => carrierId));
  const late = heat.pourings.filter(
    ({ stepId, treeId, outcome }) => outcome === null && ((stepId !== null && pinned.has(stepId)) || held.has(treeId)),
  );
  if (heat.plannedFor === null || late.length === 0 || heat.state === 'running') return [];
  const lost = late.reduce((sum, { plannedKg }) => sum + plannedKg, 0);
  const all = heat.pourings.reduce((sum, { plannedKg }) => sum + plannedKg, 0);
  const names = late.map(({ label }) => label).join(', ');
  const rest = heat.pourings.filter((each) => !late.includes(each));
  const moved = nextPour(heat);
  const swap = fillers(
    heat,
    late.map(({ treeId }) => treeId),
  );
  const body = (treesLeft: HeatAnswer['pourings'], plannedFor: Instant | null) => ({
    version: heat.version,
    plannedFor,
    trees: treesLeft.map(({ treeId, plannedKg, plannedSource }) =>
      plannedSource === 'typed' ? { treeId, plannedKg } : { treeId },
    ),
    chargeLines: heat.chargeLines,
  });
  const filled = body(rest, heat.plannedFor);
  const answers: Answer[] = [
    ...(swap.length > 0
      ? [
          {
            label: say`Put ${swap.map(({ label }) => label).join(', ')} in for ${late.length === 1 ? 'it' : 'them'}: ${kg(sumKg(rest.map(({ plannedKg }) => plannedKg)) + sumKg(swap.map((each) => each.kg)), 0)}`,
            write: {
              path: `/heats/${heat.id}`,
              method: 'put' as const,
              body: { ...filled, trees: [...filled.trees, ...swap.map(({ treeId }) => ({ treeId }))] },
            },
          },
        ]
      : []),
    ...(rest.length > 0
      ? [
          {
            label: say`Take ${late.length === 1 ? 'it' : 'them'} out of H-${heat.number}`,
            write: { path: `/heats/${heat.id}`, method: 'put' as const, body: body(rest, heat.plannedFor) },
          },
        ]
      : []),
    ...(moved
      ? [
          {
            label: say`Move the heat to ${at(moved)}`,
            write: { path: `/heats/${heat.id}`, method: 'put' as const, body: body(heat.pourings, moved) },
          },
        ]
      : []),
  ];
  return [
    {
      key: `heat ${heat.id}`,
      text:
        late.length === heat.pourings.length
          ? say`Heat H-${heat.number}, ${at(heat.plannedFor)}: none of its trees can be ready by then (${names})`
          : say`Heat H-${heat.number}, ${at(heat.plannedFor)}: ${late.length} of its ${heat.pourings.length} trees cannot be ready by then (${names})`,
      costs: say`${kg(lost, 0)} of ${kg(all, 0)} would not be poured`,
      days: POUR_DAYS * (lost / Math.max(1, all)),
      urgent: true,
      pieceId: null,
      answers,
    },
  ];
}

const sumKg = (all: readonly number[]): number => all.reduce((sum, each) => sum + each, 0);

const isOld = ({ tooOldAt }: TreeLine, now: Instant): boolean => tooOldAt !== null && toMs(tooOldAt) < toMs(now);

/** A hold that stops shells half dipped is two questions in one: the piece may wait, its green coats may not. */
function holdQuestion(piece: AskedOf['pieces'][number], { lines, now }: AskedOf): Question[] {
  if (piece.state !== 'hold') return [];
  const hanging = lines.filter(
    (line) => line.held && line.pieceIds.includes(piece.id) && line.tooOldAt !== null && line.room === 'shell',
  );
  if (hanging.length === 0) return [];
  const shells = counted(hanging.length, 'shell');
  const first = hanging.map(({ tooOldAt }) => tooOldAt!).sort()[0]!;
  const text: Text = isOld(hanging[0]!, now)
    ? say`${piece.label} is on hold (${piece.holdReason ?? 'no reason given'}), and its ${shells} half dipped ${hanging.length === 1 ? 'is' : 'are'} too old since ${at(first)}`
    : say`${piece.label} is on hold (${piece.holdReason ?? 'no reason given'}), and its ${shells} half dipped ${hanging.length === 1 ? 'is' : 'are'} too old from ${at(first)}`;
  const { version, holdReason, holdUntil } = piece;
  const dipOn = { version, reason: holdReason ?? 'on hold', until: holdUntil, shells: 'on' };
  return [
    {
      key: `hold ${piece.id}`,
      text,
      costs: say`a shell whose coats wait too long peels or cracks: ${counted(hanging.length, 'wax', 'waxes')} at stake`,
      days: SHELL_DAYS * hanging.length,
      urgent: true,
      pieceId: piece.id,
      answers: [
        { label: 'Dip on to the seal coat', write: { path: `/pieces/${piece.id}/hold`, method: 'post', body: dipOn } },
        {
          label: 'Take the hold off',
          write: { path: `/pieces/${piece.id}/release`, method: 'post', body: { version } },
        },
      ],
    },
  ];
}

/** Coats, castings and tests that hang too long, a line a room. */
function tooOldQuestion({ lines, now }: AskedOf): Question[] {
  const old = lines.filter((line) => isOld(line, now) && line.waits.length === 0 && !line.held);
  return [...new Set(old.map(({ room }) => room))].map((room): Question => {
    const here = old.filter((line) => line.room === room);
    const names = here.slice(0, 4).map(({ on }) => on);
    const more = here.length > 4 ? ` and ${here.length - 4} more` : '';
    const [first] = here as [TreeLine];
    const what = here.length === 1 ? first.name.toLowerCase() : 'their next step';
    return {
      key: `old ${room}`,
      text: say`${names.join(', ')}${more}: too old for ${what} since ${at(here.map(({ tooOldAt }) => tooOldAt!).sort()[0]!)}`,
      costs:
        room === 'shell'
          ? 'dipped now they are noted as in doubt; a day more and they peel'
          : 'it is noted with the record',
      days: SHELL_DAYS * here.length,
      urgent: true,
      pieceId: here.length === 1 ? (first.pieceIds[0] ?? null) : null,
      answers: [
        here.length === 1
          ? { label: 'Record it', open: { path: '/day', query: { room, step: first.stepId } } }
          : { label: 'Look at them', open: { path: '/day', query: { room } } },
      ],
    };
  });
}

/** What the plan could not keep, but for what is asked above with its cause. */
function noteQuestions({ notes, lines }: AskedOf): Question[] {
  const said = new Set<PlanNote['cause']>(['pin', 'too old', 'mould']);
  const pieceOf = (stepId: Id | null) => lines.find((line) => line.stepId === stepId)?.pieceIds[0] ?? null;
  return notes
    .filter(({ cause }) => !said.has(cause))
    .map(({ text, urgent, stepId }, place) => {
      const pieceId = pieceOf(stepId);
      return {
        key: `note ${stepId ?? place}`,
        text,
        costs: '',
        days: AHEAD_DAYS,
        urgent,
        pieceId,
        answers: pieceId ? [{ label: 'Look at it', open: { path: `/pieces/${pieceId}` } }] : [],
      };
    });
}
