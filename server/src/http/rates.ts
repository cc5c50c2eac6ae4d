import type { RequestHandler } from 'express';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { whoIn } from '../people/who.ts';
import { Problem } from '../write/problem.ts';

/** Requests a minute. Generous for work, tight for signing in: that has its own growing waits beside. */
export interface Rates {
  readonly person: number;
  readonly address: number;
  readonly signIn: number;
}

export const RATES: Rates = { person: 3_000, address: 12_000, signIn: 60 };

const limiter = (points: number) => new RateLimiterMemory({ points, duration: 60 });

/** Takes one from a share. @throws Problem `wait` where it is used up */
async function take(share: RateLimiterMemory, key: string): Promise<void> {
  try {
    await share.consume(key);
  } catch (spent) {
    const waitS = Math.max(1, Math.ceil(((spent as { msBeforeNext?: number }).msBeforeNext ?? 1000) / 1000));
    throw new Problem('wait', `That was too much at once. Wait ${waitS} s; what you typed is kept.`, { waitS });
  }
}

/** Counts by address before anything is looked up: whoever floods costs nothing but this. */
export function ratesByAddress({ address, signIn }: Rates): RequestHandler {
  const all = limiter(address);
  const ins = limiter(signIn);
  return async (request, _response, next) => {
    const key = request.ip ?? '';
    await take(all, key);
    if (request.method !== 'GET' && /^\/(session|set-up)/.test(request.path)) await take(ins, key);
    next();
  };
}

/** Counts by person, once it is known who asks. */
export function ratesByPerson({ person }: Rates): RequestHandler {
  const own = limiter(person);
  return async (_request, response, next) => {
    const who = whoIn(response);
    if (who) await take(own, who.person.id);
    next();
  };
}
