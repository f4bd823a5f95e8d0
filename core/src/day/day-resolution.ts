import type { Bundle, PlanPull } from '@gezeit/contract';
import { plannedResolution } from '../plan/planned-resolution.js';
import { scheduled } from '../plan/schedule.js';
import type { DayState } from './day-state.js';

type Planned = ReturnType<typeof plannedResolution>;

/** What the day can recognise: as it was planned, if it ended now, and if it goes on as it now stands. */
export interface DayResolution {
  planned: Planned;
  ifStopped: Planned;
  ifGoneOn: Planned;
}

/**
 * The plan's resolution, recomputed from what was really driven (at its real times) and what remains.
 * @param usable whether a pull may be counted as measured: not left out by a rule or a person.
 */
export function dayResolution(bundle: Bundle, state: DayState, nowMs: number, usable: (pull: string) => boolean): DayResolution {
  const of = (pulls: PlanPull[]) => plannedResolution({ ...bundle, plan: { ...(bundle.plan ?? {}), pulls } });
  const beganMs = state.pulls[0]?.startedMs ?? nowMs;
  const driven = state.pulls
    .filter(({ endedMs }) => endedMs !== null)
    .map(({ id, setup, kind, aborted, startedMs }): PlanPull => ({
      setup,
      kind: kind === 'measured' && !aborted && usable(id) ? 'measured' : 'conditioning',
      atMin: (startedMs - beganMs) / 60_000,
    }));
  const times = bundle.plan ?? { pulls: [] };
  const left = scheduled({
    ...times,
    pulls: state.remaining.map(({ setup, kind, restMin }): PlanPull => ({ setup, kind, atMin: 0, restMin })),
  }).pulls;
  const fromMin = (nowMs - beganMs) / 60_000;
  return {
    planned: of(state.planned),
    ifStopped: of(driven),
    ifGoneOn: of([...driven, ...left.map((pull) => ({ ...pull, atMin: pull.atMin + fromMin }))]),
  };
}

/** The worst of several comparisons' smallest gains; null where nothing can be compared. */
export function worstResolvable(list: Planned): number | null {
  return list.length === 0 ? null : Math.max(...list.map(({ resolution }) => resolution.smallestResolvablePct));
}
