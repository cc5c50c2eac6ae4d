import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';
import type { Request, Response } from 'express';
import { rowsOf } from '../db/rows.ts';
import type { Server } from '../http/request.ts';
import { sightsIn } from '../people/rights.ts';

/** Pages kept at once; the one longest unasked for goes first. */
const MOST = 40;
/** A clock in an answer is at most so old: lateness and readiness are judged by the minute. */
const CLOCK_MS = 60_000;

const pack = {
  // The middle of its scale: a tenth of the time of its best for a few more bytes.
  br: (body: Buffer) => promisify(brotliCompress)(body, { params: { [constants.BROTLI_PARAM_QUALITY]: 4 } }),
  gzip: (body: Buffer) => promisify(gzip)(body),
  identity: (body: Buffer) => Promise.resolve(body),
};
type Packing = keyof typeof pack;

interface Kept {
  readonly stamp: string;
  readonly body: Promise<Buffer>;
  readonly packed: Map<Packing, Promise<Buffer>>;
}

/**
 * What a page reads is the same for all who may see the same, until something changes. It is worked out once and kept, as sent, with the
 * stamp it was made under: the change number, whether the planner failed, and the minute. Many who ask at once wait for one
 * answer. Every asking looks at the stamp in the database, so several servers on one database never disagree.
 */
export class KeptAnswers {
  private readonly kept = new Map<string, Kept>();

  constructor(private readonly server: Server) {}

  /**
   * Sends the page of this address, made anew where it is out of date; 304 where the asker has it already.
   * @param asked what of the address's query the page depends on, as it was checked; anything else would make pages for nobody
   */
  async send(request: Request, response: Response, make: () => Promise<object>, asked = ''): Promise<void> {
    // Taken before the page is made: what changes meanwhile makes the next asking make it again, never the other way.
    const stamp = await this.stamp();
    // Who may see the same shares one page.
    const address = `${sightsIn(response).join()} ${request.path} ${asked}`;
    const packing = (request.acceptsEncodings('br', 'gzip', 'identity') || 'identity') as Packing;
    const tag = `"${createHash('sha256').update(`${stamp} ${address} ${packing}`).digest('base64url').slice(0, 27)}"`;
    response.setHeader('Cache-Control', 'private, no-cache');
    response.setHeader('Vary', 'Accept-Encoding');
    response.setHeader('ETag', tag);
    if (request.header('If-None-Match') === tag) {
      response.status(304).end();
      return;
    }
    const page = this.page(address, stamp, make);
    if (!page.packed.has(packing)) page.packed.set(packing, page.body.then(pack[packing]));
    const body = await page.packed.get(packing)!;
    response.setHeader('Content-Type', 'application/json; charset=utf-8');
    if (packing !== 'identity') response.setHeader('Content-Encoding', packing);
    response.end(body);
  }

  private page(address: string, stamp: string, make: () => Promise<object>): Kept {
    const found = this.kept.get(address);
    this.kept.delete(address);
    const page =
      found?.stamp === stamp
        ? found
        : { stamp, body: make().then((answer) => Buffer.from(JSON.stringify(answer))), packed: new Map() };
    this.kept.set(address, page);
    // What could not be made is not kept.
    page.body.catch(() => this.kept.get(address) === page && this.kept.delete(address));
    if (this.kept.size > MOST) this.kept.delete(this.kept.keys().next().value!);
    return page;
  }

  private async stamp(): Promise<string> {
    // A plan that ends well is a change itself; that one is being made is not worth making every page again.
    const { store } = this.server;
    const [[counter], [computed]] = await Promise.all([
      rowsOf<{ value: number }>(store, 'counters', { name: 'change' }),
      rowsOf<{ state: string }>(store, 'computations', { kind: 'plan' }),
    ]);
    const minute = Math.floor(Date.parse(this.server.now()) / CLOCK_MS);
    return JSON.stringify([counter?.value, computed?.state === 'failed', minute]);
  }
}
