import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Builder, By, Key, until as seen } from 'selenium-webdriver';
import type { WebDriver, WebElement } from 'selenium-webdriver';
import chrome from 'selenium-webdriver/chrome.js';
import { sleep, until } from './kalvet.ts';
import { PASSWORD } from './session.ts';

const WAIT = 60_000;
const FLAGS = [
  '--headless=new',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  // A button that is still sliding in takes a click beside it.
  '--force-prefers-reduced-motion',
];

/** The shop's wall clock, as the date field shows it. */
export function asTyped(instant: string, zone = 'Europe/London'): string {
  const part = (options: Intl.DateTimeFormatOptions, at = instant) =>
    new Intl.DateTimeFormat('en-US', { timeZone: zone, ...options }).format(new Date(at));
  const year = part({ year: 'numeric' });
  const other = year === part({ year: 'numeric' }, new Date().toISOString()) ? '' : ` ${year}`;
  const day = `${part({ weekday: 'short' })} ${part({ day: 'numeric' })} ${part({ month: 'short' })}${other}`;
  return `${day}, ${part({ hour: '2-digit', minute: '2-digit', hourCycle: 'h23' })}`;
}

/** A browser of its own, and what a person does in it. */
export class Browser {
  private constructor(
    readonly driver: WebDriver,
    private readonly folder: string,
    readonly base: string,
  ) {}

  /** @param flags what else the browser is started with: a camera that stands in for one */
  static async open(base: string, [width, height] = [1280, 800], flags: readonly string[] = []): Promise<Browser> {
    const folder = mkdtempSync(join(tmpdir(), 'kalvet-browser-'));
    const options = new chrome.Options();
    options.setChromeBinaryPath('/usr/bin/chromium');
    options.addArguments(...FLAGS, ...flags, `--user-data-dir=${folder}`);
    const driver = await new Builder()
      .forBrowser('chrome')
      .setChromeOptions(options)
      .setChromeService(new chrome.ServiceBuilder('/usr/bin/chromedriver'))
      .build();
    await (driver as chrome.Driver).sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
      width,
      height,
      deviceScaleFactor: 1,
      mobile: false,
    });
    return new Browser(driver, folder, base);
  }

  async close(): Promise<void> {
    await this.driver.quit();
    rmSync(this.folder, { recursive: true, force: true });
  }

  go = (path: string) => this.driver.get(`${this.base}${path}`);

  async find(css: string, within?: WebElement): Promise<WebElement> {
    if (within) return within.findElement(By.css(css));
    return this.driver.wait(seen.elementLocated(By.css(css)), WAIT, `no ${css}`);
  }

  async click(css: string): Promise<void> {
    await until(
      `a click on ${css}`,
      async () => {
        await (await this.driver.findElement(By.css(css))).click();
        return true;
      },
      WAIT,
    );
  }

  /** Clicks what carries these words: a button, a link or a choice. */
  async press(words: string, within = ''): Promise<void> {
    const quoted = words.includes("'") ? `"${words}"` : `'${words}'`;
    const path = `${within}//*[self::button or self::a or @role='option' or @role='radio' or self::p-togglebutton or self::label][normalize-space(.)=${quoted} or @aria-label=${quoted}]`;
    await until(
      `a click on "${words}"`,
      async () => {
        await (await this.driver.findElement(By.xpath(path))).click();
        return true;
      },
      WAIT,
    );
  }

  /** Types over what stands in a field, and looks whether it stands there: on a busy machine a key can go astray. */
  async type(css: string, text: string): Promise<void> {
    await until(
      `"${text}" in ${css}`,
      async () => {
        const field = await this.find(css);
        await field.click();
        await field.sendKeys(Key.chord(Key.CONTROL, 'a'), Key.BACK_SPACE, text, Key.TAB);
        const value = (await (await this.find(css)).getAttribute('value')) ?? '';
        return value === text || (value !== '' && Number.parseFloat(value.replaceAll(',', '')) === Number(text));
      },
      WAIT,
    );
  }

  /** Signs in on the page that asks for it. */
  async signIn(name: string, password = PASSWORD): Promise<void> {
    await this.type('#who-name', name);
    await this.type('#who-password', password);
    await this.click('[data-test=sign-in]');
    await this.gone('#who-password');
  }

  /** Picks a choice of a select by its words. */
  async pick(inputId: string, words: string): Promise<void> {
    await this.click(`p-select:has(#${inputId}), p-multiselect:has(#${inputId})`);
    const choice = By.xpath(`//li[@role='option'][contains(normalize-space(.), '${words}')]`);
    // The list may still be opening.
    await until(
      `a choice "${words}"`,
      async () => {
        await (await this.driver.findElement(choice)).click();
        return true;
      },
      WAIT,
    );
    // A list of several stays open until it is left; a list of one closes by itself, and Escape would close what is behind it.
    const several = await this.driver.findElements(By.css(`p-multiselect:has(#${inputId})`));
    if (several.length > 0) await this.driver.actions().sendKeys(Key.ESCAPE).perform();
    await sleep(200);
  }

  /** Takes over what is offered and not read off, and says yes to what is asked. */
  async takeOver(): Promise<void> {
    const asked = 'kv-yes-control:not(:has([aria-checked=true])) [role=radio]:first-child, [data-test=take-over]';
    await this.driver.executeScript('document.querySelectorAll(arguments[0]).forEach((each) => each.click())', asked);
    await sleep(100);
  }

  private get devTools(): chrome.Driver {
    return this.driver as chrome.Driver;
  }

  /** The page as the browser prints it. */
  async pdf(): Promise<Buffer> {
    const { data } = (await this.devTools.sendAndGetDevToolsCommand('Page.printToPDF', {
      printBackground: true,
      preferCSSPageSize: true,
    })) as unknown as { data: string };
    return Buffer.from(data, 'base64');
  }

  /** Runs a script on the page as it is laid out for paper. */
  async onPaper<T>(script: string): Promise<T> {
    await this.devTools.sendDevToolsCommand('Emulation.setEmulatedMedia', { media: 'print' });
    try {
      return await this.driver.executeScript<T>(script);
    } finally {
      await this.devTools.sendDevToolsCommand('Emulation.setEmulatedMedia', { media: '' });
    }
  }

  /** From now on every page counts the clicks and keys that come from outside, through reloads too. */
  async countEffort(): Promise<void> {
    const source = `(() => {
      if (window.kvCounts) return;
      window.kvCounts = true;
      const add = (what) => !sessionStorage.getItem('kv.off') && sessionStorage.setItem(what, Number(sessionStorage.getItem(what) ?? 0) + 1);
      addEventListener('click', (event) => event.isTrusted && event.detail > 0 && add('kv.clicks'), true);
      addEventListener('keydown', (event) => event.isTrusted && !event.repeat && add('kv.keys'), true);
    })()`;
    if (!this.counts) await this.devTools.sendDevToolsCommand('Page.addScriptToEvaluateOnNewDocument', { source });
    this.counts = true;
    await this.driver.executeScript(
      `${source}; sessionStorage.setItem('kv.clicks', 0); sessionStorage.setItem('kv.keys', 0);`,
    );
  }
  private counts = false;

  /** What is done meanwhile is not counted. */
  async uncounted(what: () => Promise<void>): Promise<void> {
    await this.driver.executeScript(`sessionStorage.setItem('kv.off', 1)`);
    await what();
    await this.driver.executeScript(`sessionStorage.removeItem('kv.off')`);
  }

  /** The clicks and keys since it was asked to count. */
  async effort(): Promise<{ readonly clicks: number; readonly keys: number }> {
    return this.driver.executeScript(
      `return { clicks: Number(sessionStorage.getItem('kv.clicks')), keys: Number(sessionStorage.getItem('kv.keys')) }`,
    );
  }

  async tick(inputId: string): Promise<void> {
    const box = await this.find(`#${inputId}`);
    if (!(await box.isSelected())) await box.click();
  }

  async text(): Promise<string> {
    return (await this.find('body')).getText();
  }

  /** Waits until the page says something; where it does not, what it says instead is part of the failure. */
  async says(words: string): Promise<void> {
    await until(`"${words}" on the page`, async () => (await this.text()).includes(words), WAIT).catch(
      async (error: Error) => {
        throw new Error(`${error.message}; it says: ${(await this.text()).replace(/\s+/g, ' ').slice(0, 600)}`);
      },
    );
  }

  /** Waits until something is gone; where it stays, what it says is part of the failure. */
  async gone(css: string): Promise<void> {
    const there = () => this.driver.findElements(By.css(css));
    await until(`${css} gone`, async () => (await there()).length === 0, WAIT).catch(async (error: Error) => {
      const [left] = await there();
      throw new Error(`${error.message}; it says: ${(await left?.getText())?.replace(/\s+/g, ' ').slice(0, 600)}`);
    });
  }
}
