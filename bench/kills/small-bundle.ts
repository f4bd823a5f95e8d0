import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const AIRBOX = fileURLToPath(new URL('../../demo/bundles/sealed-airbox', import.meta.url));
const PULLS = ['p02', 'p05'];
const DEVICE = 'ecu';

interface Description {
  programme: { title: string };
  setups: object[];
  pulls: { id: string; logs: { file: string; device: string }[] }[];
}

/** Two pulls of the airbox demo with one small log each, under a title of its own: imported in a moment. */
export function smallBundle(title: string): { files: Map<string, Buffer>; pulls: number; logs: number } {
  const description = JSON.parse(readFileSync(join(AIRBOX, 'gezeit.json'), 'utf8')) as Description;
  const pulls = description.pulls
    .filter(({ id }) => PULLS.includes(id))
    .map((pull) => ({ ...pull, logs: pull.logs.filter(({ device }) => device === DEVICE) }));
  const made = { ...description, programme: { ...description.programme, title }, pulls };
  const files = new Map([['gezeit.json', Buffer.from(JSON.stringify(made))]]);
  for (const { logs } of pulls) for (const { file } of logs) files.set(file, readFileSync(join(AIRBOX, file)));
  return { files, pulls: pulls.length, logs: pulls.length };
}
