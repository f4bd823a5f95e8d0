import type { LiveHistory, Tide } from '@gezeit/contract';
import { forecastTide, HEAT_FORECAST, scheduled, type DayState, type HeatForecast } from '@gezeit/core';

/** A post on the day's strip: driven, under way, or still ahead. */
export interface DayPost {
  id: string;
  /** Id of the pull; null for one that is ahead. */
  pull: string | null;
  setup: string;
  kind: string;
  startMs: number;
  ahead: boolean;
  out: boolean;
  aborted: boolean;
}

const EVERY_MS = 4000;
const GAP_MS = 90_000;
const DRIVEN_MS = 12_000;

/** The day's tide: as logged or shown by the devices so far, and as forecast for what is still ahead. */
export function dayTide(
  state: DayState,
  logged: Tide | null,
  history: LiveHistory,
  ambientC: number | null,
  nowMs: number,
  rests: { restMin?: number | null; swapMin?: number | null },
  waitS: number,
  leftOut: ReadonlyMap<string, string[]>,
  heat: HeatForecast = HEAT_FORECAST,
): { tide: Tide; posts: DayPost[] } {
  const own = new Set(state.pulls.map(({ id }) => id));
  const stretches: Tide['stretches'] = [];
  const live = ambientC === null ? null : history['intakeAirTemperature'];
  const liveFromMs = live?.atMs[0] ?? Infinity;
  const beganMs = state.begunMs ?? nowMs;
  for (const stretch of logged?.stretches ?? [])
    if (stretch.atMs[0]! >= beganMs - 600_000 && stretch.atMs.at(-1)! < liveFromMs) stretches.push(stretch);
  if (live) stretches.push(...liveStretches(live, ambientC!, beganMs));
  const posts = state.pulls.map((pull): DayPost => ({
    id: pull.id,
    pull: pull.id,
    setup: pull.setup,
    kind: pull.kind,
    startMs: pull.startedMs,
    ahead: false,
    out: pull.aborted || (pull.kind === 'measured' && leftOut.has(pull.id)),
    aborted: pull.aborted,
  }));
  const driven: Tide['pulls'] = state.pulls.map(({ id, setup, kind, startedMs, endedMs, begun }) => {
    const { intakeAirC } = begun.start;
    const air = begun.weather?.temperatureC ?? null;
    const startK = intakeAirC === null || air === null ? null : intakeAirC - air;
    return { id, setup, kind, status: 'used', startMs: startedMs, endMs: endedMs ?? startedMs + DRIVEN_MS, startK, endK: null };
  });
  const level = stretches.at(-1)?.valueK.at(-1) ?? driven.at(-1)?.startK ?? heat.firstK;
  const ahead = aheadOf(state, nowMs, rests, waitS, level, heat);
  stretches.push(...ahead.stretches);
  posts.push(
    ...ahead.pulls.map((pull): DayPost => ({
      id: pull.id,
      pull: null,
      setup: pull.setup,
      kind: pull.kind,
      startMs: pull.startMs,
      ahead: true,
      out: false,
      aborted: false,
    })),
  );
  const tide: Tide = {
    source: live ? 'live' : own.size > 0 ? 'logs' : 'forecast',
    pulls: [...driven, ...ahead.pulls],
    stretches: stretches.length > 0 ? stretches : [{ kind: 'fitted', atMs: [beganMs, nowMs], valueK: [level, level] }],
  };
  return { tide, posts };
}

/** The devices' own course, thinned, with gaps where nothing came. */
function liveStretches({ atMs, value }: { atMs: number[]; value: number[] }, ambientC: number, fromMs: number): Tide['stretches'] {
  const list: Tide['stretches'] = [];
  let last = -Infinity;
  for (const [i, at] of atMs.entries()) {
    if (at < fromMs || at - last < EVERY_MS) continue;
    if (at - last > GAP_MS) list.push({ kind: 'logged', atMs: [], valueK: [] });
    const stretch = list.at(-1)!;
    stretch.atMs.push(at);
    stretch.valueK.push(value[i]! - ambientC);
    last = at;
  }
  return list.filter((stretch) => stretch.atMs.length > 1);
}

function aheadOf(
  state: DayState,
  nowMs: number,
  rests: { restMin?: number | null; swapMin?: number | null },
  waitS: number,
  level: number,
  heat: HeatForecast,
): Tide {
  const none: Tide = { source: 'forecast', pulls: [], stretches: [] };
  const { remaining } = state;
  if (remaining.length === 0 || state.endedMs !== null) return none;
  const plan = scheduled({ ...rests, pulls: remaining.map(({ setup, kind }) => ({ setup, kind, atMin: 0 })) });
  const firstMin =
    waitS / 60 + (remaining[0]!.setup === (state.swapping?.to ?? state.fitted) && !state.swapping ? 0 : (rests.swapMin ?? 20));
  const pulls = plan.pulls.map((pull) => ({ ...pull, atMin: pull.atMin + firstMin }));
  const forecast = forecastTide({ pulls }, { ...heat, firstK: ebbing(level, firstMin * 60, heat) });
  return {
    ...none,
    pulls: forecast.pulls.map((pull, i) => ({
      ...pull,
      id: `ahead-${remaining[i]!.place}`,
      startMs: pull.startMs + nowMs,
      endMs: pull.endMs + nowMs,
    })),
    stretches: [
      ebb(level, nowMs, firstMin, heat),
      ...forecast.stretches.map((stretch) => ({ ...stretch, atMs: stretch.atMs.map((at) => at + nowMs) })),
    ],
  };
}

/** What is left of a level after a time: it ebbs with the slow mass to where the car stands. */
const ebbing = (level: number, seconds: number, { slowS, standingK }: HeatForecast) =>
  standingK + (level - standingK) * Math.exp(-seconds / slowS);

/** From now to the next pull. */
function ebb(level: number, fromMs: number, minutes: number, heat: HeatForecast): Tide['stretches'][number] {
  const at = Array.from({ length: 12 }, (_, i) => (minutes * 60 * i) / 11);
  return { kind: 'fitted', atMs: at.map((s) => fromMs + s * 1000), valueK: at.map((s) => ebbing(level, s, heat)) };
}
