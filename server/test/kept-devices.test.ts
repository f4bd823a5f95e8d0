import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { createdSchema, dayViewSchema } from '@gezeit/contract';
import { expect, it } from 'vitest';
import { Database } from '../src/database/database.js';
import { DayDeviceEntity } from '../src/database/entities.js';
import { PERSON, startServer, temporaryFolder } from './support.js';

/** Sends to a server that may be another one after a restart. */
const senderTo = (address: () => string) => (method: string, path: string, body?: unknown) =>
  fetch(`${address()}api/${path}`, {
    method,
    headers: { ...PERSON, 'content-type': 'application/json' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });

/** What an earlier version has stored, or what was damaged since. */
const KEPT: Record<string, string> = {
  port: JSON.stringify({ id: 'port', kind: 'stream', address: 'tcp://127.0.0.1:99999', keep: true }),
  nonsense: 'no JSON at all',
  unknown: JSON.stringify({ id: 'unknown', kind: 'from-the-future', x: 1 }),
  nul: JSON.stringify({ id: 'nul', kind: 'folder', path: '/tmp/\u0000x', takeExisting: false }),
  // An id becomes part of a folder's name: such ones were taken once.
  '../out': JSON.stringify({ id: '../out', kind: 'rig', speed: 1, follows: false, seed: 1, clockWrongS: 0 }),
  good: JSON.stringify({ id: 'good', kind: 'stream', address: 'tcp://127.0.0.1:9', keep: true }),
};

it('whatever devices are stored, the server starts, shows what it cannot go on with, and lets it be removed', async () => {
  const folder = temporaryFolder();
  let server = await startServer(folder);
  const send = senderTo(() => server.address);
  const { id } = createdSchema.parse(await (await send('POST', 'programmes', { title: 'Devices', aspiration: 'na' })).json());
  for (const port of ['0', '65536', '99999'])
    expect(
      (await send('POST', `programmes/${id}/day/devices`, { ...(JSON.parse(KEPT['port']!) as object), address: `tcp://127.0.0.1:${port}` }))
        .status,
    ).toBe(400);
  for (const odd of ['\u0000', '../../out', 'a/b', '.', ''])
    expect((await send('POST', `programmes/${id}/day/devices`, { ...(JSON.parse(KEPT['../out']!) as object), id: odd })).status).toBe(400);
  await server.close();
  const database = await Database.open(join(folder, 'gezeit.sqlite'));
  for (const [key, body] of Object.entries(KEPT))
    await database.write((manager) =>
      manager.insert(DayDeviceEntity, { id: randomUUID(), programmeId: id, key, body, memory: 'no JSON either' }),
    );
  await database.close();

  server = await startServer(folder);
  const devices = async () => dayViewSchema.parse(await (await send('GET', `programmes/${id}/day`)).json()).devices;
  const shown = await devices();
  expect(shown.map(({ setting }) => setting.id).sort()).toEqual(Object.keys(KEPT).sort());
  for (const { setting, state, detail } of shown)
    if (['port', 'nonsense', 'unknown', '../out'].includes(setting.id))
      expect({ state, detail }).toMatchObject({ state: 'failed', detail: expect.stringContaining('remove it') });
  for (const key of Object.keys(KEPT))
    expect((await send('DELETE', `programmes/${id}/day/devices/${encodeURIComponent(key)}`)).status).toBe(200);
  expect(await devices()).toEqual([]);
  await server.close();
  server = await startServer(folder);
  expect(await devices()).toEqual([]);
  await server.close();
});

it('a rig whose setup nobody knows runs with one that is there; one that goes wrong while it runs says so, and ends nothing', async () => {
  const folder = temporaryFolder();
  let server = await startServer(folder);
  const send = senderTo(() => server.address);
  const { id } = createdSchema.parse(await (await send('POST', 'programmes', { title: 'Rig', aspiration: 'turbo' })).json());
  const pulls = [{ setup: 'A', kind: 'measured', atMin: 0 }];
  const begun = { kind: 'begun', day: '2026-03-04', pulls, fitted: 'no such setup' };
  const events = [{ id: randomUUID(), at: new Date().toISOString(), what: begun }];
  const answer = await send('POST', `programmes/${id}/day/events`, { events });
  expect([answer.status, answer.ok ? '' : await answer.text()]).toEqual([200, '']);
  const rig = { id: 'rig-1', kind: 'rig', speed: 60, follows: false, seed: 4, clockWrongS: 0 };
  expect((await send('POST', `programmes/${id}/day/devices`, rig)).status).toBe(200);
  const day = async () => dayViewSchema.parse(await (await send('GET', `programmes/${id}/day`)).json());
  await expect.poll(async () => (await day()).readings.length, { timeout: 10_000 }).toBeGreaterThan(5);
  for (const setup of ['constructor', '__proto__', 'no such setup either'])
    expect((await send('POST', `programmes/${id}/day/rig`, { do: 'fit', setup, ecuReset: false })).status).toBe(200);
  await send('POST', `programmes/${id}/day/rig`, { do: 'pull' });
  await new Promise((resolve) => setTimeout(resolve, 500));
  expect((await day()).devices.map(({ state }) => state)).toEqual(['listening']);
  await server.close();
  const database = await Database.open(join(folder, 'gezeit.sqlite'));
  const { memory } = await database.manager.findOneByOrFail(DayDeviceEntity, { programmeId: id });
  const kept = JSON.parse(memory) as { rig: object };
  const gone = JSON.stringify({ ...kept, rig: { ...kept.rig, fitted: 'gone' } });
  await database.write((manager) => manager.update(DayDeviceEntity, { programmeId: id }, { memory: gone }));
  await database.close();
  server = await startServer(folder);
  await expect.poll(async () => (await day()).devices.map(({ state }) => state), { timeout: 10_000 }).toEqual(['failed']);
  expect((await send('DELETE', `programmes/${id}/day/devices/rig-1`)).status).toBe(200);
  expect((await day()).devices).toEqual([]);
  await server.close();
});
