// A morning at the desk without a mouse: walking, opening, leaving, recording, and taking a slip back.
import { Key } from 'selenium-webdriver';
import { Browser } from './browser.ts';
import { Kalvet, until } from './kalvet.ts';

describe('by keyboard alone', () => {
  let kalvet: Kalvet;
  let browser: Browser;
  const press = (...keys: string[]) =>
    browser.driver
      .actions()
      .sendKeys(...keys)
      .perform();
  /** What has the focus, as a screen reader would begin to say it. */
  const focus = () =>
    browser.driver.executeScript<string>(
      `const at = document.activeElement;
       return at.tagName + ' ' + (at.getAttribute('aria-label') ?? at.id ?? '') + (at.closest('.p-drawer') ? ' in the drawer' : '') + (at.closest('kv-step-panel') ? ' in the record' : '');`,
    );
  const focused = async (what: RegExp) => {
    let at = '';
    const reached = async () => what.test((at = await focus()));
    await until('the focus', reached, 8000).catch(() => fail(`the focus is on ${at}, and not on ${String(what)}`));
  };

  beforeAll(async () => {
    kalvet = await Kalvet.start('kalvet_keyboard', { laid: true });
    browser = await Browser.open(kalvet.url);
    await kalvet.choose(browser, 'IM');
  });
  afterAll(async () => {
    await browser?.close();
    await kalvet?.stop();
  });

  it('walks the Floor with arrows; a card takes the focus, and Escape gives it back', async () => {
    await browser.go('/floor');
    await browser.find('kv-disc');
    const stops = await browser.driver.executeScript<number>(
      `return [...document.querySelectorAll('main .disc')].filter((each) => each.tabIndex === 0).length`,
    );
    expect(stops).withContext('discs that Tab stops at').toBeLessThan(2);
    await browser.driver.executeScript(`document.querySelector('main .disc').focus()`);
    const before = await focus();
    await press(Key.ARROW_RIGHT);
    const disc = await focus();
    expect(disc).not.toBe(before);
    await press(Key.ENTER);
    await focused(/in the drawer/);
    await press(Key.ESCAPE);
    await browser.gone('kv-piece-card');
    await until('the focus back on its disc', async () => (await focus()) === disc, 8000);
  });

  it('what is opened from the head takes the focus, and Escape gives it back', async () => {
    await browser.go('/orders');
    await browser.find('.order');
    for (const opener of ['units', 'account', 'new-order']) {
      await browser.driver.executeScript(`document.querySelector('[data-test=${opener}]').focus()`);
      const before = await focus();
      await press(Key.ENTER);
      await focused(/in the drawer/);
      await press(Key.ESCAPE);
      await browser.gone('.p-drawer');
      await until(`the focus back on ${opener}`, async () => (await focus()) === before, 8000);
    }
    await press('?');
    await browser.says('record what is open');
    await focused(/in the drawer/);
    await press(Key.ESCAPE);
    await browser.gone('.p-drawer');
  });

  it('a record asks before it is left with something typed, keeps that, and one slip is taken back at once', async () => {
    // A piece whose wax can be pulled: at any hour there is one that nobody has begun.
    const { works } = await kalvet.floor();
    const ids = works.flatMap(({ notBegun }) => notBegun.map(({ id }) => id));
    const pull = async (id: string) =>
      (await kalvet.piece(id)).piece.next.find(({ kind, waits }) => kind === 'pull' && waits.length === 0);
    let piece = '';
    for (const id of ids) if (piece === '' && (await pull(id))) piece = id;
    await browser.go(`/pieces/${piece}`);
    await browser.find('[data-test=record-next]');
    await browser.driver.executeScript(`document.querySelector('[data-test=record-next]').focus()`);
    const line = await focus();
    expect(line).toMatch(/BUTTON Record Pull /);
    await press(Key.ENTER);
    await focused(/in the record/);
    // Nothing typed: nothing asked.
    await press(Key.ESCAPE);
    await browser.gone('kv-step-panel');
    await until('the focus back on its line', async () => (await focus()) === line, 8000);

    await press(Key.ENTER);
    await focused(/in the record/);
    for (let stop = 0; stop < 20 && !/reading-potC/i.test(await focus()); stop++) await press(Key.TAB);
    expect(await focus()).toMatch(/potC/i);
    await press('8', '3');
    await press(Key.ESCAPE);
    await browser.find('[data-test=leave]');
    await press(Key.ESCAPE);
    await browser.gone('kv-step-panel');
    await until('the focus back on its line', async () => (await focus()) === line, 8000);

    await press(Key.ENTER);
    await browser.says('This was typed');
    const pot = await browser.find('[id*="potC"]');
    expect(await pot.getAttribute('value')).toBe('83');
    await pot.sendKeys(Key.ENTER);
    await browser.gone('kv-step-panel');
    expect(await browser.text()).toContain('Pull recorded');
    expect(await pull(piece)).toBeUndefined();
    await focused(/BUTTON Record /);

    await browser.driver.executeScript(`document.querySelector('[data-test=take-back]').focus()`);
    await press(Key.ENTER);
    await browser.says('Taken back');
    expect(await pull(piece)).toBeDefined();
  });

  it('walks Coats with arrows; Tab goes past them', async () => {
    await browser.go('/coats');
    await browser.find('.beads');
    const stops = await browser.driver.executeScript<string[]>(
      `return [...document.querySelectorAll('main button, main input, main a[href], main [tabindex]')]
         .filter((each) => each.tabIndex === 0 && each.checkVisibility()).map((each) => each.outerHTML.slice(0, 160))`,
    );
    // Rows of nine trees with their beads, ticks and buttons are one stop.
    expect(stops.length).withContext(stops.join('\n')).toBeLessThan(12);
  });
});
