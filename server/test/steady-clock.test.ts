import { randomUUID } from 'node:crypto';
import { createdSchema, dayViewSchema, type DayHappening } from '@gezeit/contract';
import { dayState, gateViews, type CellNow } from '@gezeit/core';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { SteadyClock } from '../src/day/steady-clock.js';
import { PERSON, startServer, temporaryFolder } from './support.js';

const START = Date.parse('2026-03-28T22:30:00Z');
const HOUR_MS = 3_600_000;

describe('the clock of a day', () => {
  it('follows the wall until the day begins, then its own pace alone, and the wall again after the day', () => {
    let [wall, elapsed] = [START, 0];
    const clock = new SteadyClock(
      () => wall,
      () => elapsed,
    );
    wall += HOUR_MS;
    expect(clock.nowMs).toBe(START + HOUR_MS);
    clock.hold(START);
    for (const jump of [-HOUR_MS, 3 * HOUR_MS, -48 * HOUR_MS, 0]) {
      const before = clock.nowMs;
      wall += jump;
      elapsed += 60_000;
      expect(clock.nowMs - before).toBe(60_000);
      clock.hold(clock.nowMs - 5000);
      expect(clock.nowMs - before).toBe(60_000);
    }
    // What is known to have happened lies ahead: another window's clock, or the one before a restart.
    clock.hold(clock.nowMs + HOUR_MS);
    expect(clock.nowMs).toBe(START + HOUR_MS + 4 * 60_000 + HOUR_MS);
    clock.release();
    expect(clock.nowMs).toBe(wall);
  });
});

describe('a day through which the system’s clock is set', () => {
  afterEach(() => vi.restoreAllMocks());
  const jumps = {
    'back by an hour': -HOUR_MS,
    'back by a day': -24 * HOUR_MS,
    'forward by an hour, as summer time is mistaken for': HOUR_MS,
    'forward by two days': 48 * HOUR_MS,
  };
  it.each(Object.entries(jumps))('%s keeps its order, over midnight and a restart too', async (_, jump) => {
    let wall = START;
    vi.spyOn(Date, 'now').mockImplementation(() => wall);
    const folder = temporaryFolder();
    let server = await startServer(folder);
    const post = async (path: string, body: unknown) => {
      const headers = { ...PERSON, 'content-type': 'application/json' };
      return fetch(`${server.address}api/${path}`, { method: 'POST', headers, body: JSON.stringify(body) });
    };
    const { id } = createdSchema.parse(await (await post('programmes', { title: 'Clock', aspiration: 'na' })).json());
    const view = async () => dayViewSchema.parse(await (await fetch(`${server.address}api/programmes/${id}/day`)).json());
    const happen = async (what: DayHappening) => {
      const { clock } = await view();
      const response = await post(`programmes/${id}/day/events`, {
        events: [{ id: randomUUID(), at: new Date(clock.nowMs).toISOString(), what }],
      });
      expect(response.status, await response.clone().text()).toBe(200);
    };
    const started = (pull: string): DayHappening => ({
      kind: 'pull-started',
      pull,
      setup: 'A',
      pullKind: 'measured',
      place: null,
      stamp: {},
      weather: null,
      start: { coolantC: null, intakeAirC: null, oilC: null },
      anyway: null,
      cause: 'stream',
    });
    const planned = [{ setup: 'A', kind: 'measured' as const, atMin: 0 }];
    await happen({ kind: 'begun', day: '2026-03-28', pulls: planned, fitted: 'A' });
    const times: number[] = [];
    for (const [i, name] of ['p01', 'p02', 'p03', 'p04'].entries()) {
      await happen(started(name));
      await happen({ kind: 'pull-ended', pull: name, aborted: false, cause: 'stream' });
      wall += jump;
      if (i === 1) {
        await server.close();
        server = await startServer(folder);
      }
      const { events, clock } = await view();
      const state = dayState(events);
      const cell: CellNow = { nowMs: clock.nowMs, readings: [], history: {} };
      const [rest] = gateViews([{ id: 'rest', label: 'Rest', target: 5, tolerance: 1, unit: 'min', must: true, side: null }], state, cell);
      expect(rest!.value).toBeGreaterThanOrEqual(0);
      expect(state.running).toBeNull();
      expect(state.pulls.map((entry) => entry.id)).toEqual(['p01', 'p02', 'p03', 'p04'].slice(0, i + 1));
      times.push(clock.nowMs);
    }
    const state = dayState((await view()).events);
    for (const { startedMs, endedMs } of state.pulls) expect(endedMs!).toBeGreaterThanOrEqual(startedMs);
    expect(times).toEqual([...times].sort((a, b) => a - b));
    await server.close();
  });
});
