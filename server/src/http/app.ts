import { Readable } from 'node:stream';
import bodyParser from '@koa/bodyparser';
import Router from '@koa/router';
import Koa, { type Context } from 'koa';
import serveStatic from 'koa-static';
import type { Logger } from 'pino';
import { ZodError, type z } from 'zod';
import { tooLongText, type ApiError } from '@gezeit/contract';
import { GezeitError, missing, type RefusalNature } from '@gezeit/core';
import { door } from '../access/door.js';
import { accessOf, type Entrance } from '../access/entrance.js';
import type { Session } from '../access/sessions.js';
import { storageFailure } from '../database/storage-failure.js';
import { dayRoutes } from './routes/day.js';
import { editingRoutes } from './routes/editing.js';
import { evidenceRoutes } from './routes/evidence.js';
import { importRoutes } from './routes/imports.js';
import { profileRoutes } from './routes/profiles.js';
import { sheetRoutes } from './routes/sheet.js';
import { stagingRoutes } from './routes/staging.js';
import { libraryRoutes } from './routes/library.js';
import { logRoutes } from './routes/logs.js';
import { programmeRoutes } from './routes/programmes.js';
import { serviceRoutes } from './routes/service.js';
import { onlyByItsNames, onlyFromItself } from './strangers.js';
import { StoredAnswer, type RawAnswer, type Route, type Services } from './route.js';
import { logRequestFailure } from './request-failure.js';

/** Every route of the server; the document and the tests walk this list. */
export const ROUTES: Route[] = [
  ...serviceRoutes(() => ROUTES),
  ...programmeRoutes,
  ...editingRoutes,
  ...dayRoutes,
  ...evidenceRoutes,
  ...sheetRoutes,
  ...libraryRoutes,
  ...logRoutes,
  ...importRoutes,
  ...stagingRoutes,
  ...profileRoutes,
];

const STATUS_OF: Record<RefusalNature, number> = {
  invalid: 400,
  unnamed: 401,
  forbidden: 403,
  missing: 404,
  conflict: 409,
  'too-often': 429,
  'no-room': 507,
  unavailable: 503,
};

/**
 * The web application: the interface under /api, and the built pages, whose own addresses all answer with the first page.
 * @param entrance where the requests come in: the machine itself, or the shop's network.
 */
export function createApp(services: Services, pages: string | null, entrance: Entrance): Koa {
  const app = new Koa();
  app.on('error', (error: Error) => logRequestFailure(services.log, error));
  app.use(answerErrors(services));
  app.use(onlyByItsNames(entrance));
  app.use(onlyFromItself);
  if (entrance.from === 'network') app.use(door(entrance));
  app.use(bodyParser({ jsonLimit: '8mb', enableTypes: ['json'] }));
  const router = new Router();
  for (const route of ROUTES) router[route.method](route.path, (context: Context) => handle(route, context, services, entrance));
  app.use(router.routes());
  app.use((context, next) => {
    if (context.path.startsWith('/api/'))
      throw missing(`There is nothing at ${context.path}.`, 'GET /api/openapi.json lists what there is.');
    return next();
  });
  if (pages) {
    app.use((context, next) => {
      const isPage = context.method === 'GET' && !/\.\w+$/.test(context.path);
      if (isPage) context.path = '/index.html';
      if (context.path === '/index.html') context.set('Cache-Control', 'no-cache');
      return next();
    });
    app.use(
      serveStatic(pages, {
        maxage: 365 * 24 * 3600 * 1000,
        immutable: true,
        setHeaders: (response, path) =>
          /(index\.html|service-worker\.js)(\.gz)?$/.test(path) && response.setHeader('Cache-Control', 'no-cache'),
      }),
    );
  }
  return app;
}

function answerErrors({ log }: Services) {
  return async (context: Context, next: () => Promise<unknown>) => {
    try {
      await next();
    } catch (error) {
      const known = asGezeitError(error);
      context.status = known ? STATUS_OF[known.nature] : 500;
      context.body = refusalOf(error, context.path, log);
    }
  };
}

/** What is answered where something is refused or breaks; the latter is told to the log. */
function refusalOf(error: unknown, path: string, log: Logger): ApiError {
  const known = asGezeitError(error);
  if (!known) log.error({ err: error, path }, 'unexpected error');
  const { code, message, nextStep, place } =
    known ?? new GezeitError('internal', 'Something went wrong on the server.', 'Try again; the log of the server says more.');
  return { error: { code, message, nextStep, place } };
}

function asGezeitError(error: unknown): GezeitError | null {
  if (error instanceof GezeitError) return error;
  if (error instanceof ZodError) {
    const [issue] = error.issues;
    return new GezeitError('bad-request', `${issue?.path.join('.') || 'request'}: ${issue?.message}.`, 'Correct the request.');
  }
  return storageFailure(error) ?? fromHttp(error);
}

/** What a package of the way refuses by its status: bodies and addresses that cannot be read. */
function fromHttp(error: unknown): GezeitError | null {
  const status = error instanceof Error && 'status' in error ? Number(error.status) : 0;
  if (status === 413)
    return new GezeitError('too-large', 'The request is larger than 8 MB.', 'Send less at once; files have addresses of their own.');
  if (status === 404 || status === 403) return missing('There is nothing at this address.', 'Go back to the board.');
  return status >= 400 && status < 500
    ? new GezeitError('bad-request', 'The request cannot be read.', 'Send a valid address, and valid JSON.')
    : null;
}

/** @throws GezeitError `too-long` where a text of a request is longer than it may be. */
function withinLengths(body: unknown): void {
  const found = tooLongText(body);
  if (found)
    throw new GezeitError(
      'too-long',
      `${found.place}: this is longer than ${found.most} letters.`,
      'Shorten it; longer texts can be attached as a file.',
    );
}

async function handle(route: Route, context: Context, services: Services, entrance: Entrance): Promise<void> {
  if (route.onMachine) onlyOnMachine(entrance);
  const check = (schema: z.ZodType | undefined, value: unknown) => schema?.parse(value);
  const person = route.changes ? personOf(context) : '';
  if (route.body) withinLengths((context.request as { body?: unknown }).body);
  const answer = (await route.handle({
    params: check(route.params, context['params']),
    query: check(route.query, context.query),
    body: check(route.body, (context.request as { body?: unknown }).body),
    person,
    seat: context.get('x-gezeit-seat').slice(0, 100) || 'program',
    access: accessOf(entrance, (context.state['session'] as Session | undefined) ?? null),
    request: context.req,
    services,
  })) as unknown;
  context.status = route.status ?? 200;
  if (answer instanceof StoredAnswer) {
    await answerStored(context, answer, services);
    return;
  }
  if (typeof route.answer !== 'string') {
    context.body = answer;
    return;
  }
  const raw = answer as RawAnswer;
  context.type = raw.type;
  if (raw.fileName) context.attachment(raw.fileName);
  if (raw.type === 'text/event-stream') context.set('Cache-Control', 'no-cache');
  context.body = raw.body;
}

/** A change that is stored: with `Prefer: respond-async` its status goes out at once, and the answer or its refusal follows. */
async function answerStored(context: Context, { judged }: StoredAnswer<unknown>, { log }: Services): Promise<void> {
  if (!/\brespond-async\b/.test(context.get('prefer'))) {
    context.body = await judged;
    return;
  }
  context.status = 202;
  context.type = 'json';
  context.set('Preference-Applied', 'respond-async');
  const told = judged.catch((error: unknown) => refusalOf(error, context.path, log));
  context.body = Readable.from(
    (async function* () {
      yield JSON.stringify(await told);
    })(),
  );
  context.flushHeaders();
}

/** @throws GezeitError `only-on-machine`: what listens in the cell is chosen in the cell. */
function onlyOnMachine({ from }: Entrance): void {
  if (from === 'network')
    throw new GezeitError(
      'only-on-machine',
      'Devices and watched folders are set on the machine in the cell itself.',
      'Do it there; what they bring is seen here too.',
      {},
      'forbidden',
    );
}

function personOf(context: Context): string {
  const header = context.get('x-gezeit-person');
  let person = '';
  try {
    person = decodeURIComponent(header).trim().slice(0, 120);
  } catch {
    // Left empty: refused below.
  }
  if (person === '')
    throw new GezeitError('who-is-working', 'Nobody said who is working.', 'Enter initials and name in the top bar.', {}, 'unnamed');
  return person;
}
