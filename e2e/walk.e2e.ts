// Every screen of the demo foundry, with its panels and dialogs, looked over as somebody at a desk and somebody with a
// tablet sees it: no raw dates or codes, nothing for axe to find, no scrolling sideways, targets for a glove.
import { createRequire } from 'node:module';
import { readFileSync } from 'node:fs';
import type { DraftsAnswer, PlanAnswer } from '@kalvet/core';
import { KINDS } from '@kalvet/core';
import { Browser } from './browser.ts';
import { Kalvet, sleep } from './kalvet.ts';
import { nextId } from './prepare.ts';

interface View {
  readonly path: string;
  /** What stands there when it is drawn. */
  readonly shows: string;
  /** Opened after it stands: a panel, a dialog, a bar. */
  readonly press?: readonly string[];
}

/** A day as records keep it, an id, and what a program says of nothing. */
const RAW = [
  /\b\d{4}-\d{2}-\d{2}\b/,
  /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}/,
  /\bundefined\b|\bNaN\b|\bnull\b|\[object /,
  // Codes of step kinds that are no words: `chase-wax`, `inspect-raw`.
  new RegExp(
    `\\b(?:${KINDS.map(({ code }) => code)
      .filter((code) => code.includes('-'))
      .join('|')})\\b`,
  ),
];

describe('every screen', () => {
  const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
  let kalvet: Kalvet;
  let browser: Browser;
  let views: readonly View[];

  beforeAll(async () => {
    kalvet = await Kalvet.start('kalvet_walk', { laid: true });
    browser = await Browser.open(kalvet.url);
    const manager = await kalvet.choose(browser, 'IM');
    const { works } = await kalvet.floor();
    const pieces = works.flatMap((work) => work.pieces);
    const work = works.find(({ sectionCount }) => sectionCount > 2)!;
    const otter = works.find(({ code }) => code === 'OTT')!;
    const { past, heats: open } = await kalvet.get<{ past: { id: string }[]; heats: { id: string }[] }>('/pour');
    const { past: kilnPast } = await kalvet.get<{ past: { id: string }[] }>('/kiln');
    const piece = work.pieces[0]!.id;
    await kalvet.planned();
    const { choices } = await kalvet.get<DraftsAnswer>('/drafts');
    const { pourDays } = await kalvet.get<PlanAnswer>('/plan');
    const draft = nextId();
    const changes = [{ kind: 'closed day', calendarId: choices.hours[0]!.id, date: pourDays[0] }];
    const kept = await kalvet.post('/drafts', { id: draft, version: 0, name: 'No pour', changes }, manager);
    expect(kept.status).toBe(200);
    views = [
      { path: '/floor', shows: 'kv-disc' },
      { path: '/floor', shows: 'kv-disc', press: ['[data-test=filter]'] },
      { path: '/floor', shows: 'kv-disc', press: ['[data-test=legend]'] },
      { path: `/floor?piece=${pieces[0]!.id}`, shows: 'kv-next-steps' },
      { path: '/floor?decide=1', shows: 'kv-question' },
      { path: '/day', shows: '.sheet' },
      { path: '/day', shows: '.sheet', press: ['[data-test=record-line]'] },
      { path: '/day?room=shell', shows: '.sheet', press: ['.kv-tick:not(:disabled)'] },
      { path: '/coats', shows: '.beads' },
      { path: '/coats', shows: '.beads', press: ['.kv-tick:not(:disabled)', '[data-test=together]'] },
      { path: '/coats', shows: '.beads', press: ['.track'] },
      { path: '/coats', shows: '.beads', press: ['[data-test=read-climate]'] },
      { path: '/coats', shows: '.beads', press: ['[data-test=places]', '[data-test=new-place]'] },
      { path: '/coats/tanks', shows: 'kv-tank-chart circle', press: ['[data-test=check-face]'] },
      { path: '/coats/tanks', shows: 'kv-tank-chart circle', press: ['summary'] },
      { path: '/coats/tanks', shows: 'kv-tank-chart circle', press: ['[data-test=supply]'] },
      { path: '/coats/plan', shows: '.classes' },
      { path: '/kiln', shows: 'kv-fire-curve path', press: ['[data-test=fill]'] },
      { path: '/kiln', shows: 'kv-fire-curve path', press: ['[data-test=new-profile]'] },
      { path: `/loads/${kilnPast[0]!.id}`, shows: 'kv-fire-curve path' },
      { path: '/pour', shows: '.heat' },
      { path: '/pour', shows: '.heat', press: ['[data-test=open-heat]'] },
      { path: `/heats/${past[0]!.id}`, shows: 'table' },
      { path: `/heats/${open[0]!.id}/live`, shows: '.strip' },
      { path: '/heats', shows: 'kv-year-chart circle' },
      { path: '/pour/day', shows: 'kv-pit circle' },
      { path: `/works/${otter.id}/model`, shows: '.stage canvas, kv-still-pictures canvas' },
      { path: `/works/${otter.id}/model?tab=ways`, shows: '[data-test=compare-ways]' },
      { path: `/pictures/work/${otter.id}`, shows: '.stage img', press: ['[data-test=mark]'] },
      { path: '/metal', shows: '.alloy', press: ['[data-test=add-lot]'] },
      { path: '/metal', shows: '.alloy', press: ['[data-test=add-crucible]'] },
      { path: '/instruments', shows: 'table', press: ['[data-test=add-instrument]'] },
      { path: '/plan', shows: 'svg' },
      { path: '/plan?by=rooms', shows: 'kv-room-weeks svg' },
      { path: '/plan?by=hands', shows: '[data-name]' },
      { path: '/plan/weeks', shows: 'tbody td b' },
      { path: '/plan/out', shows: '.feeds', press: ['[data-test=add-visit]'] },
      { path: '/drafts/new', shows: 'kv-change-form' },
      { path: `/drafts/${draft}`, shows: '.dates table', press: ['[data-test=take-draft]'] },
      { path: `/why/${piece}`, shows: '.chain' },
      { path: '/orders', shows: '.order' },
      { path: '/orders', shows: '.order', press: ['[data-test=open-order]', '[data-test=change-order]'] },
      { path: '/settings', shows: 'table' },
      { path: '/settings', shows: 'table', press: ['[data-test=add-staffing]'] },
      { path: '/set-up', shows: '#title' },
      { path: '/people', shows: 'table' },
      { path: '/backups', shows: 'h1' },
      { path: '/audit', shows: 'table' },
      { path: `/works/${work.id}`, shows: 'table' },
      { path: '/set-up', shows: '#title', press: ['[data-test=add-section]', '[data-test=more]'] },
      { path: `/pieces/${piece}`, shows: 'kv-lanes' },
      { path: `/pieces/${piece}`, shows: 'kv-lanes', press: ['[data-test=record-next]'] },
      { path: '/floor', shows: 'kv-disc', press: ['[data-test=account]'] },
      { path: '/floor', shows: 'kv-disc', press: ['[data-test=units]'] },
    ];
  });
  afterAll(async () => {
    await browser?.close();
    await kalvet?.stop();
  });

  const nameOf = ({ path, press = [] }: View): string =>
    `${path.replace(/[0-9a-f]{8}-[0-9a-f-]+/, '…')}${press.map((each) => ` + ${each}`).join('')}`;

  const show = async (at: Browser, view: View): Promise<void> => {
    await at.go(view.path);
    await at.find(view.shows);
    for (const each of view.press ?? []) {
      // Early in the morning there may be nothing yet that can be ticked.
      if (each.startsWith('.kv-tick') && !(await at.driver.executeScript(`return document.querySelector('${each}')`)))
        return;
      await at.click(each);
    }
    await sleep(view.press ? 450 : 150);
  };

  it('says dates as people do and shows no codes, and axe finds nothing', async () => {
    const wrong: string[] = [];
    for (const view of views) {
      await show(browser, view);
      const text = await browser.text();
      for (const raw of RAW) {
        const found = raw.exec(text);
        if (found) wrong.push(`${nameOf(view)}: says ${text.slice(Math.max(0, found.index - 40), found.index + 40)}`);
      }
      await browser.driver.executeScript(axe);
      const faults = await browser.driver.executeAsyncScript<string[]>(
        `const done = arguments[arguments.length - 1];
         axe.run({ exclude: ['.p-hidden-focusable'] }, { resultTypes: ['violations'] }).then(({ violations }) =>
           done(violations.map(({ id, nodes }) => id + ': ' + nodes.map(({ target }) => target.join(' ')).join(', ').slice(0, 240))))`,
      );
      wrong.push(...faults.map((each) => `${nameOf(view)}: ${each}`));
    }
    expect(wrong).toEqual([]);
  });

  it('fits a tablet on end: nothing scrolls sideways, and what a room taps is large enough for a glove', async () => {
    const tablet = await Browser.open(kalvet.url, [800, 1280]);
    try {
      await kalvet.choose(tablet, 'OV');
      const wrong: string[] = [];
      const forHands = /^\/(day|coats|pieces|heats|pour)/;
      for (const view of views.filter(
        ({ path }) => !/settings|people|backups|audit|orders|set-up|plan|metal|instruments/.test(path),
      )) {
        await show(tablet, view).catch(() => undefined);
        const { wide, small } = await tablet.driver.executeScript<{ wide: string[]; small: string[] }>(`
          const wide = [document.documentElement, document.querySelector('main')]
            .filter((each) => each && each.scrollWidth > each.clientWidth + 1)
            .map((each) => each.tagName + ' ' + each.scrollWidth + ' > ' + each.clientWidth);
          const small = [...document.querySelectorAll('main button, main input, main a.rove, .p-drawer button')]
            .filter((each) => each.checkVisibility() && !each.classList.contains('kv-link') && each.type !== 'hidden')
            .map((each) => [each, (each.closest('td, .tick, label') ?? each).getBoundingClientRect()])
            .filter(([, box]) => box.height > 0 && box.height < 43.5)
            .map(([each, box]) => (each.textContent.trim() || each.className || each.id).slice(0, 30) + ' ' + Math.round(box.height));
          return { wide, small: [...new Set(small)].slice(0, 8) };`);
        wrong.push(...wide.map((each) => `${nameOf(view)}: ${each}`));
        if (forHands.test(view.path)) wrong.push(...small.map((each) => `${nameOf(view)}: small ${each}`));
      }
      expect(wrong).toEqual([]);
    } finally {
      await tablet.close();
    }
  });
});
