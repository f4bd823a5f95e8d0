import type { Context } from 'koa';
import { GezeitError } from '@gezeit/core';
import type { Entrance } from '../access/entrance.js';

const MACHINE_NAMES: ReadonlySet<string> = new Set(['127.0.0.1', 'localhost', '::1']);

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
export function onlyByItsNames(entrance: Entrance) {
  const names = entrance.from === 'machine' ? MACHINE_NAMES : entrance.hostNames;
  return async (context: Context, next: () => Promise<unknown>): Promise<void> => {
    context.set({
      'Content-Security-Policy': CONTENT_SECURITY_POLICY,
      'X-Content-Type-Options': 'nosniff',
      'X-Frame-Options': 'DENY',
      'Referrer-Policy': 'no-referrer',
      'Cross-Origin-Opener-Policy': 'same-origin',
      'Cross-Origin-Resource-Policy': 'same-origin',
    });
    if (!names.has(nameOf(context.host)))
      throw entrance.from === 'machine'
        ? new GezeitError('not-local', 'Gezeit answers on this machine only.', 'Open the printed address.')
        : new GezeitError(
            'unknown-name',
            'Gezeit is not asked for by this name here.',
            'Open the printed address, or start it with --name.',
          );
    await next();
  };
}

/** The name or address of a *Host* header, without its port. */
function nameOf(host: string): string {
  return (/^\[(.*)\](:\d+)?$/.exec(host)?.[1] ?? host.replace(/:\d+$/, '')).toLowerCase();
}

const CHANGES_NOTHING = ['GET', 'HEAD', 'OPTIONS'];

/** A change that another origin's page asks for is refused, whatever headers it brings. Programs send no origin. */
export async function onlyFromItself(context: Context, next: () => Promise<unknown>): Promise<void> {
  const origin = context.get('origin');
  const isOwn = origin === '' || origin === `${context.protocol}://${context.host}`;
  const isForeign = !isOwn || context.get('sec-fetch-site') === 'cross-site';
  if (isForeign && !CHANGES_NOTHING.includes(context.method))
    throw new GezeitError('other-origin', 'This was asked for by a page that is not Gezeit’s.', 'Do it in Gezeit itself.', {}, 'unnamed');
  await next();
}
