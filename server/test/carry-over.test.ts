import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { importStateSchema, programmeViewSchema, type ImportState, type ProgrammeView } from '@gezeit/contract';
import { DEMO_BUNDLES, filesOf, followImport, importAll, PERSON, startImport, startServer } from './support.js';

let server: Awaited<ReturnType<typeof startServer>>;
const files = filesOf(`${DEMO_BUNDLES}/water-cooler-and-fuel`);
beforeAll(async () => void (server = await startServer()));
afterAll(() => server.close());

const call = (method: string, path: string, body: unknown = {}) =>
  fetch(server.address + path, { method, headers: { ...PERSON, 'content-type': 'application/json' }, body: JSON.stringify(body) });
const view = async (id: string): Promise<ProgrammeView> =>
  programmeViewSchema.parse(await (await fetch(`${server.address}api/programmes/${id}`)).json());

type Description = { programme: Record<string, unknown>; pulls: { id: string; excluded?: unknown; logs: { file: string }[] }[] };

/** The bundle as it comes again: its description changed, and some of its files. */
function again(change: (description: Description) => void, changed: ReadonlyMap<string, Buffer> = new Map()): Map<string, Buffer> {
  const description = JSON.parse(files.get('gezeit.json')!.toString()) as Description;
  change(description);
  return new Map([...files, ...changed, ['gezeit.json', Buffer.from(JSON.stringify(description))]]);
}

async function importedVersion(next: Map<string, Buffer>): Promise<Extract<ImportState['outcome'], { kind: 'imported' }>> {
  const { id } = await startImport(server.address, next);
  await followImport(server.address, id);
  const waiting = importStateSchema.parse(await (await fetch(`${server.address}api/imports/${id}`)).json());
  expect(waiting.outcome?.kind).toBe('needs-choice');
  await call('POST', `api/imports/${id}/choice`, { choice: 'version' });
  const outcome = (await followImport(server.address, id)).at(-1)!.outcome!;
  if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
  return outcome;
}

describe('a changed bundle that comes again', { timeout: 120_000 }, () => {
  it('keeps what was decided by hand where its logs are the same, lets the bundle’s own word stand, and names what is lost', async () => {
    const first = await importAll(server.address, files);
    const { programmeId } = first as { programmeId: string };
    const [p3, p4, p5, p6] = (await view(programmeId)).bundle.pulls.slice(2, 6).map(({ id }) => id);
    const exclude = (pull: string, excluded: string | false) => call('PATCH', `api/programmes/${programmeId}/pulls/${pull}`, { excluded });
    await exclude(p3!, 'a hose came off');
    await exclude(p4!, 'a door stood open');
    await exclude(p5!, 'the fan was off');
    await call('POST', `api/programmes/${programmeId}/pulls/${p6}/amendments`, {
      why: 'read from the wrong line',
      weather: { temperatureC: 23, pressureKPa: 98.7, relativeHumidityPct: 41 },
    });
    const before = await view(programmeId);
    const lead = before.pulls.find(({ id }) => id === p6)!.alignments;
    const other = lead.find(({ how }) => how === 'engine-speed')!;
    await call('PATCH', `api/programmes/${programmeId}/pulls/${p6}/alignment`, { file: other.file, offsetS: other.offsetS + 0.1 });

    const log = before.bundle.pulls.find(({ id }) => id === p5)!.logs[0]!.file;
    const lines = files.get(log)!.toString().trimEnd().split('\n');
    const shorter = Buffer.from(`${lines.slice(0, -3).join('\n')}\n`);
    const outcome = await importedVersion(
      again(
        (description) => {
          description.programme['smallestGainPct'] = 2.5;
          description.pulls.find(({ id }) => id === p4)!.excluded = false;
        },
        new Map([[log, shorter]]),
      ),
    );
    const after = await view(outcome.programmeId);
    const pull = (id: string) => after.bundle.pulls.find((entry) => entry.id === id)!;
    expect(pull(p3!).excluded).toBe('a hose came off');
    // The bundle says itself that it counts.
    expect(pull(p4!).excluded).toBe(false);
    expect(pull(p5!).excluded ?? null).toBeNull();
    expect(pull(p6!)).toMatchObject({ ambient: { temperatureC: 23 }, amended: [{ what: 'weather', why: 'read from the wrong line' }] });
    expect(after.pulls.find(({ id }) => id === p6)!.alignments).toContainEqual(
      expect.objectContaining({ file: other.file, how: 'hand', offsetS: expect.closeTo(other.offsetS + 0.1, 6) }),
    );
    const notes = outcome.notes.join('\n');
    expect(notes).toContain(`by hand about ${p3}, ${p6}`);
    expect(notes).toContain(`${p5} (left out: the fan was off) is not carried over`);
    // The same bundle once more opens what it became.
    expect((await view(outcome.programmeId)).version).toBe(2);
  });

  it('carries columns and assumptions over that it says nothing of', async () => {
    const latest = (await (await fetch(`${server.address}api/programmes`)).json()) as { programmes: { id: string }[] };
    const { id } = latest.programmes[0]!;
    const edit = (part: string, before: unknown, value: unknown) =>
      call('PATCH', `api/programmes/${id}`, { part, before, value, what: 'by hand' });
    const { bundle } = await view(id);
    const channels = { ...bundle.channels, 'file:logs/none.csv': { Blorp: { ignore: true } } };
    expect((await edit('channels', bundle.channels ?? null, channels)).status).toBe(200);
    expect((await edit('assumptions', bundle.assumptions ?? null, { temperatureAccuracy: 2.5 })).status).toBe(200);
    const outcome = await importedVersion(again((description) => void (description.programme['smallestGainPct'] = 3)));
    const after = await view(outcome.programmeId);
    expect(after.bundle.channels).toEqual(
      expect.objectContaining({ 'file:logs/none.csv': { Blorp: expect.objectContaining({ ignore: true }) } }),
    );
    expect(JSON.stringify(after.bundle.assumptions)).toContain('2.5');
    expect(outcome.notes.join('\n')).toContain('The changed assumptions are carried over.');
  });

  it('is a version of the one whose logs it has, where two programmes have one title and one car', async () => {
    const titled = (description: Description) => void (description.programme['title'] = 'Two of one title');
    // Every log a little shorter: another day of the same.
    const otherLogs = [...files].flatMap(([file, bytes]): [string, Buffer][] =>
      file.startsWith('logs/') ? [[file, Buffer.from(`${bytes.toString().trimEnd().split('\n').slice(0, -2).join('\n')}\n`)]] : [],
    );
    const first = (await importAll(server.address, again(titled))) as { programmeId: string };
    const { id } = await startImport(server.address, again(titled, new Map(otherLogs)));
    await followImport(server.address, id);
    await call('POST', `api/imports/${id}/choice`, { choice: 'copy' });
    const second = (await followImport(server.address, id)).at(-1)!.outcome as { programmeId: string };
    expect(second.programmeId).not.toBe(first.programmeId);
    const changed = (description: Description) => {
      titled(description);
      description.programme['smallestGainPct'] = 2.5;
    };
    const lineageOf = async (programmeId: string) => (await view(programmeId)).versions.map((entry) => entry.id);
    expect(await lineageOf((await importedVersion(again(changed))).programmeId)).toContain(first.programmeId);
    expect(await lineageOf((await importedVersion(again(changed, new Map(otherLogs)))).programmeId)).toContain(second.programmeId);
  });
});
