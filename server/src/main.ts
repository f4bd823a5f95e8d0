import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { GezeitError } from '@gezeit/core';
import { analyseCommand } from './cli/analyse.js';
import { backupCommand } from './cli/backup.js';
import { restoreCommand } from './cli/restore.js';
import { callerPath } from './cli/caller-path.js';
import { tellFailure } from './cli/failure.js';
import { draftCommand } from './cli/draft.js';
import { importCommand } from './cli/import.js';
import { planCommand } from './cli/plan.js';
import { readCommand } from './cli/read.js';
import { dataFolder } from './paths.js';
import { serve } from './serve.js';

const VERSION = '0.1.0';
const USAGE = `gezeit analyse BUNDLE [--json]          findings of a bundle (a folder or a .zip)
gezeit plan BUNDLE [--json]             what its plan will be able to recognise
gezeit read PATH… [--profile FILE] [--time-zone ZONE] [--json]
                                        what loose files are taken for; stores nothing
gezeit draft PATH… --out FOLDER         a bundle of loose files, with what is left to say
gezeit import BUNDLE [--as version|copy] keep a bundle as a programme
gezeit serve [--port N] [--host H]       start Gezeit and print its address
gezeit backup FILE                       write everything into one file
gezeit restore FILE                      put a backup in place`;

async function serveCommand(host: string | undefined, port: string | undefined): Promise<void> {
  const folder = dataFolder();
  const pages = fileURLToPath(new URL('../web', import.meta.url));
  const number = port === undefined ? undefined : Number(port);
  if (number !== undefined && !(Number.isInteger(number) && number >= 0 && number < 65_536)) {
    throw new GezeitError('usage', `"${port}" is no port.`, 'Give a number from 0 to 65535.');
  }
  const serving = await serve({ folder, host, port: number, pages: existsSync(pages) ? pages : null, version: VERSION });
  console.log(`Data folder: ${folder}`);
  console.log(`Gezeit is ready: ${serving.address}`);
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    void serving.close().then(() => process.exit(0));
  };
  // A fault of ours that one request has met must not end everybody's work; the tests look for this line.
  process.on('unhandledRejection', (reason) => console.error('unhandled rejection:', reason));
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
}

async function main(): Promise<void> {
  const { values, positionals } = readArguments();
  const [command, target, ...more] = positionals;
  const path = () => {
    if (target !== undefined) return callerPath(target);
    throw new GezeitError('usage', `"gezeit ${command}" needs a path.`, `Usage:\n${USAGE}`);
  };
  const paths = () => [path(), ...more.map(callerPath)];
  const reading = { profile: values.profile === undefined ? null : callerPath(values.profile), timeZone: values['time-zone'] ?? null };
  switch (command) {
    case 'read':
      return readCommand(paths(), { ...reading, json: values.json ?? false });
    case 'draft':
      if (values.out === undefined) throw new GezeitError('usage', '"gezeit draft" needs --out FOLDER.', `Usage:\n${USAGE}`);
      return draftCommand(paths(), { ...reading, out: callerPath(values.out) });
    case 'analyse':
      return analyseCommand(path(), values.json ?? false);
    case 'plan':
      return planCommand(path(), values.json ?? false);
    case 'import': {
      const choice = values.as ?? null;
      if (choice !== null && choice !== 'version' && choice !== 'copy')
        throw new GezeitError('usage', `--as ${choice} is unknown.`, 'Say version or copy.');
      return importCommand(path(), choice);
    }
    case 'serve':
      return serveCommand(values.host, values.port);
    case 'backup':
      return backupCommand(path());
    case 'restore':
      return restoreCommand(path());
    default:
      if (command === undefined || values.help) return console.log(USAGE);
      throw new GezeitError('usage', `"${command}" is no command.`, `Usage:\n${USAGE}`);
  }
}

function readArguments() {
  const text = { type: 'string' } as const;
  const flag = { type: 'boolean' } as const;
  try {
    return parseArgs({
      allowPositionals: true,
      options: { json: flag, help: flag, as: text, host: text, port: text, profile: text, out: text, 'time-zone': text },
    });
  } catch (error) {
    throw new GezeitError('usage', (error as Error).message.split('\n')[0]!, `Usage:\n${USAGE}`);
  }
}

main().catch(tellFailure);
