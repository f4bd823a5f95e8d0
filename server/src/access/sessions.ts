import { randomBytes } from 'node:crypto';
import type { AccessKeys, KeptKey } from './access-keys.js';

/** How long somebody who came in stays in, ms; the key is shown again after it, or after a restart. An assumption. */
const STAYS_MS = 12 * 3600 * 1000;
const MOST_SESSIONS = 1000;

/** Somebody who came in by a key. */
export interface Session {
  key: Pick<KeptKey, 'id' | 'name' | 'readOnly'>;
  untilMs: number;
}

/** Those who came in over the network; kept in memory alone. */
export class Sessions {
  readonly #open = new Map<string, Session>();

  constructor(readonly keys: AccessKeys) {}

  begin({ id, name, readOnly, expires }: KeptKey): { token: string; session: Session } {
    for (const [token, kept] of this.#open) if (!this.holds(kept)) this.#open.delete(token);
    const [oldest] = this.#open.keys();
    if (this.#open.size >= MOST_SESSIONS) this.end(oldest);
    const token = randomBytes(32).toString('base64url');
    const session = { key: { id, name, readOnly }, untilMs: Math.min(Date.now() + STAYS_MS, Date.parse(expires)) };
    this.#open.set(token, session);
    return { token, session };
  }

  /** Whose token it is; null where it is nobody's, its time is over, or its key was revoked. */
  of(token: string | undefined): Session | null {
    const session = token === undefined ? undefined : this.#open.get(token);
    return session && this.holds(session) ? session : null;
  }

  holds({ untilMs, key }: Session): boolean {
    return untilMs > Date.now() && this.keys.stillOpens(key.id);
  }

  end(token: string | undefined): void {
    if (token !== undefined) this.#open.delete(token);
  }
}
