import type { Bundle, DayEvent, DayHappening, LiveHistory, LiveReading, PlanGate, Quantity } from '@gezeit/contract';
import { describe, expect, it } from 'vitest';
import {
  dayRefusal,
  dayRefusalError,
  channelZeros,
  dayResolution,
  dayState,
  dimensionOf,
  draftProgramme,
  gateQuantity,
  GATES_OFFERED,
  gateViews,
  type DayState,
  instruct,
  matchFiles,
  nextPullId,
  openItems,
  passedStop,
  passedText,
  PLAIN_FORMATTER,
  planReport,
  pullChecks,
  lacksWeather,
  pullStart,
  QUANTITY_UNITS,
  readyForFirstPull,
  scheduled,
  shiftableGate,
  STOPS_OFFERED,
  toSi,
  wasAway,
  withConditioning,
  worstResolvable,
  type CellNow,
  type UnitName,
} from '../src/index.js';

const START = Date.parse('2026-03-04T08:00:00Z');
const PULLS = scheduled({ pulls: withConditioning(['A', 'B', 'B', 'A']), restMin: 5, swapMin: 20 }).pulls;
const BUNDLE: Bundle = {
  ...draftProgramme({ title: 'Day', aspiration: 'turbo', vehicle: null, cell: null }),
  plan: { pulls: PULLS, restMin: 5, swapMin: 20 },
};
const NO_START = { coolantC: null, intakeAirC: null, oilC: null };

let count = 0;
/** Events a minute apart from a list of happenings. */
const events = (...list: DayHappening[]): DayEvent[] =>
  list.map((what, i) => ({ id: `event-${(count += 1)}`, at: new Date(START + i * 60_000).toISOString(), by: 'TS', what }));
const begun: DayHappening = { kind: 'begun', day: '2026-03-04', pulls: PULLS, fitted: null };
const started = (
  pull: string,
  setup: string,
  place: number | null,
  more: Partial<Extract<DayHappening, { kind: 'pull-started' }>> = {},
): DayHappening => ({
  kind: 'pull-started',
  pull,
  setup,
  pullKind: 'measured',
  place,
  stamp: {},
  weather: null,
  start: NO_START,
  anyway: null,
  cause: 'key',
  ...more,
});
const ended = (pull: string, aborted = false): DayHappening => ({ kind: 'pull-ended', pull, aborted, cause: 'key' });
const places = (state: ReturnType<typeof dayState>) => state.remaining.map(({ place }) => place);
const SAFE: DayHappening = {
  kind: 'checked',
  list: 'beforeDay',
  of: '2026-03-04',
  items: ['straps', 'tyres', 'exhaust', 'people', 'stop', 'criteria'],
  done: true,
};
/** What safety asks before the first swap, ticked. */
const BEFORE_SWAP: DayHappening = {
  kind: 'checked',
  list: 'beforeSwap',
  of: 'swap-1',
  items: ['stopped', 'hot', 'free', 'fans', 'loose', 'openCompressor'],
  done: true,
};

/** What is said of what may not happen now; empty where it may. */
function refused(bundle: Bundle, state: DayState, what: DayHappening): string {
  const refusal = dayRefusal(bundle, state, what);
  return refusal ? dayRefusalError(refusal).message : '';
}

describe('what a day is made of', () => {
  it('takes planned pulls off as they are driven, and puts an aborted one back', () => {
    const first = events(begun, started('p01', 'A', 0), ended('p01'), started('p02', 'A', 1), ended('p02', true));
    expect(places(dayState(first))).toEqual([1, 2, 3, 4, 5, 6]);
    const late = [...first, ...events({ kind: 'pull-amended', pull: 'p02', aborted: false })];
    expect(places(dayState(late))).toEqual([2, 3, 4, 5, 6]);
    expect(dayState(late).pulls.map(({ id }) => id)).toEqual(['p01', 'p02']);
  });

  it('puts an inserted pull next and leaves a skipped one out, and takes both back', () => {
    const list = events(
      begun,
      started('p01', 'A', 0),
      ended('p01'),
      { kind: 'inserted', setup: 'A', pullKind: 'tuning', count: 2 },
      { kind: 'skipped', place: 1 },
    );
    const state = dayState(list);
    expect(places(state)).toEqual([7, 8, 2, 3, 4, 5, 6]);
    expect(state.remaining[0]!.kind).toBe('tuning');
    expect(state.undoable.at(-1)!.id).toBe(list[4]!.id);
    const back = [...list, ...events({ kind: 'taken-back', event: list[3]!.id }, { kind: 'taken-back', event: list[4]!.id })];
    expect(places(dayState(back))).toEqual([1, 2, 3, 4, 5, 6]);
    expect(dayState(back).undoable).toEqual([]);
  });

  it('lets nothing be taken back that a pull was driven with, but what was only said', () => {
    const list = events(
      begun,
      { kind: 'note', text: 'first', files: [] },
      { kind: 'swap-started', to: 'B' },
      { kind: 'swap-ended', ecuReset: false },
      { kind: 'inserted', setup: 'B', pullKind: 'measured', count: 1 },
    );
    expect(dayState(list).undoable.map(({ id }) => id)).toEqual(list.slice(1).map(({ id }) => id));
    const driven = [...list, ...events(started('p01', 'B', 7), ended('p01'))];
    expect(dayState(driven).undoable.map(({ id }) => id)).toEqual([list[1]!.id]);
    expect(refused(BUNDLE, dayState(driven), { kind: 'taken-back', event: list[3]!.id })).toMatch(/taken back no more/);
    expect(refused(BUNDLE, dayState(driven), { kind: 'taken-back', event: list[1]!.id })).toBe('');
  });

  it('knows what is fitted through swaps and through changes out of plan', () => {
    const swapped = events(begun, { kind: 'swap-started', to: 'B' });
    expect(dayState(swapped)).toMatchObject({ fitted: 'A', swapping: { to: 'B' } });
    const done = [...swapped, ...events({ kind: 'swap-ended', ecuReset: true })];
    expect(dayState(done)).toMatchObject({ fitted: 'B', swapping: null, swaps: [{ to: 'B', ecuReset: true }] });
    const changed = [...done, ...events({ kind: 'setup-changed', setup: { ...BUNDLE.setups[1]!, id: 'C' }, restOfDay: true })];
    const state = dayState(changed);
    expect(state.fitted).toBe('C');
    expect(state.remaining.map(({ setup }) => setup)).toEqual(['A', 'A', 'C', 'C', 'C', 'A', 'A']);
  });

  it('puts a missed pull where it was driven, and never leaves two running', () => {
    const list = events(begun, started('p01', 'A', 0), ended('p01'), started('p02', 'A', 1), ended('p02'));
    const missed: DayEvent = {
      id: 'missed',
      at: new Date(START + 150_000).toISOString(),
      by: 'TS',
      what: started('p03', 'A', null, { cause: 'file' }),
    };
    const state = dayState([...list, missed]);
    expect(state.pulls.map(({ id }) => id)).toEqual(['p01', 'p03', 'p02']);
    expect(state.running).toBeNull();
    const twice = dayState(events(begun, started('p01', 'A', 0), started('p02', 'A', 1)));
    expect(twice.running!.id).toBe('p02');
    expect(twice.pulls[0]!.endedMs).not.toBeNull();
  });

  it('says nothing of what does not follow on what came before', () => {
    expect(dayState(events(begun, ended('p09'), { kind: 'swap-ended', ecuReset: false })).swaps).toEqual([]);
    expect(dayState([]).day).toBeNull();
  });
});

describe('what may happen', () => {
  const code = (state: ReturnType<typeof dayState>, what: DayHappening, bundle = BUNDLE) => {
    const refusal = dayRefusal(bundle, state, what);
    if (refusal) expect(dayRefusalError(refusal).nextStep.length).toBeGreaterThan(5);
    return refusal?.code ?? null;
  };

  it('refuses a pull by key until every safety item is ticked; safety items cannot be waved through by ticking others', () => {
    expect(code(dayState(events(begun)), started('p01', 'A', 0))).toBe('not-checked');
    const others = events(begun, { ...SAFE, items: ['fuel', 'battery', 'air', 'odometer', 'mode', 'straps', 'tyres'] } as DayHappening);
    expect(readyForFirstPull(BUNDLE, dayState(others))).toBe(false);
    expect(code(dayState(events(begun, SAFE)), started('p01', 'A', 0))).toBeNull();
  });

  it('refuses with a reason and a next step whatever makes no sense now', () => {
    const running = dayState(events(begun, SAFE, started('p01', 'A', 0)));
    const swapping = dayState(events(begun, SAFE, { kind: 'swap-started', to: 'B' }));
    const over = dayState(events(begun, { kind: 'ended', reason: 'rain', open: [] }));
    expect(code(dayState([]), { kind: 'note', text: 'x', files: [] })).toBe('no-day');
    expect(code(running, begun)).toBe('day-running');
    expect(code(running, started('p02', 'A', 1))).toBe('pull-running');
    expect(code(running, started('p01', 'A', 1))).toBe('pull-known');
    expect(code(running, started('p02', 'Q', 1))).toBe('no-such-setup');
    expect(code(running, ended('p07'))).toBe('no-pull-running');
    expect(code(running, { kind: 'swap-started', to: 'B' })).toBe('pull-running');
    expect(code(running, { kind: 'ended', reason: 'x', open: [] })).toBe('pull-running');
    expect(code(swapping, started('p01', 'A', 0))).toBe('swapping');
    expect(code(swapping, { kind: 'swap-ended', ecuReset: false })).toBe('swap-not-checked');
    expect(code(over, { kind: 'reading', gate: 'oil', value: 90 })).toBe('day-ended');
    expect(code(over, { kind: 'note', text: 'forgot the hose', files: [] })).toBeNull();
    expect(code(running, { kind: 'skipped', place: 0 })).toBe('no-such-step');
    expect(code(dayState(events(begun, SAFE, { kind: 'stop-raised', criterion: 'oil', text: 'oil hot' })), started('p01', 'A', 0))).toBe(
      'stopped',
    );
  });

  it('asks for a confirmation before a swap without a way back', () => {
    const bundle: Bundle = { ...BUNDLE, plan: { ...BUNDLE.plan!, swaps: [{ from: 'A', to: 'B', back: 'never' }] } };
    const state = dayState(events(begun, SAFE, BEFORE_SWAP));
    expect(code(state, { kind: 'swap-started', to: 'B' }, bundle)).toBe('confirm-last');
    expect(code(state, { kind: 'swap-started', to: 'B', confirmed: true }, bundle)).toBeNull();
  });

  it('asks what safety asks before every swap, to a bound as well', () => {
    const bundle: Bundle = { ...BUNDLE, setups: BUNDLE.setups.map((setup) => ({ ...setup, bound: setup.id === 'B' })) };
    expect(code(dayState(events(begun, SAFE)), { kind: 'swap-started', to: 'B' }, bundle)).toBe('swap-not-checked');
    expect(code(dayState(events(begun, SAFE, BEFORE_SWAP)), { kind: 'swap-started', to: 'B' }, bundle)).toBeNull();
  });

  it('does not close the day with an item open unless a reason is given', () => {
    const state = dayState(events(begun));
    expect(code(state, { kind: 'ended', reason: ' ', open: [] })).toBe('not-put-back');
    expect(code(state, { kind: 'ended', reason: 'the tune is put back tomorrow', open: [] })).toBeNull();
    const items = openItems(BUNDLE, state, 'atEnd').map(({ id }) => id);
    const all = dayState(events(begun, { kind: 'checked', list: 'atEnd', of: '2026-03-04', items, done: true }));
    expect(code(all, { kind: 'ended', reason: null, open: [] })).toBeNull();
  });
});

const coolant: PlanGate = { id: 'coolant', label: 'Coolant', target: 88, tolerance: 3, unit: '°C', must: true };
const intake: PlanGate = {
  id: 'intake',
  label: 'Intake air above ambient',
  target: 8,
  tolerance: 4,
  unit: 'K',
  must: true,
  side: 'at-most',
};
const rest: PlanGate = { id: 'rest', label: 'Since the last pull', target: 5, tolerance: 1, unit: 'min', must: true, side: 'at-least' };
const fan: PlanGate = { id: 'fan', label: 'Air speed at the opening', target: 60, tolerance: 5, unit: 'km/h', must: false };

/** A course of a channel, a reading a second up to now. */
const course = (f: (s: number) => number, nowMs: number, seconds = 120): LiveHistory[string] => {
  const atMs = Array.from({ length: seconds }, (_, i) => nowMs - (seconds - 1 - i) * 1000);
  return { atMs, value: atMs.map((at) => f((at - nowMs) / 1000)) };
};
const cellWith = (nowMs: number, history: LiveHistory, ambientC: number | null = 20): CellNow => ({
  nowMs,
  history,
  readings: ambientC === null ? [] : [{ quantity: 'ambientTemperature', value: ambientC, atMs: nowMs }],
});

describe('gates', () => {
  const nowMs = START + 3_600_000;
  const state = dayState(events(begun, SAFE, started('p01', 'A', 0), ended('p01')));
  const standing = (gate: PlanGate, history: LiveHistory, ambientC: number | null = 20) =>
    gateViews([gate], state, cellWith(nowMs, history, ambientC))[0]!;

  it('are met inside their band, waited for on the way, passed when it moves away, unknown without a fresh reading', () => {
    expect(standing(coolant, { coolantTemperature: course(() => 89, nowMs) }).standing).toBe('met');
    expect(standing(coolant, { coolantTemperature: course((s) => 95 - 0.02 * s, nowMs) }).standing).toBe('waiting');
    expect(standing(coolant, { coolantTemperature: course((s) => 80 - 0.02 * s, nowMs) }).standing).toBe('passed');
    expect(standing(coolant, { coolantTemperature: course(() => 89, nowMs - 400_000) }).standing).toBe('unknown');
    expect(standing(coolant, {}).standing).toBe('unknown');
    expect(standing(coolant, { coolantTemperature: course((s) => 95 - 0.02 * s, nowMs) }).perMin).toBeCloseTo(-1.2, 2);
  });

  it('count from the ambient air where they ask so, and only to the side that they name', () => {
    expect(standing(intake, { intakeAirTemperature: course(() => 24, nowMs) })).toMatchObject({ value: 4, standing: 'met' });
    expect(standing(intake, { intakeAirTemperature: course((s) => 40 - 0.1 * s, nowMs) }).standing).toBe('waiting');
    expect(standing(intake, { intakeAirTemperature: course(() => 24, nowMs) }, null).standing).toBe('unknown');
  });

  it('read a clock for the rest, and a typed value where nothing streams', () => {
    const soon = START + 3 * 60_000 + 120_000;
    const view = gateViews([rest], state, cellWith(soon, {}))[0]!;
    expect(view).toMatchObject({ value: 2, standing: 'waiting', ready: { kind: 'range', midS: 120 } });
    expect(gateViews([{ ...rest, side: 'within' }], state, cellWith(soon + 60_000 * 8, {}))[0]!.standing).toBe('passed');
    const typed = dayState([...events(begun, SAFE), ...events({ kind: 'reading', gate: 'fan', value: 62 })]);
    expect(gateViews([fan], typed, cellWith(nowMs, {}))[0]).toMatchObject({ value: 62, source: 'typed', standing: 'met' });
    expect(
      gateViews([coolant], dayState(events(begun, { kind: 'reading', gate: 'coolant', value: 88 })), cellWith(nowMs, {}))[0]!.standing,
    ).toBe('unknown');
  });
});

describe('the one instruction', () => {
  const nowMs = START + 3_600_000;
  const warm = cellWith(nowMs, { coolantTemperature: course(() => 88, nowMs), intakeAirTemperature: course(() => 25, nowMs) });
  const gates = [coolant, intake, rest];
  const says = (list: DayEvent[], cell = warm, checked = true) => instruct(dayState(list), gates, cell, checked);

  it('goes through a day in its order', () => {
    expect(says([]).kind).toBe('plan');
    expect(instruct({ ...dayState([]), planned: PULLS }, gates, warm, false).kind).toBe('begin');
    expect(says(events(begun), warm, false).kind).toBe('check');
    const list = events(begun, SAFE);
    expect(says(list)).toMatchObject({ kind: 'pull', step: { setup: 'A', kind: 'conditioning' } });
    list.push(...events(started('p01', 'A', 0)));
    expect(says(list).kind).toBe('driving');
    list.push(...events(ended('p01')));
    const soon = { ...warm, nowMs: START + 30_000 };
    expect(
      says(list, {
        ...soon,
        history: { coolantTemperature: course(() => 88, soon.nowMs), intakeAirTemperature: course(() => 25, soon.nowMs) },
      }).kind,
    ).toBe('wait');
    expect(says(list).kind).toBe('pull');
    list.push(...events(started('p02', 'A', 1), ended('p02')));
    expect(says(list)).toMatchObject({ kind: 'swap', step: { setup: 'B' } });
    list.push(...events({ kind: 'swap-started', to: 'B' }));
    expect(says(list).kind).toBe('swapping');
    list.push(...events({ kind: 'stop-raised', criterion: 'oil', text: 'Oil 150 °C' }));
    expect(says(list).kind).toBe('stop');
    list.push(...events({ kind: 'stop-acknowledged' }, { kind: 'swap-ended', ecuReset: false }));
    expect(says(list).kind).toBe('pull');
    for (const place of [2, 3, 4, 5, 6]) list.push(...events({ kind: 'skipped', place }));
    expect(says(list).kind).toBe('finish');
    list.push(...events({ kind: 'ended', reason: 'x', open: [] }));
    expect(says(list).kind).toBe('ended');
  });

  it('holds a conditioning pull to the car’s own temperatures only, and a measured one to all', () => {
    const hot = cellWith(nowMs, { coolantTemperature: course(() => 88, nowMs), intakeAirTemperature: course((s) => 50 - 0.05 * s, nowMs) });
    expect(says(events(begun, SAFE), hot).kind).toBe('pull');
    const measured = says(events(begun, SAFE, started('p01', 'A', 0), ended('p01')), hot);
    expect(measured.kind).toBe('wait');
    expect(measured.holding.map(({ gate }) => gate.id)).toEqual(['intake']);
    expect(measured.ready!.kind).not.toBe('range');
  });

  it('asks for a conditioning pull where a rest that must be kept was overrun; a rest that is only wished holds nothing', () => {
    const driven = events(begun, SAFE, started('p01', 'A', 0), ended('p01'));
    const late = { ...warm, nowMs: START + 38 * 60_000 };
    const lateWarm = {
      ...late,
      history: { coolantTemperature: course(() => 88, late.nowMs), intakeAirTemperature: course(() => 25, late.nowMs) },
    };
    const kind = (gate: PlanGate, cell = lateWarm) => instruct(dayState(driven), [coolant, intake, gate], cell, true);
    expect(kind({ ...rest, side: 'within' })).toMatchObject({ kind: 'settle', holding: [{ gate: { id: 'rest' }, standing: 'passed' }] });
    expect(kind({ ...rest, side: 'within', must: false }).kind).toBe('pull');
    expect(kind({ ...rest, side: 'within', must: false }).wished.map(({ gate }) => gate.id)).toEqual(['rest']);
    // The conditioning pull that is inserted is held to the car's temperatures only, and begins the rest anew.
    const settled = [...driven, ...events({ kind: 'inserted', setup: 'A', pullKind: 'conditioning', count: 1 })];
    expect(instruct(dayState(settled), [coolant, intake, { ...rest, side: 'within' }], lateWarm, true)).toMatchObject({
      kind: 'pull',
      step: { kind: 'conditioning' },
    });
    const soon = { ...warm, nowMs: START + 40_000 };
    const soonWarm = {
      ...soon,
      history: { coolantTemperature: course(() => 88, soon.nowMs), intakeAirTemperature: course(() => 25, soon.nowMs) },
    };
    expect(kind({ ...rest, must: false }, soonWarm).kind).toBe('pull');
    expect(kind(rest, soonWarm).kind).toBe('wait');
  });

  it('stamps setup, map, gates, start and weather of the moment', () => {
    const state = dayState(events(begun, SAFE));
    const without = { ...warm, readings: [] };
    const corrected = { ...BUNDLE, programme: { ...BUNDLE.programme, correction: 'SAE_J1349' as const } };
    expect(lacksWeather(corrected, state, without)).toBe(true);
    expect(lacksWeather({ ...corrected, programme: { ...corrected.programme, correction: 'NONE' } }, state, without)).toBe(false);
    const typed = dayState(
      events(begun, SAFE, { kind: 'weather', weather: { temperatureC: 20, pressureKPa: 99, relativeHumidityPct: 50 } }),
    );
    expect(lacksWeather(corrected, typed, without)).toBe(false);
    const stamped = pullStart(state, BUNDLE, warm, says(events(begun, SAFE)), null, 'key');
    expect(stamped).toMatchObject({ setup: 'A', pullKind: 'conditioning', place: 0, weather: { temperatureC: 20 }, cause: 'key' });
    expect(stamped.stamp).toMatchObject({ coolant: 88, intake: 5 });
    expect(nextPullId({ pulls: [{ id: 'p01' } as never] }, { pulls: [{ id: 'p02' } as never] })).toBe('p03');
  });
});

describe('what the day can recognise', () => {
  it('is blind at first, comes to what was planned, and loses what is left out', () => {
    const times = [0, 5, 25, 30, 35, 55, 60];
    const all = PULLS.flatMap(({ setup, kind }, place): DayEvent[] => {
      const at = (min: number) => new Date(START + min * 60_000).toISOString();
      const id = `p${place}`;
      return [
        { id: `s${place}`, at: at(times[place]!), by: '', what: started(id, setup, place, { pullKind: kind }) },
        { id: `e${place}`, at: at(times[place]! + 0.2), by: '', what: ended(id) },
      ];
    });
    const [first] = events(begun);
    const now = START + 61 * 60_000;
    const whole = dayResolution(BUNDLE, dayState([first!, ...all]), now, () => true);
    expect(worstResolvable(whole.ifStopped)!).toBeCloseTo(worstResolvable(whole.planned)!, 1);
    expect(worstResolvable(whole.ifGoneOn)).toEqual(worstResolvable(whole.ifStopped));
    const early = dayResolution(BUNDLE, dayState([first!, ...all.slice(0, 8)]), START + 31 * 60_000, () => true);
    expect(worstResolvable(early.ifStopped)!).toBeGreaterThan(1.3 * worstResolvable(early.planned)!);
    expect(worstResolvable(early.ifGoneOn)!).toBeLessThan(worstResolvable(early.ifStopped)!);
    const lost = dayResolution(BUNDLE, dayState([first!, ...all]), now, (id) => id !== 'p3');
    expect(worstResolvable(lost.ifStopped)!).toBeGreaterThan(worstResolvable(whole.ifStopped)!);
    expect(worstResolvable(dayResolution(BUNDLE, dayState([first!]), now, () => true).ifStopped)).toBeNull();
  });
});

describe('limits, zeros and checks', () => {
  it('raise a stop by name and figure, at full load only where that is meant', () => {
    const stops = [
      { id: 'lambda', label: 'Lambda at full load', limit: 0.95, unit: '–', above: true },
      { id: 'boost', label: 'Manifold pressure over its target', limit: 15, unit: 'kPa', above: true },
      { id: 'oil', label: 'Oil', limit: 140, unit: '°C', above: true },
      { id: 'exhaust', label: 'Exhaust', limit: null, unit: '°C', above: true },
    ];
    const at = (quantity: 'lambda' | 'oilTemperature' | 'manifoldPressure', value: number) => [{ quantity, value, atMs: 0 }];
    expect(passedText(passedStop(stops, at('lambda', 1.02), true, null)!.passed, PLAIN_FORMATTER)).toBe(
      'Lambda at full load 1.02 is over the limit of 0.95',
    );
    expect(passedStop(stops, at('lambda', 1.02), false, null)).toBeNull();
    expect(passedStop(stops, at('oilTemperature', 141), false, null)!.criterion).toBe('oil');
    expect(passedStop(stops, at('manifoldPressure', 221_000), true, 205_000)!.criterion).toBe('boost');
    expect(passedStop(stops, at('manifoldPressure', 221_000), true, null)).toBeNull();
  });

  it('tell gauge from absolute by the zero, and how far it drifts', () => {
    const zeros = channelZeros(
      [
        { channels: { inletPressure: 20, manifoldPressure: 99_600 } },
        { channels: { inletPressure: 55, manifoldPressure: 99_640, pressureDrop: 30_000 } },
      ],
      99_500,
    );
    expect(zeros).toEqual([
      { channel: 'inletPressure', kind: 'gauge', zeroPa: 55, driftPa: 35 },
      { channel: 'manifoldPressure', kind: 'absolute', zeroPa: 140, driftPa: 40 },
      { channel: 'pressureDrop', kind: 'unclear', zeroPa: null, driftPa: null },
    ]);
  });

  it('say of each thing that is looked at whether it is good, bad, noted, or not logged', () => {
    const checks = pullChecks(
      [{ flag: 'slip', detail: 'slipped near 5100', said: {}, leavesOut: true, suggestsLeavingOut: false, touches: ['power'], where: [] }],
      ['throttle', 'power', 'rollerSpeed'],
      true,
    );
    const of = (id: string) => checks.find((check) => check.id === id)!.state;
    expect([of('slip'), of('throttle'), of('range'), of('mixture'), of('start')]).toEqual(['bad', 'good', 'good', 'unknown', 'good']);
  });
});

describe('files that come late', () => {
  // Gaps as they are on a real day: never twice the same.
  const pulls = Array.from({ length: 40 }, (_, i) => ({
    id: `p${i + 1}`,
    startedMs: START + 1000 * (i * 310 + ((i * i * 37) % 97) + (i > 19 ? 1500 : 0)),
  }));
  const fileOf = (i: number, offsetS: number) => ({
    file: `f${i + 1}.csv`,
    madeAtMs: pulls[i]!.startedMs + 13_000 + offsetS * 1000,
    lengthS: 15,
    sweepsAtS: [2],
  });
  const WRONG_S = -3600 - 86_400;

  it('are matched through a clock an hour off and a wrong date', () => {
    const found = matchFiles(
      pulls.map((_, i) => fileOf(i, WRONG_S)),
      pulls,
      true,
    );
    expect(found.ask).toBeNull();
    expect(found.offsetS).toBeCloseTo(WRONG_S, 3);
    expect(found.matches.every(({ file, pull }) => file === `f${pull!.slice(1)}.csv`)).toBe(true);
  });

  it.each([0, 7, 22, 39])('are asked about where number %i is missing, and never shifted', (gone) => {
    const files = pulls.flatMap((_, i) => (i === gone ? [] : [fileOf(i, WRONG_S)]));
    const found = matchFiles(files, pulls, true);
    expect(found.missing).toEqual([`p${gone + 1}`]);
    expect(found.ask).toContain(`p${gone + 1}`);
    expect(found.matches.every(({ file, pull }) => file === `f${pull!.slice(1)}.csv`)).toBe(true);
  });

  it('are asked about where one holds a pull that nobody recorded, or where the gaps fit twice', () => {
    const extra = matchFiles(
      [...pulls.map((_, i) => fileOf(i, 0)), { ...fileOf(5, 0), file: 'extra.csv', madeAtMs: pulls[5]!.startedMs + 150_000 }],
      pulls,
      true,
    );
    expect(extra.matches.find(({ file }) => file === 'extra.csv')!.pull).toBeNull();
    expect(extra.ask).toContain('never recorded');
    const even = Array.from({ length: 6 }, (_, i) => ({ id: `q${i}`, startedMs: START + i * 300_000 }));
    const shifted = even
      .slice(0, 5)
      .map(({ startedMs }, i) => ({ file: `e${i}.csv`, madeAtMs: startedMs + 3_600_000, lengthS: 15, sweepsAtS: [2] }));
    expect(matchFiles(shifted, even, true).ask).not.toBeNull();
    expect(matchFiles(shifted.slice(0, 1), [], false).ask).toContain('no pull is recorded');
  });
});

describe('two cars on one day', () => {
  const off: DayHappening = { kind: 'rollers', on: false, other: 'The other car' };
  const on: DayHappening = { kind: 'rollers', on: true };

  it('take turns: nothing is driven while the car is off, its swap goes on, and it comes back to where it was', () => {
    const day = [...events(begun), ...events(off)];
    const state = dayState(day);
    expect(state.away).toEqual({ sinceMs: START, other: 'The other car' });
    expect(instruct(state, [], { nowMs: START, readings: [], history: {} }, true).kind).toBe('away');
    expect(refused(BUNDLE, state, started('p01', 'A', 0))).toMatch(/off the rollers/);
    expect(refused(BUNDLE, state, started('p01', 'A', 0, { cause: 'file' }))).toBe('');
    expect(refused(BUNDLE, state, off)).toMatch(/off the rollers already/);
    const swapping = dayState([...day, ...events({ kind: 'swap-started', to: 'B' })]);
    expect(instruct(swapping, [], { nowMs: START, readings: [], history: {} }, true).kind).toBe('swapping');
    const back = dayState([...day, ...events(on)]);
    expect([back.away, back.remaining.length]).toEqual([null, PULLS.length]);
    expect(refused(BUNDLE, back, on)).toMatch(/on the rollers already/);
    const driving = dayState(events(begun, started('p01', 'A', 0)));
    expect(refused(BUNDLE, driving, off)).toMatch(/under way/);
  });

  it('keep their files apart by when they were made, with time for an export', () => {
    const minutes = (at: number) => START + at * 60_000;
    const state = dayState(events(begun, { kind: 'note', text: 'one', files: [] }, off, { kind: 'note', text: 'two', files: [] }, on));
    expect([minutes(1), minutes(3.9), minutes(4.1), minutes(10)].map((at) => wasAway(state, at))).toEqual([false, false, false, false]);
    const longer = dayState([...events(begun), { ...events(off)[0]!, at: new Date(minutes(1)).toISOString() }]);
    expect([minutes(2.9), minutes(3.1), minutes(90)].map((at) => wasAway(longer, at))).toEqual([false, true, true]);
  });
});

describe('a gate by its quantity', () => {
  const nowMs = Date.parse('2026-06-11T10:00:00Z');
  const reading = (quantity: Quantity, value: number): LiveReading => ({ quantity, value, atMs: nowMs - 1000 });
  const state = dayState([]);
  const gate = (change: Partial<PlanGate>): PlanGate => ({
    id: 'own-1',
    label: 'Strap',
    target: 100,
    tolerance: 5,
    unit: '°C',
    must: true,
    ...change,
  });
  const view = (change: Partial<PlanGate>, readings: LiveReading[]) =>
    gateViews([gate(change)], state, { nowMs, readings, history: {} })[0]!;

  it('is read in its own unit from whatever streams it, above ambient in kelvin, and never from its name where it is typed', () => {
    const pressure = view({ quantity: 'manifoldPressure', unit: 'kPa' }, [reading('manifoldPressure', 101_325)]);
    expect([pressure.value, pressure.standing, pressure.source]).toEqual([101.325, 'met', 'stream']);
    const humidity = view({ quantity: 'relativeHumidity', unit: '%', target: 50 }, [reading('relativeHumidity', 70)]);
    expect([humidity.value, humidity.standing, humidity.ready]).toEqual([70, 'waiting', null]);
    const charge = { quantity: 'coolerOutTemperature', unit: 'K', target: 8, tolerance: 4, side: 'at-most' } as const;
    const readings = [reading('coolerOutTemperature', 41), reading('ambientTemperature', 22)];
    expect(view(charge, readings).value).toBe(19);
    expect(view(charge, readings.slice(0, 1)).standing).toBe('unknown');
    expect(view({ label: 'Oil', quantity: null }, [reading('oilTemperature', 100)]).standing).toBe('unknown');
    expect(view({ id: 'oil', label: 'Oil' }, [reading('oilTemperature', 100)]).standing).toBe('met');
  });

  it('is one that the part can shift only where it must be met and reads the part’s own air', () => {
    const inlet = gate({ quantity: 'inletTemperature', unit: 'K', label: 'Inlet' });
    expect(shiftableGate([gate({ quantity: 'coolantTemperature' }), inlet])).toBe(inlet);
    expect(shiftableGate([{ ...inlet, must: false }])).toBeNull();
    expect(shiftableGate([{ ...inlet, quantity: null }])).toBeNull();
  });

  it('is told by the plan where the part’s own start is asked for', () => {
    const bundle = {
      ...BUNDLE,
      plan: { pulls: BUNDLE.plan!.pulls, gates: [gate({ quantity: 'coolerOutTemperature', unit: 'K', label: 'Charge' })] },
    };
    const codes = (start: 'own' | 'same') =>
      planReport({
        ...bundle,
        programme: { ...bundle.programme, questions: [{ id: 'q1', kind: 'power-gain', start }] },
      }).warnings.map(({ code }) => code);
    expect(codes('own')).toContain('gate-shifts');
    expect(codes('same')).not.toContain('gate-shifts');
  });

  it('of every kind that is offered reads what it says, in a unit that its quantity has', () => {
    for (const [id, offered] of Object.entries(GATES_OFFERED)) {
      const full: PlanGate = { ...offered, id, must: true };
      const source = gateQuantity(full);
      expect(source?.quantity ?? null, id).toBe(offered.quantity);
      if (!source) continue;
      expect(dimensionOf(offered.unit as UnitName), id).toBe(QUANTITY_UNITS[source.quantity].dimension);
    }
    for (const [id, { quantity, unit, limit, above }] of Object.entries(STOPS_OFFERED)) {
      const inside = toSi(limit! * 1.01, unit as UnitName);
      const stop = { id, label: id, limit, unit, above, quantity: quantity! };
      expect(passedStop([stop], [reading(quantity!, inside)], false, null)?.criterion).toBe(id);
      expect(passedStop([stop], [reading(quantity!, toSi(limit! * 0.99, unit as UnitName))], false, null)).toBeNull();
    }
  });
});
