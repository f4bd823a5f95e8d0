import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { importStateSchema, programmeViewSchema, stagedListSchema, stagedSchema, type ImportState, type Staged } from '@gezeit/contract';
import { filesOf, followImport, formOf, PERSON, startServer } from './support.js';

const LOOSE_FILES = new Map(
  [...filesOf(fileURLToPath(new URL('../../demo/loose', import.meta.url)))].map(([file, bytes]) => [`day/${file}`, bytes]),
);

let server: Awaited<ReturnType<typeof startServer>>;
beforeAll(async () => void (server = await startServer()));
afterAll(() => server.close());

const call = (method: string, path: string, body?: unknown) =>
  fetch(server.address + path, {
    method,
    headers: { ...PERSON, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
    body: body === undefined ? undefined : JSON.stringify(body),
  });

async function drop(files: ReadonlyMap<string, Uint8Array>, query = ''): Promise<Staged> {
  const answer = await fetch(`${server.address}api/staged${query}`, { method: 'POST', headers: PERSON, body: formOf(files) });
  expect(answer.status).toBe(202);
  return settled(stagedSchema.parse(await answer.json()).id);
}

async function settled(id: string): Promise<Staged> {
  for (;;) {
    const state = stagedSchema.parse(await (await call('GET', `api/staged/${id}`)).json());
    if (state.state === 'failed') throw new Error(JSON.stringify(state.error));
    if (state.state !== 'reading') return state;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

async function kept(id: string): Promise<NonNullable<ImportState['outcome']>> {
  const answer = await call('POST', `api/staged/${id}/keep`);
  expect(answer.status).toBe(202);
  const { id: job } = importStateSchema.parse(await answer.json());
  const states = await followImport(server.address, job);
  return states.at(-1)!.outcome!;
}

describe('dropped exports', { timeout: 120_000 }, () => {
  it('are read, brought to pulls, and become a programme with a verdict as it was decided', async () => {
    const dropped = await drop(LOOSE_FILES, '?title=Loose%20day&lastModified=2026-09-18T12:00:00.000Z');
    const { reading, hints, decisions } = dropped;
    expect([reading!.files.length, reading!.pulls.length, reading!.unmatched, reading!.questions]).toEqual([27, 13, [], []]);
    expect(reading!.pulls.every(({ members }) => members.length === 3)).toBe(true);
    expect(hints).toMatchObject({ aspiration: 'turbo', weather: { temperatureC: expect.closeTo(18.5, 0) } });
    expect(decisions).toMatchObject({ title: 'Loose day', day: '2026-09-18' });
    const key = (i: number) => `${reading!.pulls[i]!.members[0]!.file}#0@${Math.round(reading!.pulls[i]!.members[0]!.startS!)}`;
    const pulls = Object.fromEntries(
      reading!.pulls.map((_, i) => [
        key(i),
        { setup: [4, 5, 6, 10, 11, 12].includes(i) ? 'B' : 'A', kind: i === 0 ? ('conditioning' as const) : ('measured' as const) },
      ]),
    );
    const decided = await call('PATCH', `api/staged/${dropped.id}`, { ...decisions, pulls });
    expect(decided.status).toBe(200);
    const outcome = await kept(dropped.id);
    expect(outcome.kind).toBe('imported');
    const { programmeId } = outcome as { programmeId: string };
    const view = programmeViewSchema.parse(await (await call('GET', `api/programmes/${programmeId}`)).json());
    expect(view.bundle.programme.title).toBe('Loose day');
    expect(view.bundle.pulls.map(({ setup, kind }) => (kind === 'conditioning' ? 'c' : setup)).join('')).toBe('cAAABBBAAABBB');
    expect(view.findings.comparisons[0]!.verdict.power).not.toBe('withheld');
    expect(view.findings.pulls.filter(({ status }) => status === 'used').length).toBe(12);
    expect(view.pulls.flatMap(({ alignments }) => alignments).filter(({ how }) => how === 'engine-speed').length).toBe(26);
  });

  it('wait on the server until they are thrown away, and a server that starts again still has them', async () => {
    const own = new Map([...LOOSE_FILES].filter(([file]) => file.includes('run_00')));
    const { id } = await drop(own);
    const list = async () => stagedListSchema.parse(await (await call('GET', 'api/staged')).json()).staged.map((entry) => entry.id);
    expect(await list()).toContain(id);
    await server.close();
    server = await startServer(server.folder);
    expect(await list()).toContain(id);
    expect((await settled(id)).reading!.pulls.length).toBe(own.size);
    expect((await call('DELETE', `api/staged/${id}`)).status).toBe(200);
    expect(await list()).not.toContain(id);
    expect((await call('GET', `api/staged/${id}`)).status).toBe(404);
    expect((await call('GET', 'api/staged/..%2f..%2fgezeit.sqlite')).status).toBe(404);
  });

  it('a column that was taken wrongly is corrected, and everything is read anew by it', async () => {
    const text = `Time [s],Engine RPM,Wheel power [kW],Blorp\n${Array.from({ length: 400 }, (_, i) => `${(i / 20).toFixed(2)},${i < 40 ? 1800 : 1800 + (i - 40) * 13},${i < 40 ? 0 : (i / 4).toFixed(1)},${(20 + i / 100).toFixed(2)}`).join('\n')}\n`;
    const dropped = await drop(new Map([['run.csv', Buffer.from(text)]]));
    const column = (state: Staged) => state.reading!.files[0]!.columns[3]!;
    expect(column(dropped)).toMatchObject({ header: 'Blorp', quantity: null });
    const channels = { dyno: { Blorp: { quantity: 'intakeAirTemperature', unit: '°F' } } };
    await call('PATCH', `api/staged/${dropped.id}`, { ...dropped.decisions, channels });
    const corrected = column(await settled(dropped.id));
    expect(corrected).toMatchObject({ quantity: 'intakeAirTemperature', unit: '°F', sure: 1 });
    expect(corrected.low).toBeCloseTo((20 - 32) / 1.8, 2);
    const outcome = await kept(dropped.id);
    const view = programmeViewSchema.parse(
      await (await call('GET', `api/programmes/${(outcome as { programmeId: string }).programmeId}`)).json(),
    );
    expect(view.findings.pulls[0]!.startIntakeAirC).toBeCloseTo((20.4 - 32) / 1.8, 0);
  });

  it('a date that can be read both ways is asked once', async () => {
    const rows = Array.from(
      { length: 300 },
      (_, i) =>
        `03/04/2026 09:12:${String(Math.floor(i / 20)).padStart(2, '0')}.${String((i % 20) * 5).padStart(2, '0')}0,${i < 40 ? 1800 : 1800 + (i - 40) * 15},${i}`,
    );
    const dropped = await drop(new Map([['run.csv', Buffer.from(`Date time,Engine RPM,Wheel power [kW]\n${rows.join('\n')}\n`)]]));
    expect(dropped.reading!.questions).toMatchObject([
      { what: expect.stringContaining('day first or month first?'), choices: ['2026-04-03', '2026-03-04'] },
    ]);
    await call('PATCH', `api/staged/${dropped.id}`, { ...dropped.decisions, dateOrder: 'month-first' });
    const answered = await settled(dropped.id);
    expect(answered.reading!.questions).toEqual([]);
    expect(answered.reading!.pulls[0]!.startedAt).toContain('2026-03-04T09:12');
  });

  it('what is no export is named and takes nothing else down; nothing at all is refused', async () => {
    const mixed = new Map<string, Uint8Array>([
      ['run.csv', LOOSE_FILES.get('day/run_002.csv')!],
      ['photo.jpg', Buffer.from([0xff, 0xd8, 0, 1, 2, 0, 0, 3])],
      ['notes.txt', Buffer.from('Dear diary')],
    ]);
    const { reading } = await drop(mixed);
    expect(reading!.pulls.length).toBe(1);
    expect(reading!.unmatched.map(({ file }) => file).sort()).toEqual(['notes.txt', 'photo.jpg']);
    const none = await drop(new Map([['notes.txt', Buffer.from('Dear diary')]]));
    const answer = await call('POST', `api/staged/${none.id}/keep`);
    expect(answer.status).toBe(409);
    expect((await call('POST', 'api/staged')).status).toBe(400);
  });
});
