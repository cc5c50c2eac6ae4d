import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { DraftsAnswer, OrdersAnswer, PlanAnswer, WhyAnswer } from '@kalvet/core';
import { Browser } from './browser.ts';
import { Kalvet, ROOT, until } from './kalvet.ts';
import { Prepared } from './prepare.ts';

describe('what if', () => {
  let kalvet: Kalvet;
  let shop: Prepared;
  let browser: Browser;
  let pieceIds: string[];
  const plan = () => kalvet.get<PlanAnswer>('/plan');
  const dates = async () => new Map((await plan()).rows.map(({ pieceId, finishesAt }) => [pieceId, finishesAt]));
  /** The draft that is open, with its dates worked out. */
  const worked = () => browser.find('.dates:not(.old) table');

  beforeAll(async () => {
    kalvet = await Kalvet.start('kalvet_drafts');
    shop = await Prepared.open(kalvet, 'Ines Marlow', 'IM');
    await Prepared.open(kalvet, 'Tomas Quill', 'TQ', shop.person);
    ({ pieceIds } = await shop.setUp('OTT', 'Otter with Reed', 2));
    await kalvet.planned();
    browser = await Browser.open(kalvet.url);
    await kalvet.choose(browser, 'IM');
  });
  afterAll(async () => {
    await browser?.close();
    await kalvet?.stop();
  });

  it('an enquiry is tried from the Plan, and becomes an order with a promised date', async () => {
    await browser.go('/plan');
    await browser.click('[data-test=what-if]');
    await browser.click('[data-test=new-draft]');
    await browser.type('#ask-title', 'Harbour Seal');
    await browser.type('#ask-pieces', '2');
    await browser.pick('ask-like', 'Otter with Reed');
    await browser.click('[data-test=add-change]');
    await worked();
    await browser.says('Harbour Seal 2/2');
    await browser.says('nine chances in ten');
    const before = await dates();
    expect(before.size).toBe(2);
    await browser.click('[data-test=take-draft]');
    await browser.type('#take-client', 'Hollow Quay Gallery');
    await browser.click('[data-test=take-now]');
    await until('the Plan', async () => (await browser.driver.getCurrentUrl()).endsWith('/plan'));
    await kalvet.planned();
    const { orders } = await kalvet.get<OrdersAnswer>('/orders');
    expect(orders.map(({ title, client, pieces }) => [title, client, pieces.length])).toEqual([
      ['Harbour Seal', 'Hollow Quay Gallery', 2],
    ]);
    // Promised for the day that nine chances in ten keep: not before it is planned to be out.
    expect(orders[0]!.dueDate! >= orders[0]!.readyAt!.slice(0, 10)).toBeTrue();
    const after = await dates();
    // What was told stays told, to the day or so: meanwhile the clock went on.
    for (const id of pieceIds)
      expect(Date.parse(after.get(id)!)).toBeLessThanOrEqual(Date.parse(before.get(id)!) + 26 * 3_600_000);
  });

  it('the pour that holds a piece is cancelled in a draft; taken over, dates move and another sees it at once', async () => {
    const { rows, loads } = await plan();
    const day = loads.find(({ kind }) => kind === 'heat')!.startsAt.slice(0, 10);
    await browser.go('/drafts/new');
    await browser.press('A day without');
    await browser.type('#change-day', day.split('-').reverse().join('.'));
    await browser.click('[data-test=add-change]');
    await worked();
    const [draft] = (await kalvet.get<DraftsAnswer>('/drafts')).drafts;
    expect(draft!.changes).toEqual([jasmine.objectContaining({ kind: 'closed day', date: day })]);
    const tomas = await Browser.open(kalvet.url);
    await kalvet.choose(tomas, 'TQ');
    await tomas.go('/plan');
    const seen = () =>
      tomas.driver.executeScript<string>(
        `return [...document.querySelectorAll('.row-label .when')].map((each) => each.textContent).join()`,
      );
    await tomas.find('.row-label .when');
    const before = await seen();
    await browser.click('[data-test=take-draft]');
    await browser.click('[data-test=take-now]');
    await until('the Plan', async () => (await browser.driver.getCurrentUrl()).endsWith('/plan'));
    await kalvet.planned();
    const now = await plan();
    expect(now.pourDays).not.toContain(day);
    const moved = now.rows.filter(({ pieceId, finishesAt }) => {
      const was = rows.find((row) => row.pieceId === pieceId)!.finishesAt!;
      return finishesAt!.slice(0, 10) > was.slice(0, 10);
    });
    expect(moved.length).toBeGreaterThan(0);
    // Nobody touched that screen.
    await until('the other screen', async () => (await seen()) !== before);
    await tomas.close();
  });

  it('says why a piece is out then, and tries what would help', async () => {
    /** What is answered at once, or after its turn. */
    const why = async (id: string) =>
      until('why', async () => {
        const said = await kalvet.get<WhyAnswer | { place: number }>(`/plan/pieces/${id}/why`);
        return 'links' in said && said;
      });
    const asked = await Promise.all((await plan()).rows.map(({ pieceId }) => why(pieceId)));
    // Which weekday it is decides what can be helped: one that can, where there is one.
    const { pieceId, label, reliefs } = asked.find((each) => each.reliefs.length > 0) ?? asked[0]!;
    await browser.go(`/pieces/${pieceId}`);
    await browser.click('[data-test=why]');
    await browser.says(`Why ${label} is out then`);
    await browser.says('Pack and deliver');
    if (reliefs.length === 0) return browser.says('Nothing that was tried gains half a day');
    await browser.click('[data-test=try-relief]');
    await worked();
    await browser.says('sooner');
    await browser.click('[data-test=drop-draft]');
    await until('no draft', async () => (await kalvet.get<DraftsAnswer>('/drafts')).drafts.length === 0);
  });

  it('the command line writes the plan of the running shop as files, and plans them anew', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'kalvet-export-'));
    const run = (...args: string[]) =>
      spawnSync(process.execPath, [join(ROOT, 'cli/kalvet.mjs'), ...args], { encoding: 'utf8' });
    const { status, stderr } = run('export-plan', '-o', folder, '--url', kalvet.url);
    expect([status, stderr]).toEqual([0, jasmine.stringMatching(/\d+ tasks in .*problem\.json/)]);
    const again = run('plan', join(folder, 'problem.json'), '-o', join(folder, 'again.json'), '--iterations', '2');
    expect(again.status).withContext(again.stderr).toBe(0);
    const wrong = run('export-plan', '-o', folder, '--url', 'http://127.0.0.1:9');
    expect([wrong.status, wrong.stderr]).toEqual([2, 'kalvet: no Kalvet answers at http://127.0.0.1:9\n']);
    rmSync(folder, { recursive: true });
  });
});
