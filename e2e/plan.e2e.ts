import type { FeedsAnswer, LanesAnswer, PlanAnswer } from '@kalvet/core';
import { addDays } from '@kalvet/core';
import { Key } from 'selenium-webdriver';
import { Browser } from './browser.ts';
import { Kalvet, until } from './kalvet.ts';
import { Prepared } from './prepare.ts';

describe('the plan', () => {
  let kalvet: Kalvet;
  let browser: Browser;
  beforeAll(async () => {
    kalvet = await Kalvet.start('kalvet_plan');
    const shop = await Prepared.open(kalvet, 'Ines Marlow', 'IM');
    await shop.setUp('OTT', 'Otter with Reed', 3);
    await kalvet.planned();
    browser = await Browser.open(kalvet.url);
    await kalvet.choose(browser, 'IM');
  });
  afterAll(async () => {
    await browser?.close();
    await kalvet?.stop();
  });

  /** The work on a room's lane, the first first. */
  const barsOf = async (room: string) => {
    const { today } = await kalvet.get<PlanAnswer>('/plan');
    const { lanes } = await kalvet.get<LanesAnswer>(`/plan/lanes?from=${today}&to=${addDays(today, 41)}`);
    return lanes.find(({ name }) => name === room)!.bars;
  };
  const firstOf = async (room: string) => (await barsOf(room))[0]!;

  it('is moved by keys: what that breaks is said first, it is pinned, the plan follows, and it is put back', async () => {
    const bar = await firstOf('Wax room');
    await browser.go('/plan?by=hands');
    await (await browser.find('[data-test=plan-find]')).sendKeys(bar.on, Key.ENTER);
    const work = await browser.find(`[data-name="${bar.name}"]`);
    await until('the work', async () => {
      await browser.driver.executeScript('arguments[0].focus()', work);
      await browser.driver.actions().sendKeys(Key.ENTER).perform();
      return (await browser.text()).includes('Enter pins it');
    });
    const keys = (...all: string[]) =>
      browser.driver
        .actions()
        .sendKeys(...all)
        .perform();
    // A day sooner than it can be: the mould cures until then.
    await browser.driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_LEFT).keyUp(Key.SHIFT).perform();
    await browser.says('Not before');
    const button = await browser.find('[data-test=pin-here]');
    expect(await button.isEnabled()).toBeFalse();
    // A week later.
    await browser.driver.actions().keyDown(Key.SHIFT).perform();
    await keys(...Array.from({ length: 8 }, () => Key.ARROW_RIGHT));
    await browser.driver.actions().keyUp(Key.SHIFT).perform();
    await browser.says('later.');
    await keys(Key.ENTER);
    await browser.find('[data-test=undo]');
    await kalvet.planned();
    const bars = await barsOf('Wax room');
    const pinned = bars.find(({ name }) => name === bar.name)!;
    expect(Date.parse(pinned.spells[0]![0]) - Date.parse(bar.spells[0]![0])).toBe(7 * 86_400_000);
    expect(pinned.steps[0]!.pinKind).toBe('at');
    // Another wax is pulled first then.
    expect(bars[0]!.name).not.toBe(bar.name);
    await browser.click('[data-test=undo]');
    await browser.gone('[data-test=undo]');
    await kalvet.planned();
    expect((await firstOf('Wax room')).steps[0]!.pinKind).toBeNull();
  });

  it('is dragged along its lane, and snaps back from where it cannot be', async () => {
    const bar = await firstOf('Wax room');
    await browser.go('/plan?by=hands');
    const work = await browser.find(`[data-name="${bar.name}"]`);
    const drag = (px: number) =>
      browser.driver.actions().move({ origin: work }).press().move({ origin: work, x: px, y: 0 }).release().perform();
    await drag(-220);
    await browser.says('Not before');
    expect((await firstOf('Wax room')).spells).toEqual(bar.spells);
    await browser.press('Let go');
    await drag(220);
    await browser.find('[data-test=undo]');
    await browser.click('[data-test=undo]');
    await browser.gone('[data-test=undo]');
  });

  it('is read in a calendar program by its address, and hangs on the wall on one page', async () => {
    await browser.go('/plan');
    await browser.click('[data-test=plan-out]');
    await browser.click('[data-test="make room:wax"]');
    await browser.find('.address');
    const { feeds } = await kalvet.get<FeedsAnswer>('/feeds');
    const { path } = feeds.find(({ subject }) => subject === 'room:wax')!;
    const file = await fetch(kalvet.url + path!);
    expect([file.status, (await file.text()).includes('SUMMARY:')]).toEqual([200, true]);
    await browser.click('[data-test=make-files]');
    await browser.says('schedule.json');
    await browser.go('/plan/weeks');
    await browser.find('tbody td b');
    const pages = (await browser.pdf()).toString('latin1').match(/\/Type\s*\/Page[^s]/g);
    expect(pages?.length).toBe(1);
  });
});
