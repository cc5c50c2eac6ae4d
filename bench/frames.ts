// How smoothly the plan of a full shop moves: frames drawn while it is scrolled and moved in time, of those drawn at rest in the
// same browser, so that a slow machine counts for nothing.
import { Browser } from '../e2e/browser.ts';
import { line } from './measure.ts';
import type { Line } from './measure.ts';
import type { Served } from './serve.ts';

const REST_MS = 1500;
const MOVE_MS = 4000;

/** Frames a second at rest, and while the board is scrolled each frame and moved in time now and then. */
const COUNT = `
  const [restMs, moveMs, done] = arguments;
  const board = document.querySelector('.board');
  const count = (ms, each) => new Promise((resolve) => {
    let frames = 0;
    const begin = performance.now();
    const next = (now) => {
      if (now - begin >= ms) return resolve((frames * 1000) / (now - begin));
      frames++;
      each(frames);
      requestAnimationFrame(next);
    };
    requestAnimationFrame(next);
  });
  const press = (key) => board.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
  (async () => {
    const rest = await count(restMs, () => {});
    const moved = await count(moveMs, (frame) => {
      const most = board.scrollHeight - board.clientHeight;
      if (most > 0) board.scrollTop = (board.scrollTop + 26) % most;
      if (frame % 5 === 0) press(frame % 40 < 20 ? 'ArrowRight' : 'ArrowLeft');
    });
    done([rest, moved]);
  })();`;

const VIEWS = [
  { name: 'pieces', path: '/plan', ready: '.row-label' },
  { name: 'rooms', path: '/plan?by=rooms', ready: 'kv-room-weeks svg' },
  { name: 'people and machines', path: '/plan?by=hands', ready: '[data-name]' },
];

/** The plan's views, moved. */
export async function frames(served: Served): Promise<Line[]> {
  const { rows } = await served.json<{ rows: readonly unknown[] }>('/api/plan');
  const lines: Line[] = [];
  for (const { name, path, ready } of VIEWS) {
    const browser = await Browser.open(served.base);
    try {
      const { driver } = browser;
      await driver.get(`${served.base}/favicon.svg`);
      await driver.executeScript("localStorage.setItem('kalvet.in', '1')");
      await driver
        .manage()
        .addCookie({ name: 'kalvet_session', value: served.signed.Cookie.split('=')[1]!, path: '/' });
      await driver.get(`${served.base}${path}`);
      await browser.find(ready);
      const [rest, moved] = await driver.executeAsyncScript<[number, number]>(COUNT, REST_MS, MOVE_MS);
      lines.push(
        line(
          `Plan by ${name}, ${rows.length} pieces: frames lost while moving`,
          Math.max(0, 100 * (1 - moved / rest)),
          '%',
          35,
        ),
        line('… frames a second at rest', rest, ''),
      );
    } finally {
      await browser.close();
    }
  }
  return lines;
}
