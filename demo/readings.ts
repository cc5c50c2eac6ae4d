import type { Id, NextStep, ShopIndex } from '@kalvet/core';
import { castsOfTree, countingWeight, currentCasts, isClosed, treeOfCast } from '@kalvet/core';
import type { PlayedPiece, Stage } from './stage.ts';

const round = (value: number, decimals: number): number => Number(value.toFixed(decimals));

/** What somebody at the bench would read off and write down with this step. */
export function readingsOf(
  stage: Stage,
  piece: PlayedPiece,
  step: NextStep,
  sequence: number,
): Record<string, unknown> {
  const { near } = stage;
  const index = stage.shop.work(piece.workId);
  switch (step.kind) {
    case 'pull':
      return { mouldId: mouldFor(index, step.carrierId), wax: 'pattern', potC: Math.round(near(82, 0.04)) };
    case 'model-wax':
      return { wax: 'micro' };
    case 'chase-wax':
      return { waxKg: round(near(expectedWax(index, step.carrierId), 0.06), 3), markPutIn: true };
    case 'approve-wax':
      return { by: 'the artist, on a visit', shown: 'chased wax, three photographs' };
    case 'join-tree': {
      const castIds = castsToJoin(index, piece, step.carrierId);
      return {
        castIds,
        bars: barsFor(index, castIds),
      };
    }
    case 'coat':
      return {
        slurry: sequence <= 2 ? 'face' : 'backup',
        stucco: step.name.startsWith('Seal') ? 'none' : sequence <= 2 ? 'fine' : sequence <= 4 ? 'medium' : 'coarse',
        ...climate(stage),
      };
    case 'invest':
      return { of: 'plaster', blockKg: 160, made: 'cast', coverMm: 80, reinforced: 'two layers of wire mesh' };
    case 'leak-test':
      return { how: 'light' };
    case 'knock-out':
      return weighed(stage, index, step.carrierId);
    case 'join-section':
      return { how: 'tig', filler: 'silicon bronze 2.4 mm, lot F-31', hours: round(near(3, 0.3), 1), straight: true };
    case 'chase-metal':
      return { hours: round(near(9, 0.3), 1) };
    case 'patina':
      return { recipe: piece.recipe };
    case 'final-inspection':
    case 'inspect-raw':
      return { finishedKg: round(near(castWeight(index, piece.id), 0.01), 2) };
    case 'deliver':
      return { toWhom: 'the client’s carrier' };
    default:
      return {};
  }
}

/** The room's climate as its sensor shows it. */
function climate({ air, shop }: Stage): { roomC?: number; roomRh?: number } {
  if (!air) return {};
  const { celsius, humidityPercent } = air.at(air.roomId, shop.now);
  return { roomC: celsius, roomRh: Math.round(humidityPercent) };
}

const sectionOf = (index: ShopIndex, castId: Id) => index.section.get(index.cast.get(castId)!.sectionId)!;

const mouldFor = (index: ShopIndex, castId: Id): Id | undefined =>
  index.shop.moulds.find(
    ({ sectionIds, state }) => state === 'good' && sectionIds.includes(index.cast.get(castId)!.sectionId),
  )?.id;

const expectedWax = (index: ShopIndex, castId: Id): number => sectionOf(index, castId).expectedWaxKg!;

/** Mallets go three to a tree; everything else hangs alone. */
function castsToJoin(index: ShopIndex, { work }: PlayedPiece, treeId: Id): Id[] {
  const own = castsOfTree(index, treeId).map(({ id }) => id);
  if (work !== 'MAL') return own;
  const chased = (castId: Id) =>
    (index.stepsOf.get(castId) ?? []).some((step) => index.kind(step).weighs === 'wax' && isClosed(step));
  const others = index.shop.casts.filter((cast) => {
    const tree = treeOfCast(index, cast.id);
    return cast.state === 'wax' && tree?.state === 'planned' && tree.id !== treeId && chased(cast.id);
  });
  const number = ({ pieceId }: { pieceId: Id }) => index.piece.get(pieceId)!.number;
  return [
    ...own,
    ...others
      .sort((a, b) => number(a) - number(b))
      .slice(0, 2)
      .map(({ id }) => id),
  ];
}

/** A casting that came short weighs so much of a whole one. */
const SHORT = 0.83;

const tens = (mm: number) => Math.round(mm / 10) * 10;

/** Bars that feed their casts: a runner as high as the metal, ingates by its kilograms, vents from the high points. */
function barsFor(index: ShopIndex, castIds: readonly Id[]) {
  const sections = castIds.map((id) => sectionOf(index, id));
  const heightMm = Math.max(...sections.map(({ metalHeightMm }) => metalHeightMm ?? 150));
  const kg = sections.reduce((sum, { expectedWaxKg }) => sum + (expectedWaxKg ?? 0), 0) * 8.9;
  return [
    { stock: kg > 15 ? 'S20' : 'S15', count: kg > 40 ? 2 : 1, lengthMm: tens(heightMm + 40) },
    { stock: 'S12', count: Math.min(12, Math.max(2, Math.round(kg / 5))) * (castIds.length > 1 ? 2 : 1), lengthMm: 60 },
    { stock: 'R8', count: 2 * castIds.length, lengthMm: tens(heightMm * 0.7) },
  ];
}

function weighed({ near }: Stage, index: ShopIndex, treeId: Id): Record<string, unknown> {
  const factor = index.tree.get(treeId)!.alloyId === 'C90500' ? 8.95 : 8.5;
  const pouring = (index.pouringsOf.get(treeId) ?? []).findLast(({ pouredKg }) => pouredKg !== null);
  const short = pouring?.outcome === 'short' ? SHORT : 1;
  const castKg = Object.fromEntries(
    castsOfTree(index, treeId).map(({ id }) => [
      id,
      round(countingWeight(index, id, 'wax')!.kg * near(factor, 0.012) * short, 2),
    ]),
  );
  const poured = pouring?.pouredKg ?? 0;
  const casts = Object.values(castKg).reduce((sum, kg) => sum + kg, 0);
  // Cup, bars and skin come back, but for what was spilt and ground off.
  return { castKg, returnsKg: round(Math.max(0.1, poured * near(0.993, 0.004) - casts), 1) };
}

const castWeight = (index: ShopIndex, pieceId: Id): number =>
  currentCasts(index, index.piece.get(pieceId)!).reduce(
    (sum, { id }) => sum + (countingWeight(index, id, 'cast')?.kg ?? 0),
    0,
  );
