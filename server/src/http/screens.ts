import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Express } from 'express';
import packedStatic from 'express-static-gzip';
import { Problem } from '../write/problem.ts';
import { pageNonce } from './headers.ts';

/** Serves the built screens: files as they are, and the one page for every address of a screen. */
export function serveScreens(app: Express, web: string): void {
  app.use(
    packedStatic(web, {
      enableBrotli: true,
      index: false,
      serveStatic: {
        setHeaders: (response, path) => {
          // Built files carry a hash of their contents in their name.
          response.setHeader(
            'Cache-Control',
            /-[A-Z0-9]{8}\.\w+(\.br)?$/.test(path) ? 'public, max-age=31536000, immutable' : 'no-cache',
          );
        },
      },
    }),
  );
  // Asked for by whatever looks at one file by itself.
  app.get('/favicon.ico', (_request, response) => response.sendFile(join(web, 'favicon.svg')));
  const page = readFileSync(join(web, 'index.html'), 'utf8');
  app.get('/{*path}', (request, response, next) => {
    if (/\.\w+$/.test(request.path)) return next(new Problem('not found', 'There is no such file.'));
    response.setHeader('Cache-Control', 'no-store');
    response.type('html').send(page.replace('<kv-root>', `<kv-root ngCspNonce="${pageNonce(response)}">`));
  });
}
