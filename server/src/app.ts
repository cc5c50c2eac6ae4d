import { METRIC, dayIn, shopReader } from '@kalvet/core';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import compression from 'compression';
import express from 'express';
import type { ErrorRequestHandler, Express, Request, RequestHandler } from 'express';
import type { ErrorAnswer, ShopAnswer } from '@kalvet/core';
import { chasingRoutes } from './chasing/chasing.routes.ts';
import { loadRoutes } from './burnout/load.routes.ts';
import { LiveStream, changeNumber } from './live/changes.ts';
import { KeptAnswers } from './live/kept-answers.ts';
import { keepRoutes } from './keep/keep.routes.ts';
import type { OpenidOptions } from './people/openid.ts';
import { openidWith } from './people/openid.ts';
import { peopleRoutes } from './people/people.routes.ts';
import { people } from './people/person-of.ts';
import { guardReads } from './people/rights.ts';
import { ownSessionRoutes, sessionRoutes } from './people/session.routes.ts';
import { settingsOf } from './people/settings.ts';
import { identify } from './people/who.ts';
import { daysAround } from './plan/open-days.ts';
import { feedRoutes, openFeedRoutes } from './plan/feed.routes.ts';
import { planningRoutes } from './plan/planning.routes.ts';
import { heatRoutes } from './pour/heat.routes.ts';
import { practiceRoutes } from './pour/practice.routes.ts';
import { qualityRoutes } from './quality/quality.routes.ts';
import { metalRoutes } from './stores/metal.routes.ts';
import { instrumentRoutes } from './instruments/instrument.routes.ts';
import { modelRoutes } from './weigh/model.routes.ts';
import { PART_TYPE, fileRoutes, isPart } from './files/file.routes.ts';
import { CLIMATE_FILE, CLIMATE_FILE_LIMIT, coatRoutes } from './shell/coats.routes.ts';
import { tankRoutes } from './shell/tank.routes.ts';
import { stepRoutes } from './route/step.routes.ts';
import { findRoutes } from './work/find.routes.ts';
import { orderRoutes } from './work/order.routes.ts';
import { workRoutes } from './work/work.routes.ts';
import { Problem } from './write/problem.ts';
import { securityHeaders } from './http/headers.ts';
import type { Rates } from './http/rates.ts';
import { RATES, ratesByAddress, ratesByPerson } from './http/rates.ts';
import type { Server } from './http/request.ts';
import { serveScreens } from './http/screens.ts';
import { isAway } from './write/away.ts';
import { errnoOf } from './write/errno.ts';

export interface AppOptions extends Server {
  /** Where the built screens are; none while they are developed. */
  readonly web?: string | undefined;
  /** Host names that requests may be addressed to, beside loopback. */
  readonly hosts?: readonly string[];
  /** The demo foundry, whose people are chosen without a proof; only from this machine. */
  readonly demo?: boolean;
  /** The shop's own sign-in, where it has one. */
  readonly openid?: OpenidOptions | undefined;
  /** Proxies whose word is taken for where a request comes from and whether its way was encrypted. */
  readonly proxies?: readonly string[];
  readonly rates?: Rates;
  /** Where instruments speak to. */
  readonly broker?: () => string | null;
}

const BODY_LIMIT = '256kb';

/** The whole application: API, live stream and screens. */
export function createApp(options: AppOptions): { app: Express; live: LiveStream } {
  const app = express();
  const live = new LiveStream(options.store);
  const pages = new KeptAnswers(options);
  app.disable('x-powered-by');
  app.set('trust proxy', options.proxies && options.proxies.length > 0 ? [...options.proxies] : false);
  app.use(securityHeaders());
  app.use(compression());
  const rates = options.rates ?? RATES;
  app.use('/api', onlyOurs(options.hosts ?? []), ratesByAddress(rates), jsonUpTo);
  app.use('/api', inTime);
  app.get('/api/health', async (_request, response) => {
    const change = await changeNumber(options.store);
    response.json({ status: 'ok', database: 'ok', change });
  });
  const openid = options.openid && openidWith(options.openid);
  app.use(
    '/api',
    identify(options.store),
    ratesByPerson(rates),
    sessionRoutes(options, { openid, demo: (request) => isDemoHere(options, request) }),
  );
  app.use('/api', openFeedRoutes(options));
  app.use('/api', guardReads, ownSessionRoutes(options));
  app.get('/api/shop', async (_request, response) => {
    const settings = await settingsOf(options.store);
    const now = options.now();
    const today = dayIn(now, settings.timeZone);
    const answer: ShopAnswer = {
      settings,
      people: await people(options.store),
      now,
      today,
      ...(await daysAround(options.store, today)),
      change: await changeNumber(options.store),
    };
    response.json(answer);
  });
  app.get('/api/changes', (request, response) => live.open(request, response));
  app.use(
    '/api',
    peopleRoutes(options, openid !== undefined),
    workRoutes(options, pages),
    stepRoutes(options),
    loadRoutes(options, pages),
    heatRoutes(options, pages),
    metalRoutes(options, pages),
    qualityRoutes(options, pages),
    instrumentRoutes(options),
    practiceRoutes(options),
    findRoutes(options),
    planningRoutes(options, pages),
    feedRoutes(options),
    orderRoutes(options, pages),
    chasingRoutes(options),
    coatRoutes(options, pages),
    tankRoutes(options, pages),
    keepRoutes(options),
    fileRoutes(options),
    modelRoutes(options),
  );
  app.use('/api', () => {
    throw new Problem('not found', 'There is no such address.');
  });
  if (options.web && existsSync(join(options.web, 'index.html'))) serveScreens(app, options.web);
  app.use(answerError(options));
  return { app, live };
}

/** A kiln's logger writes as long a file as a room's. */
const KILN_FILE = /^\/loads\/[^/]+\/file$/;
const forms = express.json({ limit: BODY_LIMIT, strict: true });
const loggerFiles = express.json({ limit: CLIMATE_FILE_LIMIT, strict: true });
const jsonUpTo: RequestHandler = (request, response, next) =>
  (request.path === CLIMATE_FILE || KILN_FILE.test(request.path) ? loggerFiles : forms)(request, response, next);

/** Nobody waits longer than this for an answer; the live stream and questions that are planned have times of their own. */
const LONGEST_MS = 9_500;
const PLANNED = /\/what-if$|^\/works$|^\/files\/[^/]+\/end$|^\/shell\/climate\/file$/;
const LONGEST_PLANNED_MS = 60_000;

/** In the demo, and asked from this machine by its own name: nobody came through a proxy. */
const isDemoHere = ({ demo }: AppOptions, request: Request): boolean =>
  demo === true &&
  LOOPBACK.has((request.header('Host') ?? '').replace(/:\d+$/, '')) &&
  /^(::1|(::ffff:)?127\.\d+\.\d+\.\d+)$/.test(request.socket.remoteAddress ?? '') &&
  request.header('X-Forwarded-For') === undefined;

/** Says that the records take too long, where nothing was answered in time. What comes later finds the answer sent. */
const inTime: RequestHandler = (request, response, next) => {
  if (request.path === '/changes') return next();
  const late = setTimeout(
    () => {
      if (response.headersSent) return;
      const { status, code, says } = new Problem(
        'unavailable',
        'The records take too long to answer at this moment. What you typed is kept; try again.',
      );
      response.locals['late'] = true;
      response.status(status).json({ error: { code, message: says } });
    },
    PLANNED.test(request.path) ? LONGEST_PLANNED_MS : LONGEST_MS,
  );
  response.on('close', () => clearTimeout(late));
  next();
};

const LOOPBACK = new Set(['localhost', '127.0.0.1', '[::1]']);

/**
 * Refuses requests that another site's page makes in somebody's browser: a Host that is not ours, an Origin that is not
 * that Host, and writes whose body is not JSON.
 */
function onlyOurs(hosts: readonly string[]): RequestHandler {
  return (request, _response, next) => {
    const host = request.header('Host') ?? '';
    const name = host.replace(/:\d+$/, '');
    if (!LOOPBACK.has(name) && !hosts.includes(name))
      throw new Problem('foreign', 'This address is not one of Kalvet’s.');
    const origin = request.header('Origin');
    const site = request.header('Sec-Fetch-Site');
    // The shop's own sign-in sends the browser back from its own pages; what it brings is proven there.
    if (request.path === '/session/openid/back' && request.method === 'GET') return next();
    if ((origin && origin !== `http://${host}` && origin !== `https://${host}`) || site === 'cross-site')
      throw new Problem('foreign', 'Requests from other sites are refused.');
    const isJson = request.is('application/json') || (isPart(request.path) && request.is(PART_TYPE));
    if (request.method !== 'GET' && request.method !== 'HEAD' && !isJson)
      throw new Problem('foreign', 'Only JSON is taken.');
    next();
  };
}

/** Every error as an answer in words; what nobody foresaw is printed with its stack and says only that it failed. */
const answerError =
  ({ store, around }: Server): ErrorRequestHandler =>
  async (error, request, response, next) => {
    // What was too late has its answer already.
    if (response.locals['late'] === true) return;
    if (response.headersSent) return next(error);
    const problem = asProblem(error, around?.() ?? '');
    if (problem.code === 'failed') console.error(`${request.method} ${request.path}:`, error);
    // Where the shop's own clock cannot be read, times are said as they are kept.
    const zone =
      problem.code === 'unavailable'
        ? 'utc'
        : await settingsOf(store).then(
            (found) => found.timeZone,
            () => 'utc',
          );
    response.status(problem.status).json(inBounds(problem.answer(shopReader(zone, METRIC))));
  };

/** An error's answer is small: what was sent is in the form anyway, and what is there now can be read. */
const LARGEST_ANSWER = 64 * 1024;
function inBounds(answer: ErrorAnswer): ErrorAnswer {
  if (JSON.stringify(answer).length <= LARGEST_ANSWER) return answer;
  const { yours: _, current: __, ...error } = answer.error;
  return { error };
}

function asProblem(error: unknown, around: string): Problem {
  if (error instanceof Problem) return error;
  const { type } = error as { type?: string };
  if (type === 'entity.parse.failed') return new Problem('invalid', 'The body is not JSON.');
  if (type === 'entity.too.large') return new Problem('too large', `A record may not be larger than ${BODY_LIMIT}.`);
  if (errnoOf(error) === 1062)
    return new Problem('invalid', 'This was entered already. Open the form again for another one.');
  if (errnoOf(error) === 1205 || errnoOf(error) === 1213)
    return new Problem(
      'unavailable',
      'Somebody else writes the same at this moment. What you typed is kept; try again.',
    );
  if (errnoOf(error) === 1114 || errnoOf(error) === 1021 || errnoOf(error) === 28)
    return new Problem(
      'unavailable',
      'The disk is full: nothing can be recorded until there is room. Nothing that was saved is lost.',
    );
  if (isAway(error))
    return new Problem(
      'unavailable',
      `${around || 'The records cannot be reached at this moment.'} What you typed is kept; try again.`,
    );
  if (type === 'charset.unsupported' || type === 'encoding.unsupported')
    return new Problem('invalid', 'The body is written in letters that are not read here; send UTF-8.');
  if (type === 'request.aborted' || (error as { status?: number }).status === 400)
    return new Problem('invalid', 'The request could not be read.');
  return new Problem('failed', 'That did not work, and it is not your doing. Nothing was half written; try again.');
}
