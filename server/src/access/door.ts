import bodyParser from '@koa/bodyparser';
import type { Context } from 'koa';
import { z } from '@gezeit/contract';
import { GezeitError } from '@gezeit/core';
import { RateLimiterRes } from 'rate-limiter-flexible';
import { doorPage } from './door-page.js';
import type { NetworkEntrance } from './entrance.js';
import type { Session } from './sessions.js';

const DOOR = '/door';
const LEAVE = '/door/leave';
const READS = ['GET', 'HEAD', 'OPTIONS'];
/** What is asked with a body, and changes nothing. */
const CHANGES_NOTHING = ['/api/pdf'];
/** How often it is looked whether somebody who follows a day may still do so, ms. */
const LOOKS_AGAIN_MS = 2000;
const FORM_ITSELF = "default-src 'none'; style-src 'unsafe-inline'; form-action 'self'; frame-ancestors 'none'; base-uri 'none'";

const formSchema = z.object({ key: z.string().max(200), next: z.string().max(2000).default('/') });
const readForm = bodyParser({ enableTypes: ['form'], formLimit: '8kb' });

/**
 * Lets in only who has shown an access key: pages, interface, events and downloads alike. A key that reads changes nothing.
 * @throws GezeitError `key-needed`, `read-only-key`.
 */
export function door(entrance: NetworkEntrance) {
  const cookie = entrance.plain ? 'gezeit-session' : '__Host-gezeit-session';
  const settings = { httpOnly: true, sameSite: 'strict', secure: !entrance.plain, path: '/', overwrite: true } as const;

  function show(context: Context, status: number, next: string, problem: string | null): void {
    context.status = status;
    context.type = 'html';
    // Without a referrer a browser would not say either that the form comes from here.
    context.set({ 'Content-Security-Policy': FORM_ITSELF, 'Cache-Control': 'no-store', 'Referrer-Policy': 'same-origin' });
    context.body = doorPage({ problem, next, plain: entrance.plain });
  }

  async function comeIn(context: Context): Promise<void> {
    await readForm(context, async () => undefined);
    const form = formSchema.safeParse((context.request as { body?: unknown }).body);
    const next = ownPath(form.data?.next ?? '/');
    const caller = context.req.socket.remoteAddress ?? '';
    const waitS = await secondsToWait(entrance, caller);
    if (waitS > 0) {
      context.set('Retry-After', String(waitS));
      return show(context, 429, next, `Too many wrong keys came from your address. Try again in ${waitS} s.`);
    }
    const key = form.success ? entrance.sessions.keys.opens(form.data.key) : null;
    if (!key) {
      await entrance.wrongKeys.consume(caller).catch(() => undefined);
      return show(context, 401, next, 'This key opens nothing: it is mistyped, has expired, or was revoked.');
    }
    const { token, session } = entrance.sessions.begin(key);
    context.cookies.set(cookie, token, { ...settings, expires: new Date(session.untilMs) });
    context.status = 303;
    context.redirect(next);
  }

  return async (context: Context, next: () => Promise<unknown>) => {
    const token = context.cookies.get(cookie);
    if (context.path === DOOR && context.method === 'POST') return comeIn(context);
    if (context.path === DOOR) return show(context, 200, ownPath(String(context.query['next'] ?? '/')), null);
    const session = entrance.sessions.of(token);
    if (!session) {
      const isPage = READS.includes(context.method) && !/^\/api\/|\.\w+$/.test(context.path);
      if (isPage) return show(context, 401, ownPath(context.url), null);
      throw new GezeitError('key-needed', 'An access key is needed.', 'Open Gezeit’s address in a browser and show yours.', {}, 'unnamed');
    }
    if (context.path === LEAVE && context.method === 'POST') {
      entrance.sessions.end(token);
      context.cookies.set(cookie, null, settings);
      context.body = { done: true };
      return;
    }
    if (session.key.readOnly && !READS.includes(context.method) && !CHANGES_NOTHING.includes(context.path))
      throw new GezeitError(
        'read-only-key',
        'Your access key lets you read alone.',
        'Ask for one that may change things.',
        {},
        'forbidden',
      );
    context.state['session'] = session;
    await next();
    if (context.type === 'text/event-stream') endWithSession(context, entrance, session);
  };
}

/** A path of Gezeit's own, or the board: nobody is sent to another place. */
function ownPath(path: string): string {
  return /^\/(?![/\\])[^\s\\]*$/.test(path) && !path.startsWith(DOOR) ? path : '/';
}

async function secondsToWait({ wrongKeys }: NetworkEntrance, caller: string): Promise<number> {
  const known = await wrongKeys.get(caller);
  return known instanceof RateLimiterRes && known.remainingPoints <= 0 ? Math.max(1, Math.ceil(known.msBeforeNext / 1000)) : 0;
}

/** What is followed ends with the right to follow it. */
function endWithSession(context: Context, { sessions }: NetworkEntrance, session: Session): void {
  const looking = setInterval(() => sessions.holds(session) || context.res.destroy(), LOOKS_AGAIN_MS);
  context.res.on('close', () => clearInterval(looking));
}
