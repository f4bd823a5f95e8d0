import Sqlite from 'better-sqlite3';
import { afterEach, describe, expect, it, vi } from 'vitest';
import {
  apiErrorSchema,
  boardSchema,
  createdSchema,
  programmeChangedSchema,
  programmeViewSchema,
  searchSchema,
  stampAnswerSchema,
  type Board,
  type ProgrammeView,
} from '@gezeit/contract';
import { databaseFile } from '../src/paths.js';
import { DEMO_BUNDLES, filesOf, importAll, PERSON, startServer, temporaryFolder } from './support.js';

const open: Awaited<ReturnType<typeof startServer>>[] = [];
async function started(folder = temporaryFolder()) {
  const server = await startServer(folder);
  open.push(server);
  return server;
}
afterEach(async () => {
  for (const server of open.splice(0)) await server.close();
});

type Server = Awaited<ReturnType<typeof startServer>>;

async function importTitled(server: Server, title: string): Promise<string> {
  const files = filesOf(`${DEMO_BUNDLES}/water-cooler-and-fuel`);
  const description = JSON.parse(files.get('gezeit.json')!.toString()) as { programme: { title: string } };
  description.programme.title = title;
  const outcome = await importAll(server.address, new Map(files).set('gezeit.json', Buffer.from(JSON.stringify(description))));
  if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
  return outcome.programmeId;
}
const json = async (server: Server, path: string): Promise<unknown> => (await fetch(`${server.address}api/${path}`)).json();
const board = async (server: Server, query = ''): Promise<Board> => boardSchema.parse(await json(server, `programmes${query}`));
const view = async (server: Server, id: string): Promise<ProgrammeView> =>
  programmeViewSchema.parse(await json(server, `programmes/${id}`));
const stamp = async (server: Server, id: string) => stampAnswerSchema.parse(await json(server, `programmes/${id}/stamp`)).stamp;
const search = async (server: Server, words: string) =>
  searchSchema.parse(await json(server, `search?q=${encodeURIComponent(words)}`)).hits;
const patch = (server: Server, path: string, body: unknown, headers = {}) =>
  fetch(`${server.address}api/programmes/${path}`, {
    method: 'PATCH',
    headers: { ...PERSON, 'content-type': 'application/json', ...headers },
    body: JSON.stringify(body),
  });

/** How much of a kind is kept, looked at from outside. */
function kept(server: Server, kind: string): number {
  const database = new Sqlite(databaseFile(server.folder), { readonly: true });
  try {
    return database.prepare('SELECT COUNT(*) FROM product WHERE kind = ?').pluck().get(kind) as number;
  } finally {
    database.close();
  }
}

describe('what was judged', () => {
  it('is kept without anything else being asked for, and stands after a restart', async () => {
    const server = await started();
    await importTitled(server, 'Kept');
    const before = await board(server);
    await vi.waitFor(() => expect([kept(server, 'findings'), kept(server, 'card')]).toEqual([1, 1]), { timeout: 20_000 });
    await open.pop()!.close();
    // Nothing is waited for: what is not at hand would be told as being judged.
    expect(await board(await started(server.folder), '?withinMs=0')).toEqual(before);
  });
});

describe('the board', () => {
  it('is answered before what it lists is judged, says so, and is whole when that is done', async () => {
    const server = await started();
    const id = await importTitled(server, 'Judged late');
    const { programmes } = await board(server, '?withinMs=0');
    expect(programmes).toMatchObject([{ id, title: 'Judged late', judging: true, answers: [] }]);
    const [entry] = (await board(server)).programmes;
    expect(entry).toMatchObject({ id, judging: false });
    expect(entry!.answers.length).toBeGreaterThan(0);
  });

  it('is whole for everybody who asks at the same moment, right after a start too', async () => {
    const server = await started();
    const id = await importTitled(server, 'Asked together');
    const boards = await Promise.all([board(server), board(server), search(server, 'together').then(() => board(server))]);
    for (const { programmes } of boards) {
      expect(programmes).toMatchObject([{ id, judging: false }]);
      expect(programmes[0]!.answers.length).toBeGreaterThan(0);
    }
  });

  it('shows what stood before while a changed programme is judged anew, and never what stood before as if it were new', async () => {
    const server = await started();
    const id = await importTitled(server, 'Changed');
    const [before] = (await board(server)).programmes;
    const used = (await view(server, id)).findings.pulls.find(({ status }) => status === 'used')!;
    expect((await patch(server, `${id}/pulls/${used.id}`, { excluded: 'smoke' }, { prefer: 'respond-async' })).status).toBe(202);
    const [meanwhile] = (await board(server, '?withinMs=0')).programmes;
    expect(meanwhile).toEqual({ ...before, judging: true });
    const [after] = (await board(server)).programmes;
    expect(after).toMatchObject({ judging: false, pullsUsed: before!.pullsUsed - 1 });
    expect(after!.answers).not.toEqual(before!.answers);
  });

  it('follows a car that was renamed on another programme, and so does the search', async () => {
    const server = await started();
    const [one, other] = [await importTitled(server, 'One'), await importTitled(server, 'Other')];
    const opened = await view(server, one);
    const untouched = createdSchema.parse(
      await (
        await fetch(`${server.address}api/programmes`, {
          method: 'POST',
          headers: { ...PERSON, 'content-type': 'application/json' },
          body: JSON.stringify({ title: 'Elsewhere' }),
        })
      ).json(),
    ).id;
    const stamps = async () => Promise.all([one, other, untouched].map((id) => stamp(server, id)));
    const before = await stamps();
    expect(await search(server, 'renamed zwartbles')).toEqual([]);
    const { vehicle } = opened.bundle;
    const answer = await patch(server, one, {
      part: 'vehicle',
      before: vehicle,
      value: { ...vehicle, name: 'Renamed Zwartbles' },
      what: 'name',
    });
    expect(answer.status).toBe(200);
    const after = await stamps();
    expect(after.map((now, i) => now === before[i])).toEqual([false, false, true]);
    const { programmes } = await board(server);
    expect(programmes.map(({ vehicle: name }) => name === 'Renamed Zwartbles')).toEqual([true, true, false]);
    expect((await search(server, 'renamed zwartbles')).map(({ programmeId }) => programmeId)).toEqual([one, other]);
  });
});

describe('a change', () => {
  it('is acknowledged before it is judged where that is preferred, and its answer follows', async () => {
    const server = await started();
    const id = await importTitled(server, 'Acknowledged');
    const before = await view(server, id);
    const used = before.findings.pulls.find(({ status }) => status === 'used')!;
    const response = await patch(server, `${id}/pulls/${used.id}`, { excluded: 'smoke' }, { prefer: 'respond-async' });
    expect([response.status, response.headers.get('preference-applied')]).toEqual([202, 'respond-async']);
    const { logs, ...now } = await view(server, id);
    expect(logs.length).toBeGreaterThan(0);
    expect(programmeChangedSchema.parse(await response.json())).toEqual(now);
    expect(now.findings.comparisons[0]!.levelled).not.toEqual(before.findings.comparisons[0]!.levelled);
  });

  it('that is refused is refused as ever', async () => {
    const server = await started();
    const id = await importTitled(server, 'Refused');
    const response = await patch(server, `${id}/pulls/p99`, { excluded: 'smoke' }, { prefer: 'respond-async' });
    expect(response.status).toBe(404);
    expect(apiErrorSchema.parse(await response.json()).error.code).toBe('not-found');
  });

  it('of a title or a question is not judged anew', async () => {
    const server = await started();
    const id = await importTitled(server, 'Texts');
    const before = await view(server, id);
    await vi.waitFor(() => expect(kept(server, 'findings')).toBe(1), { timeout: 20_000 });
    const value = { ...before.bundle.programme, title: 'Other texts', question: 'Asked otherwise?' };
    const answer = await patch(server, id, { part: 'programme', before: before.bundle.programme, value, what: 'texts' });
    const { findings, bundle } = programmeChangedSchema.parse(await answer.json());
    expect(bundle.programme).toMatchObject({ title: 'Other texts', question: 'Asked otherwise?' });
    expect(findings).toEqual(before.findings);
    const [entry] = (await board(server)).programmes;
    expect(entry).toMatchObject({ title: 'Other texts', question: 'Asked otherwise?' });
    expect(kept(server, 'findings')).toBe(1);
  });
});
