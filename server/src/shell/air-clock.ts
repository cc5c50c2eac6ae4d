import type { Id, Instant, NextStep } from '@kalvet/core';
import { at, minutesBetween, projections, say, treeLabel } from '@kalvet/core';
import { settingsOf } from '../people/settings.ts';
import { loadShop, sharing } from '../shop/load.ts';
import { lockCarriers } from '../shop/locked.ts';
import { worksOf } from '../shop/works-of.ts';
import { write } from '../shop/write-shop.ts';
import { newId } from '../write/new-id.ts';
import type { Store } from '../write/store.ts';
import { climateCount } from '../shop/shop-climate.ts';
import { shellTrees } from './shell-trees.ts';

const LOOK_MS = 15_000;
/** Less than this is not worth telling: the air of a room is never quite still. */
const WORTH_MIN = 10;

/** A tree whose next step is ready at another time by the air, or waits for a tank, or does so no more. */
interface Moved {
  readonly treeId: Id;
  readonly from: Instant;
  readonly to: Instant;
  readonly waits: boolean;
}

/**
 * The drying's clock: where sensors say that the air is other than it was expected, the times at which coats are dry are kept
 * anew, and it is told. It runs beside what people write; several servers may look, and the second finds nothing to do.
 */
export class AirClock {
  private timer: NodeJS.Timeout | undefined;
  private seen = -1;
  private looking: Promise<unknown> | undefined;

  constructor(
    private readonly store: Store,
    private readonly now: () => Instant,
  ) {}

  start(): void {
    this.timer = setInterval(() => {
      this.looking ??= this.look()
        .catch((error: Error) => console.error('drying:', error.message))
        .finally(() => (this.looking = undefined));
    }, LOOK_MS);
    this.timer.unref();
  }

  async stop(): Promise<void> {
    clearInterval(this.timer);
    await this.looking;
  }

  /** Looks once; how many trees are ready at another time than was told. */
  async look(): Promise<number> {
    const count = await climateCount(this.store);
    if (count === this.seen) return 0;
    const moved = await movedByAir(this.store);
    if (moved.length > 0) await this.tell(moved);
    this.seen = count;
    return moved.length;
  }

  private async tell(moved: readonly Moved[]): Promise<void> {
    const request = { actor: null, now: this.now(), requestId: newId(Date.parse(this.now())) };
    await write(this.store, request, async (ctx) => {
      const index = await lockCarriers(
        ctx,
        moved.map(({ treeId }) => ['tree', treeId] as const),
      );
      const first = [...moved].sort((a, b) => Number(a.waits) - Number(b.waits) || (a.to < b.to ? -1 : 1))[0]!;
      const name = treeLabel(index, first.treeId);
      const more = moved.length > 1 ? ` and ${moved.length - 1} more` : '';
      ctx.event = {
        verb: 'air moved',
        text: first.waits
          ? say`A tank stands otherwise: what ${name} waits for has changed${more}`
          : say`The air moved what dries: ${name} is dry ${at(first.to)} instead of ${at(first.from)}${more}`,
        room: 'shell',
      };
      ctx.concern('tree', ...moved.map(({ treeId }) => treeId));
      return {};
    });
  }
}

/** Trees that are ready at another time by the air than they are kept ready for. */
async function movedByAir(store: Store): Promise<Moved[]> {
  const trees = await shellTrees(store);
  if (trees.length === 0) return [];
  const works = new Set<Id>();
  for (const { treeId } of trees) for (const id of await worksOf(store, 'tree', treeId)) works.add(id);
  const shop = await loadShop(store, { workIds: await sharing(store, [...works]) });
  const anew = new Map(projections(shop, works, await settingsOf(store)).map((each) => [each.id, each]));
  return trees.flatMap(({ treeId, readyAt, waits }) => {
    const now = anew.get(treeId);
    if (!now) return [];
    const next = (now.data as { readonly next: NextStep | null }).next;
    const otherWaits = JSON.stringify(next?.waits ?? []) !== JSON.stringify(waits);
    const [from, to] = [readyAt ?? '', now.readyAt ?? ''];
    const moves = from !== '' && to !== '' && Math.abs(minutesBetween(from, to)) >= WORTH_MIN;
    return moves || otherWaits ? [{ treeId, from, to, waits: !moves }] : [];
  });
}
