import { strFromU8, unzipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  apiErrorSchema,
  boardSchema,
  LIMITS,
  partsSchema,
  programmeChangedSchema,
  programmeViewSchema,
  searchSchema,
  vehicleEntrySchema,
  z,
  type EditablePart,
  type ProgrammeView,
  type Setup,
} from '@gezeit/contract';
import { DEMO_BUNDLES, evidenceOfTest, filesOf, importAll, PERSON, startServer } from './support.js';

let server: Awaited<ReturnType<typeof startServer>>;
beforeAll(async () => {
  server = await startServer();
}, 60_000);
afterAll(() => server.close());

async function call(method: string, path: string, body?: unknown): Promise<{ status: number; body: unknown }> {
  const init: RequestInit = { method, headers: { ...PERSON, 'content-type': 'application/json' } };
  if (body !== undefined) init.body = JSON.stringify(body);
  const response = await fetch(`${server.address}${path}`, init);
  return { status: response.status, body: await response.json() };
}
const view = async (id: string) => programmeViewSchema.parse((await call('GET', `api/programmes/${id}`)).body);
/** What a change leaves, with the logs that no change touches; it is what the programme says when it is asked. */
async function left({ id, logs }: ProgrammeView, body: unknown): Promise<ProgrammeView> {
  const changed = programmeChangedSchema.parse(body);
  const now = await view(id);
  expect(now).toEqual({ ...changed, logs });
  return now;
}
const create = async (title: string, more: object = {}) =>
  z.object({ id: z.string() }).parse((await call('POST', 'api/programmes', { title, ...more })).body).id;

async function edit(open: ProgrammeView, part: EditablePart, before: unknown, value: unknown, what = 'changed'): Promise<ProgrammeView> {
  const { status, body } = await call('PATCH', `api/programmes/${open.id}`, { part, before, value, what });
  if (status !== 200) throw new Error(JSON.stringify(body));
  return left(open, body);
}
const editSetups = (open: ProgrammeView, value: Setup[], what?: string) => edit(open, 'setups', open.bundle.setups, value, what);

async function importDemo(title: string): Promise<ProgrammeView> {
  const files = filesOf(`${DEMO_BUNDLES}/water-cooler-and-fuel`);
  const description = JSON.parse(files.get('gezeit.json')!.toString()) as { programme: { title: string } };
  description.programme.title = title;
  const outcome = await importAll(server.address, new Map(files).set('gezeit.json', Buffer.from(JSON.stringify(description))));
  if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
  return view(outcome.programmeId);
}

describe('a programme begun in the application', () => {
  it('is a draft that names everything a later step needs, and loses its gaps as it is filled', async () => {
    const open = await view(await create('Begun'));
    expect(open.gaps.map(({ field }) => field)).toEqual(
      expect.arrayContaining(['question', 'bandRpm', 'vehicle.displacementL', 'cell.name', 'condition']),
    );
    let filled = await edit(open, 'programme', open.bundle.programme, {
      ...open.bundle.programme,
      question: 'Does it gain?',
      unanswered: [],
    });
    filled = await edit(filled, 'vehicle', filled.bundle.vehicle, {
      ...filled.bundle.vehicle,
      name: 'Zwartbles estate',
      displacementL: 1.9,
    });
    filled = await edit(filled, 'cells', filled.bundle.cells, [{ ...filled.bundle.cells![0]!, name: 'Föhn cell' }]);
    filled = await editSetups(filled, [{ ...filled.bundle.setups[0]!, parts: ['stock box'] }, filled.bundle.setups[1]!]);
    expect(filled.gaps.map(({ field }) => field)).toEqual(['condition']);
    const board = boardSchema.parse((await call('GET', 'api/programmes')).body);
    expect(board.programmes.find(({ id }) => id === open.id)!.gaps).toHaveLength(1);
  });

  it('is judged anew with assumptions that were changed, exported with them, and as before when that is undone', async () => {
    const open = await importDemo('Other assumptions');
    const half = ({ findings }: ProgrammeView) => (findings.comparisons[0]!.levelled!.high - findings.comparisons[0]!.levelled!.low) / 2;
    const changed = await edit(open, 'assumptions', null, { noise: 0.02 }, 'noise of one pull 2');
    expect(half(changed)).toBeGreaterThan(1.2 * half(open));
    expect(changed.assumptions.find(({ name }) => name === 'noise of one pull')!.fields[0]!.value).toBe(2);
    expect(
      (await call('PATCH', `api/programmes/${open.id}`, { part: 'assumptions', before: { noise: 0.02 }, value: { noise: 7 }, what: 'x' }))
        .status,
    ).toBe(400);
    const zip = new Uint8Array(await (await fetch(`${server.address}api/programmes/${open.id}/bundle`)).arrayBuffer());
    const description = Object.entries(unzipSync(zip)).find(([name]) => name.endsWith('gezeit.json'))![1];
    expect((JSON.parse(strFromU8(description)) as { assumptions: unknown }).assumptions).toEqual({ noise: 0.02 });
    const undone = await left(open, (await call('POST', `api/programmes/${open.id}/undo`, {})).body);
    expect(half(undone)).toBe(half(open));
  });

  it('refuses what would not be a bundle any more, and keeps what was there', async () => {
    const open = await view(await create('Refusing'));
    for (const [part, value] of [
      ['programme', { ...open.bundle.programme, bandRpm: [6000, 4000] }],
      ['programme', { ...open.bundle.programme, comparisons: [['A', 'Z']] }],
      ['setups', []],
      ['setups', [open.bundle.setups[0], open.bundle.setups[0]]],
      ['vehicle', { ...open.bundle.vehicle, displacementL: -2 }],
    ] as const) {
      const before = open.bundle[part];
      const { status, body } = await call('PATCH', `api/programmes/${open.id}`, { part, before, value, what: 'nonsense' });
      expect(status).toBe(400);
      expect(apiErrorSchema.parse(body).error.nextStep.length).toBeGreaterThan(5);
    }
    expect(await view(open.id)).toEqual(open);
  });

  it('refuses a change that another window overtook, and shows it as it is', async () => {
    const open = await view(await create('Two windows'));
    await edit(open, 'programme', open.bundle.programme, { ...open.bundle.programme, question: 'first' });
    const value = { ...open.bundle.programme, question: 'second' };
    const late = await call('PATCH', `api/programmes/${open.id}`, {
      part: 'programme',
      before: open.bundle.programme,
      value,
      what: 'late',
    });
    expect(late.status).toBe(409);
    expect(apiErrorSchema.parse(late.body).error.code).toBe('changed-meanwhile');
    expect((await view(open.id)).bundle.programme.question).toBe('first');
  });

  it('undoes change after change, back to the draft', async () => {
    const open = await view(await create('Undone'));
    let now = await editSetups(open, [...open.bundle.setups, { id: 'C', name: 'Third', parts: [], state: {} }], 'setup C added');
    now = await edit(now, 'vehicle', now.bundle.vehicle, { ...now.bundle.vehicle, name: 'Drenthe coupé', displacementL: 2 });
    now = await edit(now, 'bench', null, { inputs: { 'air-demand': { engineSpeed: 6000 } }, budgetRpm: 6000 });
    now = await edit(now, 'condition', null, [{ item: 'filter', state: 'good', note: 'new', by: 'TS', at: '2026-01-01T10:00:00Z' }]);
    expect(now.changes.slice(0, 4).map(({ subject }) => subject)).toContain('setup C added');
    for (let i = 0; i < 4; i++) now = await left(open, (await call('POST', `api/programmes/${open.id}/undo`, {})).body);
    expect(now.bundle).toEqual(open.bundle);
    expect((await call('POST', `api/programmes/${open.id}/undo`, {})).status).toBe(409);
  });

  it('is put away and brought back', async () => {
    const id = await create('Put away');
    const archived = async (value: boolean) =>
      boardSchema
        .parse((await call('POST', `api/programmes/${id}/archived`, { archived: value })).body)
        .programmes.find((entry) => entry.id === id)!.archived;
    expect(await archived(true)).toBe(true);
    await call('POST', `api/programmes/${id}/undo`, {});
    expect(boardSchema.parse((await call('GET', 'api/programmes')).body).programmes.find((entry) => entry.id === id)!.archived).toBe(false);
  });
});

describe('cars and cells', () => {
  it('are shared: a change in one programme is there in the other, and an undo does not undo the other one’s', async () => {
    const vehicleId = z
      .object({ id: z.string() })
      .parse((await call('POST', 'api/vehicles', { name: 'Texel van', aspiration: 'turbo' })).body).id;
    const cellId = z.object({ id: z.string() }).parse((await call('POST', 'api/cells', { name: 'Levanter cell', powerAt: 'hub' })).body).id;
    const ids = [await create('Shared one', { vehicleId, cellId }), await create('Shared two', { vehicleId, cellId })];
    const [first, second] = [await view(ids[0]!), await view(ids[1]!)];
    expect(first.vehicleSharedBy.map(({ title }) => title)).toEqual(['Shared two']);
    expect(first.cellsSharedBy.map(({ title }) => title)).toEqual(['Shared two']);
    await edit(first, 'vehicle', first.bundle.vehicle, { ...first.bundle.vehicle, displacementL: 1.6 });
    const other = await view(second.id);
    expect(other.bundle.vehicle.displacementL).toBe(1.6);
    await edit(other, 'cells', other.bundle.cells, [{ ...other.bundle.cells![0]!, repeatabilityPct: 0.5 }]);
    expect((await view(first.id)).bundle.cells![0]!.repeatabilityPct).toBe(0.5);
    await edit(other, 'vehicle', other.bundle.vehicle, { ...other.bundle.vehicle, displacementL: 1.8 });
    const undo = await call('POST', `api/programmes/${first.id}/undo`, {});
    expect(undo.status).toBe(409);
    expect(apiErrorSchema.parse(undo.body).error.message).toContain('another programme');
  });

  it('are chosen for a programme and taken back', async () => {
    const open = await view(await create('Choosing'));
    const [entry] = z.array(vehicleEntrySchema).parse((await call('GET', 'api/vehicles')).body);
    const chosen = await edit(open, 'vehicleId', open.vehicleId, entry!.id);
    expect(chosen.bundle.vehicle.name).toBe(entry!.vehicle.name);
    const cellId = z.object({ id: z.string() }).parse((await call('POST', 'api/cells', { name: 'Second cell' })).body).id;
    const two = await edit(chosen, 'cellIds', chosen.cellIds, [...chosen.cellIds, cellId]);
    expect(two.bundle.cells!.map(({ id }) => id)).toEqual(['c1', 'c2']);
    for (let i = 0; i < 2; i++) await call('POST', `api/programmes/${open.id}/undo`, {});
    expect((await view(open.id)).bundle).toEqual(open.bundle);
    expect(
      (await call('PATCH', `api/programmes/${open.id}`, { part: 'vehicleId', before: open.vehicleId, value: 'none', what: 'x' })).status,
    ).toBe(404);
  });

  it('of two drafts are two cars', async () => {
    const [first, second] = [await view(await create('Draft one')), await view(await create('Draft two'))];
    await edit(first, 'vehicle', first.bundle.vehicle, { ...first.bundle.vehicle, name: 'Gute roadster' });
    expect((await view(second.id)).bundle.vehicle.name).not.toBe('Gute roadster');
  });
});

describe('a programme with results', () => {
  it('marks questions, claims and setups that came afterwards, whatever the page says', async () => {
    const open = await importDemo('Afterwards');
    const question = { id: 'q9', kind: 'power-no-loss' as const, smallest: 1, unit: 'pct' as const, afterwards: false };
    const asked = await edit(open, 'programme', open.bundle.programme, {
      ...open.bundle.programme,
      questions: [...open.bundle.programme.questions!, question],
      claims: [{ id: 'c1', text: '+2 kW' }],
    });
    expect(asked.bundle.programme.questions!.map(({ afterwards }) => afterwards ?? false)).toEqual([false, false, true]);
    expect(asked.bundle.programme.claims![0]!.afterwards).toBe(true);
    const added = await editSetups(asked, [...asked.bundle.setups, { id: 'C', name: 'Late', parts: ['late part'], state: {} }]);
    expect(added.bundle.setups.map(({ afterwards }) => afterwards ?? false)).toEqual([false, false, true]);
  });

  it('lists which terms were changed after the results, says so beside the answers, and forgets it where that is undone', async () => {
    const open = await importDemo('Terms changed');
    const { programme } = open.bundle;
    const [first, ...rest] = programme.questions!;
    const changed = await edit(open, 'programme', programme, {
      ...programme,
      bandRpm: [programme.bandRpm[0] + 200, programme.bandRpm[1]],
      changedAfterwards: [],
      questions: [{ ...first!, smallest: 3 }, ...rest],
    });
    expect(changed.bundle.programme.changedAfterwards!.map(({ what, question, by }) => [what, question ?? null, by])).toEqual([
      ['bandRpm', null, 'TS Test Suite'],
      ['smallest', first!.id, 'TS Test Suite'],
    ]);
    const notes = changed.findings.comparisons[0]!.notes.join(' ');
    expect(notes).toMatch(/Changed after results had been seen: the band\./);
    expect(notes).toContain(`Changed after results had been seen: the limit of question ${first!.id}.`);
    // Nothing that a page sends takes it off the list; the undo does.
    const cleared = await edit(changed, 'programme', changed.bundle.programme, {
      ...changed.bundle.programme,
      question: 'Asked anew?',
      changedAfterwards: null,
    });
    expect(cleared.bundle.programme.changedAfterwards).toHaveLength(2);
    await call('POST', `api/programmes/${open.id}/undo`, {});
    const undone = await left(open, (await call('POST', `api/programmes/${open.id}/undo`, {})).body);
    expect(undone.bundle.programme.changedAfterwards ?? []).toEqual([]);
    expect(undone.findings.comparisons[0]!.notes.join(' ')).not.toContain('after results');
  });

  it('corrects a pull that came with a bundle, with who and why; the log stays, and the undo brings it back', async () => {
    const open = await importDemo('Corrected pull');
    const measured = open.bundle.pulls.find(({ kind }) => kind === 'measured')!;
    const { status, body } = await call('POST', `api/programmes/${open.id}/pulls/${measured.id}/amendments`, {
      why: 'it was a warm-up',
      pullKind: 'conditioning',
    });
    expect(status).toBe(200);
    const corrected = await left(open, body);
    const pull = corrected.bundle.pulls.find(({ id }) => id === measured.id)!;
    expect(pull).toMatchObject({ kind: 'conditioning', logs: measured.logs, amended: [{ what: 'kind', why: 'it was a warm-up' }] });
    expect(corrected.findings.pulls.find(({ id }) => id === measured.id)!.reasons).toEqual(['conditioning']);
    expect(corrected.findings.comparisons[0]!.notes.join(' ')).toContain(`Corrected after they were driven: ${measured.id}.`);
    const undone = await left(open, (await call('POST', `api/programmes/${open.id}/undo`, {})).body);
    expect(undone.findings).toEqual(open.findings);
    expect(undone.bundle.pulls.find(({ id }) => id === measured.id)).toMatchObject({ kind: 'measured' });
  });

  it('keeps a setup that has pulls; archived it is compared no more', async () => {
    const open = await importDemo('Archived setup');
    const gone = await call('PATCH', `api/programmes/${open.id}`, {
      part: 'setups',
      before: open.bundle.setups,
      value: [open.bundle.setups[0]],
      what: 'B removed',
    });
    expect(apiErrorSchema.parse(gone.body).error.code).toBe('setup-has-pulls');
    const [a, b] = open.bundle.setups as [Setup, Setup];
    expect((await editSetups(open, [a, { ...b, archived: true }])).findings.comparisons).toEqual([]);
  });

  it('is not judged anew for what the judgement does not read', async () => {
    const open = await importDemo('Not judged anew');
    const section = {
      id: 's1',
      kind: 'duct' as const,
      name: 'duct',
      geometry: {},
      findings: [],
      purposes: [],
      source: 'geometry' as const,
    };
    const started = performance.now();
    const now = await editSetups(open, [{ ...open.bundle.setups[0]!, path: [section] }, open.bundle.setups[1]!]);
    expect(now.findings).toEqual(open.findings);
    expect(performance.now() - started).toBeLessThan(1500);
  });

  it('is repeated: setups and plan copied, no pulls, the old answers beside', async () => {
    const open = await importDemo('To repeat');
    const { id } = z.object({ id: z.string() }).parse((await call('POST', `api/programmes/${open.id}/revalidations`, {})).body);
    const next = await view(id);
    expect(next.bundle.pulls).toEqual([]);
    expect(next.vehicleId).toBe(open.vehicleId);
    expect(next.cellIds).toEqual(open.cellIds);
    expect(next.bundle.setups.map(({ parts }) => parts)).toEqual(open.bundle.setups.map(({ parts }) => parts));
    expect(next.bundle.programme.revalidates).toMatchObject({
      programme: open.id,
      title: 'To repeat',
      answers: [{ candidate: 'B', power: 'withheld' }],
    });
    const entry = boardSchema.parse((await call('GET', 'api/programmes')).body).programmes.find((row) => row.id === id)!;
    expect(entry.earlierAnswers[0]!.estimate).toBe(open.findings.comparisons[0]!.levelled!.pct);
  });
});

describe('evidence and attachments', () => {
  async function attach(id: string, name: string, content: string | Uint8Array): Promise<string> {
    const form = new FormData();
    form.append('file', new Blob([typeof content === 'string' ? content : new Uint8Array(content)]), name);
    const response = await fetch(`${server.address}api/programmes/${id}/attachments`, { method: 'POST', headers: PERSON, body: form });
    return z.object({ id: z.string() }).parse(await response.json()).id;
  }
  const zipOf = async (id: string) =>
    unzipSync(new Uint8Array(await (await fetch(`${server.address}api/programmes/${id}/bundle`)).arrayBuffer()));

  it('are as many as still leave as one bundle at once: more are refused, and make room again when they are taken away', async () => {
    const id = await create('Many files');
    const names = Array.from({ length: LIMITS.attachments }, () => 'same.txt');
    const attaching = performance.now();
    for (let at = 0; at < names.length; at += 50) await Promise.all(names.slice(at, at + 50).map((name) => attach(id, name, name)));
    const attached = performance.now() - attaching;
    expect((await view(id)).attachments).toHaveLength(LIMITS.attachments);
    const form = new FormData();
    form.append('file', new Blob(['one more']), 'one more.txt');
    const refused = await fetch(`${server.address}api/programmes/${id}/attachments`, { method: 'POST', headers: PERSON, body: form });
    expect(refused.status).toBe(409);
    expect(apiErrorSchema.parse(await refused.json()).error).toMatchObject({
      code: 'too-many',
      message: expect.stringContaining(`${LIMITS.attachments} attached files`),
    });
    const began = performance.now();
    expect(Object.keys(await zipOf(id))).toHaveLength(LIMITS.attachments + 1);
    // Against what the same machine took to take them in, however busy it is.
    expect(performance.now() - began).toBeLessThan(attached);
    await call('DELETE', `api/programmes/${id}/attachments?file=attachments/same-7.txt`);
    expect(await attach(id, 'one more.txt', 'one more')).toBe('attachments/one-more.txt');
  });

  it('go out with the bundle and come back equal', async () => {
    const id = await create('Evidence out and in');
    await call('POST', `api/programmes/${id}/evidence`, evidenceOfTest('e1'));
    await call('POST', `api/programmes/${id}/evidence`, evidenceOfTest('e2'));
    const photo = await attach(id, 'drain in the snorkel.PNG', Uint8Array.from([137, 80, 78, 71, 0, 255, 3]));
    expect(photo).toBe('attachments/drain-in-the-snorkel.PNG');
    expect(await attach(id, 'drain in the snorkel.PNG', 'another')).toBe('attachments/drain-in-the-snorkel-2.PNG');
    const out = await zipOf(id);
    expect(Object.keys(out)).toEqual(expect.arrayContaining(['evidence/e1.json', 'evidence/e2.json', photo]));
    const description = JSON.parse(strFromU8(out['gezeit.json']!)) as { programme: { title: string } };
    description.programme.title = 'Came back';
    const files = new Map(Object.entries(out)).set('gezeit.json', Buffer.from(`${JSON.stringify(description, null, 2)}\n`));
    files.set('findings/fixed.json', Buffer.from('{"any": "thing"}')).set('evidence/odd.json', Buffer.from('{'));
    const outcome = await importAll(server.address, files);
    if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
    expect(outcome.notes.join()).toContain('evidence/odd.json');
    const back = await view(outcome.programmeId);
    expect(back.evidence).toEqual((await view(id)).evidence);
    const again = await zipOf(outcome.programmeId);
    expect(Object.keys(again).sort()).toEqual([...files.keys()].sort());
    for (const [file, bytes] of files)
      if (!file.startsWith('evidence/e') && file !== 'gezeit.json')
        expect(Buffer.from(again[file]!).equals(Buffer.from(bytes)), file).toBe(true);
    const read = await fetch(`${server.address}api/programmes/${id}/attachments?file=${encodeURIComponent(photo)}`);
    expect(read.headers.get('content-type')).toBe('image/png');
    expect((await read.arrayBuffer()).byteLength).toBe(7);
  });

  it('are taken away and brought back by undo', async () => {
    const id = await create('Evidence undone');
    await call('POST', `api/programmes/${id}/evidence`, evidenceOfTest('e1'));
    expect((await call('POST', `api/programmes/${id}/evidence`, evidenceOfTest('e1'))).status).toBe(409);
    const file = await attach(id, 'sheet.csv', 'a,b');
    await call('DELETE', `api/programmes/${id}/evidence/e1`);
    await call('DELETE', `api/programmes/${id}/attachments?file=${file}`);
    expect(await view(id)).toMatchObject({ evidence: [], attachments: [] });
    for (let i = 0; i < 2; i++) await call('POST', `api/programmes/${id}/undo`, {});
    expect(await view(id)).toMatchObject({ evidence: [{ id: 'e1' }], attachments: [{ file }] });
    for (let i = 0; i < 2; i++) await call('POST', `api/programmes/${id}/undo`, {});
    expect(await view(id)).toMatchObject({ evidence: [], attachments: [] });
  });
});

describe('the library', () => {
  it('lists a part’s revisions in line, each specimen with its cars, pulls and distance', async () => {
    const open = await importDemo('Specimens');
    const [a, b] = open.bundle.setups as [Setup, Setup];
    const detail = {
      part: b.parts[0]!,
      line: 'water-cooled core',
      revision: '2',
      follows: '1',
      stage: 'production' as const,
      serial: 'WC-0007',
      material: 'aluminium',
    };
    const first = {
      part: 'water-cooled core, revision 1',
      line: 'water-cooled core',
      revision: '1',
      stage: 'printed-prototype' as const,
      serial: 'WC-0001',
    };
    const now = await editSetups(open, [
      { ...a, partDetails: [] },
      { ...b, partDetails: [detail, first] },
    ]);
    const day = open.bundle.pulls[0]!.startedAt.slice(0, 10);
    await edit(now, 'days', null, [
      { day, odometerKm: 41_200 },
      { day: '2026-06-20', odometerKm: 41_900 },
    ]);
    const { parts } = partsSchema.parse((await call('GET', 'api/parts')).body);
    const line = parts.find((entry) => entry.line === 'water-cooled core')!;
    expect(line.revisions.map(({ revision }) => revision)).toEqual(['1', '2']);
    expect(line.revisions[1]!.specimens[0]).toMatchObject({ serial: 'WC-0007', cars: [open.bundle.vehicle.name], distanceKm: null });
    expect(line.revisions[1]!.specimens[0]!.pulls).toBe(open.bundle.pulls.filter(({ setup }) => setup === 'B').length);
  });

  it('finds programmes, parts, files and notes', async () => {
    const open = await importDemo('Needle in the haystack');
    await call('POST', `api/programmes/${open.id}/evidence`, { ...evidenceOfTest('n1'), note: 'whistles at six thousand' });
    const search = async (q: string) => searchSchema.parse((await call('GET', `api/search?q=${encodeURIComponent(q)}`)).body).hits;
    expect(await search('needle HAYSTACK')).toMatchObject([{ kind: 'programme', programmeId: open.id }]);
    expect((await search('water-cooled core')).some(({ kind }) => kind === 'part')).toBe(true);
    expect((await search('p03-dyno')).every(({ kind }) => kind === 'file')).toBe(true);
    expect(await search('whistles')).toMatchObject([{ kind: 'note', step: 'bench' }]);
    expect(await search('nothing of the kind')).toEqual([]);
    expect(await search('  ')).toEqual([]);
  });
});

it('changes that come at the same moment wait for each other, also while a day is being judged', async () => {
  const open = await importDemo('All at once');
  const judged = fetch(`${server.address}api/programmes/${open.id}/curves`);
  const kept = await Promise.all(
    Array.from({ length: 12 }, async (_, i) => {
      const [evidence, begun] = await Promise.all([
        call('POST', `api/programmes/${open.id}/evidence`, evidenceOfTest(`many-${i}`)),
        call('POST', 'api/programmes', { title: `begun ${i}` }),
      ]);
      return [evidence.status, begun.status];
    }),
  );
  expect((await judged).status).toBe(200);
  expect(new Set(kept.flat())).toEqual(new Set([200, 201]));
  expect((await view(open.id)).evidence).toHaveLength(12);
});
