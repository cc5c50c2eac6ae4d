import type { Id, NextStep } from '@kalvet/core';
import { DAMP } from './foundry.ts';
import type { PlayedPiece, Stage } from './stage.ts';

const round = (value: number, decimals: number): number => Number(value.toFixed(decimals));

/** What somebody at the bench would read off and write down with this step. */
export async function readingsOf(
  stage: Stage,
  piece: PlayedPiece,
  step: NextStep,
  sequence: number,
): Promise<Record<string, unknown>> {
  const { hand, near } = stage;
  switch (step.kind) {
    case 'pull':
      return { mouldId: await mouldFor(stage, step.carrierId), wax: 'pattern', potC: Math.round(near(82, 0.04)) };
    case 'model-wax':
      return { wax: 'micro' };
    case 'chase-wax':
      return { waxKg: round(near(await expectedWax(stage, step.carrierId), 0.06), 3), markPutIn: true };
    case 'approve-wax':
      return { by: 'the artist, on a visit', shown: 'chased wax, three photographs' };
    case 'join-tree': {
      const castIds = await castsToJoin(stage, step.carrierId);
      return {
        castIds,
        bars: [
          { stock: 'S12', count: 2 + castIds.length, lengthMm: 160 },
          { stock: 'R8', count: 2 * castIds.length, lengthMm: 140 },
        ],
        cup: true,
      };
    }
    case 'coat':
      return {
        slurry: sequence <= 2 ? 'face' : 'backup',
        stucco: step.name.startsWith('Seal') ? 'none' : sequence <= 2 ? 'fine' : sequence <= 4 ? 'medium' : 'coarse',
        ...climate(stage),
      };
    case 'invest':
      return { blockKg: 160 };
    case 'leak-test':
      return { how: 'light' };
    case 'knock-out':
      return weighed(stage, step.carrierId);
    case 'join-section':
      return { how: 'tig', filler: 'silicon bronze 2.4 mm, lot F-31', hours: round(near(3, 0.3), 1), straight: true };
    case 'chase-metal':
      return { hours: round(near(9, 0.3), 1) };
    case 'patina':
      return { recipe: piece.recipe };
    case 'final-inspection':
      return { finishedKg: round(near(await castWeight(hand, piece.id), 0.01), 2) };
    case 'deliver':
      return { toWhom: 'the client’s carrier' };
    default:
      return {};
  }
}

/** The room's climate by the day: the same for all who dip then, and wet in the damp week. */
function climate(stage: Stage): { roomC: number; roomRh: number } {
  const damp = stage.hand.now >= stage.at(DAMP.from, '00:00') && stage.hand.now < stage.at(DAMP.to, '00:00');
  const wave = Math.sin(Date.parse(stage.hand.now) / 7.3e6);
  return { roomC: round((damp ? 19.6 : 22) + 0.6 * wave, 1), roomRh: Math.round((damp ? 71 : 50) + 4 * wave) };
}

async function mouldFor({ hand }: Stage, castId: Id): Promise<Id | undefined> {
  const [row] = await hand.select<{ id: Id }>(
    "SELECT m.id FROM mould m JOIN mould_section s ON s.mouldId = m.id JOIN cast_ c ON c.sectionId = s.sectionId WHERE c.id = ? AND m.state = 'good'",
    [castId],
  );
  return row?.id;
}

async function expectedWax({ hand }: Stage, castId: Id): Promise<number> {
  const [row] = await hand.select<{ kg: number }>(
    'SELECT s.expectedWaxKg AS kg FROM section s JOIN cast_ c ON c.sectionId = s.id WHERE c.id = ?',
    [castId],
  );
  return row!.kg;
}

/** Mallets go three to a tree; everything else hangs alone. */
async function castsToJoin({ hand }: Stage, treeId: Id): Promise<Id[]> {
  const own = await hand.castsOn(treeId);
  const others = await hand.select<{ id: Id }>(
    `SELECT c.id FROM cast_ c JOIN piece p ON p.id = c.pieceId JOIN work w ON w.id = p.workId
       JOIN tree_cast m ON m.castId = c.id AND m.until IS NULL JOIN tree t ON t.id = m.treeId AND t.state = 'planned'
       JOIN step s ON s.castId = c.id AND s.kind = 'chase-wax' AND s.state = 'done'
      WHERE w.code = 'MAL' AND c.state = 'wax' AND t.id <> ? AND EXISTS (SELECT 1 FROM tree_cast o JOIN cast_ oc ON oc.id = o.castId
        JOIN piece op ON op.id = oc.pieceId WHERE o.treeId = ? AND op.workId = w.id) ORDER BY p.number LIMIT 2`,
    [treeId, treeId],
  );
  return [...own, ...others.map(({ id }) => id)];
}

async function weighed({ hand, near }: Stage, treeId: Id): Promise<Record<string, unknown>> {
  const rows = await hand.select<{ castId: Id; waxKg: number; alloyId: string }>(
    `SELECT m.castId, (SELECT w.kg FROM weight w WHERE w.castId = m.castId AND w.of = 'wax' ORDER BY w.at DESC LIMIT 1) AS waxKg, t.alloyId
       FROM tree_cast m JOIN tree t ON t.id = m.treeId WHERE m.treeId = ? AND m.until IS NULL`,
    [treeId],
  );
  const castKg = Object.fromEntries(
    rows.map(({ castId, waxKg, alloyId }) => [
      castId,
      round(waxKg * near(alloyId === 'C90500' ? 8.95 : 8.5, 0.012), 2),
    ]),
  );
  return { castKg, returnsKg: round(near(4.4, 0.1), 1) };
}

async function castWeight(hand: Stage['hand'], pieceId: Id): Promise<number> {
  const rows = await hand.select<{ kg: number }>(
    "SELECT w.kg FROM weight w JOIN cast_ c ON c.id = w.castId WHERE c.pieceId = ? AND w.of = 'cast' AND c.state = 'metal'",
    [pieceId],
  );
  return rows.reduce((sum, { kg }) => sum + kg, 0);
}
