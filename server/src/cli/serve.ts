import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { GezeitError } from '@gezeit/core';
import type { NetworkOptions } from '../access/network.js';
import { dataFolder } from '../paths.js';
import { LOOPBACK, serve } from '../serve.js';
import { callerPath } from './caller-path.js';

/** Where it answers on a shop's network where nothing else is said. */
const NETWORK_PORT = 4781;

/** What can be said to `gezeit serve`, as it was typed. */
export interface ServeArguments {
  host?: string;
  port?: string;
  'access-keys'?: string;
  'tls-certificate'?: string;
  'tls-key'?: string;
  plain?: boolean;
  /** Names beside the machine's own under which it is asked for. */
  name?: string[];
}

/** Starts Gezeit, prints where it answers, and stops it in order. */
export async function serveCommand(values: ServeArguments, version: string): Promise<void> {
  const folder = dataFolder();
  const pages = fileURLToPath(new URL('../web', import.meta.url));
  const { host } = values;
  const port = portOf(values.port);
  const common = { folder, pages: existsSync(pages) ? pages : null, version };
  const serving =
    host === undefined || LOOPBACK.includes(host)
      ? await serve({ ...common, host, port })
      : await serve({ ...common, network: networkOptions(host, port, values) });
  console.log(`Data folder: ${folder}`);
  console.log(`Gezeit is ready: ${serving.address}`);
  if (serving.networkAddress) console.log(`On the network, by access key: ${serving.networkAddress}`);
  if (values.plain) console.log('Not encrypted (--plain): whoever is on that network can read along, access keys too.');
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

function portOf(typed: string | undefined): number | undefined {
  const number = typed === undefined ? undefined : Number(typed);
  if (number !== undefined && !(Number.isInteger(number) && number >= 0 && number < 65_536))
    throw new GezeitError('usage', `"${typed}" is no port.`, 'Give a number from 0 to 65535.');
  return number;
}

/** @throws GezeitError `usage` where keys are missing, or neither a certificate is given nor that there is none. */
function networkOptions(host: string, port: number = NETWORK_PORT, values: ServeArguments): NetworkOptions {
  const { 'access-keys': keys, 'tls-certificate': certificate, 'tls-key': key, plain = false, name = [] } = values;
  if (keys === undefined)
    throw new GezeitError(
      'usage',
      `On ${host} Gezeit answers by access keys alone.`,
      'Make one (gezeit key new) and give --access-keys FILE.',
    );
  if ((certificate === undefined) !== (key === undefined))
    throw new GezeitError('usage', 'A certificate needs its key.', 'Give both --tls-certificate FILE and --tls-key FILE.');
  if (plain === (certificate !== undefined))
    throw new GezeitError(
      'usage',
      plain ? '--plain and a certificate exclude each other.' : `On ${host} Gezeit needs TLS.`,
      'Give --tls-certificate FILE and --tls-key FILE, or --plain where everybody on that network may read along.',
    );
  const tls = certificate !== undefined && key !== undefined ? { certificate: callerPath(certificate), key: callerPath(key) } : null;
  return { host, port, accessKeys: callerPath(keys), tls, names: name };
}
