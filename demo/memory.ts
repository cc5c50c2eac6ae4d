import type {
  Act,
  Changed,
  Client,
  Concern,
  Crucible,
  CrucibleLook,
  Doing,
  DryingPlace,
  EventDraft,
  Id,
  Instant,
  Instrument,
  KeptClimate,
  KilnProfile,
  KilnRead,
  LearnedDrying,
  Lot,
  Order,
  Person,
  Shop,
  ShopClimate,
  ShopIndex,
  ShopSettings,
  Supply,
  Table,
  Tank,
  TankCheck,
  TankDecision,
} from '@kalvet/core';
import { EMPTY_SHOP, carryOutInMemory, indexShop, inWords, isPossible, mayPass } from '@kalvet/core';
import { v7 } from 'uuid';

/** An event as it was kept in memory, with what it concerns. */
export interface PlayedEvent {
  readonly event: EventDraft;
  readonly typedAt: Instant;
  readonly actorId: Id | null;
  readonly passed: Act['passed'];
  readonly changes: readonly (Omit<Changed, 'table'> & { readonly table: string })[];
  readonly subjects: ReadonlyMap<Id, string>;
}

type Tables = Exclude<
  keyof Shop,
  'routeTimes' | 'castFactors' | 'cups' | 'climate' | 'tanks' | 'profiles' | 'coatPlans' | 'coatMm' | 'inTwoStages'
>;

/** Pieces that have left are no longer read with their work: as the server reads it. */
const GONE = ['delivered', 'cancelled'];

/**
 * A foundry in memory. Core's own acts are played on it and carried out as the server does, so that its records are those
 * which the same acts leave in the database; each work is a shop of its own, since trees hold casts of one work here.
 */
export class Memory {
  now: Instant = new Date(0).toISOString();
  readonly people: Person[] = [];
  readonly clients: Client[] = [];
  readonly orders: Order[] = [];
  readonly lots: Lot[] = [];
  readonly crucibles: Crucible[] = [];
  readonly looks: CrucibleLook[] = [];
  readonly instruments: Instrument[] = [];
  readonly dryingPlaces: DryingPlace[] = [];
  readonly climateReadings: KeptClimate[] = [];
  /** The air that shells dry in; fixed hours where none is told. */
  climate: ShopClimate | undefined;
  private tankStands: Shop['tanks'];
  /** What was written down of the kiln. */
  kiln: { readonly profiles: readonly KilnProfile[]; readonly readings: readonly KilnRead[] } | undefined;
  /** What was written down of the tanks, and of the shell room's shelf. */
  tankLog:
    | {
        readonly tanks: readonly Tank[];
        readonly checks: readonly TankCheck[];
        readonly decisions: readonly TankDecision[];
        readonly supplies: readonly Supply[];
      }
    | undefined;
  readonly events: PlayedEvent[] = [];
  /** What no longer stands in the way of anything: pieces that are out, with all that hung on them. */
  readonly archive: Shop[] = [];
  /** Loads and heats hold trees of many works. */
  private fire: Pick<Shop, 'loads' | 'loadPlaces' | 'heats' | 'pourings' | 'chargeLines' | 'heatReadings'> = EMPTY_SHOP;
  private readonly works = new Map<Id, Shop>();
  private readonly indexes = new Map<Id, ShopIndex>();
  private readonly numbers = new Map<string, number>();
  private made = 0;

  constructor(readonly settings: ShopSettings) {}

  /** A new id of this moment; ids made later sort behind. */
  readonly newId = (): Id => v7({ msecs: Date.parse(this.now) + this.made++ });

  private readonly next = (table: string): number => {
    this.numbers.set(table, (this.numbers.get(table) ?? 0) + 1);
    return this.numbers.get(table)!;
  };

  /** Running numbers that were given so far, by table. */
  get counters(): ReadonlyMap<string, number> {
    return this.numbers;
  }

  private doing(actorId: Id | null): Doing {
    const actor = this.people.find(({ id }) => id === actorId) ?? null;
    return {
      now: this.now,
      actor,
      mayPass: (rule) => mayPass(actor, rule),
      overrides: [],
      settings: this.settings,
      people: new Map(this.people.map(({ id, name }) => [id, name])),
      newId: this.newId,
    };
  }

  /** The shop has learned how its coats dry. */
  learn(learned: LearnedDrying): void {
    if (this.climate) this.climate = { ...this.climate, learned };
    this.indexes.clear();
  }

  /** How the slurry tanks stand, and how the shop shells. */
  set tanks(stands: Shop['tanks']) {
    this.tankStands = stands;
    this.indexes.clear();
  }

  private get air(): Pick<Shop, 'climate' | 'tanks' | 'profiles' | 'coatPlans'> {
    return {
      ...(this.climate ? { climate: this.climate } : {}),
      ...(this.tankStands ? { tanks: this.tankStands } : {}),
      ...(this.kiln ? { profiles: this.kiln.profiles } : {}),
      coatPlans: this.settings.coatPlans,
    };
  }

  /** The work as it stands. */
  work(workId: Id): ShopIndex {
    const known = this.indexes.get(workId);
    if (known) return known;
    const index = indexShop({ ...this.works.get(workId)!, ...this.fire, ...this.air });
    this.indexes.set(workId, index);
    return index;
  }

  get workIds(): readonly Id[] {
    return [...this.works.keys()];
  }

  /** Everything together: what loads and heats are judged on. */
  whole(): ShopIndex {
    return indexShop({ ...join([...this.works.values()]), ...this.fire, ...this.air });
  }

  /** All records, those of pieces that are out too. */
  all(): Shop {
    return { ...join([...this.works.values(), ...this.archive]), ...this.fire, ...this.air };
  }

  /** Plays an act on one work. */
  onWork<T>(workId: Id, actorId: Id | null, act: (index: ShopIndex, doing: Doing) => Act<T>): T {
    const index = this.works.has(workId) ? this.work(workId) : indexShop(EMPTY_SHOP);
    const done = this.carryOut(index, actorId, act(index, this.doing(actorId)));
    this.keep(workId, done.shop);
    return done.answer;
  }

  /** Plays an act on the whole foundry: a load, a heat. */
  onAll<T>(actorId: Id | null, act: (index: ShopIndex, doing: Doing) => Act<T>): T {
    const index = this.whole();
    const { shop, answer } = this.carryOut(index, actorId, act(index, this.doing(actorId)));
    for (const [workId, part] of split(shop, this.workIds)) this.keep(workId, part);
    return answer;
  }

  private carryOut<T>(index: ShopIndex, actorId: Id | null, act: Act<T>): { shop: Shop; answer: T } {
    if (!isPossible(act))
      throw new Error(
        [
          ...act.refusals.map(({ message }) => inWords(message)),
          ...Object.values(act.fields).map((t) => inWords(t)),
        ].join(' '),
      );
    const { shop, changes } = carryOutInMemory(index.shop, act.ops, this.next as (table: Table) => number);
    const { event, concerns } = act.tell(indexShop(shop));
    this.tell(actorId, event, concerns, changes, act.passed);
    return { shop, answer: act.answer };
  }

  /** Writes an event down, as a write does at its end. */
  tell(
    actorId: Id | null,
    event: EventDraft,
    concerns: readonly Concern[],
    changes: PlayedEvent['changes'],
    passed: Act['passed'] = [],
  ): void {
    const subjects = new Map(concerns.map(([subject, id]): [Id, string] => [id, subject]));
    this.events.push({ event, typedAt: this.now, actorId, passed, changes, subjects });
    this.made = 0;
  }

  /** A piece stands in an order from now on. */
  putInOrder(workId: Id, pieceId: Id, orderId: Id): Changed {
    const shop = this.works.get(workId)!;
    const piece = shop.pieces.find(({ id }) => id === pieceId)!;
    this.works.set(workId, {
      ...shop,
      pieces: shop.pieces.map((each) => (each === piece ? { ...each, orderId, version: each.version + 1 } : each)),
    });
    this.indexes.delete(workId);
    return { table: 'pieces', id: pieceId, op: 'update', before: { orderId: piece.orderId }, after: { orderId } };
  }

  private keep(workId: Id, shop: Shop): void {
    const { loads, loadPlaces, heats, pourings, chargeLines, heatReadings, ...own } = shop;
    const fire = { loads, loadPlaces, heats, pourings, chargeLines, heatReadings };
    const sameFire = (Object.keys(fire) as (keyof typeof fire)[]).every((table) => fire[table] === this.fire[table]);
    this.fire = fire;
    this.works.set(workId, this.withoutGone({ ...EMPTY_SHOP, ...own }));
    // Loads and heats are read with every work.
    if (sameFire) this.indexes.delete(workId);
    else this.indexes.clear();
  }

  /** Puts pieces that are out aside, with their casts, trees and steps. */
  private withoutGone(shop: Shop): Shop {
    const gone = new Set(shop.pieces.filter(({ state }) => GONE.includes(state)).map(({ id }) => id));
    if (gone.size === 0) return shop;
    const casts = new Set(shop.casts.filter(({ pieceId }) => gone.has(pieceId)).map(({ id }) => id));
    // A tree goes with the last of its casts.
    const staying = new Set(shop.treeCasts.filter(({ castId }) => !casts.has(castId)).map(({ treeId }) => treeId));
    const trees = new Set(shop.trees.filter(({ id }) => !staying.has(id)).map(({ id }) => id));
    const left = (carrierId: Id) => gone.has(carrierId) || casts.has(carrierId) || trees.has(carrierId);
    const parts: readonly [Tables, (row: never) => boolean][] = [
      ['pieces', ({ id }: { id: Id }) => gone.has(id)],
      ['casts', ({ id }: { id: Id }) => casts.has(id)],
      ['trees', ({ id }: { id: Id }) => trees.has(id)],
      ['treeCasts', ({ castId }: { castId: Id }) => casts.has(castId)],
      ['steps', ({ carrierId }: { carrierId: Id }) => left(carrierId)],
      ['weights', ({ castId }: { castId: Id | null }) => castId !== null && casts.has(castId)],
      ['openItems', ({ castId }: { castId: Id }) => casts.has(castId)],
      ['drynessReadings', ({ treeId }: { treeId: Id }) => trees.has(treeId)],
    ];
    const pick = (out: boolean) =>
      Object.fromEntries(
        parts.map(([table, is]) => [table, (shop[table] as never[]).filter((row) => is(row) === out)]),
      );
    this.archive.push({ ...EMPTY_SHOP, ...pick(true) } as Shop);
    return { ...shop, ...pick(false) };
  }
}

function join(shops: readonly Shop[]): Shop {
  const tables = Object.keys(EMPTY_SHOP) as Tables[];
  return Object.fromEntries(
    tables.map((table) => [table, shops.flatMap((shop) => shop[table] as readonly unknown[])]),
  ) as unknown as Shop;
}

/** The whole foundry taken apart again, each work with what hangs on it. */
function split(shop: Shop, workIds: readonly Id[]): [Id, Shop][] {
  const index = indexShop(shop);
  const workOfCast = (castId: Id) => index.piece.get(index.cast.get(castId)?.pieceId ?? '')?.workId;
  const workOfTree = new Map(shop.treeCasts.map(({ treeId, castId }) => [treeId, workOfCast(castId)]));
  const workOf = (carrierId: Id) =>
    index.piece.get(carrierId)?.workId ??
    index.mould.get(carrierId)?.workId ??
    workOfCast(carrierId) ??
    workOfTree.get(carrierId);
  // What concerns a whole load or heat stays with the first work: somewhere it must.
  const whole = shop.steps.filter(({ carrier }) => carrier === 'load' || carrier === 'heat');
  return workIds.map((workId, place): [Id, Shop] => {
    const mine = (id: Id | undefined) => id === workId;
    return [
      workId,
      {
        ...shop,
        works: shop.works.filter(({ id }) => mine(id)),
        sections: shop.sections.filter((row) => mine(row.workId)),
        pieces: shop.pieces.filter((row) => mine(row.workId)),
        moulds: shop.moulds.filter((row) => mine(row.workId)),
        pulls: shop.pulls.filter(({ mouldId }) => mine(index.mould.get(mouldId)?.workId)),
        casts: shop.casts.filter(({ id }) => mine(workOfCast(id))),
        trees: shop.trees.filter(({ id }) => mine(workOfTree.get(id))),
        treeCasts: shop.treeCasts.filter(({ castId }) => mine(workOfCast(castId))),
        weights: shop.weights.filter(({ castId }) => castId !== null && mine(workOfCast(castId))),
        openItems: shop.openItems.filter(({ castId }) => mine(workOfCast(castId))),
        drynessReadings: shop.drynessReadings.filter(({ treeId }) => mine(workOfTree.get(treeId))),
        steps: [
          ...shop.steps.filter((step) => !whole.includes(step) && mine(workOf(step.carrierId))),
          ...(place === 0 ? whole : []),
        ],
      },
    ];
  });
}
