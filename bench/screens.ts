// A first visit in a real browser: what is downloaded to show the Floor, and when its discs are there.
import type { FloorAnswer } from '@kalvet/core';
import { Browser } from '../e2e/browser.ts';
import { line, quantile } from './measure.ts';
import type { Line } from './measure.ts';
import type { Served } from './serve.ts';

const VISITS = 5;

/** Written into each page before its own scripts: the moment when every disc of the Floor has been drawn. */
const WATCH = (discs: number) => `
  new MutationObserver((_, watch) => {
    if (document.querySelectorAll('[data-piece]').length < ${discs}) return;
    watch.disconnect();
    requestAnimationFrame(() => requestAnimationFrame(() => (window.drawnAt = performance.now())));
  }).observe(document, { childList: true, subtree: true });`;

interface Resource {
  readonly name: string;
  readonly transferSize: number;
}

export async function screens(served: Served): Promise<Line[]> {
  const { works } = await served.json<FloorAnswer>('/api/floor');
  const pieces = works.flatMap((work) => work.pieces);
  // A cell shows three discs and a number; each work has two pieces in work here.
  const discs = pieces.length;
  const drawn: number[] = [];
  let download = 0;
  for (let visit = 0; visit < VISITS; visit++) {
    const browser = await Browser.open(served.base);
    try {
      const { driver } = browser;
      await driver.get(`${served.base}/favicon.svg`);
      // Somebody who has been here before, but whose browser has kept nothing of the screens.
      await driver.executeScript("localStorage.setItem('kalvet.in', '1')");
      await driver
        .manage()
        .addCookie({ name: 'kalvet_session', value: served.signed.Cookie.split('=')[1]!, path: '/' });
      await (
        driver as unknown as { sendDevToolsCommand: (name: string, what: object) => Promise<void> }
      ).sendDevToolsCommand('Page.addScriptToEvaluateOnNewDocument', { source: WATCH(discs) });
      await driver.get(`${served.base}/floor`);
      const at = await driver.wait(() => driver.executeScript<number | null>('return window.drawnAt ?? null'), 20_000);
      drawn.push(at!);
      const resources = await driver.executeScript<Resource[]>(
        `return [...performance.getEntriesByType('navigation'), ...performance.getEntriesByType('resource')]
           .map(({ name, transferSize }) => ({ name, transferSize }))`,
      );
      download = resources
        .filter(({ name }) => !name.includes('/api/'))
        .reduce((sum, { transferSize }) => sum + transferSize, 0);
    } finally {
      await browser.close();
    }
  }
  return [
    line('First visit to the Floor: HTML, scripts, styles, fonts', download / 1000, 'kB', 450),
    line(
      `Floor drawn with ${pieces.length} pieces, median of ${VISITS} first visits`,
      quantile(drawn, 0.5),
      'ms',
      1000,
    ),
  ];
}
