import { join } from 'node:path';
import { boardSchema, createdSchema, LIMITS, programmeViewSchema } from '@gezeit/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Database } from '../src/database/database.js';
import { Programme } from '../src/database/entities.js';
import { PERSON, startServer, temporaryFolder } from './support.js';

const folder = temporaryFolder();
let server: Awaited<ReturnType<typeof startServer>>;
let id = '';
const json = { ...PERSON, 'content-type': 'application/json' };

beforeAll(async () => {
  server = await startServer(folder);
  const made = await fetch(`${server.address}api/programmes`, {
    method: 'POST',
    headers: json,
    body: JSON.stringify({ title: 'Large', aspiration: 'na' }),
  });
  id = createdSchema.parse(await made.json()).id;
  await server.close();
  // As a version without limits would have taken it.
  const database = await Database.open(join(folder, 'gezeit.sqlite'));
  await database.write(async (manager) => {
    const row = await manager.findOneByOrFail(Programme, { id });
    const body = JSON.parse(row.body) as { programme: { title: string; question: string }; rest: { plan?: unknown } };
    body.programme.question = 'x'.repeat(1_000_000);
    body.rest.plan = {
      pulls: Array.from({ length: LIMITS.plannedPulls + 50 }, (_, i) => ({ setup: i % 2 ? 'B' : 'A', kind: 'measured', atMin: 5 * i })),
    };
    await manager.update(Programme, { id }, { body: JSON.stringify(body) });
  });
  await database.close();
  server = await startServer(folder);
});
afterAll(() => server.close());

describe('data from before there were limits', () => {
  it('is read, judged off the event loop, and does not keep anybody else waiting', { timeout: 120_000 }, async () => {
    const board = fetch(`${server.address}api/programmes`).then(async (response) => boardSchema.parse(await response.json()));
    let slowestMs = 0;
    let isThere = false;
    void board.then(() => (isThere = true));
    while (!isThere) {
      const began = performance.now();
      expect((await fetch(`${server.address}api/health`)).status).toBe(200);
      slowestMs = Math.max(slowestMs, performance.now() - began);
      await new Promise((resolve) => setTimeout(resolve, 10));
    }
    expect((await board).programmes[0]!.plannedResolvablePct).toBeGreaterThan(0);
    expect(slowestMs).toBeLessThan(2000);
    const view = programmeViewSchema.parse(await (await fetch(`${server.address}api/programmes/${id}`)).json());
    expect(view.bundle.plan!.pulls.length).toBe(LIMITS.plannedPulls + 50);
  });

  it('can still be edited, and brought within them', async () => {
    const edit = async (part: string, change: (now: unknown) => unknown) => {
      const { bundle } = programmeViewSchema.parse(await (await fetch(`${server.address}api/programmes/${id}`)).json());
      const before = (bundle as unknown as Record<string, unknown>)[part];
      const body = JSON.stringify({ part, before, value: change(before), what: 'tried' });
      return (await fetch(`${server.address}api/programmes/${id}`, { method: 'PATCH', headers: json, body })).status;
    };
    expect(
      await edit('setups', (setups) => (setups as { name: string }[]).map((setup) => ({ ...setup, name: `${setup.name}, again` }))),
    ).toBe(200);
    expect(await edit('plan', (plan) => ({ ...(plan as object), pulls: (plan as { pulls: unknown[] }).pulls.slice(0, 10) }))).toBe(200);
  });
});
