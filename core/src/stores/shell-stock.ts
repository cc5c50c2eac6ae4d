import type { Slurry } from '../records/coat-plan.ts';
import type { Supply, SupplyKind, SupplyMovement, SupplyStock } from '../records/supplies.ts';
import { SUPPLIES } from '../records/supplies.ts';
import type { Tank, TankCheck } from '../records/tanks.ts';
import type { CoatTaken } from '../shell/shell-use.ts';
import { lastsUntil, stuccoKg } from '../shell/shell-use.ts';
import { dayIn } from '../units/shop-clock.ts';
import { say } from '../units/words.ts';

/** What the shell room's stock is worked out from: no movement is kept beside the records that caused it. */
export interface ShellRecords {
  readonly supplies: readonly Supply[];
  readonly tanks: readonly Tank[];
  readonly checks: readonly TankCheck[];
  readonly coats: readonly CoatTaken[];
}

/** Which shelf a top-up comes from; slurry that was mixed elsewhere and water come from none. */
function shelfOf(what: TankCheck['toppedUp'][number]['what'], slurry: Slurry): SupplyKind | undefined {
  if (what === 'binder') return 'binder';
  return what === 'flour' ? `flour ${slurry}` : undefined;
}

/**
 * Everything that came and went, in the order of its time; stucco by the day. A count is the difference between what was found
 * and what the books said just before.
 * @param zone the shop's: what is dipped in a day is one movement
 */
export function supplyMovements({ supplies, tanks, checks, coats }: ShellRecords, zone: string): SupplyMovement[] {
  const tankOf = new Map(tanks.map((tank) => [tank.id, tank]));
  const moved: SupplyMovement[] = supplies
    .filter(({ kind, voidReason }) => kind === 'delivery' && voidReason === null)
    .map(({ at, what, kg, lot }) => ({
      at,
      what,
      kind: 'delivery',
      kg,
      says: lot === '' ? 'delivery' : say`lot ${lot}`,
    }));
  for (const { at, tankId, toppedUp, voidReason } of checks) {
    const tank = tankOf.get(tankId);
    if (!tank || voidReason !== null) continue;
    for (const { what, kg } of toppedUp) {
      const shelf = shelfOf(what, tank.slurry);
      if (shelf) moved.push({ at, what: shelf, kind: 'top-up', kg: -kg, says: tank.name });
    }
  }
  const days = new Map<string, { at: string; what: SupplyKind; kg: number; coats: number }>();
  for (const coat of coats) {
    if (coat.stucco === 'none') continue;
    const key = `${dayIn(coat.at, zone)} ${coat.stucco}`;
    const day = days.get(key) ?? { at: coat.at, what: coat.stucco, kg: 0, coats: 0 };
    day.at = coat.at > day.at ? coat.at : day.at;
    day.kg += stuccoKg(coat);
    day.coats++;
    days.set(key, day);
  }
  for (const { at, what, kg, coats: count } of days.values())
    moved.push({ at, what, kind: 'dipped', kg: -kg, says: say`${count} coats` });
  moved.sort((a, b) => (a.at < b.at ? -1 : 1));
  for (const count of supplies
    .filter((each) => each.kind === 'count' && each.voidReason === null)
    .sort((a, b) => (a.at < b.at ? -1 : 1))) {
    const before = moved
      .filter(({ what, at }) => what === count.what && at <= count.at)
      .reduce((sum, { kg }) => sum + kg, 0);
    moved.push({
      at: count.at,
      what: count.what,
      kind: 'count',
      kg: count.kg - before,
      says: say`${count.note || 'counted'}`,
    });
    moved.sort((a, b) => (a.at < b.at ? -1 : 1));
  }
  return moved;
}

/** What is there of each, and until when it lasts by the coats that are to come. */
export function supplyStock(movements: readonly SupplyMovement[], coming: readonly CoatTaken[]): SupplyStock[] {
  return SUPPLIES.filter((what) => movements.some((each) => each.what === what)).map((what) => {
    const kg = movements.filter((each) => each.what === what).reduce((sum, each) => sum + each.kg, 0);
    const own = coming.filter(({ stucco }) => stucco === what).map((coat) => ({ at: coat.at, kg: stuccoKg(coat) }));
    return { what, kg, lastsUntil: lastsUntil(kg, 0, own) };
  });
}
