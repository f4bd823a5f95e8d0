import { fileURLToPath } from 'node:url';
import { strFromU8, strToU8, unzipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  importStateSchema,
  programmeViewSchema,
  stagedKey,
  stagedListSchema,
  stagedSchema,
  type ImportState,
  type Staged,
} from '@gezeit/contract';
import { recordDrive, writeLog, type DriveSpec } from '@gezeit/core/simulate';
import { filesOf, followImport, formOf, PERSON, startImport, startServer } from './support.js';

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
    const { decisions } = await settled(id);
    const nowhere = await call('PATCH', `api/staged/${id}`, { ...decisions, timeZone: 'Mars/Olympus' });
    expect(nowhere.status).toBe(400);
    expect(await nowhere.json()).toMatchObject({
      error: { message: '“Mars/Olympus” is no time zone.', nextStep: 'Give a name such as Europe/Oslo.' },
    });
    expect((await settled(id)).decisions).toEqual(decisions);
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

  it('two time columns at odds are asked about, the right one is kept with the programme, and a file that stays open takes no other with it', async () => {
    const text = (clocks: string, fast: number) =>
      `${clocks},Engine speed [rpm],Wheel power [kW]\n${Array.from({ length: 480 }, (_, i) => `${(i / 20).toFixed(2)},${((fast * i) / 20).toFixed(2)},${i < 80 ? 1800 : i < 380 ? 1800 + (i - 80) * 15 : 6300 - (i - 380) * 40},${i < 80 || i >= 380 ? 0 : (i / 4).toFixed(1)}`).join('\n')}\n`;
    const files = { 'a.csv': text('Time [s],Elapsed time [s]', 3), 'b.csv': text('Time [s],Log time [s]', 2) };
    const dropped = await drop(new Map(Object.entries(files).map(([name, content]) => [name, Buffer.from(content)])));
    expect(dropped.reading!.questions.map(({ about, choices }) => [about, choices])).toEqual([
      ['which-clock', ['Time [s]', 'Elapsed time [s]']],
      ['which-clock', ['Time [s]', 'Log time [s]']],
    ]);
    expect(dropped.reading!.pulls).toEqual([]);
    const channels = { 'file:a.csv': { 'Time [s]': { ignore: true } } };
    await call('PATCH', `api/staged/${dropped.id}`, { ...dropped.decisions, channels });
    const said = await settled(dropped.id);
    expect([said.reading!.questions.length, said.reading!.unmatched.map(({ file }) => file)]).toEqual([1, ['b.csv']]);
    const outcome = await kept(dropped.id);
    const { programmeId } = outcome as { programmeId: string };
    const view = programmeViewSchema.parse(await (await call('GET', `api/programmes/${programmeId}`)).json());
    expect(view.findings.pulls).toHaveLength(1);
    // By the clock that was said to be right the sweep took three times as long.
    const [pull] = view.findings.pulls;
    expect(pull!.endS! - pull!.startS!).toBeGreaterThan(30);
  });

  it('a file that is dropped under two names is one pull of the programme that it becomes', async () => {
    const run = (name: string) => [...LOOSE_FILES].find(([file]) => file.endsWith(name))!;
    const [[first, bytes], [second, others]] = [run('run_001.csv'), run('run_002.csv')];
    const dropped = await drop(
      new Map([
        [first, bytes],
        ['day/run_001 - copy.csv', bytes],
        [second, others],
      ]),
    );
    expect(dropped.reading!.pulls).toHaveLength(2);
    expect(dropped.reading!.unmatched).toMatchObject([{ file: 'day/run_001 - copy.csv', copyOf: first }]);
    const { programmeId } = (await kept(dropped.id)) as { programmeId: string };
    const view = programmeViewSchema.parse(await (await call('GET', `api/programmes/${programmeId}`)).json());
    expect(view.bundle.pulls).toHaveLength(2);
  });

  it('a recording of laps becomes one drive, and a long run without a sweep becomes one too', async () => {
    const record = (spec: Partial<DriveSpec>) =>
      writeLog(
        recordDrive({
          seed: 9,
          laps: 4,
          lengthKm: 0,
          rateHz: 5,
          ambientC: 20,
          massKg: 1100,
          powerW: 110_000,
          soakK: 10,
          loadK: 10,
          trimDriftPct: 0,
          isCounted: true,
          ...spec,
        }),
        'bracketed',
      );
    const dropped = await drop(
      new Map([
        ['laps.csv', record({})],
        ['home.csv', record({ laps: null, lengthKm: 12, rateHz: 1, isCounted: false })],
      ]),
    );
    const found = dropped.reading!.pulls.filter(({ members }) => members[0]!.file === 'laps.csv');
    expect(found.length).toBeGreaterThan(0);
    const places = { 'home.csv#': 'own' };
    await call('PATCH', `api/staged/${dropped.id}`, { ...dropped.decisions, places });
    const placed = await settled(dropped.id);
    const pulls = Object.fromEntries(placed.reading!.pulls.map((pull) => [stagedKey(pull), { setup: 'A', kind: 'drive' }]));
    expect((await call('PATCH', `api/staged/${dropped.id}`, { ...placed.decisions, day: '2026-03-04', pulls })).status).toBe(200);
    const { programmeId } = (await kept(dropped.id)) as { programmeId: string };
    const view = programmeViewSchema.parse(await (await call('GET', `api/programmes/${programmeId}`)).json());
    expect(view.bundle.pulls.map(({ kind }) => kind)).toEqual(['drive', 'drive']);
    const drives = view.findings.drives.drives;
    expect(drives.map(({ file }) => file).sort()).toEqual(['logs/home.csv', 'logs/laps.csv']);
    expect(drives.find(({ file }) => file === 'logs/laps.csv')).toMatchObject({ cutBy: 'channel', laps: { length: 4 } });
    expect(drives.find(({ file }) => file === 'logs/home.csv')!.distanceM).toBeGreaterThan(11_500);
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

  describe('added to a programme that stands', () => {
    const only = (part: RegExp) => new Map([...LOOSE_FILES].filter(([file]) => part.test(file)));
    const view = async (id: string) => programmeViewSchema.parse(await (await call('GET', `api/programmes/${id}`)).json());
    const devicesOf = (state: Awaited<ReturnType<typeof view>>) => state.bundle.pulls.map(({ logs }) => logs.length).join('');
    const decide = async (state: Staged, change: Partial<Staged['decisions']>) => {
      expect((await call('PATCH', `api/staged/${state.id}`, { ...state.decisions, ...change })).status).toBe(200);
      return settled(state.id);
    };
    const begun = async (part: RegExp) => ((await kept((await drop(only(part))).id)) as { programmeId: string }).programmeId;

    it('a third device finds its pulls; nothing else of the programme changes, and one undo takes it out again', async () => {
      const programmeId = await begun(/ecu-|run_/);
      const before = await view(programmeId);
      expect(devicesOf(before)).toBe('2222222222222');
      const excluded = await call('PATCH', `api/programmes/${programmeId}/pulls/p05`, { excluded: 'a door stood open' });
      expect(excluded.status).toBe(200);
      const dropped = await drop(only(/box-/), `?into=${programmeId}`);
      expect(dropped.into).toMatchObject({ programmeId, pulls: before.bundle.pulls.map(({ id }) => expect.objectContaining({ id })) });
      expect(dropped.reading!.pulls.map(({ id, members }) => `${id}:${members.length}`)).toEqual(
        before.bundle.pulls.map(({ id }) => `${id}:3`),
      );
      expect(await kept(dropped.id)).toMatchObject({ kind: 'imported', programmeId });
      const after = await view(programmeId);
      expect(devicesOf(after)).toBe('3333333333333');
      expect(after.bundle.pulls[4]!.excluded).toBe('a door stood open');
      const withoutLogs = ({ bundle }: typeof after) => bundle.pulls.map(({ logs: _, ...pull }) => pull);
      expect(withoutLogs(after)).toEqual(
        withoutLogs({
          ...before,
          bundle: {
            ...before.bundle,
            pulls: before.bundle.pulls.map((pull, i) => (i === 4 ? { ...pull, excluded: 'a door stood open' } : pull)),
          },
        }),
      );
      expect(after.pulls.flatMap(({ alignments }) => alignments).filter(({ how }) => how.startsWith('same-'))).toEqual([]);
      // The same once more adds nothing, and says so.
      const again = await drop(only(/box-/), `?into=${programmeId}`);
      expect(await kept(again.id)).toMatchObject({ kind: 'failed', error: { code: 'nothing-added' } });
      expect((await call('POST', `api/programmes/${programmeId}/undo`)).status).toBe(200);
      const undone = await view(programmeId);
      expect(devicesOf(undone)).toBe('2222222222222');
      expect(undone.logs.length).toBe(before.logs.length);
      expect(undone.findings.comparisons).toEqual((await view(programmeId)).findings.comparisons);
    });

    it('stays where its bundle comes again changed, and again after that; what was taken back does not come back', async () => {
      // By a title of its own: by that and its car a bundle is known again.
      const own = await drop(only(/ecu-|run_00[1-9]/), '?title=Comes%20again');
      const { programmeId } = (await kept(own.id)) as { programmeId: string };
      const zip = unzipSync(new Uint8Array(await (await call('GET', `api/programmes/${programmeId}/bundle`)).arrayBuffer()));
      const changed = (smallestGainPct: number) => {
        const files = new Map(Object.entries(zip));
        const [name, body] = [...files].find(([file]) => file.endsWith('gezeit.json'))!;
        const bundle = JSON.parse(strFromU8(body)) as { programme: Record<string, unknown> };
        bundle.programme['smallestGainPct'] = smallestGainPct;
        return files.set(name, strToU8(JSON.stringify(bundle)));
      };
      const asVersion = async (smallestGainPct: number) => {
        const { id } = await startImport(server.address, changed(smallestGainPct));
        await followImport(server.address, id);
        await call('POST', `api/imports/${id}/choice`, { choice: 'version' });
        const outcome = (await followImport(server.address, id)).at(-1)!.outcome!;
        if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
        return outcome;
      };
      // A file that is added and taken back, then those of a whole device, one of them of a pull of its own.
      const keyOf = (state: Staged, name: RegExp) => {
        const file = state.reading!.files.find((entry) => name.test(entry.file))!;
        return `${file.file}#0@${Math.round(file.sweeps[0]!.startS)}`;
      };
      const first = await drop(only(/box-1\./), `?into=${programmeId}`);
      await kept((await decide(first, { places: { [keyOf(first, /box-1\./)]: 'pull:p01' } })).id);
      expect(devicesOf(await view(programmeId))[0]).toBe('3');
      expect((await call('POST', `api/programmes/${programmeId}/undo`)).status).toBe(200);
      const dropped = await drop(only(/box-[2-9]\.|run_010/), `?into=${programmeId}`);
      const alone = await decide(dropped, { places: { [keyOf(dropped, /run_010/)]: 'own' } });
      expect(await kept(alone.id)).toMatchObject({ kind: 'imported' });
      const before = await view(programmeId);
      expect(devicesOf(before)).toBe('23333333211111');
      let id = programmeId;
      for (const smallest of [2, 3]) {
        const outcome = await asVersion(smallest);
        expect(outcome.programmeId).not.toBe(id);
        id = outcome.programmeId;
        expect(outcome.notes.join('\n')).toContain('to which they had been added: ');
        const after = await view(id);
        expect(after.bundle.programme.smallestGainPct).toBe(smallest);
        expect(after.bundle.pulls).toEqual(before.bundle.pulls);
        expect(after.logs.map(({ file, sha256 }) => [file, sha256]).sort()).toEqual(
          before.logs.map(({ file, sha256 }) => [file, sha256]).sort(),
        );
        expect(after.pulls.map(({ alignments }) => alignments)).toEqual(before.pulls.map(({ alignments }) => alignments));
      }
    });

    it('one file is put into a pull by hand, one replaces another, one is taken away, and one that is new is a pull of its own', async () => {
      const programmeId = await begun(/ecu-|run_/);
      const [first] = (await drop(only(/box-1\./), `?into=${programmeId}`)).reading!.pulls;
      expect(first).toBeDefined();
      const other = await drop(only(/box-2\./), `?into=${programmeId}`);
      const box = [...other.reading!.files].find(({ file }) => file.includes('box-2'))!;
      const key = box.sweeps[0] ? `${box.file}#${box.sweeps[0].recording}@${Math.round(box.sweeps[0].startS)}` : `${box.file}#`;
      const placed = await decide(other, { places: { [key]: 'pull:p09' } });
      const holding = (state: Staged, file: string) =>
        state.reading!.pulls.filter(({ members }) => members.some((member) => member.file === file)).map(({ id }) => id);
      expect(holding(placed, box.file)).toEqual(['p09']);
      const nowhere = await decide(placed, { places: { [key]: 'none' } });
      expect(holding(nowhere, box.file)).toEqual([]);
      expect(nowhere.reading!.unmatched).toContainEqual({ file: box.file, why: 'It was left out by hand.' });
      const alone = await decide(nowhere, { places: { [key]: 'own' } });
      expect(holding(alone, box.file)).toEqual(['p14']);
      const run = alone.reading!.files.find(({ file }) => file.endsWith('run_003.csv'))!;
      expect(run.file.startsWith('in the programme/')).toBe(true);
      const runKey = `${run.file}#0@${Math.round(run.sweeps[0]!.startS)}`;
      const without = await decide(alone, { places: { [key]: 'pull:p09', [runKey]: 'none' } });
      expect(await kept(without.id)).toMatchObject({ kind: 'imported' });
      const after = await view(programmeId);
      expect(devicesOf(after)).toBe('2212222232222');
      expect((await call('POST', `api/staged/${without.id}/take-back`)).status).toBe(200);
      expect(devicesOf(await view(programmeId))).toBe('2222222222222');
      expect((await settled(without.id)).decisions.places).toEqual({ [key]: 'pull:p09', [runKey]: 'none' });
    });

    it('new pulls are numbered on, a new setup comes with them, and a draft without any pull takes its first ones', async () => {
      const programmeId = await begun(/ecu-|run_00[1-9]/);
      expect((await view(programmeId)).bundle.pulls.length).toBe(13);
      const draft = (await (await call('POST', 'api/programmes', { title: 'A draft', aspiration: 'turbo' })).json()) as { id: string };
      const dropped = await drop(only(/run_00[1-3]/), `?into=${draft.id}`);
      expect(dropped.reading!.pulls.map(({ id }) => id)).toEqual(['p01', 'p02', 'p03']);
      const keyOf = (i: number) => {
        const { file, recording, startS } = dropped.reading!.pulls[i]!.members[0]!;
        return `${file}#${recording}@${Math.round(startS!)}`;
      };
      const setups = [...dropped.decisions.setups, { id: 'Q', name: 'Quieter airbox' }];
      const pulls = Object.fromEntries(
        [0, 1, 2].map((i) => [keyOf(i), { setup: i === 2 ? 'Q' : dropped.decisions.setups[0]!.id, kind: 'measured' as const }]),
      );
      await decide(dropped, { setups, pulls, day: '2026-09-18', firstAt: '09:00' });
      expect(await kept(dropped.id)).toMatchObject({ kind: 'imported', programmeId: draft.id });
      const after = await view(draft.id);
      expect(after.bundle.pulls.map(({ id, setup }) => id + setup)).toEqual(['p01A', 'p02A', 'p03Q']);
      expect(after.bundle.setups.find(({ id }) => id === 'Q')).toMatchObject({ name: 'Quieter airbox', afterwards: true });
      expect((await call('POST', `api/programmes/${draft.id}/undo`)).status).toBe(200);
      const undone = await view(draft.id);
      expect([undone.bundle.pulls.length, undone.logs.length, undone.bundle.setups.some(({ id }) => id === 'Q')]).toEqual([0, 0, false]);
    });

    it('a log moved by hand is moved in every figure, on the clock of whichever log leads, and is given back', async () => {
      const programmeId = await begun(/ecu-|run_|box-/);
      const before = await view(programmeId);
      const detail = (state: typeof before, id = 'p04') => state.pulls.find((entry) => entry.id === id)!;
      const lead = detail(before).alignments.find(({ how }) => how === 'first')!.file;
      const box = detail(before).alignments.find(({ file }) => file.includes('box'))!;
      const move = (offsetS: number | null, file = box.file) =>
        call('PATCH', `api/programmes/${programmeId}/pulls/p04/alignment`, { file, offsetS });
      expect((await move(box.offsetS + 0.25)).status).toBe(200);
      const moved = await view(programmeId);
      expect(detail(moved).alignments.find(({ file }) => file === box.file)).toMatchObject({
        how: 'hand',
        offsetS: expect.closeTo(box.offsetS + 0.25, 6),
      });
      expect(detail(moved, 'p05').alignments).toEqual(detail(before, 'p05').alignments);
      expect((await move(box.offsetS - 0.5)).status).toBe(200);
      expect((await move(null)).status).toBe(200);
      const back = await view(programmeId);
      expect(detail(back).alignments).toEqual(detail(before).alignments);
      for (let i = 0; i < 3; i += 1) expect((await call('POST', `api/programmes/${programmeId}/undo`)).status).toBe(200);
      expect((await view(programmeId)).bundle.pulls).toEqual(before.bundle.pulls);
      expect((await move(1, lead)).status).toBe(404);
      expect((await move(1, 'logs/none.csv')).status).toBe(404);
    });

    it('a programme that is not there is refused before anything is received', async () => {
      const answer = await fetch(`${server.address}api/staged?into=none`, {
        method: 'POST',
        headers: PERSON,
        body: formOf(only(/box-1\./)),
      });
      expect(answer.status).toBe(404);
    });
  });
});
