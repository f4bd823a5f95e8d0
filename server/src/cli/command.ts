import { parseArgs } from 'node:util';
import { GezeitError } from '@gezeit/core';
import { callerPath } from './caller-path.js';

const VERSION = '0.1.0';
const USAGE = `gezeit analyse BUNDLE [--json]          findings of a bundle (a folder or a .zip)
gezeit plan BUNDLE [--json]             what its plan will be able to recognise
gezeit read PATH… [--profile FILE] [--time-zone ZONE] [--json]
                                        what loose files are taken for; stores nothing
gezeit draft PATH… --out FOLDER         a bundle of loose files, with what is left to say
gezeit import BUNDLE… [--as version|copy]
                                        keep each bundle as a programme
gezeit serve [--port N]                  start Gezeit and print its address
gezeit serve --host ADDRESS --access-keys FILE --tls-certificate FILE --tls-key FILE [--port N] [--name NAME]…
                                        the same, and for the shop's network; --plain where it may be read along
gezeit key new [--read-only] [--name TEXT] [--days N] [--access-keys FILE]
gezeit key list | revoke NUMBER          access keys of that network
gezeit backup FILE                       write everything into one file
gezeit restore FILE                      put a backup in place`;

/** Does what is asked by the words after `gezeit`. Throws a `GezeitError` for what cannot be used. */
export async function runCommand(args: readonly string[]): Promise<void> {
  const { values, positionals } = readArguments(args);
  const [command, target, ...more] = positionals;
  if (command === undefined || values.help) return console.log(USAGE);
  const path = () => {
    if (target !== undefined) return callerPath(target);
    throw new GezeitError('usage', `"gezeit ${command}" needs a path.`, `Usage:\n${USAGE}`);
  };
  const paths = () => [path(), ...more.map(callerPath)];
  const reading = { profile: values.profile === undefined ? null : callerPath(values.profile), timeZone: values['time-zone'] ?? null };
  // Each is fetched when it is asked for: reading a log needs no server and no database.
  switch (command) {
    case 'read':
      return (await import('./read.js')).readCommand(paths(), { ...reading, json: values.json ?? false });
    case 'draft':
      if (values.out === undefined) throw new GezeitError('usage', '"gezeit draft" needs --out FOLDER.', `Usage:\n${USAGE}`);
      return (await import('./draft.js')).draftCommand(paths(), { ...reading, out: callerPath(values.out) });
    case 'analyse':
      return (await import('./analyse.js')).analyseCommand(path(), values.json ?? false);
    case 'plan':
      return (await import('./plan.js')).planCommand(path(), values.json ?? false);
    case 'import': {
      const choice = values.as ?? null;
      if (choice !== null && choice !== 'version' && choice !== 'copy')
        throw new GezeitError('usage', `--as ${choice} is unknown.`, 'Say version or copy.');
      return (await import('./import.js')).importCommand(paths(), choice);
    }
    case 'serve':
      return (await import('./serve.js')).serveCommand(values, VERSION);
    case 'key':
      return (await import('./key.js')).keyCommand(target, more[0], {
        file: values['access-keys'] === undefined ? null : callerPath(values['access-keys']),
        readOnly: values['read-only'] ?? false,
        name: values.name?.[0] ?? null,
        days: values.days ?? null,
      });
    case 'backup':
      return (await import('./backup.js')).backupCommand(path());
    case 'restore':
      return (await import('./restore.js')).restoreCommand(path());
    default:
      throw new GezeitError('usage', `"${command}" is no command.`, `Usage:\n${USAGE}`);
  }
}

function readArguments(args: readonly string[]) {
  const text = { type: 'string' } as const;
  const flag = { type: 'boolean' } as const;
  try {
    return parseArgs({
      args: [...args],
      allowPositionals: true,
      options: {
        json: flag,
        help: flag,
        as: text,
        host: text,
        port: text,
        profile: text,
        out: text,
        'time-zone': text,
        'access-keys': text,
        'tls-certificate': text,
        'tls-key': text,
        plain: flag,
        'read-only': flag,
        name: { type: 'string', multiple: true },
        days: text,
      },
    });
  } catch (error) {
    throw new GezeitError('usage', (error as Error).message.split('\n')[0]!, `Usage:\n${USAGE}`);
  }
}
