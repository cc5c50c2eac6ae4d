import { randomBytes } from 'node:crypto';
import type { RequestHandler, Response } from 'express';
import helmet from 'helmet';

/** What a page may load. Styles that scripts write carry the page's own nonce; a style on an element is not one that loads anything. */
const directives = (nonce?: string) => ({
  'default-src': ["'self'"],
  // The geometry kernel that measures models is WebAssembly.
  'script-src': ["'self'", "'wasm-unsafe-eval'"],
  'script-src-attr': ["'none'"],
  'style-src': ["'self'", ...(nonce ? [`'nonce-${nonce}'`] : [])],
  'style-src-attr': ["'unsafe-inline'"],
  'img-src': ["'self'", 'data:'],
  'font-src': ["'self'"],
  'connect-src': ["'self'"],
  'object-src': ["'none'"],
  'base-uri': ["'self'"],
  'form-action': ["'self'"],
  'frame-ancestors': ["'self'"],
});

const policy = (nonce?: string): string =>
  Object.entries(directives(nonce))
    .map(([name, values]) => `${name} ${values.join(' ')}`)
    .join(';');

/** What a browser may not do with our pages, whatever a script on them asks for. */
const PERMISSIONS = [
  'camera=(self)',
  ...['accelerometer', 'autoplay', 'display-capture', 'geolocation', 'gyroscope', 'magnetometer'].map(
    (each) => `${each}=()`,
  ),
  ...['microphone', 'midi', 'payment', 'usb', 'serial', 'hid'].map((each) => `${each}=()`),
].join(', ');

const YEAR_S = 365 * 86_400;

/** Headers that keep other sites' scripts and frames out. */
export function securityHeaders(): RequestHandler[] {
  return [
    helmet({ contentSecurityPolicy: false, strictTransportSecurity: false }),
    (request, response, next) => {
      response.setHeader('Content-Security-Policy', policy());
      response.setHeader('Permissions-Policy', PERMISSIONS);
      // Said only where the way was encrypted: a shop on plain http must not lock itself out.
      if (request.secure) response.setHeader('Strict-Transport-Security', `max-age=${YEAR_S}; includeSubDomains`);
      next();
    },
  ];
}

/** A nonce for the page that is being sent, said in its policy. */
export function pageNonce(response: Response): string {
  const nonce = randomBytes(16).toString('base64');
  response.setHeader('Content-Security-Policy', policy(nonce));
  return nonce;
}
