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

  /** Waits until the focus is there. */
  at = (css: string) =>
    until(`the focus in ${css}`, () =>
      this.browser.driver.executeScript<boolean>(`return document.activeElement?.matches(arguments[0])`, css),
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
});
