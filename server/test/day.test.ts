import { mkdirSync, utimesSync, writeFileSync } from 'node:fs';
import { createServer, type AddressInfo, type Server } from 'node:net';
import { join } from 'node:path';
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { WebSocketServer } from 'ws';
import {
  createdSchema,
  dayViewSchema,
  programmeViewSchema,
  QUANTITIES,
  type DayHappening,
  type DayView,
  type DeviceSetting,
  type ProgrammeView,
} from '@gezeit/contract';
import { dayState, quantityFromName, scheduled, takeHeaderApart, withConditioning } from '@gezeit/core';
import {
  dataBoxDevice,
  driveDay,
  type DrivenPull,
  dynoDevice,
  ecuDevice,
  looseDay,
  record,
  scheduleOf,
  STOCK_TURBO,
  TURBO_ESTATE,
  writeLog,
} from '@gezeit/core/simulate';
import { Database } from '../src/database/database.js';
import { keepFile } from '../src/day/day-files.js';
import { columnHeader } from '../src/day/stream-log.js';
import { PERSON, startServer, temporaryFolder } from './support.js';

const START = Date.parse('2026-03-04T08:00:00Z');
const JSON_PERSON = { ...PERSON, 'content-type': 'application/json' };
const NO_START = { coolantC: null, intakeAirC: null, oilC: null };
const PULLS = scheduled({ pulls: withConditioning(['A', 'B', 'B', 'A']), restMin: 5, swapMin: 20 }).pulls;
const SAFE = ['straps', 'tyres', 'exhaust', 'people', 'stop', 'criteria'];

let server: Awaited<ReturnType<typeof startServer>>;
beforeAll(async () => {
  server = await startServer();
});
afterAll(() => server.close());

async function call(method: string, path: string, body?: unknown): Promise<{ status: number; body: unknown }> {
  const response = await fetch(`${server.address}api/${path}`, {
    method,
    headers: JSON_PERSON,
    body: body === undefined ? undefined : JSON.stringify(body),
  });
  return { status: response.status, body: await response.json() };
}
const codeOf = (answer: { body: unknown }) => (answer.body as { error: { code: string } }).error.code;

/** A programme with a plan, on a day of its own. */
async function programme(title: string, vehicleId?: string): Promise<string> {
  const { id } = createdSchema.parse((await call('POST', 'programmes', { title, aspiration: 'turbo', vehicleId })).body);
  const view = programmeViewSchema.parse((await call('GET', `programmes/${id}`)).body);
  await call('PATCH', `programmes/${id}`, {
    part: 'plan',
    before: view.bundle.plan ?? null,
    value: { pulls: PULLS, restMin: 5, swapMin: 20 },
    what: 'plan',
  });
  return id;
}
const viewOf = async (id: string): Promise<ProgrammeView> => programmeViewSchema.parse((await call('GET', `programmes/${id}`)).body);
const dayOf = async (id: string): Promise<DayView> => dayViewSchema.parse((await call('GET', `programmes/${id}/day`)).body);
const happen = (id: string, atMs: number, ...list: DayHappening[]) =>
  call('POST', `programmes/${id}/day/events`, {
    events: list.map((what) => ({ id: randomUUID(), at: new Date(atMs).toISOString(), what })),
  });

const begun: DayHappening = { kind: 'begun', day: '2026-03-04', pulls: PULLS, fitted: null };
const checked: DayHappening = { kind: 'checked', list: 'beforeDay', of: '2026-03-04', items: SAFE, done: true };
const beforeSwap: DayHappening = {
  kind: 'checked',
  list: 'beforeSwap',
  of: 'swap-1',
  items: ['stopped', 'hot', 'free', 'fans', 'loose', 'openCompressor'],
  done: true,
};
const READ_AIR = { temperatureC: 20, pressureKPa: 99, relativeHumidityPct: 50 };
const started = (pull: string, setup: string, place: number | null, weather: typeof READ_AIR | null = READ_AIR): DayHappening => ({
  kind: 'pull-started',
  pull,
  setup,
  mapVersion: 'map 3',
  pullKind: place === 0 ? 'conditioning' : 'measured',
  place,
  stamp: { coolant: 88 },
  weather,
  start: NO_START,
  anyway: null,
  cause: 'key',
});
const ended = (pull: string, aborted = false): DayHappening => ({ kind: 'pull-ended', pull, aborted, cause: 'key' });

async function begin(title: string): Promise<string> {
  const id = await programme(title);
  expect((await happen(id, START, begun, checked)).status).toBe(200);
  return id;
}

/** Waits until something holds of the day. */
async function until(id: string, holds: (view: DayView) => boolean, what: string): Promise<DayView> {
  for (let i = 0; i < 100; i++) {
    const view = await dayOf(id);
    if (holds(view)) return view;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(`never: ${what}`);
}

function drivenDay(order: string, seed: number): DrivenPull[] {
  return driveDay({
    seed,
    engine: TURBO_ESTATE,
    setups: { A: STOCK_TURBO, B: STOCK_TURBO },
    schedule: scheduleOf(
      order,
      () => 5,
      () => 20,
      true,
    ),
    scatter: {
      runToRun: 0.004,
      boostWander: 0.002,
      driftPerHour: 0.005,
      walkAtSwap: 0.001,
      weatherPerHour: { temperatureK: 1, pressurePa: 50, humidity: 0.02 },
    },
    weather: { temperatureC: 20, pressurePa: 99_000, relativeHumidity: 0.5 },
    oilColdK: 5,
  });
}

describe('a day through the interface', () => {
  it('becomes pulls of the programme with what was stamped on them, and keeps what is sent twice once', async () => {
    const id = await begin('Stamped');
    const note: DayHappening = { kind: 'note', text: 'belt squeals', files: [], pull: 'p01' };
    const events = [started('p01', 'A', 0), ended('p01'), note].map((what, i) => ({
      id: `twice-sent-${i}`,
      at: new Date(START + i * 12_000).toISOString(),
      what,
    }));
    for (let i = 0; i < 2; i++) expect((await call('POST', `programmes/${id}/day/events`, { events })).status).toBe(200);
    const { bundle } = await viewOf(id);
    expect(bundle.pulls).toHaveLength(1);
    expect(bundle.pulls[0]).toMatchObject({
      id: 'p01',
      setup: 'A',
      kind: 'conditioning',
      day: '2026-03-04',
      mapVersion: 'map 3',
      gates: { coolant: 88 },
      ambient: { temperatureC: 20 },
      note: 'belt squeals',
    });
    expect((await dayOf(id)).events.filter(({ what }) => what.kind === 'note')).toHaveLength(1);
    expect((await dayOf(id)).events.at(-1)!.by).toBe('TS Test Suite');
  });

  it('counts an aborted pull in heat and learning, and a typed one as typed', async () => {
    const id = await begin('Aborted and typed');
    await happen(id, START + 60_000, started('p01', 'A', 0));
    await happen(id, START + 70_000, ended('p01', true));
    await happen(id, START + 400_000, started('p02', 'A', 1));
    await happen(id, START + 412_000, ended('p02'), {
      kind: 'pull-amended',
      pull: 'p02',
      typed: { peakPowerKW: 118.4, peakPowerRpm: 6100 },
    });
    const { bundle, findings } = await viewOf(id);
    expect(bundle.pulls[0]!.aborted).toBe(true);
    expect(findings.pulls[0]!.reasons).toContain('conditioning');
    expect(findings.pulls[1]!.flags).toContain('typed');
    expect(findings.pulls[1]!.peakPowerRpm).toBe(6100);
    expect(dayState((await dayOf(id)).events).remaining.map(({ place }) => place)).toEqual([0, 2, 3, 4, 5, 6]);
  });

  it('takes a correction of a driven pull on its own line, with who and why, and takes it back', async () => {
    const id = await begin('Corrected');
    await happen(id, START + 60_000, started('p01', 'A', 0), ended('p01'), started('p02', 'A', 1), ended('p02'));
    const weather = { temperatureC: 24, pressureKPa: 98.5, relativeHumidityPct: 40 };
    const refused = await call('POST', `programmes/${id}/pulls/p02/amendments`, { why: ' ', weather });
    expect([refused.status, codeOf(refused)]).toEqual([400, 'bad-request']);
    expect(codeOf(await call('POST', `programmes/${id}/pulls/p02/amendments`, { why: 'nothing' }))).toBe('bad-request');
    const inHectopascals = { why: 'from the station', weather: { ...weather, pressureKPa: 985 } };
    const impossible = await call('POST', `programmes/${id}/pulls/p02/amendments`, inHectopascals);
    expect([impossible.status, codeOf(impossible)]).toEqual([400, 'bad-request']);
    expect(JSON.stringify(impossible.body)).toMatch(/Air pressure must lie between 50 and 110.kPa: check its unit/);
    expect(codeOf(await call('POST', `programmes/${id}/pulls/p99/amendments`, { why: 'no such pull', weather }))).toBe('not-found');
    expect(codeOf(await call('POST', `programmes/${id}/pulls/p02/amendments`, { why: 'no such setup', setup: 'Z' }))).toBe('not-found');
    expect((await call('POST', `programmes/${id}/pulls/p02/amendments`, { why: 'read off the sheet', weather, setup: 'B' })).status).toBe(
      200,
    );
    const corrected = await viewOf(id);
    expect(corrected.bundle.pulls[1]).toMatchObject({
      ambient: weather,
      setup: 'B',
      amended: [
        { what: 'weather', why: 'read off the sheet', by: 'TS Test Suite' },
        { what: 'setup', why: 'read off the sheet', by: 'TS Test Suite' },
      ],
    });
    // The day says the same, also after it writes its pulls anew.
    expect(dayState((await dayOf(id)).events).pulls[1]).toMatchObject({ setup: 'B', begun: { weather } });
    await happen(id, START + 90_000, started('p03', 'A', 2), ended('p03'));
    expect((await viewOf(id)).bundle.pulls[1]).toMatchObject({ ambient: weather, setup: 'B' });
    expect((await call('POST', `programmes/${id}/undo`, {})).status).toBe(200);
    const undone = await viewOf(id);
    expect(undone.bundle.pulls[1]).toMatchObject({ ambient: { temperatureC: 20 }, setup: 'A', amended: null });
    // Taken back on the day's own line, the ordinary undo passes over it.
    await call('POST', `programmes/${id}/pulls/p02/amendments`, { why: 'once more', setup: 'B' });
    const line = (await dayOf(id)).events.findLast(({ what }) => what.kind === 'pull-amended')!;
    await happen(id, START + 95_000, { kind: 'taken-back', event: line.id });
    expect((await call('POST', `programmes/${id}/undo`, {})).status).toBe(200);
    expect((await viewOf(id)).bundle.pulls[1]).toMatchObject({ setup: 'A', amended: null });
    // A day later its line is closed: the pull alone is corrected, and comes back.
    await call('POST', `programmes/${id}/pulls/p02/amendments`, { why: 'before the next day', setup: 'B' });
    await happen(id, START + 96_000, { kind: 'ended', reason: 'late', open: [] });
    await happen(id, START + 86_400_000, { kind: 'begun', day: '2026-03-05', pulls: PULLS, fitted: null });
    expect((await call('POST', `programmes/${id}/undo`, {})).status).toBe(200);
    expect((await viewOf(id)).bundle.pulls[1]).toMatchObject({ setup: 'A' });
  });

  it('leaves a pull without weather out where a correction is asked, and takes it once the weather is added', async () => {
    const id = await begin('No weather');
    const open = await viewOf(id);
    const { programme } = open.bundle;
    await call('PATCH', `programmes/${id}`, {
      part: 'programme',
      before: programme,
      value: { ...programme, correction: 'SAE_J1349', metric: 'peakPower' },
      what: 'corrected peak',
    });
    const blind = (pull: string, place: number): DayHappening => ({ ...started(pull, 'A', place), weather: null }) as DayHappening;
    const typed = { peakPowerKW: 118.4, peakPowerRpm: 6100, corrected: null };
    await happen(id, START + 60_000, blind('p01', 0), ended('p01'), blind('p02', 1), ended('p02'));
    await happen(id, START + 70_000, { kind: 'pull-amended', pull: 'p02', typed });
    const reasonsOf = async () => (await viewOf(id)).findings.pulls.find((pull) => pull.id === 'p02')!.reasons;
    expect(await reasonsOf()).toEqual(['no-weather']);
    const weather = { temperatureC: 24, pressureKPa: 98.5, relativeHumidityPct: 40 };
    await call('POST', `programmes/${id}/pulls/p02/amendments`, { why: 'from the station', weather });
    expect(await reasonsOf()).toEqual([]);
  });

  it('keeps what stood open when the day was ended, and forgets it where the end is taken back', async () => {
    const id = await begin('Open at the end');
    await happen(id, START + 60_000, started('p01', 'A', 0), ended('p01'));
    const closed = await happen(
      id,
      START + 70_000,
      { kind: 'checked', list: 'atEnd', of: '2026-03-04', items: ['tune', 'wheels'], done: true },
      { kind: 'ended', reason: 'the lift was wanted', open: [] },
    );
    expect(closed.status, JSON.stringify(closed.body).slice(0, 300)).toBe(200);
    const [day] = (await viewOf(id)).bundle.days!;
    expect(day).toMatchObject({ day: '2026-03-04', openAtEnd: { reason: 'the lift was wanted' } });
    expect(day!.openAtEnd!.items).toContain('Driver aids on again');
    expect(day!.openAtEnd!.items).not.toContain('Tune put back');
    const end = (await dayOf(id)).events.at(-1)!;
    await happen(id, START + 80_000, { kind: 'taken-back', event: end.id });
    expect((await viewOf(id)).bundle.days![0]!.openAtEnd).toBeNull();
  });

  it('stamps a reset on the first pull after its swap, and makes a setup of what was changed', async () => {
    const id = await begin('Reset');
    expect(codeOf(await happen(id, START + 55_000, { kind: 'swap-started', to: 'B' }))).toBe('swap-not-checked');
    await happen(id, START + 60_000, beforeSwap, { kind: 'swap-started', to: 'B' });
    expect(codeOf(await happen(id, START + 70_000, { kind: 'swap-ended', ecuReset: true }))).toBe('swap-not-checked');
    await happen(
      id,
      START + 80_000,
      { kind: 'checked', list: 'afterSwap', of: 'swap-1', items: ['fitted'], done: true },
      { kind: 'swap-ended', ecuReset: true },
    );
    const setup = (await viewOf(id)).bundle.setups.find((entry) => entry.id === 'B')!;
    await happen(id, START + 90_000, started('p01', 'B', 2), ended('p01'));
    await happen(id, START + 95_000, {
      kind: 'setup-changed',
      restOfDay: true,
      setup: { ...setup, id: 'C', name: 'New part, fuel 98', state: { ...setup.state, fuel: '98 RON' } },
    });
    await happen(id, START + 99_000, started('p02', 'C', 3), ended('p02'));
    const { bundle } = await viewOf(id);
    expect(bundle.pulls.map(({ setup: worn, ecuReset }) => [worn, ecuReset])).toEqual([
      ['B', true],
      ['C', false],
    ]);
    expect(bundle.setups.find((entry) => entry.id === 'C')).toMatchObject({ name: 'New part, fuel 98', afterwards: true });
  });

  it('keeps nothing of a call that may not happen, and says what to do', async () => {
    const id = await begin('Refused');
    const answer = await happen(id, START + 1000, { kind: 'note', text: 'before it', files: [] }, ended('p77'));
    expect(answer.status).toBe(409);
    expect(codeOf(answer)).toBe('no-pull-running');
    expect((await dayOf(id)).events.some(({ what }) => what.kind === 'note')).toBe(false);
    expect((await happen(id, START, begun)).status).toBe(409);
    expect((await call('POST', `programmes/${id}/day/events`, { events: [] })).status).toBe(400);
    expect((await call('GET', 'programmes/none/day')).status).toBe(404);
  });

  it('takes the last thing back, also after it was closed', async () => {
    const id = await begin('Taken back');
    await happen(id, START + 1000, { kind: 'inserted', setup: 'A', pullKind: 'tuning', count: 1 });
    await happen(id, START + 2000, { kind: 'ended', reason: 'rain', open: [] });
    for (let i = 0; i < 2; i++) {
      const last = dayState((await dayOf(id)).events).undoable.at(-1)!;
      await happen(id, START + 3000, { kind: 'taken-back', event: last.id });
    }
    const state = dayState((await dayOf(id)).events);
    expect(state.endedMs).toBeNull();
    expect(state.remaining).toHaveLength(PULLS.length);
  });

  it('lets a pull serve another programme on the same car, with its logs, and no programme on another car', async () => {
    const id = await begin('Serving');
    const { vehicleId } = await viewOf(id);
    const same = await programme('Served', vehicleId);
    const other = await programme('Other car');
    await happen(id, START + 60_000, started('p01', 'A', 0), ended('p01'));
    const served = await call('POST', `programmes/${id}/day/pulls/p01/serves`, { programmeId: same, setup: 'A' });
    expect(served.status).toBe(200);
    expect((await viewOf(same)).bundle.pulls[0]!.programmes).toEqual(['Serving', 'Served']);
    expect((await viewOf(id)).bundle.pulls[0]!.programmes).toEqual(['Serving', 'Served']);
    expect(codeOf(await call('POST', `programmes/${id}/day/pulls/p01/serves`, { programmeId: same, setup: 'A' }))).toBe('already-kept');
    expect(codeOf(await call('POST', `programmes/${id}/day/pulls/p01/serves`, { programmeId: other, setup: 'A' }))).toBe('other-car');
  });

  it('is followed by a second window', async () => {
    const id = await begin('Followed');
    const response = await fetch(`${server.address}api/programmes/${id}/day/live`);
    const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
    let text = '';
    const reads = async (part: string) => {
      while (!text.includes(part)) {
        const { value, done } = await reader.read();
        if (done) throw new Error('the stream ended');
        text += value;
      }
    };
    await reads('"type":"view"');
    await happen(id, START + 5000, { kind: 'note', text: 'seen in both windows', files: [] });
    await reads('seen in both windows');
    await reader.cancel();
    expect(text.split('"type":"view"').length).toBeGreaterThanOrEqual(3);
  });
});

describe('files of a watched folder', () => {
  it('are taken when complete, in three dialects, kept byte for byte, and find their pull', async () => {
    const id = await begin('Watched');
    const folder = join(temporaryFolder(), 'exports');
    mkdirSync(folder);
    writeFileSync(join(folder, 'old.csv'), 'Time [s],Power [kW]\n0,1\n1,2\n');
    const driven = drivenDay('AA', 4);
    const moments = driven.map((pull) => START + Math.round(pull.timeH * 3_600_000));
    for (const [i, pull] of driven.entries()) {
      const key = `p0${i + 1}`;
      await happen(id, moments[i]!, started(key, pull.setup, i));
      await happen(id, moments[i]! + 11_000, ended(key));
    }
    const setting: DeviceSetting = { id: 'folder-1', kind: 'folder', path: folder, takeExisting: false };
    expect((await call('POST', `programmes/${id}/day/devices`, setting)).status).toBe(200);
    await until(id, ({ devices }) => devices[0]?.state === 'listening', 'the folder is listened to');
    writeFileSync(join(folder, 'half.csv.part'), 'Time [s]');
    const written = new Map<string, Uint8Array>();
    for (const [i, pull] of driven.entries()) {
      const made = [
        ['comma-mark', ecuDevice(30_000 + i * 600, true), `ecu-${i}.csv`],
        ['bracketed', dynoDevice(0), `dyno-${i}.csv`],
        ['two-storey', dataBoxDevice(0, ['duct', 'filter', 'hose'], true, false), `box-${i}.txt`],
      ] as const;
      for (const [dialect, device, name] of made) {
        const bytes = writeLog(record(device, pull, 50 + i), dialect);
        written.set(name, bytes);
        writeFileSync(join(folder, name), bytes);
        const at = (moments[i]! + 13_000) / 1000;
        utimesSync(join(folder, name), at, at);
      }
    }
    const view = await until(
      id,
      ({ events }) => [...dayState(events).matches.values()].reduce((sum, { matches }) => sum + matches.length, 0) === written.size,
      'all files are matched',
    );
    expect(view.questions).toEqual([]);
    expect([...dayState(view.events).matches.keys()].sort()).toEqual(['daq', 'dyno', 'ecu']);
    const { bundle, logs, findings } = await viewOf(id);
    expect(bundle.pulls.every((pull) => pull.logs.length === 3)).toBe(true);
    expect(findings.pulls.filter(({ status }) => status === 'used').length).toBe(2);
    expect(logs.some(({ file }) => /old|half/.test(file))).toBe(false);
    for (const log of logs) {
      const bytes = new Uint8Array(await (await fetch(`${server.address}api/logs/${log.id}/original`)).arrayBuffer());
      expect(Buffer.compare(Buffer.from(bytes), Buffer.from(written.get(log.file.split('/').at(-1)!)!))).toBe(0);
    }
    // A file that is no table stays where it is and is told, and nothing else suffers.
    writeFileSync(join(folder, 'broken.csv'), Buffer.from([0, 1, 2, 3, 0, 0]));
    await until(id, ({ devices }) => devices[0]!.files > written.size, 'the broken file was looked at');
    await call('DELETE', `programmes/${id}/day/devices/folder-1`);
    expect((await dayOf(id)).devices).toEqual([]);
  });

  it('begin and end a pull by themselves where nothing streams', async () => {
    const id = await programme('By files alone');
    const now = Date.now();
    await happen(id, now - 60_000, begun, checked);
    const folder = join(temporaryFolder(), 'exports');
    mkdirSync(folder);
    await call('POST', `programmes/${id}/day/devices`, { id: 'folder-1', kind: 'folder', path: folder, takeExisting: false });
    const [pull] = drivenDay('A', 9);
    writeFileSync(join(folder, 'a.csv'), writeLog(record(ecuDevice(0, true), pull!, 1), 'bracketed'));
    const view = await until(id, ({ events }) => dayState(events).matches.get('ecu')?.matches.length === 1, 'the file became a pull');
    const state = dayState(view.events);
    expect(state.pulls).toHaveLength(1);
    expect(state.pulls[0]).toMatchObject({ setup: 'A', kind: 'conditioning', place: 0, begun: { cause: 'file' } });
    await call('DELETE', `programmes/${id}/day/devices/folder-1`);
  });

  it('that are no log are told by name and reason as long as they lie there, and taken once they are mended', async () => {
    const id = await begin('A bad file');
    const folder = join(temporaryFolder(), 'exports');
    mkdirSync(folder);
    await call('POST', `programmes/${id}/day/devices`, { id: 'folder-1', kind: 'folder', path: folder, takeExisting: false });
    const bad = join(folder, 'bad.csv');
    writeFileSync(bad, 'Wrkl;Engine speed (rpm);Throttle (%)\nxa;2000;100\nxb;2100;100\nxc;1900;100\nxd;2200;100\n');
    await until(id, ({ devices }) => /not taken: bad\.csv: .*understood as time/.test(devices[0]!.detail), 'the bad file is told');
    await new Promise((resolve) => setTimeout(resolve, 1000));
    const still = await dayOf(id);
    expect(still.devices[0]).toMatchObject({ state: 'listening', files: 1 });
    expect(still.devices[0]!.detail).toContain('not taken: bad.csv');
    expect(dayState(still.events).files).toEqual([]);
    writeFileSync(bad, writeLog(record(ecuDevice(0, true), drivenDay('A', 12)[0]!, 1), 'bracketed'));
    const mended = await until(id, ({ events }) => dayState(events).files.length === 1, 'the mended file is taken');
    await until(id, ({ devices }) => !devices[0]!.detail.includes('not taken'), 'nothing is told any more');
    expect(dayState(mended.events).files[0]!.file).toMatch(/bad\.csv$/);
    await call('DELETE', `programmes/${id}/day/devices/folder-1`);
  });

  it('say so where the folder is not there', async () => {
    const id = await begin('No folder');
    await call('POST', `programmes/${id}/day/devices`, { id: 'folder-1', kind: 'folder', path: '/no/such/folder', takeExisting: false });
    const view = await until(id, ({ devices }) => devices[0]?.state === 'failed', 'the folder failed');
    expect(view.devices[0]!.detail).toContain('cannot be read');
    await call('DELETE', `programmes/${id}/day/devices/folder-1`);
  });
});

/** Lines of a pull as a program would send them: standing, a sweep, standing. */
function linesOf(json: boolean): string[] {
  const samples = [
    ...Array.from({ length: 20 }, (_, i) => ({ t: i / 10, rpm: 900, throttle: 3, power: 0 })),
    ...Array.from({ length: 120 }, (_, i) => ({ t: 2 + i / 20, rpm: 2000 + 40 * i, throttle: 100, power: 20 + 0.8 * i })),
    ...Array.from({ length: 30 }, (_, i) => ({ t: 8 + i / 20, rpm: 6800 - 60 * i, throttle: 2, power: 0 })),
  ];
  return json
    ? samples.map(({ t, rpm, throttle, power }) =>
        JSON.stringify({ 'Time [s]': t, 'Engine speed [rpm]': rpm, 'Throttle [%]': throttle, 'Power [kW]': power }),
      )
    : [
        'Time [s],Engine speed [rpm],Throttle [%],Power [kW]',
        ...samples.map(({ t, rpm, throttle, power }) => [t, rpm, throttle, power].join(',')),
      ];
}

describe('two cars on one day', () => {
  const folderOf = (path: string): DeviceSetting => ({ id: 'folder-1', kind: 'folder', path, takeExisting: false });
  const write = (folder: string, name: string, seed: number, laterS: number) => {
    const [pull] = drivenDay('A', seed);
    writeFileSync(join(folder, name), writeLog(record(ecuDevice(0, true), pull!, 1), 'bracketed'));
    const at = Date.now() / 1000 + laterS;
    utimesSync(join(folder, name), at, at);
  };

  it('that listen to one folder: only the one on the rollers takes what comes, and either says whose turn it is', async () => {
    const folder = join(temporaryFolder(), 'shared');
    mkdirSync(folder);
    const [first, second] = [await programme('First car'), await programme('Second car')];
    await happen(first, Date.now() - 600_000, begun, checked);
    await call('POST', `programmes/${first}/day/devices`, folderOf(folder));
    expect(dayState((await dayOf(first)).events).away).toBeNull();
    await happen(second, Date.now() - 300_000, begun, checked);
    await call('POST', `programmes/${second}/day/devices`, folderOf(`${folder}/`));
    const gone = await until(first, ({ events }) => dayState(events).away !== null, 'the first car left the rollers');
    expect(dayState(gone.events).away!.other).toBe('Second car');
    expect(gone.others.find(({ id }) => id === second)).toMatchObject({ title: 'Second car', running: true });
    expect(codeOf(await happen(first, Date.now(), started('p01', 'A', 0)))).toBe('off-rollers');

    write(folder, 'second.csv', 9, 240);
    await until(second, ({ events }) => dayState(events).files.length > 0, 'the second car’s file came');
    expect(dayState((await dayOf(first)).events).files).toEqual([]);

    await happen(first, Date.now() + 300_000, { kind: 'rollers', on: true });
    const back = await until(second, ({ events }) => dayState(events).away !== null, 'the second car left the rollers');
    expect(dayState(back.events).away!.other).toBe('First car');
    write(folder, 'first.csv', 10, 900);
    await until(first, ({ events }) => dayState(events).files.length > 0, 'the first car’s file came');
    expect(dayState((await dayOf(second)).events).files).toHaveLength(1);
    for (const id of [first, second]) await call('DELETE', `programmes/${id}/day/devices/folder-1`);
  });

  it('that share nothing run beside each other', async () => {
    const [first, second] = [await begin('Alone'), await begin('Alone too')];
    await call('POST', `programmes/${first}/day/devices`, folderOf(temporaryFolder()));
    await call('POST', `programmes/${second}/day/devices`, folderOf(temporaryFolder()));
    await until(first, ({ others }) => others.some(({ id, running }) => id === second && running), 'the other day is seen');
    for (const id of [first, second]) {
      expect(dayState((await dayOf(id)).events).away).toBeNull();
      await call('DELETE', `programmes/${id}/day/devices/folder-1`);
    }
  });
});

describe('files that are brought', () => {
  const send = async (id: string, name: string, bytes: Uint8Array, madeAtMs: number) => {
    const form = new FormData();
    form.append('file', new File([new Uint8Array(bytes)], name));
    const response = await fetch(`${server.address}api/programmes/${id}/day/files?madeAtMs=${madeAtMs}`, {
      method: 'POST',
      headers: PERSON,
      body: form,
    });
    return { status: response.status, body: (await response.json()) as { file: string | null } };
  };
  const takenOf = async (id: string) => dayState((await dayOf(id)).events).files.map(({ file }) => file);

  it('are kept once where they are brought twice, and told again where the server stopped before it had said so', async () => {
    const id = await begin('Brought');
    const [first, second] = drivenDay('AA', 6).map((pull) => writeLog(record(dynoDevice(0), pull, 7), 'bracketed'));
    expect((await send(id, 'first.csv', first!, START)).body.file).toBe('logs/2026-03-04/first.csv');
    expect((await send(id, 'again.csv', first!, START)).body.file).toBe(null);
    // As it stands in the database after a stop between keeping and saying.
    const database = await Database.open(join(server.folder, 'gezeit.sqlite'));
    await keepFile(database, id, '2026-03-04', { name: 'second.csv', bytes: second!, madeAtMs: START + 600_000 });
    await database.close();
    expect(await takenOf(id)).toEqual(['logs/2026-03-04/first.csv']);
    expect((await send(id, 'second.csv', second!, START + 600_000)).body.file).toBe('logs/2026-03-04/second.csv');
    expect(await takenOf(id)).toEqual(['logs/2026-03-04/first.csv', 'logs/2026-03-04/second.csv']);
    expect((await viewOf(id)).logs.map(({ file }) => file).sort()).toEqual(await takenOf(id));
  });

  it('of a whole day, of a box without speed and of the weather find their pulls by their own clocks, whenever they were copied', async () => {
    const id = await begin('A folder of the day');
    const pulls = drivenDay('AABA', 8);
    const plain = { offS: 0, delimiter: ',', decimal: '.', units: 'bracket' } as const;
    // Files show the time on the wall; nobody has said the cell's zone, so it is this machine's.
    const wallMs = -new Date(START).getTimezoneOffset() * 60_000;
    const day = looseDay(
      pulls,
      START + wallMs,
      [
        { ...plain, device: 'ecu', files: 'day', name: () => 'whole day.csv', clock: 'dateTime', rateHz: 20 },
        {
          ...plain,
          device: 'box',
          files: 'pull',
          name: (n) => `box-${n}.csv`,
          clock: 'dateTime',
          offS: 5400,
          rateHz: 20,
          without: ['engineSpeed'],
        },
      ],
      3,
    );
    const keys = day.pulls.map((_, i) => `p0${i + 1}`);
    const startsMs = day.pulls.map(({ startedMs }) => startedMs - wallMs);
    for (const [i, startedMs] of startsMs.entries()) {
      const own = started(keys[i]!, 'A', null, i === 0 ? { temperatureC: 11, pressureKPa: 97, relativeHumidityPct: 30 } : null);
      expect((await happen(id, startedMs, own)).status).toBe(200);
      await happen(id, startedMs + 9000, ended(keys[i]!));
    }
    // All were copied in the evening: their dates say nothing.
    const copiedMs = START + 12 * 3_600_000;
    for (const [file, text] of day.files) expect((await send(id, file, new TextEncoder().encode(text), copiedMs)).status).toBe(201);
    const [fromMs, toMs] = [startsMs[0]! - 600_000, startsMs.at(-1)! + 600_000];
    const rows = Array.from({ length: 400 }, (_, i) => {
      const at = new Date(fromMs + wallMs + (i / 399) * (toMs - fromMs)).toISOString();
      return `${at.slice(0, 10)} ${at.slice(11, 19)},${(18 + i / 100).toFixed(2)},99.${300 + i},${50 - Math.floor(i / 50)}`;
    });
    const air = `Date and time,Ambient temperature [°C],Barometric pressure [kPa],Relative humidity [%]\n${rows.join('\n')}\n`;
    expect((await send(id, 'air.csv', new TextEncoder().encode(air), copiedMs)).status).toBe(201);
    expect((await send(id, 'holiday.csv', new TextEncoder().encode('%PDF no table'), copiedMs)).status).toBe(400);
    const { questions } = (await call('POST', `programmes/${id}/day/match`, { final: true })).body as { questions: unknown[] };
    expect(questions).toEqual([]);

    const state = dayState((await dayOf(id)).events);
    expect(state.matches.get('ecu')!.matches.map(({ pull, sweep }) => [pull, sweep])).toEqual(keys.map((key, i) => [key, i]));
    expect(Math.abs(state.matches.get('ecu')!.offsetS!)).toBeLessThan(3);
    expect(state.matches.get('daq')!.matches.map(({ file, pull }) => [file.split('/').at(-1), pull])).toEqual(
      keys.map((key, i) => [`box-${i + 1}.csv`, key]),
    );
    expect(state.matches.get('daq')!.offsetS! / 5400).toBeCloseTo(1, 2);
    // What somebody has read stays; the others have the air of their moment.
    expect(state.pulls[0]!.begun.weather!.temperatureC).toBe(11);
    const given = state.pulls.slice(1).map(({ begun: { weather } }) => weather!);
    given.forEach(({ temperatureC, pressureKPa, relativeHumidityPct }, i) => {
      const share = (startsMs[i + 1]! - fromMs) / (toMs - fromMs);
      expect(temperatureC!).toBeCloseTo(18 + (share * 399) / 100, 1);
      expect(pressureKPa!).toBeCloseTo(99.3 + (share * 399) / 1000, 2);
      expect(relativeHumidityPct!).toBeGreaterThan(41);
    });
    // Each pull has its own sweep of the file of the whole day, and is judged.
    const view = await viewOf(id);
    for (const [i, pull] of view.bundle.pulls.entries()) {
      const own = pull.logs.find(({ device }) => device === 'ecu')!;
      expect(Math.abs(own.startS! - day.pulls[i]!.members.ecu!.startS)).toBeLessThan(0.5);
      expect(pull.logs.map(({ device }) => device)).toEqual(['ecu', 'daq']);
    }
    const { findings } = await viewOf(id);
    expect(findings.pulls.map(({ id: key, startS }) => [key, startS !== null])).toEqual(keys.map((key) => [key, true]));
  });

  it('may be as long as a morning, and the day goes on while they are read', async () => {
    const id = await begin('A whole morning');
    const rows = Array.from(
      { length: 1_400_000 },
      (_, i) => `${(i / 100).toFixed(2)},${(40 + (i % 977) / 50).toFixed(3)},${900 + (i % 31)}`,
    );
    const bytes = Buffer.from(`Time [s],Intake air temperature [°C],Engine speed [rpm]\n${rows.join('\n')}\n`);
    expect(bytes.length).toBeGreaterThan(26e6);
    // Writing it held this thread for seconds: connections that the server has closed meanwhile are noticed first.
    await new Promise((resolve) => setTimeout(resolve, 500));
    let answered = 0;
    let over = false;
    const sending = send(id, 'morning.csv', bytes, START).finally(() => (over = true));
    while (!over) {
      expect((await call('GET', `programmes/${id}/day`)).status).toBe(200);
      answered += 1;
    }
    expect((await sending).body.file).toBe('logs/2026-03-04/morning.csv');
    expect(answered).toBeGreaterThan(10);
  });
});

describe('a stream on this machine', () => {
  async function check(title: string, address: string): Promise<void> {
    const id = await programme(title);
    await happen(id, Date.now(), begun, checked);
    await call('POST', `programmes/${id}/day/devices`, { id: 'stream-1', kind: 'stream', address, keep: true });
    const view = await until(id, ({ events }) => dayState(events).matches.size > 0, 'the stream became a pull with its log');
    const state = dayState(view.events);
    expect(state.pulls).toHaveLength(1);
    expect(state.pulls[0]!.endedMs! - state.pulls[0]!.startedMs).toBeGreaterThan(5500);
    expect(state.pulls[0]!.endedMs! - state.pulls[0]!.startedMs).toBeLessThan(6600);
    const { bundle, logs } = await viewOf(id);
    expect(bundle.pulls[0]!.logs).toHaveLength(1);
    expect(logs[0]!.columns.map(({ quantity }) => quantity)).toEqual(expect.arrayContaining(['engineSpeed', 'throttle', 'power']));
    expect(view.trace.engineSpeedRpm.length).toBeGreaterThan(80);
    expect(view.trace.channels['power']).toHaveLength(view.trace.engineSpeedRpm.length);
    await call('DELETE', `programmes/${id}/day/devices/stream-1`);
  }

  it('is read over TCP as CSV, tried again where it is not there yet, and kept as the pull’s log', async () => {
    let line: Server | null = createServer((socket) => socket.write(`${linesOf(false).join('\n')}\n`));
    await new Promise<void>((resolve) => line!.listen(0, '127.0.0.1', resolve));
    const { port } = line.address() as AddressInfo;
    await check('TCP', `tcp://127.0.0.1:${port}`);
    line.close();
    line = null;
  });

  it('is read over a WebSocket as JSON', async () => {
    const sockets = new WebSocketServer({ host: '127.0.0.1', port: 0 });
    await new Promise((resolve) => sockets.once('listening', resolve));
    sockets.on('connection', (socket) => linesOf(true).forEach((text) => socket.send(text)));
    await check('WebSocket', `ws://127.0.0.1:${(sockets.address() as AddressInfo).port}/live`);
    sockets.close();
  });

  it('of another machine is refused, and one that does not answer says that it waits', async () => {
    const id = await begin('No stream');
    expect(
      (await call('POST', `programmes/${id}/day/devices`, { id: 's', kind: 'stream', address: 'tcp://192.0.2.1:9', keep: true })).status,
    ).toBe(400);
    await call('POST', `programmes/${id}/day/devices`, { id: 's', kind: 'stream', address: 'tcp://127.0.0.1:9', keep: true });
    await until(id, ({ devices }) => devices[0]?.detail.includes('trying again') ?? false, 'it waits');
    await call('DELETE', `programmes/${id}/day/devices/s`);
  });

  it('names every quantity so that its log is read back as the same', () => {
    for (const quantity of QUANTITIES)
      expect([quantity, quantityFromName(takeHeaderApart(columnHeader(quantity)).name)]).toEqual([quantity, quantity]);
  });
});
