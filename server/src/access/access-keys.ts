import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import { chmodSync, readFileSync, renameSync, statSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { z } from '@gezeit/contract';
import { GezeitError, missing } from '@gezeit/core';
import { syncFile } from '../database/sync-file.js';

const DAY_MS = 24 * 3600 * 1000;
/** How long a key serves where nothing else is said, and at most, days. Assumptions. */
export const KEY_DAYS = { usual: 90, most: 730 };
const OWNER_ALONE = 0o600;
const OTHERS = 0o077;

const keptKeySchema = z.object({
  id: z.string(),
  name: z.string(),
  /** SHA-256 of the secret, which is 256 random bits: what is kept opens nothing. */
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  readOnly: z.boolean(),
  made: z.iso.datetime(),
  expires: z.iso.datetime(),
  revoked: z.iso.datetime().nullable(),
});
const keptKeysSchema = z.object({ format: z.literal('gezeit-access-keys'), version: z.literal(1), keys: z.array(keptKeySchema) });
export type KeptKey = z.infer<typeof keptKeySchema>;

/** The access keys of a shop's network, in a file that its owner alone may read; what is changed in it holds at once. */
export class AccessKeys {
  #read: { stamp: string; keys: KeptKey[] } = { stamp: '', keys: [] };

  constructor(readonly file: string) {}

  /** @throws GezeitError `no-keys`, `keys-unreadable`, `keys-open-to-others`. */
  all(): KeptKey[] {
    const stamp = this.#stamp();
    if (stamp !== this.#read.stamp) this.#read = { stamp, keys: this.#parse() };
    return this.#read.keys;
  }

  /** Makes a key; its text is told this once and kept nowhere. @throws GezeitError `usage` where it is to serve too long. */
  make({ name, readOnly, days = KEY_DAYS.usual }: { name: string; readOnly: boolean; days?: number }): { key: KeptKey; text: string } {
    if (!Number.isInteger(days) || days < 1 || days > KEY_DAYS.most)
      throw new GezeitError('usage', `A key serves for 1 to ${KEY_DAYS.most} days.`, 'Give --days a whole number in that range.');
    const id = randomBytes(4).toString('hex');
    const secret = randomBytes(32).toString('base64url');
    const key: KeptKey = {
      id,
      name: name.slice(0, 200),
      sha256: digestOf(secret),
      readOnly,
      made: new Date().toISOString(),
      expires: new Date(Date.now() + days * DAY_MS).toISOString(),
      revoked: null,
    };
    this.#keep([...(this.#isThere() ? this.all() : []), key]);
    return { key, text: `gz_${id}_${secret}` };
  }

  /** Lets a key open nothing from now on, also where it is in use. @throws GezeitError `not-found`. */
  revoke(id: string): KeptKey {
    const keys = this.all();
    const found = keys.find((key) => key.id === id);
    if (!found) throw missing(`There is no key ${id}.`, 'gezeit key list shows those that there are.');
    const revoked = { ...found, revoked: found.revoked ?? new Date().toISOString() };
    this.#keep(keys.map((key) => (key === found ? revoked : key)));
    return revoked;
  }

  /** The key that a text opens with; null where there is none, or it serves no more. */
  opens(text: string): KeptKey | null {
    const [, id, secret] = /^gz_([0-9a-f]{8})_([\w-]{43})$/.exec(text.trim()) ?? [];
    const digest = Buffer.from(digestOf(secret ?? ''));
    const key = this.all().find((known) => known.id === id);
    return key && timingSafeEqual(digest, Buffer.from(key.sha256)) && serves(key) ? key : null;
  }

  /** Whether a key that was shown before still opens. */
  stillOpens(id: string): boolean {
    try {
      return this.all().some((key) => key.id === id && serves(key));
    } catch {
      // A file that cannot be read opens nothing.
      return false;
    }
  }

  #stamp(): string {
    try {
      const { mtimeMs, size, ino, mode } = statSync(this.file);
      return [mtimeMs, size, ino, mode].join(' ');
    } catch {
      throw new GezeitError('no-keys', 'There is no file of access keys there.', 'Make one: gezeit key new --access-keys FILE.', {
        file: this.file,
      });
    }
  }

  #parse(): KeptKey[] {
    if (process.platform !== 'win32' && (statSync(this.file).mode & OTHERS) !== 0)
      throw new GezeitError(
        'keys-open-to-others',
        'Others on this machine may read the file of access keys.',
        `Let its owner alone read it: chmod 600.`,
        { file: this.file },
      );
    try {
      return keptKeysSchema.parse(JSON.parse(readFileSync(this.file, 'utf8'))).keys;
    } catch {
      throw new GezeitError('keys-unreadable', 'The file of access keys cannot be read.', 'Make a new one: gezeit key new.', {
        file: this.file,
      });
    }
  }

  #isThere(): boolean {
    return statSync(this.file, { throwIfNoEntry: false }) !== undefined;
  }

  /** The file is whole or the one before. */
  #keep(keys: readonly KeptKey[]): void {
    const next = `${this.file}.new`;
    writeFileSync(next, `${JSON.stringify({ format: 'gezeit-access-keys', version: 1, keys }, null, 2)}\n`, { mode: OWNER_ALONE });
    chmodSync(next, OWNER_ALONE);
    syncFile(next);
    renameSync(next, this.file);
    syncFile(dirname(this.file));
  }
}

const digestOf = (secret: string) => createHash('sha256').update(secret).digest('hex');

const serves = ({ revoked, expires }: KeptKey) => revoked === null && Date.parse(expires) > Date.now();
