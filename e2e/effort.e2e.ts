import { POUR_CHECKS } from '@kalvet/core';
import { Key } from 'selenium-webdriver';
import { Browser, asTyped } from './browser.ts';
import { Kalvet, until } from './kalvet.ts';
import { PASSWORD } from './session.ts';

const DAY_MS = 86_400_000;

/** What a person does with mouse and keys; every real click and key is counted by the page itself. */
class Worker {
  constructor(readonly browser: Browser) {}

  /** From here on the page counts, whatever is loaded anew. */
  begin = () => this.browser.countEffort();

  /** What it took, printed with what it was for. */
  async took(what: string, most: { readonly clicks: number; readonly keys: number }): Promise<void> {
    const { clicks, keys } = await this.browser.effort();
    console.log(`    ${what}: ${clicks} clicks, ${keys} keys (at most ${most.clicks} and ${most.keys})`);
    expect(clicks).withContext(`clicks for ${what}`).toBeLessThanOrEqual(most.clicks);
    expect(keys).withContext(`keys for ${what}`).toBeLessThanOrEqual(most.keys);
  }

  /** Types where the focus is. */
  keys = (...pressed: readonly string[]) =>
    this.browser.driver
      .actions()
      .sendKeys(...pressed)
      .perform();

  /** Control and Enter: records what is open, from wherever the hand is. */
  async send(): Promise<void> {
    await this.browser.driver.actions().keyDown(Key.CONTROL).sendKeys(Key.ENTER).keyUp(Key.CONTROL).perform();
  }

  /** By Tab to a field that is not far, as one does who types; false where the mouse is nearer. */
  async reach(css: string): Promise<boolean> {
    const there = () =>
      this.browser.driver.executeScript<boolean>('return document.activeElement?.matches(arguments[0])', css);
    for (let tabs = 0; tabs < 3; tabs++) {
      if (await there()) return true;
      await this.keys(Key.TAB);
    }
    return there();
  }

  /** Waits until the focus is there. */
  at = (css: string, ms?: number) =>
    until(
      `the focus in ${css}`,
      () => this.browser.driver.executeScript<boolean>(`return document.activeElement?.matches(arguments[0])`, css),
      ms,
    );
}

describe('what the daily work costs in clicks and keys', () => {
  let kalvet: Kalvet;
  let browser: Browser;
  let worker: Worker;

  beforeAll(async () => {
    kalvet = await Kalvet.start('kalvet_effort', { demo: false });
    browser = await Browser.open(kalvet.url);
    await kalvet.setUpShop('Ines Marlow', 'IM');
    await browser.go('/floor');
    await browser.signIn('Ines Marlow', PASSWORD);
    worker = new Worker(browser);
  });
  afterAll(async () => {
    await browser?.close();
    await kalvet?.stop();
  });

  it('a first work, from the empty Floor', async () => {
    await browser.says('No work has been set up yet');
    await worker.begin();
    await browser.press('Set up the first work');
    await worker.at('#title');
    await worker.keys(
      'Otter',
      Key.TAB,
      'Tarn',
      Key.TAB,
      '3',
      Key.TAB,
      Key.TAB,
      '260',
      Key.TAB,
      Key.TAB,
      '.75',
      Key.ENTER,
    );
    await browser.says('What comes first');
    await worker.took('a first work', { clicks: 8, keys: 30 });
    const { works } = await kalvet.floor();
    expect(works.map(({ title, artist, editionSize }) => [title, artist, editionSize])).toEqual([['Otter', 'Tarn', 3]]);
  });

  it('a work of four sections', async () => {
    await worker.begin();
    await worker.keys('g', 'n');
    await worker.at('#title');
    await worker.keys('Net Mender', Key.TAB, 'Tarn', Key.TAB, '2');
    await browser.press('It is cast in several sections');
    await worker.at('#name-0');
    const sections = [
      ['Torso', '480', '3.1'],
      ['Head', '190', '.74'],
      ['Arms', '330', '1.05'],
      ['Crate', '260', '1.9'],
    ] as const;
    for (const [i, [name, height, wax]] of sections.entries()) {
      await worker.at(`#name-${i}`);
      await worker.keys(name, Key.TAB, height, Key.TAB, Key.TAB, wax, Key.ENTER);
    }
    // Enter in the row that is left empty ends the list; once more sends it.
    await worker.at('#name-4');
    await worker.keys(Key.ENTER);
    await worker.at('[data-test=set-up]');
    await worker.keys(Key.ENTER);
    await browser.says('What comes first');
    await worker.took('four sections', { clicks: 26, keys: 93 });
    const { works } = await kalvet.floor();
    expect(works.find(({ title }) => title === 'Net Mender')!.sectionCount).toBe(4);
  });

  it('an order of three', async () => {
    await worker.begin();
    await worker.keys('g', 'o');
    await browser.click('[data-test=new-order]');
    await worker.at('#order-client');
    await worker.keys('Saltgate');
    for (const place of [3, 4, 5]) await browser.click(`kv-piece-picker li:nth-child(${place}) .kv-tick`);
    await worker.keys(Key.ENTER);
    await browser.says('Otter saved');
    await worker.took('an order of three', { clicks: 5, keys: 29 });
    const { orders } = await kalvet.get<{ orders: { title: string; pieces: object[] }[] }>('/orders');
    expect(orders.map(({ title, pieces }) => [title, pieces.length])).toEqual([['Otter', 3]]);
  });

  it('one piece from its mould to delivery, with a leak and a recast', async () => {
    const { works } = await kalvet.floor();
    const otter = works.find(({ title }) => title === 'Otter')!;
    await browser.go(`/works/${otter.id}`);
    await browser.says('What comes first');
    const pieceId = otter.notBegun[0]!.id;
    // It was all done over the last seventy days; the times are put back by who plays it, and are no part of the work.
    let clock = new Date(Math.floor(Date.now() / DAY_MS - 70) * DAY_MS + 8 * 3_600_000).toISOString();

    /** Opens the record of a step, by the button that has the focus where it is that one. */
    const open = async (name: string): Promise<void> => {
      const next = await until(`"${name}" as next step`, async () =>
        (await kalvet.piece(pieceId)).piece.next.find((step) => step.name.startsWith(name)),
      );
      const ready = next.readyAt && next.readyAt > clock ? next.readyAt : clock;
      clock = new Date(Date.parse(ready) + 120_000).toISOString();
      const button = `[data-test=record-next][aria-label^="Record ${name}"]`;
      await browser.find(button);
      const focused = await worker.at(button, 1500).catch(() => false);
      if (focused) await worker.keys(Key.ENTER);
      else await browser.click(button);
      await browser.find('[data-test=record], [data-test=save-heat]');
    };
    // Afterwards the hand is where the panel put it.
    const putBack = () =>
      browser.uncounted(async () => {
        const first = await browser.driver.switchTo().activeElement();
        await browser.type('#done-at', asTyped(clock));
        await browser.driver.executeScript('arguments[0].focus()', first);
      });
    const record = async (
      name: string,
      {
        outcome,
        typed = {},
        tap = [],
      }: { outcome?: string; typed?: Record<string, string>; tap?: readonly string[] } = {},
    ): Promise<void> => {
      await open(name);
      await putBack();
      if (outcome) await browser.press(outcome);
      for (const each of tap) await browser.click(each);
      for (const [css, text] of Object.entries(typed)) {
        if (!(await worker.reach(css))) await browser.click(css);
        await worker.keys(text);
      }
      await worker.send();
      await browser.gone('kv-step-panel');
    };
    const takeOver = '[data-test=take-over]';
    const yes = 'kv-yes-control [role=radio]:first-child';
    const toMetal = async (kg: string) => {
      await record('Pull', { tap: [takeOver] });
      await record('Chase and weigh wax', { typed: { '#reading-waxKg': kg }, tap: [yes] });
    };
    const shelled = async () => {
      await record('Join tree');
      for (let coat = 1; coat <= 6; coat++) await record('Dip coat');
      await record('Seal coat');
      await record('Dewax and fire', { typed: { '#reading-topC': '905' } });
    };
    const poured = async () => {
      await open('Preheat and pour');
      for (const dry of await browser.driver.findElements({ css: '[id^=dry-]' })) await dry.click();
      await browser.click('[data-test=save-heat]');
      for (const check of POUR_CHECKS) await browser.click(`#check-${check}`);
      await browser.click('#heat-cover');
      await browser.click('[data-test=confirm-crew]');
      await browser.gone('[data-test=confirm-crew]');
      await putBack();
      await browser.click(takeOver);
      await browser.click('kv-heat-pour kv-choices[aria-label="Vents"] [role=radio], #reading-vents [role=radio]');
      await worker.send();
      await browser.find('#pig');
      if (!(await worker.reach('#pig'))) await browser.click('#pig');
      await worker.keys('2', Key.ENTER);
      await browser.gone('kv-step-panel');
    };

    await worker.begin();
    await record('Make mould', { tap: [takeOver] });
    await toMetal('.76');
    await record('Approve wax', { typed: { '#reading-by': 'Tarn' } });
    await shelled();
    await record('Leak test', { outcome: 'Leaks: patch', typed: { '#note': 'at the tip' } });
    await record('Patch');
    await record('Refire', { typed: { '#reading-topC': '905' } });
    await record('Leak test again');
    await poured();
    await record('Knock out', { typed: { '[id^=reading-castKg]': '6.5' } });
    await record('Inspect', { outcome: 'Recast', typed: { '#note': 'misrun' } });
    await toMetal('.77');
    await shelled();
    await record('Leak test');
    await poured();
    await record('Knock out', { typed: { '[id^=reading-castKg]': '6.6' } });
    await record('Inspect');
    await record('Chase metal');
    await record('Patina', { typed: { '#reading-recipe': 'ferric, hot' } });
    await record('Wax and buff');
    await record('Final inspection', { typed: { '#reading-finishedKg': '6.4' } });
    await record('Pack and deliver', { typed: { '#reading-toWhom': 'Saltgate' } });
    const { piece } = await kalvet.piece(pieceId);
    expect(piece.state).toBe('delivered');
    await worker.took('one piece', { clicks: 65, keys: 325 });
  });
});
