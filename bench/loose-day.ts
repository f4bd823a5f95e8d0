// A day of 40 pulls by four devices (a file a device and pull, but one device with a single file of the day): from the drop until it is sorted,
// kept and judged, through a server of its own. Milliseconds, to be read on an idle machine beside the fixed calculation of the same run.
import { rmSync } from 'node:fs';
import { programmeViewSchema, stagedSchema, type Staged } from '@gezeit/contract';
import { driveDay, looseDay, scheduleOf, STOCK_TURBO, TURBO_ESTATE, type LooseDevice } from '../core/src/simulate/index.js';
import { followImport, formOf, PERSON, startServer } from '../server/test/support.js';
import { fixedCalculationMs } from './fixed-calculation.js';

const PULLS = 40;
const plain = { offS: 0, rateHz: 20, delimiter: ',', decimal: '.', units: 'bracket' } as const;
const DEVICES: LooseDevice[] = [
  { ...plain, device: 'ecu', files: 'day', name: () => 'ecu.csv', clock: 'dateTime', delimiter: ';', decimal: ',' },
  { ...plain, device: 'dyno', files: 'pull', name: (n) => `run_${n}.csv`, clock: 'elapsed', units: 'row' },
  { ...plain, device: 'box', files: 'pull', name: (n) => `box-${n}.txt`, clock: 'clock', offS: 3605, delimiter: '\t' },
  { ...plain, device: 'box', files: 'pull', name: (n) => `second/probe-${n}.csv`, clock: 'elapsed', rateHz: 50 },
];

function dayFiles(): Map<string, Uint8Array> {
  const order = 'AABB'.repeat(PULLS / 4);
  const pulls = driveDay({
    seed: 4,
    engine: TURBO_ESTATE,
    setups: { A: STOCK_TURBO, B: STOCK_TURBO },
    schedule: scheduleOf(
      order,
      () => 5,
      () => 15,
      false,
    ),
    scatter: {
      runToRun: 0.004,
      boostWander: 0.002,
      driftPerHour: 0.003,
      walkAtSwap: 0.001,
      weatherPerHour: { temperatureK: 0.5, pressurePa: 40, humidity: 0.01 },
    },
    weather: { temperatureC: 19, pressurePa: 99_000, relativeHumidity: 0.5 },
    oilColdK: 4,
  });
  const { files } = looseDay(pulls, Date.UTC(2026, 8, 18, 7, 30), DEVICES, 4);
  return new Map([...files].map(([file, text]) => [file, new TextEncoder().encode(text)]));
}

const server = await startServer();
const send = (path: string, init: RequestInit = {}) => fetch(server.address + path, { headers: PERSON, ...init });

async function dropped(files: ReadonlyMap<string, Uint8Array>): Promise<Staged> {
  let staged = stagedSchema.parse(await (await send('api/staged?title=Day', { method: 'POST', body: formOf(files) })).json());
  while (staged.state === 'reading') {
    await new Promise((resolve) => setTimeout(resolve, 50));
    staged = stagedSchema.parse(await (await send(`api/staged/${staged.id}`)).json());
  }
  return staged;
}

async function kept(id: string): Promise<string> {
  const job = (await (await send(`api/staged/${id}/keep`, { method: 'POST' })).json()) as { id: string };
  const outcome = (await followImport(server.address, job.id)).at(-1)!.outcome!;
  if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
  return outcome.programmeId;
}

try {
  const files = dayFiles();
  // As a server that has been running: from source its threads take seconds to start.
  await kept((await dropped(new Map([...files].filter(([file]) => file.startsWith('run_'))))).id);
  const megabytes = [...files.values()].reduce((sum, { length }) => sum + length, 0) / 1e6;
  const started = performance.now();
  const staged = await dropped(files);
  const sortedMs = performance.now() - started;
  const id = await kept(staged.id);
  const view = programmeViewSchema.parse(await (await send(`api/programmes/${id}`)).json());
  const keptMs = performance.now() - started;
  const members = staged.reading!.pulls.map((pull) => pull.members.length);
  console.log(
    `${files.size} files, ${megabytes.toFixed(1)} MB: ${members.length} pulls of ${Math.min(...members)} to ${Math.max(...members)} files; sorted after ${sortedMs.toFixed(0)} ms, kept and judged after ${keptMs.toFixed(0)} ms (${view.findings.pulls.length} pulls; under 15000 wanted); the fixed calculation took ${fixedCalculationMs().toFixed(0)} ms`,
  );
} finally {
  await server.close();
  rmSync(server.folder, { recursive: true, force: true });
}
process.exit(0);
