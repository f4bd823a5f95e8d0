import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { unzipSync } from 'fflate';
import {
  apiErrorSchema,
  boardSchema,
  deviceProfilesSchema,
  programmeChangedSchema,
  programmeViewSchema,
  stagedSchema,
  traceHeaderSchema,
  type ProgrammeView,
  type SavedProfile,
  type Staged,
} from '@gezeit/contract';
import { ROUTES } from '../src/http/app.js';
import { chromiumPath } from '../src/print/print-pdf.js';
import { openApiPath } from '../src/http/openapi.js';
import { DEMO_BUNDLES, evidenceOfTest, filesOf, followImport, formOf, importAll, PERSON, startImport, startServer } from './support.js';

let server: Awaited<ReturnType<typeof startServer>>;
let programme: ProgrammeView;
const files = filesOf(`${DEMO_BUNDLES}/water-cooler-and-fuel`);

async function json(path: string, init: RequestInit = {}): Promise<{ status: number; body: unknown }> {
  const response = await fetch(`${server.address}${path}`, init);
  return { status: response.status, body: await response.json() };
}

const send = (method: string, body: unknown) => ({
  method,
  headers: { ...PERSON, 'content-type': 'application/json' },
  body: JSON.stringify(body),
});
const view = async (id: string) => programmeViewSchema.parse((await json(`api/programmes/${id}`)).body);

beforeAll(async () => {
  server = await startServer();
  const outcome = await importAll(server.address, files);
  if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
  programme = await view(outcome.programmeId);
}, 60_000);
afterAll(() => server.close());

describe('every route', () => {
  it('stands in the document', async () => {
    const { body } = await json('api/openapi.json');
    const { paths } = body as { paths: Record<string, Record<string, unknown>> };
    const documented = Object.entries(paths).flatMap(([path, methods]) => Object.keys(methods).map((method) => `${method} ${path}`));
    expect(documented.sort()).toEqual(ROUTES.map(({ method, path }) => `${method} ${openApiPath(path)}`).sort());
  });

  it.each(ROUTES.map((route) => [`${route.method} ${route.path}`, route] as const))('%s answers as it says', async (_, route) => {
    const { id } = route.path.startsWith('/api/imports/:id')
      ? await waitingImport(route.path)
      : route.path.startsWith('/api/staged/:id')
        ? await stagedFiles()
        : route.path === '/api/profiles/:id'
          ? await savedProfile()
          : { id: route.path.startsWith('/api/logs') ? programme.logs[0]!.id : programme.id };
    const key = route.path.includes('/fixed/:key') ? await fixedFinding() : 'kept-1';
    const path = route.path
      .replace(':id', id)
      .replace(':pull', programme.bundle.pulls[1]!.id)
      .replace(':key', key)
      .replace(':device', 'folder-9')
      .slice(1);
    if (route.path.endsWith('/undo')) await json(`api/programmes/${programme.id}/pulls/p02`, send('PATCH', { excluded: 'to be undone' }));
    const query = route.path.endsWith('/traces')
      ? `?columns=${programme.logs[0]!.columns[1]!.id}`
      : route.path.endsWith('/claim')
        ? '?text=gains%202%20%25'
        : route.path.endsWith('/attachments') && route.method !== 'post'
          ? '?file=attachments/sheet.txt'
          : route.path.endsWith('/day/files')
            ? '?madeAtMs=1781164800000'
            : '';
    const response = await fetch(`${server.address}${path}${query}`, await requestFor(route.method, route.path));
    // Where there is no Chromium, that is the answer, and what to do instead.
    if (route.path === '/api/pdf' && chromiumPath() === null) return expect(response.status).toBe(503);
    expect(response.status).toBe(route.status ?? 200);
    if (typeof route.answer === 'string') {
      expect(response.headers.get('content-type')).toContain(route.answer);
      expect(await bytesOf(response, route.path)).toBeGreaterThan(10);
    } else route.answer.parse(await response.json());
  });

  it('that changes something asks who is working', async () => {
    for (const route of ROUTES.filter(({ changes }) => changes)) {
      const path = route.path.replace(':id', programme.id).replace(':pull', 'p02').replace(':key', 'kept-1').slice(1);
      const headers = { 'content-type': 'application/json' };
      const { status, body } = await json(path, {
        method: route.method.toUpperCase(),
        headers,
        body: JSON.stringify({ excluded: null, choice: 'copy' }),
      });
      expect(status, route.path).toBe(401);
      expect(apiErrorSchema.parse(body).error.code).toBe('who-is-working');
    }
  });

  it('answers an unknown thing with a typed error and no stack', async () => {
    for (const path of [
      'api/nothing',
      'api/programmes/none',
      'api/programmes/none/curves',
      'api/programmes/none/day',
      'api/logs/none/original',
      'api/imports/none',
      'api/imports/none/events',
    ]) {
      const { status, body } = await json(path);
      expect(status, path).toBe(404);
      expect(JSON.stringify(apiErrorSchema.parse(body))).not.toMatch(/\.[jt]s:\d|\\n +at /);
    }
  });
});

/** A fixed finding of the programme: its key. */
async function fixedFinding(): Promise<string> {
  const { body } = await json(`api/programmes/${programme.id}/fixed`, send('POST', { why: 'for the test of routes' }));
  return programmeChangedSchema.parse(body).fixed[0]!.id;
}

const BEGUN = { kind: 'begun', day: '2026-06-11', pulls: [{ setup: 'A', kind: 'measured', atMin: 0 }], fitted: 'A' };

/** How much a raw answer holds; of one that goes on for ever, how much its first piece does. */
async function bytesOf(response: Response, path: string): Promise<number> {
  if (!path.endsWith('/day/live')) return (await response.arrayBuffer()).byteLength;
  const reader = response.body!.getReader();
  const { value } = await reader.read();
  await reader.cancel();
  return value!.byteLength;
}

/** A good body of every route that takes one. */
const BODIES: Record<string, () => unknown> = {
  'post /api/programmes/:id/day/events': () => ({ events: [{ id: 'route-test-1', at: '2026-06-11T08:00:00Z', what: BEGUN }] }),
  'post /api/programmes/:id/day/match': () => ({ final: false }),
  'post /api/programmes/:id/day/devices': () => ({ id: 'rig-1', kind: 'rig', speed: 1, follows: false, seed: 1, clockWrongS: 0 }),
  'post /api/programmes/:id/day/rig': () => ({ do: 'engine', on: true }),
  'post /api/programmes/:id/day/pulls/:pull/serves': async () => {
    const { body } = await json(`api/programmes/${programme.id}/revalidations`, send('POST', {}));
    return { programmeId: (body as { id: string }).id, setup: 'A' };
  },
  'post /api/programmes': () => ({ title: 'From a test' }),
  'patch /api/programmes/:id': () => ({ part: 'days', before: null, value: [{ day: '2026-06-11' }], what: 'day added' }),
  'post /api/programmes/:id/archived': () => ({ archived: false }),
  'post /api/programmes/:id/revalidations': () => ({}),
  'post /api/programmes/:id/pulls/:pull/amendments': () => ({ why: 'read again', aborted: false }),
  'post /api/programmes/:id/evidence': () => evidenceOfTest('kept-1'),
  'post /api/programmes/:id/fixed': () => ({ why: 'for the test of routes' }),
  'patch /api/programmes/:id/pulls/:pull/alignment': () => ({
    file: programme.bundle.pulls[1]!.logs.find(({ file }) => file !== leadOf(programme.bundle.pulls[1]!.id))!.file,
    offsetS: 1.5,
  }),
  'patch /api/staged/:id/into': () => ({ programmeId: programme.id }),
  'post /api/profiles': () => PROFILE,
  'post /api/vehicles': () => ({ name: 'Soay saloon', aspiration: 'na' }),
  'post /api/cells': () => ({ name: 'Test cell', powerAt: 'wheel' }),
};

/** The log of a pull upon whose clock the others are put. */
const leadOf = (pull: string) => programme.pulls.find(({ id }) => id === pull)!.alignments.find(({ how }) => how === 'first')!.file;

async function requestFor(method: string, path: string): Promise<RequestInit> {
  if (path === '/api/staged' && method === 'post') return { method: 'POST', headers: PERSON, body: formOf(LOOSE) };
  if (path === '/api/staged/:id' && method === 'patch') return send('PATCH', (await stagedFiles()).decisions);
  if (path === '/api/imports') {
    const form = new FormData();
    for (const [file, bytes] of files) form.append(file, new Blob([new Uint8Array(bytes)]), 'x');
    return { method: 'POST', headers: PERSON, body: form };
  }
  if (path === '/api/pdf') return { method: 'POST', headers: { ...PERSON, 'content-type': 'text/html' }, body: '<p>A sheet</p>' };
  if (path.endsWith('/pulls/:pull')) return send('PATCH', { excluded: null });
  if (path.endsWith('/choice')) return send('POST', { choice: 'copy' });
  if (path.endsWith('/day/files')) {
    const form = new FormData();
    form.append('file', new Blob(['Time [s],Power [kW]\n0,1\n1,2\n']), 'dyno.csv');
    return { method: 'POST', headers: PERSON, body: form };
  }
  if (path.endsWith('/attachments') && method === 'post') {
    const form = new FormData();
    form.append('file', new Blob(['a sheet of figures']), 'sheet.txt');
    return { method: 'POST', headers: PERSON, body: form };
  }
  const body = BODIES[`${method} ${path}`];
  if (body) return send(method.toUpperCase(), await body());
  return { method: method.toUpperCase(), headers: PERSON };
}

const LOOSE = new Map([['run.csv', files.get('logs/p02-dyno.csv')!]]);

const PROFILE = {
  format: 'gezeit-device-profile',
  version: 1,
  name: 'Box of the workshop',
  device: 'daq',
  match: ['Blorp'],
  channels: { Blorp: { quantity: 'intakeAirTemperature', unit: '°F' } },
};

async function savedProfile(): Promise<SavedProfile> {
  return deviceProfilesSchema.parse((await json('api/profiles', send('POST', PROFILE))).body).profiles[0]!;
}

/** Dropped files that are read. */
async function stagedFiles(): Promise<Staged> {
  const answer = await fetch(`${server.address}api/staged`, { method: 'POST', headers: PERSON, body: formOf(LOOSE) });
  let staged = stagedSchema.parse(await answer.json());
  while (staged.state === 'reading') {
    await new Promise((resolve) => setTimeout(resolve, 50));
    staged = stagedSchema.parse((await json(`api/staged/${staged.id}`)).body);
  }
  return staged;
}

/** An import that waits for a choice, so that each of its routes has something to answer; ended ones for the events. */
async function waitingImport(path: string): Promise<{ id: string }> {
  const changed = new Map(files);
  if (!path.endsWith('/events'))
    changed.set(
      'gezeit.json',
      Buffer.from(
        files
          .get('gezeit.json')!
          .toString()
          .replace('at least 8 K', `at least ${8 + Math.random()} K`),
      ),
    );
  const { id } = await startImport(server.address, changed);
  if (path.endsWith('/events')) return { id };
  while ((await json(`api/imports/${id}`)).body && !((await json(`api/imports/${id}`)).body as { outcome: unknown }).outcome)
    await new Promise((resolve) => setTimeout(resolve, 20));
  return { id };
}

describe('importing', () => {
  it('opens the existing programme for the same bundle, asks for a changed one, and keeps both versions', async () => {
    expect(await importAll(server.address, files)).toEqual({ kind: 'opened', programmeId: programme.id });
    const { id } = await waitingImport('/choice');
    expect((await json(`api/imports/${id}`)).body).toMatchObject({ outcome: { kind: 'needs-choice', programmeId: programme.id } });
    await json(`api/imports/${id}/choice`, send('POST', { choice: 'version' }));
    const states = await followImport(server.address, id);
    const outcome = states.at(-1)!.outcome!;
    if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
    const newer = await view(outcome.programmeId);
    expect(newer.version).toBe(2);
    expect(newer.versions.map(({ superseded }) => superseded)).toEqual([true, false]);
    const board = boardSchema.parse((await json('api/programmes')).body);
    expect(board.programmes.some((entry) => entry.id === programme.id)).toBe(false);
    expect(board.programmes.some((entry) => entry.id === newer.id)).toBe(true);
  });

  it('tells progress that only grows, through its steps', async () => {
    const changed = new Map(files);
    changed.set(
      'gezeit.json',
      Buffer.from(
        files
          .get('gezeit.json')!
          .toString()
          .replace('Ouessant hatchback', 'Ouessant roadster')
          .replaceAll('Ouessant hatchback', 'Ouessant roadster'),
      ),
    );
    const { id } = await startImport(server.address, changed);
    const states = await followImport(server.address, id);
    const progress = states.map((state) => state.progress);
    expect([...progress].sort((a, b) => a - b)).toEqual(progress);
    expect(new Set(states.map(({ step }) => step)).size).toBeGreaterThan(2);
    expect(states.at(-1)!.outcome!.kind).toBe('imported');
  });

  it('stores nothing of a cancelled import', async () => {
    const before = boardSchema.parse((await json('api/programmes')).body).programmes.length;
    const changed = new Map(files);
    changed.set('gezeit.json', Buffer.from(files.get('gezeit.json')!.toString().replaceAll('Ouessant hatchback', 'Ouessant wagon')));
    const { id } = await startImport(server.address, changed);
    await json(`api/imports/${id}`, { method: 'DELETE', headers: PERSON });
    const states = await followImport(server.address, id);
    expect(states.at(-1)!.outcome).toEqual({ kind: 'cancelled' });
    expect(boardSchema.parse((await json('api/programmes')).body).programmes.length).toBe(before);
    expect((await importAll(server.address, changed)).kind).toBe('imported');
  });

  const edited = (change: (text: string) => string) =>
    new Map(files).set('gezeit.json', Buffer.from(change(files.get('gezeit.json')!.toString())));
  const withLog = (bytes: Uint8Array | string) =>
    new Map(files)
      .set('logs/p02-dyno.csv', Buffer.from(bytes))
      .set('gezeit.json', Buffer.from(files.get('gezeit.json')!.toString().replace('Ouessant', 'Skudde')));
  const noise = Uint8Array.from({ length: 4000 }, (_, i) => (i * 7919 + (i >> 3) * 31) % 256);
  it.each([
    ['bad-json', edited((text) => text.slice(0, 700))],
    ['bad-bundle', edited((text) => text.replace('"smallestGainPct": 1', '"smallestGainPct": -1'))],
    ['bad-bundle', edited((text) => text.replace('"setup": "B"', '"setup": "Z"'))],
    ['log-missing', new Map([...files].filter(([file]) => file !== 'logs/p05-dyno.csv'))],
    ['no-description', new Map([...files].filter(([file]) => file !== 'gezeit.json'))],
    ['no-bundle', new Map([['notes.pdf', Buffer.from('%PDF-1.7 nothing')]])],
    ['bad-zip', new Map([['bundle.zip', Buffer.from('PK\u0003\u0004 cut off')]])],
    ['empty-file', withLog('')],
    ['binary-file', withLog(noise)],
    ['no-time', withLog('Wrkl,Engine speed [rpm],Power [kW]\nxa,2000,1\nxb,2300,2\nxc,2100,2\nxd,2500,3\nxe,2000,2\n')],
    ['time-columns-contradict', withLog('Time [s],Elapsed time [s],Engine speed [rpm]\n0,0,2000\n1,2,3000\n2,4,4000\n')],
    [
      'no-engine-speed',
      edited((text) =>
        text
          .replaceAll('Ouessant', 'Skudde')
          .replaceAll(/"logs": \[[^\]]*\]/g, '"logs": [{ "file": "logs/p01-pressures.csv", "device": "daq" }]'),
      ).set('logs/p01-pressures.csv', Buffer.from('Time [s],Pressure drop filter [kPa]\n0,1\n1,2\n')),
    ],
  ])('refuses with %s, names the place and the next step, and stores nothing', async (code, bundle) => {
    const before = boardSchema.parse((await json('api/programmes')).body).programmes.length;
    const outcome = await importAll(server.address, bundle);
    expect(outcome).toMatchObject({ kind: 'failed', error: { code } });
    if (outcome.kind === 'failed') {
      expect(outcome.error.nextStep.length).toBeGreaterThan(10);
      expect(JSON.stringify(outcome.error)).not.toContain(server.folder);
    }
    expect(boardSchema.parse((await json('api/programmes')).body).programmes.length).toBe(before);
  });
});

it('a programme of which nothing has run shows what its plan could resolve', async () => {
  const description = JSON.parse(files.get('gezeit.json')!.toString()) as {
    programme: { title: string };
    pulls: unknown[];
    plan?: unknown;
  };
  description.programme.title = 'Only planned';
  description.pulls = [];
  description.plan = { pulls: ['A', 'B', 'B', 'A'].map((setup, i) => ({ setup, kind: 'measured', atMin: 30 * i })) };
  const outcome = await importAll(server.address, new Map([['gezeit.json', Buffer.from(JSON.stringify(description))]]));
  if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
  const board = boardSchema.parse((await json('api/programmes')).body);
  const entry = board.programmes.find(({ id }) => id === outcome.programmeId)!;
  expect(entry).toMatchObject({ pullsDriven: 0, lastPullAt: null });
  expect(entry.plannedResolvablePct!).toBeGreaterThan(0.5);
  expect((await view(outcome.programmeId)).tide.pulls).toEqual([]);
  expect((await json(`api/programmes/${outcome.programmeId}/curves`)).status).toBe(200);
});

describe('a programme', () => {
  it('leaves a pull out, follows with everything, and takes it back after undo', async () => {
    const before = await view(programme.id);
    const out = programmeChangedSchema.parse(
      (await json(`api/programmes/${programme.id}/pulls/p05`, send('PATCH', { excluded: 'operator lifted' }))).body,
    );
    const pull = out.findings.pulls.find(({ id }) => id === 'p05')!;
    expect(pull).toMatchObject({ status: 'excluded', reasons: ['operator lifted'] });
    expect(out.findings.comparisons[0]!.levelled!.pct).not.toBe(before.findings.comparisons[0]!.levelled!.pct);
    expect(out.changes[0]).toMatchObject({ by: 'TS Test Suite', subject: 'p05', undone: false });
    const undone = programmeChangedSchema.parse((await json(`api/programmes/${programme.id}/undo`, send('POST', {}))).body);
    expect(undone.findings).toEqual(before.findings);
  });

  it('refuses an empty reason', async () => {
    const { status, body } = await json(`api/programmes/${programme.id}/pulls/p05`, send('PATCH', { excluded: '  ' }));
    expect(status).toBe(400);
    expect(apiErrorSchema.parse(body).error.message).toContain('say why');
  });

  it('goes out as a bundle with unknown fields and original bytes, and comes back as the same', async () => {
    const withUnknown = new Map(files);
    const description = JSON.parse(files.get('gezeit.json')!.toString()) as Record<string, unknown> & {
      programme: Record<string, unknown>;
    };
    Object.assign(description, { workshopMood: 'calm' });
    Object.assign(description.programme, { title: 'Round trip', colour: 'green' });
    withUnknown.set('gezeit.json', Buffer.from(JSON.stringify(description)));
    const outcome = await importAll(server.address, withUnknown);
    if (outcome.kind !== 'imported') throw new Error(outcome.kind);
    const zip = unzipSync(
      new Uint8Array(await (await fetch(`${server.address}api/programmes/${outcome.programmeId}/bundle`)).arrayBuffer()),
    );
    const back = JSON.parse(Buffer.from(zip['gezeit.json']!).toString()) as typeof description;
    expect(back['workshopMood']).toBe('calm');
    expect(back.programme['colour']).toBe('green');
    expect(back).toEqual(description);
    for (const [file, bytes] of files) if (file !== 'gezeit.json') expect(Buffer.from(zip[file]!).equals(bytes), file).toBe(true);
    expect(await importAll(server.address, new Map(Object.entries(zip)))).toMatchObject({
      kind: 'opened',
      programmeId: outcome.programmeId,
    });
  });

  it('gives traces as binary, reduced to what fits, peaks kept', async () => {
    const log = programme.logs.find(({ device }) => device === 'dyno')!;
    const power = log.columns.find(({ quantity }) => quantity === 'power')!;
    const read = async (points: number) => {
      const bytes = await (await fetch(`${server.address}api/logs/${log.id}/traces?columns=${power.id}&points=${points}`)).arrayBuffer();
      const length = new DataView(bytes).getUint32(0, true);
      const header = traceHeaderSchema.parse(JSON.parse(Buffer.from(bytes, 4, length).toString()));
      const count = header.series[0]!.length;
      return { header, values: new Float64Array(bytes.slice(4 + length + 8 * count, 4 + length + 16 * count)) };
    };
    const whole = await read(20_000);
    const small = await read(50);
    expect(whole.header.reduced).toBe(false);
    expect(whole.values.length).toBe(log.rowCount);
    expect(small.header.reduced).toBe(true);
    expect(small.values.length).toBeLessThanOrEqual(100);
    expect(Math.max(...small.values)).toBe(Math.max(...whole.values));
  });
});
