import { readFileSync } from 'node:fs';
import type { RequestListener, Server } from 'node:http';
import { hostname, networkInterfaces } from 'node:os';
import { GezeitError } from '@gezeit/core';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { AccessKeys } from './access-keys.js';
import type { NetworkEntrance } from './entrance.js';
import { Sessions } from './sessions.js';

/** Wrong keys that one address may show in a minute before it has to wait. Assumptions. */
const WRONG_KEYS = { points: 5, duration: 60 };
const EVERY_ADDRESS = ['0.0.0.0', '::'];

/** How Gezeit answers on a shop's own network. */
export interface NetworkOptions {
  host: string;
  port: number;
  accessKeys: string;
  /** Files of a certificate and its key; null without TLS. */
  tls: { certificate: string; key: string } | null;
  /** Names beside the machine's own under which it is asked for. */
  names: readonly string[];
}

/** @throws GezeitError what reading the keys throws, and `no-keys` where none opens anything. */
export function networkEntrance({ host, accessKeys, tls, names }: NetworkOptions): NetworkEntrance {
  const keys = new AccessKeys(accessKeys);
  if (!keys.all().some(({ id }) => keys.stillOpens(id)))
    throw new GezeitError('no-keys', 'No access key there opens anything.', 'Make one: gezeit key new.', { file: accessKeys });
  const own = EVERY_ADDRESS.includes(host)
    ? Object.values(networkInterfaces()).flatMap((addresses) => (addresses ?? []).map(({ address }) => address))
    : [host];
  return {
    from: 'network',
    plain: tls === null,
    hostNames: new Set([...own, hostname(), ...names].map((name) => name.toLowerCase())),
    sessions: new Sessions(keys),
    wrongKeys: new RateLimiterMemory(WRONG_KEYS),
  };
}

/** The server that answers there. @throws GezeitError `bad-certificate`. */
export async function networkServer({ tls }: NetworkOptions, handler: RequestListener): Promise<Server> {
  if (tls === null) return (await import('node:http')).createServer(handler);
  const { createServer } = await import('node:https');
  try {
    return createServer({ cert: readFileSync(tls.certificate), key: readFileSync(tls.key), minVersion: 'TLSv1.2' }, handler) as Server;
  } catch {
    throw new GezeitError(
      'bad-certificate',
      'The TLS certificate and key cannot be used.',
      'Give the two PEM files that belong together by --tls-certificate and --tls-key.',
      { file: tls.certificate },
    );
  }
}
