// Answers at Kalvet's address while its server is being started again, so that screens can say what is being done.
import { createServer } from 'node:http';

const page = (words) => `<!doctype html><html lang="en"><meta charset="utf-8"><meta http-equiv="refresh" content="2">
<title>Kalvet is coming back</title>
<style>body{font:18px/1.5 system-ui,sans-serif;background:#f4f1ea;color:#22313a;margin:15vh auto;max-width:34em;padding:0 1em}</style>
<h1>Kalvet is coming back</h1><p>${words}</p><p>What was typed is kept in this browser. This page goes on by itself.</p></html>`;

/** Opens and closes the stand-in on the server's own address. */
export function holdingPage(port, host) {
  let server;
  let words = '';
  return {
    /** @param text one sentence: what is being done */
    open(text) {
      words = text;
      if (server) return Promise.resolve();
      server = createServer((request, response) => {
        request.resume();
        const api = request.url.startsWith('/api');
        response.writeHead(503, {
          'Content-Type': api ? 'application/json; charset=utf-8' : 'text/html; charset=utf-8',
          'Cache-Control': 'no-store',
          'Retry-After': '2',
          Connection: 'close',
        });
        response.end(api ? JSON.stringify({ error: { code: 'unavailable', message: words } }) : page(words));
      });
      server.on('error', () => (server = undefined));
      return new Promise((resolve) => server.listen(port, host, resolve).once('error', resolve));
    },
    close() {
      const closing = server;
      server = undefined;
      if (!closing?.listening) return Promise.resolve();
      closing.closeAllConnections();
      return new Promise((resolve) => closing.close(resolve));
    },
  };
}
