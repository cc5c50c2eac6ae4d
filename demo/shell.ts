import type { Id, LookAtCoat } from '@kalvet/core';
import { castsOfTree, dryingOf, greenCoat, hangTrees, isClosed, lookAtCoat, referenceWaits } from '@kalvet/core';
import type { DemoAir } from './climate.ts';
import type { Stage } from './stage.ts';

/** Racks of the shell room, and hooks of each. */
const [RACKS, HOOKS] = [['A', 'B', 'C', 'D'], 10] as const;
/** One coat in so many is looked at with the conductivity meter. */
const LOOKED_AT = 14;
/** Nobody looks before the sum says that it is nearly dry. */
const LOOK_FROM = 0.8;

/** The shell room's own hands: they hang what is dipped, and look whether it is dry. */
export class ShellRoom {
  private hung = 0;
  private seen = 0;
  /** Coats that are looked at, with the share of the sum at which each is really dry; 0 for those that are not. */
  private readonly needs = new Map<Id, number>();

  constructor(
    private readonly stage: Stage,
    private readonly air: DemoAir,
  ) {}

  /** What got its first coat is hung up; deep ones in the cabinet, while it has hooks. */
  hang(): void {
    const { shop, person } = this.stage;
    let inCabinet = this.countIn(this.air.cabinetId);
    for (const workId of shop.workIds) {
      const index = shop.work(workId);
      for (const tree of index.shop.trees) {
        if (tree.state !== 'joined' || (tree.hangs ?? []).length > 0 || !greenCoat(index, tree.id)) continue;
        const isDeep = castsOfTree(index, tree.id).some(({ sectionId }) => index.section.get(sectionId)?.deep);
        const cabinet = isDeep && inCabinet < 6;
        if (cabinet) inCabinet++;
        const place = this.air.places.find(({ id }) => id === (cabinet ? this.air.cabinetId : this.air.roomId))!;
        const hook = cabinet
          ? `hook ${inCabinet}`
          : `rack ${RACKS[Math.floor(this.hung / HOOKS) % RACKS.length]}, hook ${(this.hung++ % HOOKS) + 1}`;
        const given = { treeIds: [tree.id], placeId: place.id, hook, at: shop.now };
        shop.onWork(workId, person.oskar, (now, doing) => hangTrees(now, given, place.name, doing));
      }
    }
  }

  private countIn(placeId: Id): number {
    const { shop } = this.stage;
    return shop.workIds
      .flatMap((workId) => shop.work(workId).shop.trees)
      .filter(({ state, hangs }) => state === 'joined' && hangs?.at(-1)?.placeId === placeId).length;
  }

  /** Now and then a coat is measured in its deepest corner: still wet, or dry. */
  look(): void {
    const { shop, person, random } = this.stage;
    for (const workId of shop.workIds) {
      const index = shop.work(workId);
      for (const { id: treeId, state } of index.shop.trees) {
        const coat = state === 'joined' ? greenCoat(index, treeId) : undefined;
        if (!coat?.endedAt || !isClosed(coat)) continue;
        if (!this.needs.has(coat.id))
          this.needs.set(coat.id, ++this.seen % LOOKED_AT === 0 ? 1.02 + 0.2 * random() : 0);
        // The shop's corners take a little longer than its reference says.
        const needs = this.needs.get(coat.id)!;
        if (needs === 0) continue;
        const plain = dryingOf(index, coat, referenceWaits(index, coat).min, { learned: false });
        const share = plain?.shareAt(Date.parse(shop.now)) ?? 0;
        if (share < LOOK_FROM) continue;
        const dry = share >= needs;
        if (dry) this.needs.set(coat.id, 0);
        const given: LookAtCoat = {
          id: shop.newId(),
          stepId: coat.id,
          at: shop.now,
          means: 'conductivity',
          dry,
          share: null,
          note: dry ? '' : 'inside corner still cool',
        };
        shop.onWork(workId, person.oskar, (now, doing) => lookAtCoat(now, given, doing));
      }
    }
  }
}
