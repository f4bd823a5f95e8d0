import { mkdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { GezeitError } from '@gezeit/core';
import { AccessKeys, KEY_DAYS, type KeptKey } from '../access/access-keys.js';
import { dataFolder } from '../paths.js';

/** What can be said to `gezeit key`. */
export interface KeyOptions {
  file: string | null;
  readOnly: boolean;
  name: string | null;
  days: string | null;
}

/** Makes, lists and revokes the access keys of a shop's network. */
export function keyCommand(action: string | undefined, id: string | undefined, { file, readOnly, name, days }: KeyOptions): void {
  const keys = new AccessKeys(file ?? usualKeyFile());
  switch (action) {
    case 'new': {
      mkdirSync(dirname(keys.file), { recursive: true });
      const made = keys.make({ name: name ?? '', readOnly, days: days === null ? KEY_DAYS.usual : Number(days) });
      console.log(made.text);
      console.error(`Key ${lineOf(made.key)}. It is shown this once; only its digest is kept, in ${keys.file}`);
      return;
    }
    case 'list':
      for (const key of keys.all()) console.log(lineOf(key));
      return;
    case 'revoke':
      if (id === undefined) throw new GezeitError('usage', '"gezeit key revoke" needs the key’s number.', 'gezeit key list shows it.');
      console.log(`Revoked: ${lineOf(keys.revoke(id))}`);
      return;
    default:
      throw new GezeitError('usage', `"gezeit key ${action ?? ''}" is no command.`, 'Say new, list or revoke.');
  }
}

/** Where the keys lie where nothing else is said. */
const usualKeyFile = () => join(dataFolder(), 'access-keys.json');

function lineOf({ id, name, readOnly, expires, revoked }: KeptKey): string {
  const day = (instant: string) => instant.slice(0, 10);
  return [
    id,
    name || 'without a name',
    readOnly ? 'reads alone' : 'changes things',
    revoked ? `revoked ${day(revoked)}` : `until ${day(expires)}`,
  ].join(' · ');
}
