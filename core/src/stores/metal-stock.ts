import type { Id } from '../records/common.ts';
import type { ChargeLine, Heat } from '../records/pour.ts';
import type { Lot, MetalStock, Movement, StockCount } from '../records/stores.ts';
import type { Instant } from '../units/instant.ts';
import type { MetalAtHand } from '../pour/judge-metal.ts';
import { kg } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/** Returns that came off a tree at its knock-out. */
export interface CutOff {
  readonly at: Instant;
  readonly alloyId: string;
  readonly kg: number;
  readonly label: string;
}

/** What metal stock is worked out from: no movement is kept beside the records that caused it. */
export interface MetalRecords {
  readonly lots: readonly Lot[];
  readonly counts: readonly StockCount[];
  readonly heats: readonly Pick<
    Heat,
    'id' | 'number' | 'alloyId' | 'state' | 'plannedFor' | 'startedAt' | 'endedAt' | 'pigKg'
  >[];
  readonly chargeLines: readonly Pick<ChargeLine, 'heatId' | 'what' | 'alloyId' | 'kg' | 'lot'>[];
  readonly cutOff: readonly CutOff[];
}

/** A heat whose charge is in the pot, or was. */
const isMelted = ({ state, startedAt }: MetalRecords['heats'][number]): boolean =>
  state === 'running' || state === 'done' || (state === 'abandoned' && startedAt !== null);

/**
 * Everything that came and went, in the order of its time. A count is the difference between what was found and what the books
 * said just before.
 */
export function metalMovements({ lots, counts, heats, chargeLines, cutOff }: MetalRecords): Movement[] {
  const heatOf = new Map(heats.map((heat) => [heat.id, heat]));
  const moved: Movement[] = [
    ...lots.flatMap((lot): Movement[] => {
      if (lot.alloyId === null) return [];
      const base = { alloyId: lot.alloyId, what: lot.what, heatId: null, lot: lot.mark } as const;
      const at = `${lot.receivedOn}T00:00:00.000Z`;
      const came: Movement = { ...base, at, kind: 'receipt', kg: lot.kg, says: say`${lot.mark} from ${lot.supplier}` };
      return lot.state === 'good' ? [came] : [];
    }),
    ...chargeLines.flatMap(({ heatId, what, alloyId, kg: kilograms, lot }): Movement[] => {
      const heat = heatOf.get(heatId);
      if (!heat || !isMelted(heat)) return [];
      const at = heat.startedAt ?? heat.endedAt ?? heat.plannedFor ?? '';
      return [
        {
          at,
          alloyId: alloyId ?? heat.alloyId,
          what,
          kind: 'charge',
          kg: -kilograms,
          says: say`H-${heat.number}`,
          heatId,
          lot,
        },
      ];
    }),
    ...heats.flatMap((heat): Movement[] =>
      heat.state === 'done' && heat.pigKg
        ? [
            {
              at: heat.endedAt ?? '',
              alloyId: heat.alloyId,
              what: 'returns',
              kind: 'pig',
              kg: heat.pigKg,
              says: say`H-${heat.number}`,
              heatId: heat.id,
              lot: '',
            },
          ]
        : [],
    ),
    ...cutOff.map(({ at, alloyId, kg: kilograms, label }): Movement => ({
      at,
      alloyId,
      what: 'returns',
      kind: 'cut off',
      kg: kilograms,
      says: label,
      heatId: null,
      lot: '',
    })),
  ];
  const sorted = moved.sort((a, b) => a.at.localeCompare(b.at));
  return withCounts(sorted, counts);
}

function withCounts(sorted: readonly Movement[], counts: readonly StockCount[]): Movement[] {
  const all = [...sorted];
  for (const count of [...counts].sort((a, b) => a.at.localeCompare(b.at))) {
    const book = all
      .filter(({ alloyId, what, at }) => alloyId === count.alloyId && what === count.what && at <= count.at)
      .reduce((sum, movement) => sum + movement.kg, 0);
    const place = all.findIndex(({ at }) => at > count.at);
    const movement: Movement = {
      at: count.at,
      alloyId: count.alloyId,
      what: count.what,
      kind: 'count',
      kg: count.kg - book,
      says: count.why === '' ? say`${kg(count.kg)} found` : say`${kg(count.kg)} found: ${count.why}`,
      heatId: null,
      lot: '',
    };
    all.splice(place < 0 ? all.length : place, 0, movement);
  }
  return all;
}

/** What there is of each alloy by its movements, kg; additions are counted with the lots alone. */
export function metalStock(movements: readonly Movement[]): MetalStock[] {
  const ids = [...new Set(movements.filter(({ what }) => what !== 'addition').map(({ alloyId }) => alloyId))];
  const sum = (alloyId: string, what: Movement['what']) =>
    movements
      .filter((each) => each.alloyId === alloyId && each.what === what)
      .reduce((total, each) => total + each.kg, 0);
  return ids.map((alloyId) => ({ alloyId, ingotKg: sum(alloyId, 'ingot'), returnsKg: sum(alloyId, 'returns') }));
}

/** What is left of each lot, kg, by its mark; the case of letters does not count. */
export function lotsLeft(lots: readonly Lot[], movements: readonly Movement[]): Map<Id, number> {
  const used = new Map<string, number>();
  for (const { kind, lot, kg: kilograms } of movements)
    if (kind === 'charge') used.set(lot.trim().toLowerCase(), (used.get(lot.trim().toLowerCase()) ?? 0) - kilograms);
  return new Map(lots.map(({ id, mark, kg: kilograms }) => [id, kilograms - (used.get(mark.toLowerCase()) ?? 0)]));
}

/** Of a charge so much comes back as pig, cups and bars, by what an alloy's heats gave so far; where none were, three in ten. */
export function comesBackShare(alloyId: string, movements: readonly Movement[]): number {
  const sum = (kinds: readonly Movement['kind'][]) =>
    movements
      .filter((each) => each.alloyId === alloyId && kinds.includes(each.kind))
      .reduce((total, each) => total + each.kg, 0);
  const charged = -sum(['charge']);
  return charged > 0 ? Math.min(0.9, Math.max(0, sum(['pig', 'cut off']) / charged)) : USUAL_BACK;
}

const USUAL_BACK = 0.3;

/** A heat that is planned or charged and not poured from: its returns are promised to it. */
const isComing = ({ state }: MetalRecords['heats'][number]): boolean => state === 'planned' || state === 'charged';

/** What lies there for a heat, or for one more: returns that no other heat waits for, and the lots of ingot with what is left of each. */
export function metalForHeat(records: MetalRecords, alloyId: string, heatId?: Id): MetalAtHand {
  const others = { ...records, heats: records.heats.filter(({ id }) => id !== heatId) };
  const movements = metalMovements(others);
  const coming = new Set(others.heats.filter(isComing).map(({ id }) => id));
  const promisedKg = records.chargeLines
    .filter((line) => coming.has(line.heatId) && line.what === 'returns' && line.alloyId === alloyId)
    .reduce((sum, line) => sum + line.kg, 0);
  const thereKg = metalStock(movements).find((each) => each.alloyId === alloyId)?.returnsKg ?? 0;
  const left = lotsLeft(records.lots, movements);
  return {
    returnsKg: Math.max(0, thereKg - promisedKg),
    lots: records.lots
      .filter(({ what }) => what === 'ingot')
      .map(({ id, mark, alloyId: of, state }) => ({ mark, alloyId: of, state, leftKg: left.get(id)! })),
  };
}
