// A first visit in a real browser: what is downloaded to show the Floor, and when its discs are there.
import type { FloorAnswer } from '@kalvet/core';
import { Browser } from '../e2e/browser.ts';
import { line, quantile } from './measure.ts';
import type { Line } from './measure.ts';
import type { Served } from './serve.ts';

const VISITS = 5;

interface Resource {
  readonly name: string;
  readonly transferSize: number;
}

/** Written into each page before its own scripts: the moment when something of this kind has been drawn. */
const WATCH = (css: string, count: number) => `
  new MutationObserver((_, watch) => {
    if (document.querySelectorAll('${css}').length < ${count}) return;
    watch.disconnect();
    requestAnimationFrame(() => requestAnimationFrame(() => (window.drawnAt = performance.now())));
  }).observe(document, { childList: true, subtree: true });`;

interface Visited {
  /** Milliseconds until it was drawn, the middle of several first visits. */
  readonly ms: number;
  /** Bytes that came over the wire beside the answers. */
  readonly bytes: number;
}

/** First visits of a page by somebody who is signed in and whose browser has kept nothing of the screens. */
async function visits(served: Served, path: string, css: string, count: number): Promise<Visited> {
  const drawn: number[] = [];
  let bytes = 0;
  for (let visit = 0; visit < VISITS; visit++) {
    const browser = await Browser.open(served.base);
    try {
      const { driver } = browser;
      await driver.get(`${served.base}/favicon.svg`);
      await driver.executeScript("localStorage.setItem('kalvet.in', '1')");
      await driver
        .manage()
        .addCookie({ name: 'kalvet_session', value: served.signed.Cookie.split('=')[1]!, path: '/' });
      await (
        driver as unknown as { sendDevToolsCommand: (name: string, what: object) => Promise<void> }
      ).sendDevToolsCommand('Page.addScriptToEvaluateOnNewDocument', { source: WATCH(css, count) });
      await driver.get(`${served.base}${path}`);
      const at = await driver.wait(() => driver.executeScript<number | null>('return window.drawnAt ?? null'), 20_000);
      drawn.push(at!);
      const resources = await driver.executeScript<Resource[]>(
        `return [...performance.getEntriesByType('navigation'), ...performance.getEntriesByType('resource')]
           .map(({ name, transferSize }) => ({ name, transferSize }))`,
      );
      bytes = resources
        .filter(({ name }) => !name.includes('/api/'))
        .reduce((sum, { transferSize }) => sum + transferSize, 0);
    } finally {
      await browser.close();
    }
  }
  return { ms: quantile(drawn, 0.5), bytes };
}

export async function screens(served: Served): Promise<Line[]> {
  const { works } = await served.json<FloorAnswer>('/api/floor');
  const pieces = works.flatMap((work) => work.pieces);
  // A cell shows three discs and a number; each work has two pieces in work here.
  const floor = await visits(served, '/floor', '[data-piece]', pieces.length);
  const day = await visits(served, '/day', '.sheets [data-kind]', 20);
  const coats = await visits(served, '/coats', '.beads', 20);
  const many = `with ${pieces.length} pieces, median of ${VISITS} first visits`;
  return [
    line('First visit to the Floor: HTML, scripts, styles, fonts', floor.bytes / 1000, 'kB', 450),
    line(`Floor drawn ${many}`, floor.ms, 'ms', 1000),
    line(`Day sheet drawn ${many}`, day.ms, 'ms', 1500),
    line(`Coats drawn ${many}`, coats.ms, 'ms', 1500),
  ];
}
