import { applyOps, update } from '../records/shop.ts';
import { closeStep, judgeStart, linksOf } from '../route/index.ts';
import { pullOf } from '../route/shop-index.ts';
import { indexShop } from '../shop/index-shop.ts';
import { readingsShown } from '../shop/readings.ts';
import { startStep } from '../shop/start-step.ts';
import { waxDensityOfCast } from '../shop/cast-weights.ts';
import { after, doingBy, said } from '../testing/doing.ts';
import { START, closing, counter, openStep, playThrough, smallShop } from '../testing/play.ts';
import { addMinutes } from '../units/instant.ts';
import { overlaps } from './pull.ts';

describe('a pull', () => {
  const made = () => {
    const newId = counter();
    const shop = playThrough(smallShop({ pieces: 2 }, newId), ['make-mould'], newId);
    return { newId, shop, mouldId: shop.moulds[0]!.id, step: openStep(shop, 'pull') };
  };
  const begin = (wax: string) => {
    const { newId, shop, mouldId, step } = made();
    const doing = doingBy(newId, { now: addMinutes(START, 60 * 1440) });
    const given = { version: 1, startedAt: doing.now, readings: { mouldId, wax, potC: 82 } };
    return { newId, mouldId, doing, shop: after(shop, startStep(indexShop(shop), step, given, doing)) };
  };

  it('keeps the mould and the wax it was begun with, as a row and nowhere else', () => {
    const { shop, mouldId } = begin('micro');
    const running = shop.steps.find(({ state }) => state === 'running')!;
    expect(running.readings).toEqual({ potC: 82 });
    expect(pullOf(indexShop(shop), running.carrierId)).toEqual(
      jasmine.objectContaining({ mouldId, wax: 'micro', endedAt: null }),
    );
    expect(readingsShown(indexShop(shop), running)).toEqual({ potC: 82, mouldId, wax: 'micro' });
  });

  it('is ended in the same row, with its wax still known', () => {
    const { newId, shop, doing } = begin('micro');
    const running = shop.steps.find(({ state }) => state === 'running')!;
    const ended = applyOps(
      shop,
      closeStep(
        indexShop(shop),
        running,
        closing('done', addMinutes(doing.now, 40), { readings: { potC: 82 } }),
        newId,
      ),
    );
    expect(ended.pulls.length).toBe(1);
    expect(ended.pulls[0]).toEqual(jasmine.objectContaining({ wax: 'micro', endedAt: addMinutes(doing.now, 40) }));
  });

  it('comes out of no other mould than it was begun in, and begins in no mould that is in use', () => {
    const { newId, shop, mouldId, doing } = begin('pattern');
    const other = openStep(shop, 'pull', shop.casts.find(({ id }) => !pullOf(indexShop(shop), id))!.id);
    const given = { version: 1, startedAt: addMinutes(doing.now, 5), readings: { mouldId, wax: 'pattern', potC: 82 } };
    const act = startStep(indexShop(shop), other, given, { ...doing, now: given.startedAt });
    expect(said(act)).toEqual([jasmine.stringMatching(/^mould in use: Mould M-\d+ whole is in use: pull \d+ has not/)]);
    const index = indexShop(shop);
    const running = shop.steps.find(({ state }) => state === 'running')!;
    const second = newId();
    expect(
      judgeStart(index, linksOf(index), running, doing.now, { mouldId: second }).map(({ rule }) => rule),
    ).toContain('mould');
  });

  it('decides by its wax what the wax will weigh in bronze', () => {
    const { shop } = begin('micro');
    const castId = shop.steps.find(({ state }) => state === 'running')!.carrierId;
    // Microcrystalline 0.92, beeswax 0.96 g/cm³.
    expect(waxDensityOfCast(indexShop(shop), castId)).toBe(0.92);
    const beeswax = applyOps(shop, [update('pulls', shop.pulls[0]!.id, { wax: 'beeswax' })]);
    expect(waxDensityOfCast(indexShop(beeswax), castId)).toBe(0.96);
  });

  it('spoilt counts no longer in the mould’s way, one that has not ended stands in it for ever', () => {
    const at = (minute: number) => Date.parse(addMinutes(START, minute));
    const pull = { startedAt: START, endedAt: addMinutes(START, 60), outcome: 'good' } as const;
    expect(overlaps(pull, at(59), at(90))).toBeTrue();
    expect(overlaps(pull, at(60), at(90))).toBeFalse();
    expect(overlaps({ ...pull, endedAt: null }, at(9_999), Infinity)).toBeTrue();
  });
});
