import type { Context } from 'koa';
import { GezeitError } from '@gezeit/core';

const LOCAL_HOST = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;

/**
 * What a page of Gezeit may load and do: its own, and nothing else. Styles alone may stand inline, since the components and the charts put
 * theirs into the page while they are drawn; no script may.
 */
const CONTENT_SECURITY_POLICY = [
  "default-src 'self'",
  "script-src 'self'",
  "style-src 'self' 'unsafe-inline'",
  "img-src 'self' data: blob:",
  "font-src 'self' data:",
  "worker-src 'self' blob:",
  "object-src 'none'",
  "base-uri 'none'",
  "form-action 'none'",
  "frame-ancestors 'none'",
].join('; ');

/** Another site's page that resolves its name to this machine is turned away; every answer says what its page may do. */
export async function onlyLocal(context: Context, next: () => Promise<unknown>): Promise<void> {
  context.set({
    'Content-Security-Policy': CONTENT_SECURITY_POLICY,
    'X-Content-Type-Options': 'nosniff',
    'X-Frame-Options': 'DENY',
    'Referrer-Policy': 'no-referrer',
    'Cross-Origin-Opener-Policy': 'same-origin',
    'Cross-Origin-Resource-Policy': 'same-origin',
  });
  if (!LOCAL_HOST.test(context.host))
    throw new GezeitError('not-local', 'Gezeit answers on this machine only.', 'Open the printed address.');
  await next();
}

const CHANGES_NOTHING = ['GET', 'HEAD', 'OPTIONS'];

/** A change that another origin's page asks for is refused, whatever headers it brings. Programs send no origin. */
export async function onlyFromItself(context: Context, next: () => Promise<unknown>): Promise<void> {
  const origin = context.get('origin');
  const isOwn = origin === '' || origin === `http://${context.host}`;
  const isForeign = !isOwn || context.get('sec-fetch-site') === 'cross-site';
  if (isForeign && !CHANGES_NOTHING.includes(context.method))
    throw new GezeitError('other-origin', 'This was asked for by a page that is not Gezeit’s.', 'Do it in Gezeit itself.', {}, 'unnamed');
  await next();
}
