import { readdirSync } from 'node:fs';
import { unzipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { programmeChangedSchema, programmeViewSchema, type EditablePart, type ProgrammeView } from '@gezeit/contract';
import { DEMO_BUNDLES, evidenceOfTest, filesOf, importAll, PERSON, startServer } from './support.js';

type Server = Awaited<ReturnType<typeof startServer>>;
let here: Server;
let there: Server;
beforeAll(async () => {
  [here, there] = [await startServer(), await startServer()];
}, 60_000);
afterAll(async () => {
  await here.close();
  await there.close();
});

const UNKNOWN = { 'x-house': { note: 'größer “quoted” \\ ', list: [1, null, 'a'] } };

/** Puts fields that Gezeit does not know into everything that a bundle describes. */
function withUnknownFields(description: Record<string, unknown>): void {
  const into = (thing: unknown) => {
    if (Array.isArray(thing)) for (const entry of thing) into(entry);
    else if (typeof thing === 'object' && thing !== null) Object.assign(thing, UNKNOWN);
  };
  for (const key of ['programme', 'vehicle', 'cell', 'cells', 'setups', 'pulls', 'plan', 'days', 'condition']) into(description[key]);
  Object.assign(description, UNKNOWN);
}

async function imported(server: Server, files: ReadonlyMap<string, Uint8Array>): Promise<string> {
  const outcome = await importAll(server.address, files);
  if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
  return outcome.programmeId;
}
const view = async (server: Server, id: string): Promise<ProgrammeView> =>
  programmeViewSchema.parse(await (await fetch(`${server.address}api/programmes/${id}`)).json());
const zip = async (server: Server, id: string) =>
  new Map(Object.entries(unzipSync(new Uint8Array(await (await fetch(`${server.address}api/programmes/${id}/bundle`)).arrayBuffer()))));

/** Does to a programme whatever can be done to one. */
async function doEverythingTo(id: string): Promise<void> {
  const { bundle, logs } = await view(here, id);
  let now = bundle;
  const ask = async (method: string, path: string, body: unknown) => {
    const response = await fetch(`${here.address}api/programmes/${id}${path}`, {
      method,
      headers: { ...PERSON, 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
    if (!response.ok) throw new Error(`${path}: ${await response.text()}`);
    now = programmeChangedSchema.parse(await response.json()).bundle;
  };
  const edit = async (part: EditablePart, change: (value: never) => unknown) => {
    const before = part === 'cells' ? (now.cells ?? [now.cell]) : (now[part as keyof typeof now] ?? null);
    return ask('PATCH', '', { part, before, value: change(structuredClone(before) as never), what: part });
  };
  const [setup] = bundle.setups;
  const device = logs[0]?.device ?? 'daq';
  const column = logs[0]?.columns.find(({ quantity }) => quantity === 'intakeAirTemperature')?.name ?? 'Intake air temperature [°C]';
  await edit('assumptions', (value: object | null) => ({ ...value, roadMass: 0.05 }));
  await edit('channels', (value: Record<string, object> | null) => ({
    ...value,
    [device]: { ...value?.[device], [column]: { factor: 1.01, offset: -0.2, from: '2026-01-01', to: '2026-12-31' } },
  }));
  await edit('traceViews', () => [{ name: 'Heat', pulls: ['p02'], channels: [], formulas: [], axis: 'time', against: null, less: null }]);
  await edit('condition', () => [{ item: 'leaks', state: 'good', note: 'at 1.5 bar', by: 'TS', at: '2026-03-01T08:00:00Z' }]);
  await edit('programme', (value: object) => ({
    ...value,
    claims: [{ id: 'c1', text: 'Up to 4 kW', by: 'the maker', setup: setup!.id, quantity: 'power', value: 4, unit: 'kW' }],
    expected: { lowPct: 0.5, highPct: 3, by: 'TS', at: '2026-02-01T08:00:00Z' },
  }));
  await edit('vehicle', (value: object) => ({ ...value, massKg: 1320 }));
  await edit('cells', (cells: object[]) => cells.map((cell) => ({ ...cell, note: 'door open' })));
  if (bundle.pulls.length > 2) {
    const [, second, third] = bundle.pulls;
    await ask('PATCH', `/pulls/${second!.id}`, { excluded: 'smoke seen' });
    await ask('PATCH', `/pulls/${third!.id}`, { excluded: false });
    await ask('POST', `/pulls/${third!.id}/amendments`, {
      why: 'read from the wall',
      weather: { temperatureC: 21.5, pressureKPa: 98.7, relativeHumidityPct: 40 },
    });
    const aligned = bundle.pulls.find((pull) => pull.logs.length > 1);
    if (aligned) await ask('PATCH', `/pulls/${aligned.id}/alignment`, { file: aligned.logs[1]!.file, offsetS: 1.25 });
  }
  await ask('POST', '/evidence', evidenceOfTest('kept'));
  await ask('POST', '/evidence', evidenceOfTest('taken-away'));
  await ask('DELETE', '/evidence/taken-away', undefined);
  for (const [name, bytes] of [
    ['a photo of the duct.png', Uint8Array.from([137, 80, 78, 71, 13, 10, 26, 10, 0, 255])],
    ['notes.txt', new TextEncoder().encode('größer\r\nund länger\n')],
    ['empty.bin', new Uint8Array()],
  ] as const) {
    const form = new FormData();
    form.append('file', new Blob([bytes]), name);
    const response = await fetch(`${here.address}api/programmes/${id}/attachments`, { method: 'POST', headers: PERSON, body: form });
    if (!response.ok) throw new Error(`${name}: ${await response.text()}`);
  }
  if (bundle.pulls.length > 0) {
    await ask('POST', '/fixed', { why: 'for the release' });
    await ask('POST', '/fixed', { why: 'once more' });
    await ask('DELETE', '/fixed/fixed-1', undefined);
  }
}

describe.each(readdirSync(DEMO_BUNDLES))('the bundle of %s with everything done to it', (folder) => {
  it('imports elsewhere unchanged: byte for byte, file for file, and says the same', { timeout: 120_000 }, async () => {
    const files = filesOf(`${DEMO_BUNDLES}/${folder}`);
    const description = JSON.parse(files.get('gezeit.json')!.toString()) as Record<string, unknown>;
    withUnknownFields(description);
    const id = await imported(here, new Map(files).set('gezeit.json', Buffer.from(JSON.stringify(description))));
    await doEverythingTo(id);
    const out = await zip(here, id);
    expect([...out.keys()]).toEqual(expect.arrayContaining(['gezeit.json', 'evidence/kept.json', 'attachments/notes.txt']));
    const again = await imported(there, out);
    const back = await zip(there, again);
    expect([...back.keys()].sort()).toEqual([...out.keys()].sort());
    for (const [file, bytes] of out) expect(Buffer.from(back.get(file)!).equals(Buffer.from(bytes)), file).toBe(true);
    // Nothing that was known is left behind on the way out either.
    const [first, second] = [await view(here, id), await view(there, again)];
    const text = Buffer.from(out.get('gezeit.json')!).toString();
    expect(text.split('"x-house"').length).toBeGreaterThanOrEqual(
      3 + (description['setups'] as []).length + (description['pulls'] as []).length,
    );
    expect(second.bundle).toEqual(first.bundle);
    expect(second.findings).toEqual(first.findings);
    expect(second.evidence).toEqual(first.evidence);
    expect(second.fixed.map(({ id: key, digest, changed }) => [key, digest, changed])).toEqual(
      first.fixed.map(({ id: key, digest, changed }) => [key, digest, changed]),
    );
    expect(await importAll(there.address, out)).toEqual({ kind: 'opened', programmeId: again });
  });
});
