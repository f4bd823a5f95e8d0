import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { apiErrorSchema } from '@gezeit/contract';
import { Random } from '@gezeit/core/simulate';
import { ROUTES } from '../../server/src/http/app.js';
import type { Route } from '../../server/src/http/route.js';
import { ServerProcess } from '../kills/server-process.js';
import { smallBundle } from '../kills/small-bundle.js';
import { mutated } from './mutated.js';
import type { FuzzReport } from './readers.js';
import { ValuesOf } from './value-of-schema.js';

/** No request may wait longer for its answer, ms. */
const MOST_MS = 5000;
const PERSON = { 'x-gezeit-person': 'Fuzz' };
const ODD_IDS = ['x', '..', '%00', '%ff', 'constructor', '__proto__', `${'y'.repeat(101)}`, '%2e%2e%2f', '1 OR 1=1', '💥'];
const STACK = /\n\s+at |\bat \S+ \(.*:\d+:\d+\)|node_modules/;
const IS_FILES = /\/(imports|attachments|files)$/;

/** Hands every route valid, nearly valid and absurd requests for a while, and `least` of them at least; the server is a built one in a process of its own. */
export async function fuzzApi(seconds: number, seed: number, mostMs = MOST_MS, least = 0): Promise<FuzzReport & { peakMB: number }> {
  const random = new Random(seed);
  const report = { seed, cases: 0, refused: {} as Record<string, number>, faults: [] as string[], peakMB: 0 };
  const folder = mkdtempSync(join(tmpdir(), 'gezeit-fuzz-'));
  const server = new ServerProcess(folder);
  const { address } = await server.start();
  try {
    const known = await somethingToAskOf(address);
    const one = <T>(list: readonly T[]) => list[Math.floor(random.uniform() * list.length)]!;
    const bodies = new Map(ROUTES.filter(({ body }) => body).map((route) => [route, new ValuesOf(route.body!, random)]));
    const addressOf = (route: Route) =>
      route.path.replace(/:(\w+)/g, (_, name: string) => (random.chance(0.7) && known[name] ? one(known[name]) : one(ODD_IDS)));
    const queryOf = () =>
      one(['', '', '?columns=x&points=20', '?file=attachments/x', '?madeAtMs=1781164800000', '?q=box', '?points=NaN&columns=', '?%']);
    const asks = ROUTES.filter(({ answer }) => answer !== 'text/event-stream');
    for (const until = Date.now() + seconds * 1000; Date.now() < until || report.cases < least; report.cases += 1) {
      const route = one(asks);
      const what = `${route.method.toUpperCase()} ${addressOf(route)}${queryOf()}`;
      const [method, path] = what.split(' ', 2) as [string, string];
      const fault = (why: string) => report.faults.push(`case ${report.cases}, ${what}: ${why}`);
      const init: RequestInit = { method, headers: { ...PERSON }, signal: AbortSignal.timeout(mostMs) };
      let sent = '';
      if (IS_FILES.test(route.path) && route.method === 'post') init.body = filesFor(random);
      else if (method !== 'GET') {
        sent = random.chance(0.05) ? one(['{', 'null', '"', '[1,', '\u0000']) : JSON.stringify(bodies.get(route)?.next() ?? {});
        Object.assign(init, { headers: { ...PERSON, 'content-type': 'application/json' }, body: sent });
      }
      try {
        const response = await fetch(`${address}${path.slice(1)}`, init);
        const text = await response.text();
        if (response.status >= 500 && response.status !== 503 && response.status !== 507)
          fault(`${response.status} ${text.slice(0, 300)} for ${sent.slice(0, 300)}`);
        if (!response.ok) {
          const refusal = apiErrorSchema.safeParse(JSON.parse(text));
          if (!refusal.success) fault(`a refusal that is none: ${text.slice(0, 200)}`);
          else {
            const { code, message, nextStep } = refusal.data.error;
            report.refused[code] = (report.refused[code] ?? 0) + 1;
            if (STACK.test(message) || /\n/.test(message) || nextStep === '')
              fault(`not one line with what to do: ${message.slice(0, 200)}`);
          }
        }
      } catch (error) {
        fault(`no answer: ${(error as Error).message} for ${sent.slice(0, 300)}`);
      }
      if (server.hasEnded) {
        fault(`the server ended: ${server.said.slice(-500)}`);
        break;
      }
    }
    if (/unhandled|uncaught/i.test(server.said)) report.faults.push(`unhandled: ${server.said.slice(0, 500)}`);
    report.peakMB = server.hasEnded ? 0 : server.peakMB;
  } finally {
    await server.kill();
    rmSync(folder, { recursive: true, force: true });
  }
  return report;
}

/** A programme with pulls and a log, and their ids by the names that addresses have for them. */
async function somethingToAskOf(address: string): Promise<Record<string, string[]>> {
  const ask = async (path: string, init: RequestInit = {}) => (await (await fetch(`${address}api/${path}`, init)).json()) as { id: string };
  const form = new FormData();
  for (const [file, bytes] of smallBundle('Fuzzed').files) form.append(file, new Blob([new Uint8Array(bytes)]), file.split('/').at(-1));
  let state = (await ask('imports', { method: 'POST', headers: PERSON, body: form })) as {
    id: string;
    outcome: { programmeId: string } | null;
  };
  while (!state.outcome) {
    await new Promise((resolve) => setTimeout(resolve, 50));
    state = (await ask(`imports/${state.id}`)) as typeof state;
  }
  const { programmeId } = state.outcome;
  const view = (await ask(`programmes/${programmeId}`)) as unknown as { logs: { id: string }[]; bundle: { pulls: { id: string }[] } };
  return {
    id: [programmeId, view.logs[0]!.id, state.id],
    pull: view.bundle.pulls.map(({ id }) => id),
    key: ['e-1'],
    device: ['rig-1'],
  };
}

/** Files of a bundle, some of them changed, some under odd names. */
function filesFor(random: Random): FormData {
  const form = new FormData();
  const { files } = smallBundle(`Fuzz ${random.uniform()}`);
  for (const [file, bytes] of files) {
    if (random.chance(0.1)) continue;
    const name = random.chance(0.1) ? `../${file}` : file;
    const sent = random.chance(0.4) ? mutated(bytes, random) : bytes;
    form.append(name, new Blob([new Uint8Array(sent)]), random.chance(0.1) ? '../x' : file.split('/').at(-1));
  }
  if (random.chance(0.1))
    form.append('day.zip', new Blob([new Uint8Array(mutated(readFileSync(new URL(import.meta.url)), random))]), 'day.zip');
  return form;
}
