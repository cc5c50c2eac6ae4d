import { Browser } from './browser.ts';
import { Kalvet } from './kalvet.ts';

/** Sheets of a PDF: each has one page object. */
const sheets = (pdf: Buffer): number => (pdf.toString('latin1').match(/\/Type\s*\/Page[^s]/g) ?? []).length;

describe('on paper', () => {
  let kalvet: Kalvet;
  let browser: Browser;

  beforeAll(async () => {
    kalvet = await Kalvet.start('kalvet_paper', { laid: true });
    browser = await Browser.open(kalvet.url);
    await kalvet.choose(browser, 'IM');
  });
  afterAll(async () => {
    await browser?.close();
    await kalvet?.stop();
  });

  const print = async (path: string, ready: string): Promise<number> => {
    await browser.go(path);
    await browser.find(ready);
    const pdf = await browser.pdf();
    return sheets(pdf);
  };

  it('every page prints whole: as many sheets as it is long, and the Day sheet a page a room', async () => {
    const rooms = async () => (await browser.driver.findElements({ css: '.sheets .sheet' })).length;
    const day = await print('/day', '.sheet');
    expect(day).toBeGreaterThanOrEqual(await rooms());
    const found: Record<string, number> = {};
    for (const [path, ready] of [
      ['/floor', 'kv-disc'],
      ['/coats', '.beads'],
      ['/pour', '.heat'],
      ['/orders', '.order'],
      ['/settings', 'table'],
    ] as const)
      found[path] = await print(path, ready);
    const floor = await kalvet.floor();
    const { pieces } = floor.works.find((work) => work.sectionCount > 2)!;
    found['piece'] = await print(`/pieces/${pieces[0]!.id}`, 'kv-history');
    // What is longer than a sheet was cut off at its foot before: a passport with its history is several.
    expect(found['piece']).toBeGreaterThan(1);
    for (const [path, count] of Object.entries(found)) expect(count).withContext(path).toBeGreaterThanOrEqual(1);
  });

  it('is black on white, with the shop’s name, and without what only a screen needs', async () => {
    await browser.go('/day');
    await browser.find('.sheet');
    const seen = await browser.onPaper(
      `return {
        head: document.querySelector('.kv-print-head').innerText,
        nav: getComputedStyle(document.querySelector('header')).display,
        buttons: [...document.querySelectorAll('[data-test=record-line]')].filter((each) => each.offsetParent !== null).length,
        paper: getComputedStyle(document.querySelector('.sheet')).backgroundColor,
      }`,
    );
    expect(seen).toEqual(jasmine.objectContaining({ nav: 'none', buttons: 0, paper: 'rgb(255, 255, 255)' }));
    expect((seen as { head: string }).head).toContain('Marrowby Quay');
  });
});
