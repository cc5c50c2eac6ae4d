import type { HeatView, Id, PracticeAnswer } from '@kalvet/core';
import { DEFAULT_SETTINGS, SCENARIOS, addMinutes, inWords } from '@kalvet/core';
import { TestShop } from '../testing/shop.ts';
import { newId } from '../write/new-id.ts';
import { heatFigures } from './heat-figures.ts';
import { openHeats } from './heat-read.service.ts';
import { outcomeOf } from './practice.service.ts';

const scenarioNamed = (id: string) => SCENARIOS.find((each) => each.id === id)!;

describe('a rehearsal', () => {
  it('is no address of a shop in earnest', async () => {
    const shop = await TestShop.open();
    expect((await shop.send('post', '/api/practice/begin', {})).status).toBe(404);
  });

  it('says of each tree what came of it, by what was recorded', async () => {
    const shop = await TestShop.open();
    const { pieceIds } = await shop.setUp({ editionSize: 2 });
    await shop.makeMould(pieceIds[0]!);
    for (const piece of pieceIds.slice(0, 2)) await shop.carry(piece, 'pour');
    const trees: Id[] = [];
    for (const piece of pieceIds.slice(0, 2)) trees.push((await shop.piece(piece)).piece.next[0]!.carrierId);
    const id = newId();
    const ingot = [{ what: 'ingot', alloyId: 'C87300', kg: 30, lot: '', dry: true }];
    const plan = {
      id,
      alloyId: 'C87300',
      plannedFor: null,
      trees: trees.map((treeId) => ({ treeId })),
      chargeLines: ingot,
    };
    await shop.must(shop.send('post', '/api/heats', plan));
    const { POUR_CHECKS } = await import('@kalvet/core');
    const version = async () => (await openHeats(shop.store, [id]))[0]!.version;
    const crew = [{ role: 'lead', personId: shop.person, deputyId: null }];
    const gate = { version: await version(), crew, signs: 'spoken', checks: POUR_CHECKS, coverConfirmed: true };
    await shop.must(shop.send('post', `/api/heats/${id}/crew`, gate));
    shop.now = addMinutes(shop.now, 60);
    const began = addMinutes(shop.now, -5);
    const at = (seconds: number) => addMinutes(began, seconds / 60);
    await shop.must(shop.send('post', `/api/heats/${id}/out`, { treeId: trees[0], at: at(10) }));
    const said = async (treeId: Id, outcome: string, seconds: number, readings: object, note = '') =>
      shop.must(
        shop.send('post', `/api/heats/${id}/pour`, {
          version: await version(),
          treeId,
          outcome,
          startedAt: at(seconds),
          endedAt: at(seconds + 6),
          by: [shop.person],
          note,
          readings,
        }),
      );
    await said(trees[0]!, 'poured', 60, { pouredKg: 12, seconds: 6 });
    await said(trees[1]!, 'not poured', 90, {}, 'mould wet');
    const [heat] = await openHeats(shop.store, [id]);
    const view: HeatView = (await heatFigures(shop.store, { heats: [heat!] })).view(heat!);
    const practice = { scenario: scenarioNamed('wet'), fast: 1, startedAt: began };
    const found: PracticeAnswer['outcome'] = await outcomeOf(shop.store, view, practice, DEFAULT_SETTINGS);
    expect(found!.map(({ order, came, right, nearMiss }) => [order, came, right, nearMiss])).toEqual([
      [1, 'filled', true, false],
      [2, 'left out', true, false],
    ]);
    // 1150 and 55 K; a minute later 7 K less and 30 K for pouring over.
    expect(inWords(found![0]!.why)).toMatch(/^116\d °C at the cup/);
  });
});
