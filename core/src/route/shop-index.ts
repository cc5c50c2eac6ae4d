import type { Load, LoadPlace } from '../records/burnout.ts';
import type { Id } from '../records/common.ts';
import type { Mould, Pull } from '../records/mould.ts';
import type { ChargeLine, Heat, Pouring } from '../records/pour.ts';
import type { Shop } from '../records/shop.ts';
import type { Tree, TreeCast } from '../records/sprue.ts';
import type { Step, StepKindCode } from '../records/step.ts';
import type { Weight } from '../records/wax.ts';
import type { Cast, Piece, Section, Work } from '../records/work.ts';
import { listUnder } from '../units/lists.ts';
import type { StepKind } from './step-kind.ts';
import type { RouteTemplate } from './template.ts';

/** What is known of steps beside the records: the rooms' kinds, and the routes in their versions. */
export interface Rules {
  readonly kinds: readonly StepKind[];
  readonly routes: readonly RouteTemplate[];
}

/** A shop with the look-ups that every rule needs, made once for many questions. */
export interface ShopIndex {
  readonly shop: Shop;
  /** The kind of a step. @throws RangeError where no room knows it */
  readonly kind: (step: Pick<Step, 'kind'>) => StepKind;
  /** The place of a kind in the order of the rooms. */
  readonly order: ReadonlyMap<StepKindCode, number>;
  readonly kinds: readonly StepKind[];
  /** The route of a version. @throws RangeError where there is none */
  readonly route: (version: number) => RouteTemplate;
  readonly work: ReadonlyMap<Id, Work>;
  readonly section: ReadonlyMap<Id, Section>;
  readonly piece: ReadonlyMap<Id, Piece>;
  readonly cast: ReadonlyMap<Id, Cast>;
  readonly tree: ReadonlyMap<Id, Tree>;
  readonly mould: ReadonlyMap<Id, Mould>;
  readonly load: ReadonlyMap<Id, Load>;
  readonly heat: ReadonlyMap<Id, Heat>;
  readonly step: ReadonlyMap<Id, Step>;
  readonly stepsOf: ReadonlyMap<Id, readonly Step[]>;
  readonly sectionsOf: ReadonlyMap<Id, readonly Section[]>;
  readonly piecesOf: ReadonlyMap<Id, readonly Piece[]>;
  readonly castsOf: ReadonlyMap<Id, readonly Cast[]>;
  readonly mouldsOf: ReadonlyMap<Id, readonly Mould[]>;
  /** A cast's pulls, the newest last. */
  readonly pullsOf: ReadonlyMap<Id, readonly Pull[]>;
  /** A cast's weights, void ones too. */
  readonly weightsOf: ReadonlyMap<Id, readonly Weight[]>;
  /** Memberships of a tree, ended ones too. */
  readonly membersOf: ReadonlyMap<Id, readonly TreeCast[]>;
  /** Memberships of a cast, ended ones too. */
  readonly treesOf: ReadonlyMap<Id, readonly TreeCast[]>;
  /** A tree's places in loads. */
  readonly placesOf: ReadonlyMap<Id, readonly LoadPlace[]>;
  /** A load's places. */
  readonly inLoad: ReadonlyMap<Id, readonly LoadPlace[]>;
  /** A tree's places in heats. */
  readonly pouringsOf: ReadonlyMap<Id, readonly Pouring[]>;
  /** A heat's places, in pouring order. */
  readonly inHeat: ReadonlyMap<Id, readonly Pouring[]>;
  readonly chargeOf: ReadonlyMap<Id, readonly ChargeLine[]>;
  /** Chains that were worked out already. */
  readonly chains: Map<Id, Step[]>;
}

const byId = <T extends { id: Id }>(rows: readonly T[]): Map<Id, T> => new Map(rows.map((row) => [row.id, row]));

function group<T>(rows: readonly T[], key: (row: T) => Id | null): Map<Id, T[]> {
  const groups = new Map<Id, T[]>();
  for (const row of rows) {
    const own = key(row);
    if (own !== null) listUnder(groups, own, row);
  }
  return groups;
}

function castPulls(pulls: readonly Pull[]): Map<Id, Pull[]> {
  const found = new Map<Id, Pull[]>();
  for (const pull of pulls) for (const castId of pull.castIds) listUnder(found, castId, pull);
  return found;
}

const ordinal = (a: Section, b: Section) => a.ordinal - b.ordinal;
const SERIES_ORDER = { unique: 0, edition: 1, ap: 2, fp: 3 };
const edition = (a: Piece, b: Piece) => SERIES_ORDER[a.series] - SERIES_ORDER[b.series] || a.number - b.number;

/** Looks a kind up by its code. @throws RangeError naming the code where no room knows it */
export function kindFinder({ kinds }: Pick<Rules, 'kinds'>): (code: StepKindCode) => StepKind {
  const known = new Map(kinds.map((kind) => [kind.code, kind]));
  return (code) => {
    const found = known.get(code);
    if (!found) throw new RangeError(`no room knows a step of the kind "${code}"`);
    return found;
  };
}

/** Makes the indexing of shops under some rules; `indexShop` in `core/shop` is the one with Kalvet's own. */
export function indexer(rules: Rules): (shop: Shop) => ShopIndex {
  const find = kindFinder(rules);
  const order = new Map(rules.kinds.map(({ code }, place) => [code, place]));
  const routes = new Map(rules.routes.map((route) => [route.version, route]));
  const route = (version: number): RouteTemplate => {
    const found = routes.get(version);
    if (!found) throw new RangeError(`there is no route of version ${version}`);
    return found;
  };
  return (shop) => ({
    shop,
    kind: ({ kind }) => find(kind),
    order,
    kinds: rules.kinds,
    route: (version) => {
      const [coatPlan] = shop.coatPlans ?? [];
      const { inTwoStages = false } = shop;
      return { ...route(version), inTwoStages, ...(coatPlan ? { coatPlan } : {}) };
    },
    work: byId(shop.works),
    section: byId(shop.sections),
    piece: byId(shop.pieces),
    cast: byId(shop.casts),
    tree: byId(shop.trees),
    mould: byId(shop.moulds),
    load: byId(shop.loads),
    heat: byId(shop.heats),
    step: byId(shop.steps),
    stepsOf: group(shop.steps, (step) => step.carrierId),
    sectionsOf: group([...shop.sections].sort(ordinal), (section) => section.workId),
    piecesOf: group([...shop.pieces].sort(edition), (piece) => piece.workId),
    castsOf: group(
      [...shop.casts].sort((a, b) => a.attempt - b.attempt),
      (cast) => cast.pieceId,
    ),
    mouldsOf: group(
      [...shop.moulds].sort((a, b) => a.number - b.number),
      (mould) => mould.workId,
    ),
    pullsOf: castPulls(shop.pulls),
    weightsOf: group(shop.weights, (weight) => weight.castId),
    membersOf: group(shop.treeCasts, (member) => member.treeId),
    treesOf: group(shop.treeCasts, (member) => member.castId),
    placesOf: group(shop.loadPlaces, (place) => place.treeId),
    inLoad: group(shop.loadPlaces, (place) => place.loadId),
    pouringsOf: group(shop.pourings, (pouring) => pouring.treeId),
    inHeat: group(
      [...shop.pourings].sort((a, b) => a.order - b.order),
      (pouring) => pouring.heatId,
    ),
    chargeOf: group(shop.chargeLines, (line) => line.heatId),
    chains: new Map(),
  });
}

/** The cast that stands for a section of a piece now: the latest attempt that is neither lost nor void. */
export function currentCast(index: ShopIndex, pieceId: Id, sectionId: Id): Cast | undefined {
  return (index.castsOf.get(pieceId) ?? [])
    .filter((cast) => cast.sectionId === sectionId && cast.state !== 'lost' && cast.state !== 'void')
    .pop();
}

/** The casts that stand for a piece now, in the order of its sections. */
export function currentCasts(index: ShopIndex, piece: Piece): Cast[] {
  return (index.sectionsOf.get(piece.workId) ?? [])
    .map((section) => currentCast(index, piece.id, section.id))
    .filter((cast): cast is Cast => cast !== undefined);
}

/** The tree a cast is in, or was knocked out of last; undefined for one that left its tree otherwise. */
export function treeOfCast(index: ShopIndex, castId: Id): Tree | undefined {
  const members = index.treesOf.get(castId) ?? [];
  const now = members.find((member) => member.until === null);
  return now && index.tree.get(now.treeId);
}

/** The casts in a tree now. */
export function castsOfTree(index: ShopIndex, treeId: Id): Cast[] {
  return (index.membersOf.get(treeId) ?? [])
    .filter((member) => member.until === null)
    .map((member) => index.cast.get(member.castId))
    .filter((cast): cast is Cast => cast !== undefined && cast.state !== 'lost' && cast.state !== 'void');
}

/** The pull that a cast's wax came from, or is being made in; undefined before. */
export const pullOf = (index: ShopIndex, castId: Id): Pull | undefined =>
  (index.pullsOf.get(castId) ?? []).filter(({ outcome }) => outcome !== 'void').at(-1);

/** The place of a tree in a heat or load that is not over and where it was not recorded yet. */
export const openPouringOf = (index: ShopIndex, treeId: Id): Pouring | undefined =>
  (index.pouringsOf.get(treeId) ?? []).find(
    ({ outcome, heatId }) =>
      outcome === null && !['done', 'abandoned'].includes(index.heat.get(heatId)?.state ?? 'done'),
  );
export const openPlaceOf = (index: ShopIndex, treeId: Id): LoadPlace | undefined =>
  (index.placesOf.get(treeId) ?? []).find(
    ({ outcome, loadId }) =>
      outcome === null && !['done', 'abandoned'].includes(index.load.get(loadId)?.state ?? 'done'),
  );
