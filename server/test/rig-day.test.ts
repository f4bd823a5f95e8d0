import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createdSchema, dayViewSchema, programmeViewSchema, type DayHappening, type DayView } from '@gezeit/contract';
import { dayState, scheduled, withConditioning } from '@gezeit/core';
import { PERSON, startServer, temporaryFolder } from './support.js';

const PULLS = scheduled({ pulls: withConditioning(['A', 'B', 'B', 'A']), restMin: 5, swapMin: 20 }).pulls;
const JSON_PERSON = { ...PERSON, 'content-type': 'application/json' };
const folder = temporaryFolder();
let server: Awaited<ReturnType<typeof startServer>>;
let id = '';

const post = async (path: string, body: unknown) => {
  const response = await fetch(`${server.address}api/${path}`, { method: 'POST', headers: JSON_PERSON, body: JSON.stringify(body) });
  return { status: response.status, body: await response.json() };
};
const day = async (): Promise<DayView> => dayViewSchema.parse(await (await fetch(`${server.address}api/programmes/${id}/day`)).json());
async function happen(...list: DayHappening[]): Promise<number> {
  const { clock } = await day();
  const events = list.map((what) => ({ id: randomUUID(), at: new Date(clock.nowMs).toISOString(), what }));
  return (await post(`programmes/${id}/day/events`, { events })).status;
}
async function until(holds: (view: DayView) => boolean, what: string): Promise<DayView> {
  for (let i = 0; i < 150; i++) {
    const view = await day();
    if (holds(view)) return view;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(`never: ${what}`);
}

beforeAll(async () => {
  server = await startServer(folder);
  id = createdSchema.parse((await post('programmes', { title: 'Rig', aspiration: 'turbo' })).body).id;
  await post(`programmes/${id}/day/devices`, { id: 'rig-1', kind: 'rig', speed: 60, follows: false, seed: 4, clockWrongS: 0 });
  await happen({ kind: 'begun', day: '2026-03-04', pulls: PULLS, fitted: 'A' });
});
afterAll(() => server.close());

describe('the simulated rig behind the server', () => {
  it('pulls when its driver is told to, and its pull begins, ends and gets its three files by itself', async () => {
    await until(({ readings }) => (readings.find(({ quantity }) => quantity === 'coolantTemperature')?.value ?? 0) > 86, 'it is warm');
    expect((await post(`programmes/${id}/day/rig`, { do: 'mishap', mishap: 'spike' })).status).toBe(200);
    await post(`programmes/${id}/day/rig`, { do: 'pull' });
    const view = await until(({ events }) => dayState(events).matches.size === 3, 'its files came');
    const [pull] = dayState(view.events).pulls;
    expect(pull).toMatchObject({ id: 'p01', setup: 'A', kind: 'conditioning', begun: { cause: 'stream', anyway: null } });
    expect(pull!.begun.stamp['coolant']).toBeGreaterThan(84);
    expect(pull!.begun.weather!.pressureKPa).toBeGreaterThan(95);
    expect(view.rig!.nextMishap).toBeNull();
    const { bundle } = programmeViewSchema.parse(await (await fetch(`${server.address}api/programmes/${id}`)).json());
    expect(bundle.pulls[0]!.logs.map(({ device }) => device)).toEqual(['ecu', 'dyno', 'daq']);
    // What was streamed until then stays with the programme, for the tides of every screen.
    const { temperatures } = bundle.days![0]!;
    expect(temperatures!.atMs.length).toBeGreaterThan(3);
    for (const series of [temperatures!.intakeAirC, temperatures!.coolantC]) {
      expect(series).toHaveLength(temperatures!.atMs.length);
      expect(series.filter((value) => value !== null && value > 5 && value < 130).length).toBeGreaterThan(3);
    }
  });

  it('is stopped in the middle of a pull, and neither the pull nor its files are lost', async () => {
    await post(`programmes/${id}/day/rig`, { do: 'speed', speed: 4 });
    await post(`programmes/${id}/day/rig`, { do: 'pull' });
    const before = await until(({ events }) => dayState(events).running !== null, 'the second pull runs');
    await server.close();
    server = await startServer(folder);
    // What the temperatures did before is still known, so that the ready moment is.
    const [was, is] = [before, await day()].map(({ history }) => history['intakeAirTemperature']!);
    expect(was!.atMs.length).toBeGreaterThan(30);
    expect(is!.atMs[0]).toBe(was!.atMs[0]);
    expect(is!.atMs.length).toBeGreaterThan(0.8 * was!.atMs.length);
    await post(`programmes/${id}/day/rig`, { do: 'speed', speed: 60 });
    const view = await until(({ events }) => {
      const { running, matches } = dayState(events);
      return running === null && [...matches.values()].every((entry) => entry.matches.length === 2);
    }, 'the second pull was ended and matched');
    expect(dayState(view.events).pulls.map((pull) => pull.id)).toEqual(['p01', 'p02']);
    expect(view.rig!.pulls).toBe(2);
  });

  it('tells the truth of its parts only where both have run, and says so where there is no rig', async () => {
    const truth = await (await fetch(`${server.address}api/programmes/${id}/day/rig/truth`)).json();
    expect(truth).toEqual({ pairs: [] });
    const other = createdSchema.parse((await post('programmes', { title: 'No rig', aspiration: 'na' })).body).id;
    expect((await post(`programmes/${other}/day/rig`, { do: 'pull' })).status).toBe(409);
    expect((await post(`programmes/${id}/day/rig`, { do: 'speed', speed: 600 })).status).toBe(400);
  });
});
