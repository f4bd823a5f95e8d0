import type { LogTable, ReadTable } from '../log/log-table.js';
import { speedMap, type SpeedMap } from '../pull/speed-map.js';
import { lowerBound } from '../numeric/interpolate.js';
import { findSweeps, openSpans, pullSweeps, sweepSpeed } from '../pull/sweep.js';
import { gearOf, rpmPerSpeed, type Gearbox } from '../pull/gear-of.js';
import { traceFor, type Trace } from '../pull/traces.js';
import { triggerEdges, triggeredStretches, type TriggerEdges } from '../pull/trigger-edges.js';
import { steppingTrace, stepSpans } from './step-spans.js';

/** A full-throttle sweep as one file shows it. Times are on the table's clock. */
export interface SweepEvent {
  file: string;
  recording: number;
  startS: number;
  endS: number;
  /** When the throttle shut, as near as the file tells. */
  liftS: number;
  fromRpm: number | null;
  toRpm: number | null;
  gear: number | null;
  /** By what it is seen; a whole file that shows none is seen by nothing. */
  by: 'engine' | 'roller' | 'vehicle' | 'step' | 'trigger' | 'nothing';
  /** How near `liftS` is known, ± at 95 %, s; null where it is not. */
  liftWithinS: number | null;
  /** When each speed was passed; null where no speed is logged. */
  map: SpeedMap | null;
  /** When the file's trigger came and went; null where it logs none. */
  trigger: TriggerEdges | null;
}

/** A recording of one pull is no longer than this, s; assumption. */
export const LONGEST_PULL_FILE_S = 600;

/** The sweeps of a file: by its speed, else by what steps with the throttle, else, where it holds several, by its trigger. A gearbox that is known tells the gear. */
export function sweepEvents(table: ReadTable, gearbox: Gearbox = {}): SweepEvent[] {
  if (!table.timeS || !table.clock) return [];
  const speed = sweepSpeed(table);
  const trigger = triggerEdges(table);
  const { recordings } = table.clock;
  const recordingOf = (timeS: number) =>
    Math.max(
      0,
      recordings.findLastIndex(({ firstRow }) => table.timeS![firstRow]! <= timeS + 1e-6),
    );
  if (!speed) {
    const stepping = steppingTrace(table);
    const seen = ({ startS, endS }: { startS: number; endS: number }) => ({
      file: table.file,
      recording: recordingOf(startS),
      startS,
      endS,
      liftS: endS,
      fromRpm: null,
      toRpm: null,
      gear: null,
      map: null,
      trigger,
    });
    if (stepping) return stepSpans(stepping).map((span) => ({ ...seen(span), by: 'step', liftWithinS: stepping.withinS }));
    const stretches = trigger ? triggeredStretches(trigger) : [];
    const isOfOnePull = stretches.length <= 1 && table.timeS.at(-1)! - table.timeS[0]! <= LONGEST_PULL_FILE_S;
    return isOfOnePull ? [] : stretches.map((stretch) => ({ ...seen(stretch), by: 'trigger', liftWithinS: null }));
  }
  const by = speed.isEngine ? 'engine' : table.columns.some(({ quantity }) => quantity === 'rollerSpeed') ? 'roller' : 'vehicle';
  const open = traceFor(table, 'pedal') ?? traceFor(table, 'throttle');
  const spans = open && openSpans(open);
  const gear = traceFor(table, 'gear');
  const road = traceFor(table, 'vehicleSpeed') ?? traceFor(table, 'rollerSpeed');
  return pullSweeps(findSweeps(table)).map(({ startS, endS }) => {
    const map = speedMap(speed.trace, startS, endS);
    return {
      file: table.file,
      recording: recordingOf(startS),
      startS,
      endS,
      liftS: open ? liftOf(open, spans!, startS, endS) : endS,
      fromRpm: speed.isEngine && map.speed.length > 0 ? Math.round(map.speed[0]!) : null,
      toRpm: speed.isEngine && map.speed.length > 0 ? Math.round(map.speed.at(-1)!) : null,
      gear: gearOf(gear, gearbox, startS, endS, speed.isEngine && road ? rpmPerSpeed(speed.trace, road, startS, endS) : null),
      by,
      liftWithinS: LIFT_SEEN_WITHIN_S,
      map: map.speed.length >= 5 ? map : null,
      trigger,
    };
  });
}

/** A throttle or the highest speed shows the lift about as near as this, ± at 95 %, s. */
const LIFT_SEEN_WITHIN_S = 0.1;
/** Behind the highest speed the throttle is looked at for so long, s. */
const LIFT_WITHIN_S = 1.5;

/** When pedal or throttle shut behind a sweep; where it does not show, the sweep's own end. */
function liftOf(open: Trace, spans: readonly [number, number][], startS: number, endS: number): number {
  const span = spans.find(([from, to]) => from <= startS + 1 && to >= endS - LIFT_WITHIN_S);
  if (!span) return endS;
  const after = open.timeS[lowerBound(open.timeS, span[1]) + 1] ?? span[1];
  return after - span[1] < LIFT_WITHIN_S ? (span[1] + after) / 2 : span[1];
}

/** How many seconds the file's own clock stands behind the table's in a recording. */
export const shiftOf = (table: ReadTable, recording: number): number => table.clock?.recordings[recording]?.shiftS ?? 0;

/** Samples a second, by the median step; null without time. */
export function rateHz({ timeS }: LogTable): number | null {
  if (!timeS || timeS.length < 3) return null;
  const steps: number[] = [];
  for (let i = 1; i < timeS.length && steps.length < 2000; i += 1) {
    const step = timeS[i]! - timeS[i - 1]!;
    if (step > 0) steps.push(step);
  }
  steps.sort((a, b) => a - b);
  const step = steps[steps.length >> 1];
  return step ? Math.round(1000 / step) / 1000 : null;
}
