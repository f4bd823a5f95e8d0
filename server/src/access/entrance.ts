import type { Access } from '@gezeit/contract';
import type { RateLimiterMemory } from 'rate-limiter-flexible';
import type { Session, Sessions } from './sessions.js';

/** The machine itself: whoever works on it may do everything. */
interface MachineEntrance {
  from: 'machine';
}

/** The shop's network: by an access key alone. */
export interface NetworkEntrance {
  from: 'network';
  /** Without TLS: whoever is on the network can read along. */
  plain: boolean;
  /** Names and addresses under which it is asked for, in lower case. */
  hostNames: ReadonlySet<string>;
  sessions: Sessions;
  wrongKeys: RateLimiterMemory;
}

/** Where requests come in. */
export type Entrance = MachineEntrance | NetworkEntrance;

/** What somebody who came in may know of it. */
export function accessOf(entrance: Entrance, session: Session | null): Access {
  if (entrance.from === 'machine') return { from: 'machine', plain: false, readOnly: false, key: null, until: null };
  return {
    from: 'network',
    plain: entrance.plain,
    readOnly: session?.key.readOnly ?? true,
    key: session?.key.name ?? null,
    until: session ? new Date(session.untilMs).toISOString() : null,
  };
}
