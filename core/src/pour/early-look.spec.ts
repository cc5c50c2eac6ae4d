import { planShop } from '../plan/build/shop-plan.ts';
import type { Shop } from '../records/shop.ts';
import { applyOps } from '../records/shop.ts';
import { closeStep } from '../route/close-step.ts';
import { standings } from '../route/standing.ts';
import { placeOf } from '../route/where.ts';
import { indexShop } from '../shop/index-shop.ts';
import { pieceDecisions } from '../shop/decisions.ts';
import { MIDNIGHT, snapshot } from '../testing/plan-snapshot.ts';
import { closing, counter, openStep, play, playThrough, smallShop } from '../testing/play.ts';
import { addMinutes, fromMs } from '../units/instant.ts';

const COATS = Array.from({ length: 6 }, () => 'coat');
const TO_POUR = ['make-mould', 'pull', 'chase-wax', 'join-tree', ...COATS, 'fire', 'leak-test', 'pour'];
const DAY = 1440;

describe('the early look', () => {
  const newId = counter();
  const grown = smallShop({ work: { routeVersion: 3 } }, newId);
  const poured = playThrough(grown, TO_POUR, newId);
  const look = openStep(poured, 'early-look');
  const pouredAt = poured.steps.find(({ kind }) => kind === 'pour')!.endedAt!;

  it('can be taken three quarters of an hour after the pour, and nothing waits for it', () => {
    const index = indexShop(poured);
    const standing = standings(index);
    expect(standing.get(look.id)!.readyAt).toBe(addMinutes(pouredAt, 45));
    const knockOut = standing.get(openStep(poured, 'knock-out').id)!;
    expect(knockOut.waitsFor).toEqual([]);
    // The piece stands where it goes on: at its knock-out, in the metal shop.
    expect(placeOf(index, poured.pieces[0]!).behind).toBe('chasing');
  });

  it('asks what becomes of a cast that was seen to be short, a day before its shell is off', () => {
    const short = play(poured, look, newId, { outcome: 'short', note: 'no metal at the ear' });
    const asked = (shop: Shop) => pieceDecisions(indexShop(shop), shop.pieces[0]!, 0.1);
    expect(asked(short).map(({ answers }) => answers.map(({ code }) => code))).toEqual([['weld', 'recast']]);
    expect(asked(play(poured, look, newId))).toEqual([]);
  });

  it('is asked for no more once the shell is off', () => {
    const knockOut = openStep(poured, 'knock-out');
    const said = closing('done', addMinutes(pouredAt, DAY), { readings: { castKg: {}, returnsKg: 2 } });
    const after = applyOps(poured, closeStep(indexShop(poured), knockOut, said, newId));
    expect(after.steps.find(({ id }) => id === look.id)!.state).toBe('void');
  });

  it('is planned on the day of the pour, and the knock-out on the next working day, by the same hands', () => {
    const fired = playThrough(smallShop({ work: { routeVersion: 3 } }, newId), TO_POUR.slice(0, -1), newId);
    const now = fired.steps.find(({ kind }) => kind === 'leak-test')!.endedAt!;
    const plan = planShop(snapshot(fired, now));
    const at = (kind: string) => plan.steps.find(({ stepId }) => stepId === openStep(fired, kind).id)!;
    const [pour, seen, off] = [at('pour'), at('early-look'), at('knock-out')];
    expect(seen.start - pour.end).toBeGreaterThanOrEqual(45);
    expect(seen.end).toBeLessThanOrEqual(off.start);
    expect(Math.floor(off.start / DAY)).toBe(Math.floor(pour.start / DAY) + 1);
    expect(seen.resourceId).toBe(off.resourceId);
  });
});

describe('a block', () => {
  it('is drawn and bedded the day before it is poured, half a day to a day and a half', () => {
    const newId = counter();
    const work = { method: 'block', routeVersion: 3 } as const;
    const shop = smallShop({ work, sections: [{ method: 'block' }] }, newId);
    const made = playThrough(shop, ['make-mould', 'pull', 'chase-wax', 'join-tree', 'invest'], newId);
    const now = made.steps.find(({ kind }) => kind === 'invest')!.endedAt!;
    const plan = planShop(snapshot(made, now));
    expect(plan.notes).toEqual([]);
    const at = (kind: string) => plan.steps.find(({ stepId }) => stepId === openStep(made, kind).id)!;
    const cooled = at('pour').start - at('draw-block').end;
    expect(cooled).toBeGreaterThanOrEqual(12 * 60);
    expect(cooled).toBeLessThanOrEqual(36 * 60);
    // Nor does it stand in the kiln for weeks before.
    expect(at('draw-block').start - at('fire-block').end).toBeLessThanOrEqual(3 * DAY);
    expect(fromMs(MIDNIGHT + at('draw-block').start * 60_000) > now).toBeTrue();
  });

  it('of much metal cools longer before it is poured, at most 16 h', () => {
    const newId = counter();
    const shop = smallShop({ work: { method: 'block', routeVersion: 3 }, sections: [{ method: 'block' }] }, newId);
    const steps = ['make-mould', 'pull', 'chase-wax', 'join-tree', 'invest', 'fire-block', 'draw-block'];
    const drawn = playThrough(shop, steps, newId);
    const pour = openStep(drawn, 'pour');
    const inHeat = (plannedKg: number) => {
      const [tree] = drawn.trees;
      const pouring = { id: newId(), heatId: 'h', treeId: tree!.id, stepId: pour.id, ordinal: 1, plannedKg };
      const rest = { pouredKg: null, metalC: null, tempWhere: null, seconds: null, version: 1 };
      const index = indexShop({ ...drawn, pourings: [{ ...pouring, ...rest } as never] });
      const end = drawn.steps.find(({ kind }) => kind === 'draw-block')!.endedAt!;
      return (Date.parse(standings(index).get(pour.id)!.readyAt!) - Date.parse(end)) / 3_600_000;
    };
    // 12 h, and 6 min a kilogram: 10 kg an hour more; 60 kg would be 18 h.
    expect([0, 10, 60].map(inHeat)).toEqual([12, 13, 16]);
  });
});
