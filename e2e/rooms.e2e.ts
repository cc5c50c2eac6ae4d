import { createRequire } from 'node:module';
import { readFileSync } from 'node:fs';
import { By, Key } from 'selenium-webdriver';
import type { Calendar, DayAnswer, NextStep, PlanningAnswer, PourAnswer, WhatIf } from '@kalvet/core';
import { inWords } from '@kalvet/core';
import { lookedAt } from './hands.ts';
import { Browser, asTyped } from './browser.ts';
import { Kalvet, sleep, until } from './kalvet.ts';
import { Prepared, nextId } from './prepare.ts';

const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;
const hoursAgo = (hours: number) => new Date(Date.now() - hours * HOUR_MS).toISOString();
const day = (ahead: number) => new Date(Date.now() + ahead * DAY_MS).toISOString().slice(0, 10);

describe('the rooms at work', () => {
  let kalvet: Kalvet;
  let browser: Browser;
  let shop: Prepared;
  const otters: string[] = [];
  let ottersWork = '';

  const onFloor = async (pieceId: string) =>
    (await kalvet.floor()).works.flatMap(({ pieces }) => pieces).find(({ id }) => id === pieceId)!;

  beforeAll(async () => {
    kalvet = await Kalvet.start('kalvet_rooms');
    shop = await Prepared.open(kalvet, 'Ines Marlow', 'IM');
    await Prepared.open(kalvet, 'Tomas Quill', 'TQ', shop.person);
    const work = await shop.setUp('OTT', 'Otter with Reed', 3);
    ottersWork = work.id;
    otters.push(...work.pieceIds);
    // Two otters wait for their pour; the third is not begun.
    for (const [i, id] of otters.slice(0, 2).entries())
      await shop.carry(id, ({ kind }) => kind === 'pour', 190 - 30 * i);
    browser = await Browser.open(kalvet.url);
    await browser.go('/floor');
    await browser.click('.person:not([aria-label])');
    await browser.says('Otter with Reed');
  });
  afterAll(async () => {
    await browser?.close();
    await kalvet?.stop();
  });

  it('a tray of dips: what is done elsewhere leaves it, the rest is one entry', async () => {
    const { pieceIds } = await shop.setUp('MAL', 'Caulking Mallet', 3);
    const dips: NextStep[] = [];
    for (const [i, id] of pieceIds.entries())
      dips.push(await shop.carry(id, ({ name }) => name.startsWith('Dip coat 3'), 90 - 30 * i));
    const lines = async () => {
      const { lines: all } = await kalvet.get<DayAnswer>('/day');
      return all.filter(({ stepId }) => dips.some((dip) => dip.stepId === stepId));
    };
    await browser.go('/day?room=shell');
    for (const { stepId } of dips) {
      await browser.find(`#tick-${stepId}`);
      await browser.tick(`tick-${stepId}`);
    }
    await browser.click('[data-test=together]');
    await browser.says('3 × Dip coat');
    // One of the three is dipped meanwhile at another screen: it leaves the tray by itself.
    await shop.record(dips[0]!.stepId, hoursAgo(0.01));
    await browser.says('2 × Dip coat');
    await browser.type('#reading-roomC', '21.5');
    await browser.type('#reading-roomRh', '52');
    await browser.click('[data-test=record-many]');
    await until('both dipped', async () => (await lines()).length === 0);
    for (const id of pieceIds.slice(1)) {
      const { history } = await kalvet.piece(id);
      expect(history.filter(({ text }) => inWords(text).startsWith('Dip coat 3')).length).toBe(1);
    }
  });

  it('the pour day: trees arranged, charge dry, crew named, one poured and one short, the rest pigged', async () => {
    await browser.go('/pour');
    const [first, second] = await until('both trees', async () => {
      const { waiting } = await kalvet.get<PourAnswer>('/pour');
      return waiting.length >= 2 && waiting.map(({ on }) => on);
    });
    await browser.press(`New heat with ${first}`);
    await browser.press(second!, '//kv-heat-plan');
    await browser.type('#charge-kg-0', '28');
    for (const box of await browser.driver.findElements(By.css('input[id^=dry-]')))
      await browser.tick((await box.getAttribute('id')) ?? '');
    await browser.click('[data-test=save-heat]');
    const heat = async () => (await kalvet.get<PourAnswer>('/pour')).heats[0]!;
    await until('the heat', async () => (await heat())?.pourings.length === 2);
    await browser.click('.p-drawer-close-button');

    // By keyboard the second tree goes before the first.
    const before = (await heat()).pourings.map(({ label }) => label);
    const bar = await until('the second bar', async () => (await browser.driver.findElements(By.css('.tree')))[1]);
    await browser.driver.executeScript('arguments[0].focus()', bar);
    await browser.driver.actions().keyDown(Key.ALT).sendKeys(Key.ARROW_LEFT).keyUp(Key.ALT).perform();
    await until('the other order', async () => (await heat()).pourings[0]!.label === before[1]);

    await browser.click('[data-test=open-heat]');
    await browser.says('Nobody is named as second');
    await browser.pick('crew-second', 'Tomas Quill');
    await lookedAt(browser);
    await browser.tick('heat-cover');
    await browser.click('[data-test=confirm-crew]');
    await browser.gone('[data-test=confirm-crew]');
    await browser.type('#done-at', asTyped(hoursAgo(9)));
    await browser.type('#reading-seconds', '7.5');
    await browser.takeOver();
    await browser.click('[data-test=record]');
    await until('the first poured', async () => (await heat()).pourings[0]!.outcome === 'poured');
    await until('the second’s turn', async () =>
      (await (await browser.find('kv-heat-pour legend')).getText()).includes(before[0]!),
    );
    await browser.press('Short', '//kv-heat-pour');
    await browser.type('#reading-pouredKg', '7.5');
    await browser.type('#done-at', asTyped(hoursAgo(8.8)));
    await browser.type('#pour-note', 'stopped at the tail');
    await browser.click('[data-test=record]');
    // What is left of the charge, less what the melt loses.
    const { chargeLines, pourings, meltLoss } = await until('both said', async () => {
      const now = await heat();
      return now.pourings.every(({ outcome }) => outcome !== null) && now;
    });
    const charged = chargeLines.reduce((sum, { kg }) => sum + kg, 0);
    const poured = pourings.reduce((sum, { pouredKg }) => sum + (pouredKg ?? 0), 0);
    await browser.type('#pig', (charged * (1 - meltLoss) - poured).toFixed(1));
    await browser.click('[data-test=finish-heat]');
    await until('the heat ended', async () => (await kalvet.get<PourAnswer>('/pour')).heats.length === 0);
    const short = await shortPiece();
    const { history } = await kalvet.piece(short);
    expect(
      history.some(({ text }) => inWords(text).includes('short') && inWords(text).includes('stopped at the tail')),
    ).toBeTrue();
    expect(history.some(({ text }) => inWords(text).includes('Tomas Quill second at the crucible'))).toBeTrue();
  });

  /** The otter whose mould did not fill. */
  async function shortPiece(): Promise<string> {
    for (const id of otters.slice(0, 2))
      if ((await kalvet.piece(id)).history.some(({ text }) => inWords(text).includes('stopped at the tail'))) return id;
    throw new Error('no otter was poured short');
  }

  it('a day of the manager: a recast makes a piece late, an extra pour day brings it back', async () => {
    const piece = await shortPiece();
    const knock = await shop.carry(piece, ({ kind }) => kind === 'knock-out', 1);
    await shop.record(knock.stepId, hoursAgo(1));
    const inspect = await until('the inspection', async () =>
      (await kalvet.piece(piece)).piece.next.find(({ kind }) => kind === 'inspect'),
    );
    const { calendars, resources } = await kalvet.get<PlanningAnswer>('/planning');
    const crucible = resources.find(({ kind }) => kind === 'crucible')!;
    let pourDays = calendars.find(({ id }) => id === crucible.calendarId)!;
    /** Every day for weeks on which the crucible would be lit, but for the extra ones, it is closed. */
    const pourOn = async (closed: readonly string[], extra: readonly string[] = []) => {
      const hours = { from: '09:00', to: '16:00' };
      const body: Calendar = { ...pourDays, closed, extra: extra.map((date) => ({ date, ...hours })) };
      await shop.must('/calendars', body);
      pourDays = (await kalvet.get<PlanningAnswer>('/planning')).calendars.find(({ id }) => id === pourDays.id)!;
    };
    /** When the piece would be out if it is recast. */
    const recastOut = async () => {
      const path = `/steps/${inspect.stepId}/what-if?outcome=recast`;
      let asked = await kalvet.get<WhatIf | { ticket: string }>(path);
      while ('ticket' in asked) asked = await kalvet.get<WhatIf | { ticket: string }>(`${path}&ticket=${asked.ticket}`);
      return asked.pieces.find(({ pieceId }) => pieceId === piece)!.after!.slice(0, 10);
    };
    // Nothing is poured for four weeks; a day in the middle of them would bring a recast out long before that.
    const WEEKS = 28;
    const closed = Array.from({ length: WEEKS }, (_, ahead) => day(ahead));
    let ahead = 15;
    while ([0, 6].includes(new Date(`${day(ahead)}T12:00:00Z`).getUTCDay())) ahead++;
    const extra = day(ahead);
    await pourOn(
      closed.filter((date) => date !== extra),
      [extra],
    );
    const helped = await recastOut();
    await pourOn(closed);
    const without = await recastOut();
    expect(helped < day(WEEKS) && without >= day(WEEKS))
      .withContext(`out ${helped} with the extra day, ${without} without`)
      .toBeTrue();
    const dueDate = day(WEEKS - 1);
    const { version } = (await kalvet.piece(piece)).piece;
    const due = await fetch(`${kalvet.url}/api/pieces/${piece}`, {
      method: 'PATCH',
      headers: {
        'Content-Type': 'application/json',
        'Idempotency-Key': crypto.randomUUID(),
        ...(await kalvet.as(shop.person)),
      },
      body: JSON.stringify({ version, dueDate }),
    });
    expect(due.status).toBe(200);
    await kalvet.planned();
    expect((await onFloor(piece)).late).toBeFalse();

    await browser.go(`/pieces/${piece}`);
    await browser.click('[data-test=record-next]');
    await browser.click('[data-test=add-defect]');
    await browser.press('Recast', '//kv-defect-table');
    await browser.says('What it does to the dates');
    await browser.says('late');
    await browser.type('#note', 'tail missing');
    await browser.click('[data-test=record]');
    await browser.gone('kv-step-panel');
    await kalvet.planned();
    const { late, plannedFinish } = await onFloor(piece);
    expect(late).withContext(`out ${plannedFinish}, due ${dueDate}`).toBeTrue();
    await browser.go('/floor?late=1');
    await browser.says('Filtered: 1 works shown');

    await browser.go('/settings');
    await browser.click(`[data-test=edit-${pourDays.id}]`);
    await browser.click(`[data-test=extra-${pourDays.id}]`);
    await browser.type(`#extra0-${pourDays.id}`, asTyped(`${extra}T12:00:00Z`).replace(/ \d\d:\d\d$/, ''));
    await browser.type(`#extra-hours0-${pourDays.id}`, '9:00–16:00');
    await browser.click(`[data-test=save-${pourDays.id}]`);
    await browser.gone(`[data-test=save-${pourDays.id}]`);
    await kalvet.planned();
    expect((await onFloor(piece)).late).toBeFalse();
    await browser.go('/floor?late=1');
    await browser.says('Nothing on the floor fits this filter');
  });

  it('a step is pinned to a date on its own panel, and the plan keeps it', async () => {
    const { piece } = await kalvet.piece(otters[2]!);
    await browser.go(`/pieces/${piece.id}`);
    await browser.click('[data-test=record-next]');
    await browser.click('[data-test=pin]');
    await browser.type('#pin-at', asTyped(`${day(20)}T09:00:00Z`));
    await browser.click('[data-test=save-pin]');
    await browser.says('Pinned: not before');
    await kalvet.planned();
    const { lanes } = await kalvet.piece(piece.id);
    const pinned = lanes
      .flatMap(({ attempts }) => attempts.flatMap(({ steps }) => steps))
      .find(({ pinKind }) => pinKind)!;
    expect(pinned.plannedStart! >= pinned.pinAt!).toBeTrue();
  });

  describe('for everybody', () => {
    const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
    interface Fault {
      readonly id: string;
      readonly impact: string;
      readonly nodes: readonly { readonly target: string[]; readonly failureSummary: string }[];
    }

    /** What stands in the way of somebody who cannot see or point well. */
    async function faults(): Promise<string[]> {
      await browser.driver.executeScript(axe);
      const found = await browser.driver.executeAsyncScript<Fault[]>(
        "const done = arguments[arguments.length - 1]; axe.run({ exclude: ['.p-hidden-focusable'] }, { resultTypes: ['violations'] }).then(({ violations }) => done(violations));",
      );
      return found
        .filter(({ impact }) => impact === 'serious' || impact === 'critical')
        .map(
          ({ id, nodes }) =>
            `${id}: ${nodes
              .map(({ target }) => target.join(' '))
              .join(', ')
              .slice(0, 300)}`,
        );
    }

    /** What can be clicked and that Tab never reaches. */
    async function unreached(): Promise<string[]> {
      await browser.driver.executeScript(`
        window.reached = new Set();
        document.addEventListener('focusin', ({ target }) => window.reached.add(target));
        document.body.tabIndex = -1; document.body.focus();`);
      const count = await browser.driver.executeScript<number>(
        "return document.querySelectorAll('a[href], button, input, select, textarea, [tabindex]').length",
      );
      const presses = Math.min(count + 10, 320);
      for (let i = 0; i < presses; i += 20)
        await browser.driver
          .actions()
          .sendKeys(...Array.from({ length: 20 }, () => Key.TAB))
          .perform();
      return browser.driver.executeScript<string[]>(`
        const group = (one) => one.closest('[kvRoving], [role=radiogroup], p-select, p-inputnumber');
        const reached = [...window.reached];
        return [...document.querySelectorAll('a[href], button, input, textarea')]
          .filter((one) => one.checkVisibility({ opacityProperty: false }) && !one.disabled && one.type !== 'hidden')
          .filter((one) => !window.reached.has(one) && !(group(one) && reached.some((other) => group(other) === group(one))))
          .map((one) => one.outerHTML.slice(0, 140));`);
    }

    it('no screen has a serious fault for those who hear it or see it badly, and Tab reaches all there is', async () => {
      await shop.must('/clients', { id: nextId(), version: 0, name: 'Saltgate Gallery', contact: '' }).then(({ id }) =>
        shop.must('/orders', {
          id: nextId(),
          version: 0,
          clientId: id,
          title: 'Summer hanging',
          place: 'Saltgate',
          dueDate: day(60),
          partDelivery: true,
          note: '',
          pieceIds: otters.slice(0, 1),
        }),
      );
      const wrong: string[] = [];
      const screens: [path: string, words: string, then?: () => Promise<void>][] = [
        ['/floor', 'Otter with Reed'],
        [`/floor?piece=${otters[0]}`, 'Due date, priority'],
        ['/day', 'Kiln and furnace'],
        ['/coats', 'MAL'],
        ['/pour', 'Waits for a heat'],
        ['/plan', 'Otter with Reed'],
        ['/orders', 'Summer hanging'],
        ['/settings', 'Hours'],
        ['/set-up', 'Title'],
        ['/people', 'Ines Marlow', () => browser.click('[data-test=change-TQ]')],
        ['/backups', 'Made so far'],
        ['/audit', 'Signed in'],
        ['/floor', 'Otter with Reed', () => browser.click('[data-test=account]')],
        [`/works/${ottersWork}`, 'Otter with Reed'],
        [`/pieces/${otters[0]}`, 'Sections, step by step'],
        [`/pieces/${otters[0]}`, 'Sections, step by step', () => browser.click('[data-test=record-next]')],
      ];
      for (const [path, words, then] of screens) {
        await browser.go(path);
        await browser.says(words);
        await then?.();
        await sleep(500);
        wrong.push(...(await faults()).map((each) => `${path}: ${each}`));
        wrong.push(...(await unreached()).map((each) => `${path}: not reached ${each}`));
      }
      // Last: the page that asks who one is.
      await browser.driver.manage().deleteAllCookies();
      await browser.go('/floor');
      await browser.says('Who do you want to be?');
      wrong.push(...(await faults()).map((each) => `signing in: ${each}`));
      wrong.push(...(await unreached()).map((each) => `signing in: not reached ${each}`));
      expect(wrong).toEqual([]);
    });
  });
});
