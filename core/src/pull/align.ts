import type { LogReference } from '@gezeit/contract';
import type { Sweep } from './sweep.js';
import { openSpans, sweepSpeed } from './sweep.js';
import { speedMap, type SpeedMap } from './speed-map.js';
import { traceFor } from './traces.js';
import { offsetByTrigger, triggerEdges, triggerWindow } from './trigger-edges.js';
import type { LogTable } from '../log/log-table.js';
import { interpolate } from '../numeric/interpolate.js';
import { median } from '../numeric/means.js';

/** How one log's clock stands against the first log's: first clock = own clock − offset. */
export interface Alignment {
  file: string;
  offsetS: number;
  how: 'first' | 'engine-speed' | 'roller-speed' | 'vehicle-speed' | 'step' | 'trigger' | 'hand' | 'same-clock' | 'same-start' | 'curve';
  /** Median disagreement in time after aligning, s; null where speed was not compared. */
  residualS: number | null;
}

const LEVELS = 41;

/**
 * Offset of a log that shows the sweep itself: the median difference in time at which both passed the same engine speeds. A roller
 * speed is scaled by the ratio that makes both sweeps agree best.
 */
export function alignBySpeed(first: SpeedMap, table: LogTable, sweep: Sweep): Alignment | null {
  const own = sweepSpeed(table);
  if (!own) return null;
  const map = speedMap(own.trace, sweep.startS, sweep.endS);
  if (map.speed.length < 5) return null;
  if (own.isEngine) {
    const differences = differencesInTime(first, map, 1);
    if (differences.length < LEVELS / 4) return null;
    const offsetS = median(differences);
    return { file: table.file, offsetS, how: 'engine-speed', residualS: median(differences.map((d) => Math.abs(d - offsetS))) };
  }
  return alignByRoller(first, map, table.file);
}

function differencesInTime(first: SpeedMap, other: SpeedMap, scale: number): number[] {
  const low = Math.max(first.speed[0]!, scale * other.speed[0]!);
  const high = Math.min(first.speed.at(-1)!, scale * other.speed.at(-1)!);
  const differences: number[] = [];
  for (let level = 0; level < LEVELS; level += 1) {
    const speed = low + (high - low) * (0.1 + (0.8 * level) / (LEVELS - 1));
    const difference = interpolate(other.speed, other.timeS, speed / scale) - interpolate(first.speed, first.timeS, speed);
    if (Number.isFinite(difference)) differences.push(difference);
  }
  return differences;
}

/** The scale is searched: at the right one the time differences at all speeds are alike. */
function alignByRoller(first: SpeedMap, other: SpeedMap, file: string): Alignment | null {
  const guess = first.speed.at(-1)! / other.speed.at(-1)!;
  let best: Alignment | null = null;
  for (let step = -100; step <= 100; step += 1) {
    const differences = differencesInTime(first, other, guess * (1 + step / 500));
    if (differences.length < LEVELS / 2) continue;
    const offsetS = median(differences);
    const residualS = median(differences.map((d) => Math.abs(d - offsetS)));
    if (!best || residualS < best.residualS!) best = { file, offsetS, how: 'roller-speed', residualS };
  }
  return best;
}

/** Two records of one full throttle may differ in its length by this share. */
const SAME_SPAN_SHARE = 0.15;

/** Offset of a companion without speed that has logged throttle or pedal: both saw the same full throttle begin. Null where it is not plain. */
export function alignByThrottle(first: LogTable, table: LogTable, sweep: Sweep): Alignment | null {
  const [own, other] = [first, table].map((entry) => traceFor(entry, 'throttle') ?? traceFor(entry, 'pedal'));
  if (!own || !other) return null;
  const [fromS, toS] = openSpans(own).find(([start, end]) => start <= sweep.startS + 0.5 && end >= sweep.endS - 1) ?? [0, 0];
  const alike = openSpans(other).filter(([start, end]) => Math.abs(end - start - (toS - fromS)) <= SAME_SPAN_SHARE * (toS - fromS));
  if (toS <= fromS || alike.length !== 1) return null;
  const [startS, endS] = alike[0]!;
  return { file: table.file, offsetS: startS - fromS, how: 'step', residualS: Math.abs(endS - startS - (toS - fromS)) };
}

/** Offset of a companion that logged the same trigger. Null where there is none, or where it is not plain. */
export function alignByTrigger(first: LogTable, table: LogTable, { startS, endS }: Sweep): Alignment | null {
  const [own, other] = [triggerEdges(first), triggerEdges(table)];
  const found = own && other && offsetByTrigger(own, triggerWindow(startS, endS), other, [-Infinity, Infinity]);
  return found && { file: table.file, offsetS: found.offsetS, how: 'trigger', residualS: found.withinS };
}

/** Ways in which a reading finds a clock's offset; where it went by clocks, by order or by assumption, nothing is known of it to a sample. */
const SEEN = ['engine-speed', 'roller-speed', 'vehicle-speed', 'step', 'trigger'] as const;

/** What the pull itself says of a log's offset: by hand, or as the files were read. Null where it says nothing that can be leant on. */
export function statedAlignment(logs: readonly LogReference[], first: LogTable, table: LogTable): Alignment | null {
  const own = logs.find(({ file }) => file === table.file);
  const lead = logs.find(({ file }) => file === first.file);
  const how = own?.how === 'hand' ? 'hand' : SEEN.find((way) => way === own?.how);
  if (!own || !lead || !how || own.offsetS == null) return null;
  if (lead !== logs[0] && lead.offsetS == null) return null;
  const shiftOf = ({ report }: LogTable, { recording }: LogReference) => report.recordings?.[recording ?? 0]?.shiftS ?? 0;
  // Stated offsets are between the files' own clocks, and from the first log listed.
  const offsetS = own.offsetS - (lead.offsetS ?? 0) + shiftOf(table, own) - shiftOf(first, lead);
  return { file: table.file, offsetS, how, residualS: own.withinS ?? null };
}

/** Whether an alignment is only assumed: it feeds no flag, no confound, no witness and no figure. */
export const isAssumed = ({ how }: Alignment): boolean => how === 'same-clock' || how === 'same-start';

/**
 * Where nothing in common tells: the same clock where the record covers the sweep, else the same start of recording. Good for drawing the
 * traces together, and for nothing else.
 */
export function assumedAlignment(firstTable: LogTable, table: LogTable, sweep: Sweep): Alignment {
  const time = table.timeS!;
  const covers = time[0]! <= sweep.startS && time[time.length - 1]! >= sweep.endS;
  if (covers) return { file: table.file, offsetS: 0, how: 'same-clock', residualS: null };
  return { file: table.file, offsetS: time[0]! - firstTable.timeS![0]!, how: 'same-start', residualS: null };
}
