import canonicalize from 'canonicalize';
import { unzipSync } from 'fflate';
import {
  apiErrorSchema,
  boardSchema,
  checkedAgainSchema,
  choicesSchema,
  fixedAnswerSchema,
  LIMITS,
  programmeChangedSchema,
  sheetSourceSchema,
  type ProgrammeChanged,
  type SheetSource,
} from '@gezeit/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sha256 } from '../src/bundle/sha256.js';
import { DEMO_BUNDLES, evidenceOfTest, filesOf, importAll, PERSON, startServer } from './support.js';

let server: Awaited<ReturnType<typeof startServer>>;
let id: string;

async function ask(path: string, method = 'GET', body?: unknown): Promise<{ status: number; body: unknown }> {
  const response = await fetch(`${server.address}api/programmes/${path}`, {
    method,
    headers: { ...PERSON, 'content-type': 'application/json' },
    body: body === undefined ? undefined : JSON.stringify(body),
  });
  return { status: response.status, body: await response.json() };
}
const changed = async (path: string, method: string, body?: unknown): Promise<ProgrammeChanged> =>
  programmeChangedSchema.parse((await ask(path, method, body)).body);
const view = async () => programmeChangedSchema.parse((await ask(id)).body);
const onBoard = async () => boardSchema.parse((await ask('')).body).programmes.find((entry) => entry.id === id)!.fixed;

beforeAll(async () => {
  server = await startServer();
  const outcome = await importAll(server.address, filesOf(`${DEMO_BUNDLES}/sealed-airbox`));
  if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
  id = outcome.programmeId;
}, 60_000);
afterAll(() => server.close());

describe('a fixed finding', () => {
  it('holds who, when, why, numbers, words, assumptions, and a digest of everything that it was made from', async () => {
    const { fixed: list, findings, bundle } = await changed(`${id}/fixed`, 'POST', { why: 'for the release' });
    expect(list).toHaveLength(1);
    expect(list[0]).toMatchObject({ id: 'fixed-1', by: 'TS Test Suite', why: 'for the release', changed: [] });
    const { fixed } = fixedAnswerSchema.parse((await ask(`${id}/fixed/fixed-1`)).body);
    expect(fixed.finding.comparisons.map(({ levelled }) => levelled)).toEqual(findings.comparisons.map(({ levelled }) => levelled));
    expect(fixed.words[0]).toContain('gains');
    expect(Object.keys(fixed.inputs)).toEqual(
      expect.arrayContaining(['gezeit.json#programme', 'gezeit.json#pulls', 'gezeit.json#cells', bundle.pulls[0]!.logs[0]!.file]),
    );
    for (const digest of Object.values(fixed.inputs)) expect(digest).toMatch(/^[0-9a-f]{64}$/);
    expect(fixed.finding.comparisons[0]!.leansOn).not.toBeNull();
    expect(await onBoard()).toEqual({ count: 1, outOfDate: 0 });
  });

  it('gives the same again to six figures, computed and not looked up', async () => {
    expect(checkedAgainSchema.parse((await ask(`${id}/fixed/fixed-1/check`)).body)).toEqual({
      sameInputs: true,
      sameMethod: true,
      differing: [],
    });
  });

  it('goes out of date with its inputs, says which, keeps its figures, and is up to date again when they are', async () => {
    const { fixed: before } = fixedAnswerSchema.parse((await ask(`${id}/fixed/fixed-1`)).body);
    const out = await changed(`${id}/pulls/p03`, 'PATCH', { excluded: 'a belt slipped' });
    expect(out.fixed[0]!.changed).toEqual(['gezeit.json#pulls']);
    expect(await onBoard()).toEqual({ count: 1, outOfDate: 1 });
    const { fixed, entry } = fixedAnswerSchema.parse((await ask(`${id}/fixed/fixed-1`)).body);
    expect(fixed).toEqual(before);
    const { fixed: raw } = (await ask(`${id}/fixed/fixed-1`)).body as { fixed: object };
    expect(entry.digest).toBe(sha256(canonicalize(raw)!));
    const checked = checkedAgainSchema.parse((await ask(`${id}/fixed/fixed-1/check`)).body);
    expect(checked.sameInputs).toBe(false);
    expect(checked.differing.map(({ where }) => where)).toContain('B against A, levelled');
    expect((await changed(`${id}/undo`, 'POST', {})).fixed[0]!.changed).toEqual([]);
    const kept = await changed(`${id}/evidence`, 'POST', evidenceOfTest('later'));
    expect(kept.fixed[0]!.changed).toEqual(['evidence/later.json']);
    expect((await changed(`${id}/undo`, 'POST', {})).fixed[0]!.changed).toEqual([]);
  });

  it('keeps what the bench had found: what is found or taken away later is not on its sheet', async () => {
    const fixedSheet = async (key: string) => fixedAnswerSchema.parse((await ask(`${id}/fixed/${key}`)).body).fixed.sheet.evidence;
    await changed(`${id}/evidence`, 'POST', evidenceOfTest('before'));
    await changed(`${id}/fixed`, 'POST', { why: 'with the bench' });
    await changed(`${id}/evidence/before`, 'DELETE');
    await changed(`${id}/evidence`, 'POST', evidenceOfTest('after'));
    const namesOf = (evidence: SheetSource['evidence']) => evidence!.map((entry) => entry.id);
    const shipped = namesOf(await fixedSheet('fixed-1'));
    expect(shipped.length).toBeGreaterThan(0);
    expect(namesOf(await fixedSheet('fixed-2'))).toEqual([...shipped, 'before']);
    const now = sheetSourceSchema.parse((await ask(`${id}/sheet`)).body);
    expect(namesOf(now.evidence)).toEqual([...shipped, 'after']);
    for (let i = 0; i < 4; i += 1) await changed(`${id}/undo`, 'POST', {});
    expect((await view()).fixed.map((entry) => entry.id)).toEqual(['fixed-1']);
  });

  it('is not touched by what nothing is judged from', async () => {
    const { bundle } = await view();
    const traceViews = [{ name: 'x', pulls: [], channels: [], formulas: [], axis: 'time', against: null, less: null }];
    const looked = await changed(id, 'PATCH', { part: 'traceViews', before: bundle.traceViews ?? null, value: traceViews, what: 'a view' });
    expect(looked.fixed[0]!.changed).toEqual([]);
    await changed(`${id}/undo`, 'POST', {});
  });

  it('is taken away and brought back, needs a reason, and is asked for by its name alone', async () => {
    expect((await changed(`${id}/fixed/fixed-1`, 'DELETE')).fixed).toEqual([]);
    expect((await ask(`${id}/fixed/fixed-1`)).status).toBe(404);
    expect((await changed(`${id}/undo`, 'POST', {})).fixed).toHaveLength(1);
    for (const why of ['', '   ', 'x'.repeat(301)]) expect((await ask(`${id}/fixed`, 'POST', { why })).status).toBe(400);
    for (const path of [`${id}/fixed/none`, `${id}/fixed/none/check`, `none/fixed/fixed-1`]) {
      const { status, body } = await ask(path);
      expect(status).toBe(404);
      expect(apiErrorSchema.parse(body).error.code).toBe('not-found');
    }
  });

  it('goes out in a bundle, comes back byte for byte, and is out of date there only where something differs', async () => {
    const zip = async (programme: string) =>
      unzipSync(new Uint8Array(await (await fetch(`${server.address}api/programmes/${programme}/bundle`)).arrayBuffer()));
    const first = await zip(id);
    expect(Object.keys(first)).toContain('findings/fixed-1.json');
    const files = new Map(Object.entries(first).map(([name, bytes]) => [name, Buffer.from(bytes)]));
    const other = await startServer();
    try {
      const outcome = await importAll(other.address, files);
      if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
      const again = programmeChangedSchema.parse(await (await fetch(`${other.address}api/programmes/${outcome.programmeId}`)).json());
      expect(again.fixed.map(({ id: key, changed: since }) => [key, since])).toEqual([['fixed-1', []]]);
      expect(again.attachments.map(({ file }) => file)).not.toContain('findings/fixed-1.json');
      const second = unzipSync(
        new Uint8Array(await (await fetch(`${other.address}api/programmes/${outcome.programmeId}/bundle`)).arrayBuffer()),
      );
      expect(Object.keys(second).sort()).toEqual(Object.keys(first).sort());
      for (const [name, bytes] of Object.entries(first))
        expect(Buffer.compare(Buffer.from(second[name]!), Buffer.from(bytes)), name).toBe(0);
    } finally {
      await other.close();
    }
  });

  it('takes a name of its own also where a bundle has brought one that is further on', async () => {
    const files = filesOf(`${DEMO_BUNDLES}/sealed-airbox`);
    const { fixed } = (await ask(`${id}/fixed/fixed-1`)).body as { fixed: object };
    // As many as still leave room for one.
    const brought = Array.from({ length: LIMITS.fixedFindings - 1 }, (_, i) => `fixed-${i + 2}`);
    for (const name of brought) files.set(`findings/${name}.json`, Buffer.from(`${JSON.stringify({ ...fixed, id: name }, null, 2)}\n`));
    const other = await startServer();
    try {
      const outcome = await importAll(other.address, files);
      if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
      const fix = () =>
        fetch(`${other.address}api/programmes/${outcome.programmeId}/fixed`, {
          method: 'POST',
          headers: { ...PERSON, 'content-type': 'application/json' },
          body: JSON.stringify({ why: 'after the import' }),
        });
      const after = programmeChangedSchema.parse(await (await fix()).json());
      expect(after.fixed.map((entry) => entry.id).toSorted()).toEqual([...brought, `fixed-${LIMITS.fixedFindings + 1}`].toSorted());
      expect(after.fixed[0]!.id).toBe(`fixed-${LIMITS.fixedFindings + 1}`);
      const refused = await fix();
      expect([refused.status, apiErrorSchema.parse(await refused.json()).error.code]).toEqual([409, 'too-many']);
    } finally {
      await other.close();
    }
  });

  it('that is none stays a file of the bundle', async () => {
    const files = filesOf(`${DEMO_BUNDLES}/runners-and-map`);
    files.set('findings/odd.json', Buffer.from('{"format":"gezeit-fixed-finding"}'));
    files.set('findings/torn.json', Buffer.from('{"format":'));
    const outcome = await importAll(server.address, files);
    if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
    const imported = programmeChangedSchema.parse((await ask(outcome.programmeId)).body);
    expect(imported.fixed).toEqual([]);
    expect(imported.attachments.map(({ file }) => file)).toEqual(expect.arrayContaining(['findings/odd.json', 'findings/torn.json']));
  });
});

describe('other choices', () => {
  it('are tried of one state for several at once: who looks at all of them takes the sheet from nobody', async () => {
    await changed(`${id}/pulls/p05`, 'PATCH', { excluded: 'looked at from two seats' });
    const all = ask(`${id}/choices?extent=all`);
    const answers = await Promise.all([all, ask(`${id}/sheet`), ask(`${id}/choices?extent=short`), ask(`${id}/choices?extent=all`)]);
    expect(answers.map(({ status }) => status)).toEqual([200, 200, 200, 200]);
    expect(answers[3]).toEqual(answers[0]);
    const count = ({ body }: { body: unknown }) =>
      choicesSchema.parse(body).comparisons.reduce((sum, { choices }) => sum + choices.length, 0);
    expect(count(answers[0]!)).toBeGreaterThan(count(answers[2]!));
    await changed(`${id}/undo`, 'POST', {});
  });

  it('of a state that has passed are given up, and the new one’s are had', async () => {
    await changed(`${id}/pulls/p06`, 'PATCH', { excluded: 'out' });
    const before = ask(`${id}/choices?extent=all`);
    await new Promise((resolve) => setTimeout(resolve, 100));
    await changed(`${id}/pulls/p07`, 'PATCH', { excluded: 'out as well' });
    const after = await ask(`${id}/choices?extent=short`);
    expect(after.status).toBe(200);
    // It may have been quick enough; where not, it says so.
    const { status, body } = await before;
    if (status !== 200) expect(apiErrorSchema.parse(body).error.code).toBe('changed-meanwhile');
    await changed(`${id}/undo`, 'POST', {});
    await changed(`${id}/undo`, 'POST', {});
  });
});
