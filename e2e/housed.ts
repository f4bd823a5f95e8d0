import { fork } from 'node:child_process';
import { join } from 'node:path';
import { ROOT } from './seed.mjs';
import type { Served } from './served.js';

/** Starts a house for servers (`house.mjs`); resolves to its door, and how to close it. Needs a build. */
export async function openHouse(log: 'warn' | 'silent'): Promise<{ door: string; close: () => Promise<void> }> {
  const house = fork(join(ROOT, 'e2e/house.mjs'), { execArgv: [], env: { ...process.env, GEZEIT_LOG: log } });
  const ended = new Promise<void>((resolve) => house.once('exit', () => resolve()));
  const door = await Promise.race([new Promise<string>((resolve) => house.once('message', (said) => resolve(String(said)))), ended]);
  if (!door) throw new Error('the house of the servers ended before it was ready');
  return {
    door,
    close: async () => {
      house.kill();
      await ended;
    },
  };
}

/** Serves a data folder in a house; resolves to its address and how to stop it. */
export async function housed(door: string, folder: string): Promise<Served> {
  const ask = async (method: string, body: string) => {
    const response = await fetch(door, { method, body });
    if (!response.ok) throw new Error(await response.text());
    return response.text();
  };
  const address = await ask('POST', folder);
  return { address, stop: async () => void (await ask('DELETE', address)) };
}
