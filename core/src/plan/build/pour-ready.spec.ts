import { applyOps, insert, update } from '../../records/shop.ts';
import { MIDNIGHT, snapshot } from '../../testing/plan-snapshot.ts';
import { counter, openStep, playThrough, smallShop } from '../../testing/play.ts';
import { addMinutes, fromMs, toMs } from '../../units/instant.ts';
import { inWords } from '../../units/words.ts';
import { pourReady } from './pour-ready.ts';

const COATS = Array.from({ length: 6 }, () => 'coat');
const TO_FIRE = ['make-mould', 'pull', 'chase-wax', 'join-tree', ...COATS];
const DAY = 1440;

describe('from when a tree can be poured', () => {
  const newId = counter();
  const grown = smallShop({}, newId);
  const treeId = grown.trees[0]!.id;
  /** At 08:00 of the Monday after the last record, with what is left then. */
  const at = (kinds: readonly string[]) => {
    const shop = playThrough(grown, kinds, newId);
    const last = shop.steps.reduce((latest, { endedAt }) => (endedAt && endedAt > latest ? endedAt : latest), '');
    const days = Math.ceil((toMs(last) - MIDNIGHT) / 60_000 / DAY / 7) * 7;
    return { shop, now: fromMs(MIDNIGHT + (days * DAY + 480) * 60_000), monday: days * DAY };
  };

  it('is now where it only waits for its heat', () => {
    const { shop, now, monday } = at([...TO_FIRE, 'fire', 'leak-test']);
    const ready = pourReady(snapshot(shop, now), [treeId]).get(treeId)!;
    expect([ready.from, inWords(ready.needs), ready.held]).toEqual([monday + 480, '', null]);
  });

  it('is once what is left of it is done, with its waits and hours, whatever heat it is planned in', () => {
    const { shop, now, monday } = at(TO_FIRE);
    const from = (of: typeof shop) => pourReady(snapshot(of, now), [treeId]).get(treeId)!;
    // Fired from 08:00 for six hours, cooled four; the burnout is there again on Tuesday at 08:00, and tests for 15 min.
    expect(from(shop).from).toBe(monday + DAY + 480 + 15);
    expect(inWords(from(shop).needs)).toBe('dewax and fire, leak test');
    const heat = { id: 'h', alloyId: 'C87300', state: 'planned', plannedFor: addMinutes(now, 60), version: 1 };
    const pouring = { id: 'p', heatId: 'h', treeId, order: 1, plannedKg: 8, outcome: null, stepId: null, version: 1 };
    const inHeat = applyOps(shop, [insert('heats', heat as never), insert('pourings', pouring as never)]);
    expect(from(inHeat).from).toBe(from(shop).from);
  });

  it('counts coats together, and says from when a hold lets it go on, or that it does not', () => {
    const { shop, now, monday } = at(TO_FIRE.slice(0, -3));
    const [piece] = shop.pieces;
    const ready = (holdUntil: string | null) => {
      const patch = { state: 'hold', holdReason: 'client away', holdUntil, holdShells: 'stop' } as const;
      const held = applyOps(shop, [update('pieces', piece!.id, patch)]);
      return pourReady(snapshot(held, now), [treeId]).get(treeId)!;
    };
    expect(inWords(ready(null).needs)).toBe('3 coats, dewax and fire, leak test');
    expect([ready(null).from, ready(null).held]).toEqual([null, 'client away']);
    const until = fromMs(MIDNIGHT + (monday + 70 * DAY) * 60_000).slice(0, 10);
    expect(ready(until).from).toBeGreaterThan(monday + 70 * DAY);
  });

  it('is nothing of a tree that has no pour before it', () => {
    const { shop, now } = at([...TO_FIRE, 'fire', 'leak-test', 'pour']);
    expect(() => openStep(shop, 'pour')).toThrowError();
    expect(pourReady(snapshot(shop, now), [treeId]).size).toBe(0);
  });
});
