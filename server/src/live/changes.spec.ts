import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { createApp } from '../app.ts';
import { TestShop, workBody } from '../testing/shop.ts';
import { changesSince } from './changes.ts';

describe('the live stream', () => {
  it('tells of a change made elsewhere, and after a break of what was missed', async () => {
    const shop = await TestShop.open();
    const { app, live } = createApp({ store: shop.store, now: () => shop.now });
    const server = createServer(app);
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as AddressInfo;
    const listen = async (last?: number) => {
      const abort = new AbortController();
      const answer = await fetch(`http://127.0.0.1:${port}/api/changes`, {
        signal: abort.signal,
        headers: { ...shop.headers(), ...(last ? { 'Last-Event-ID': String(last) } : {}) },
      });
      const reader = answer.body!.getReader();
      return {
        abort,
        until: async (text: string) => {
          let seen = '';
          while (!seen.includes(text)) seen += new TextDecoder().decode((await reader.read()).value);
          return seen;
        },
      };
    };
    const first = await listen();
    await first.until('event: hello');
    const { body } = await shop.send('post', '/api/works', workBody());
    const seen = await first.until(`id: ${body.change}`);
    expect(seen).toContain(body.pieceIds[0]);
    first.abort.abort();
    const later = await listen(body.change - 1);
    expect(await later.until(`id: ${body.change}\ndata`)).toContain(body.pieceIds[0]);
    later.abort.abort();
    expect((await changesSince(shop.store, 0)).map(({ change }) => change)).toEqual([1, 2]);
    live.close();
    await new Promise((resolve) => {
      server.close(resolve);
      server.closeAllConnections();
    });
  });
});

describe('streams of one person', () => {
  it('are so many at most, and one that is given up while it opens is forgotten at once', async () => {
    const shop = await TestShop.open();
    const { app, live } = createApp({ store: shop.store, now: () => shop.now });
    const server = createServer(app);
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as AddressInfo;
    const open = (signal: AbortSignal) =>
      fetch(`http://127.0.0.1:${port}/api/changes`, { signal, headers: shop.headers() });
    // Given up a few milliseconds after they were asked for, at every point of their opening.
    await Promise.all(
      Array.from({ length: 60 }, (_, i) => open(AbortSignal.timeout(1 + (i % 12))).catch(() => undefined)),
    );
    const abort = new AbortController();
    const statuses = [];
    for (let i = 0; i < 25; i++) statuses.push((await open(abort.signal)).status);
    expect(statuses).toEqual([...Array.from({ length: 24 }, () => 200), 429]);
    abort.abort();
    live.close();
    await new Promise((resolve) => {
      server.close(resolve);
      server.closeAllConnections();
    });
  });
});
