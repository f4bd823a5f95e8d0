import type { ReadMember } from '@gezeit/contract';
import { interpolate } from '../numeric/interpolate.js';
import { median } from '../numeric/means.js';
import type { SpeedMap } from '../pull/speed-map.js';
import { offsetByTrigger, triggerWindow, type Window } from '../pull/trigger-edges.js';
import type { DeviceKind } from './device-kind.js';
import type { GatheredPull } from './timed.js';
import type { SweepEvent } from './sweep-event.js';

const LEVELS = 41;
/** Differences in time at neighbouring speeds share their smoothing: so many of them count as one. */
const SHARED = 4;
/** What a speed's own delay through a device may add, ± at 95 %, s. */
const DEVICE_DELAY_S = 0.008;

const ORDER: readonly DeviceKind[] = ['ecu', 'dyno', 'daq', 'weather', 'unknown'];

/** A member of a pull on the clocks of the tables. */
export interface AlignedMember extends Pick<ReadMember, 'how' | 'withinS'> {
  event: SweepEvent;
  offsetS: number | null;
}

/** A trigger that stands further than this outside what a step leaves open is another's, s; assumption. */
const TRIGGER_BESIDE_STEP_S = 0.3;

/**
 * Puts a pull's files upon the clock of its first one: by engine speed, else by roller or vehicle speed, else by the step of full throttle.
 * A trigger that another file logs as well is finer than a step: it goes before, where both agree.
 */
export function alignMembers({ members }: GatheredPull): AlignedMember[] {
  const rank = ({ event, device }: GatheredPull['members'][number]) =>
    (event.by === 'engine' && event.map ? 0 : event.map ? 10 : Number.isNaN(event.startS) ? 30 : 20) + ORDER.indexOf(device);
  const [first, ...others] = [...members].sort((a, b) => rank(a) - rank(b));
  if (!first) return [];
  const isCurve = Number.isNaN(first.event.startS);
  const own: AlignedMember = { event: first.event, offsetS: isCurve ? null : 0, how: isCurve ? 'curve' : 'first', withinS: null };
  const all = [own, ...others.map(({ event }) => aligned(first.event, event))];
  return all.map((member) => byTrigger(all, member) ?? member);
}

/** By a trigger in common with a file whose place is known better; null where there is none. */
function byTrigger(members: readonly AlignedMember[], { event, how, offsetS, withinS }: AlignedMember): AlignedMember | null {
  if (!event.trigger || offsetS === null || (how !== 'step' && how !== 'assumed')) return null;
  const [first] = members;
  const wholeFile = event.by === 'nothing';
  const own: Window = wholeFile ? [event.startS, event.endS] : triggerWindow(event.startS, event.endS);
  for (const lead of members) {
    if (!lead.event.trigger || lead.offsetS === null || lead.how === 'step' || lead.how === 'assumed') continue;
    const found = offsetByTrigger(lead.event.trigger, triggerWindow(lead.event.startS, lead.event.endS), event.trigger, own);
    if (!found) continue;
    const together = lead.offsetS + found.offsetS;
    if (how === 'step' && Math.abs(together - offsetS) > withinS! + TRIGGER_BESIDE_STEP_S) continue;
    // Without a speed of its own a file has the sweep's span, on its own clock.
    const span = { startS: first!.event.startS + together, endS: first!.event.endS + together };
    return { event: { ...event, ...span }, offsetS: together, how: 'trigger', withinS: Math.hypot(lead.withinS ?? 0, found.withinS) };
  }
  return null;
}

function aligned(first: SweepEvent, event: SweepEvent): AlignedMember {
  if (Number.isNaN(event.startS)) return { event, offsetS: null, how: 'curve', withinS: null };
  if (first.map && event.map) {
    const found = first.by === 'engine' && event.by === 'engine' ? offsetAt(first.map, event.map, 1) : offsetByScale(first.map, event.map);
    const how =
      event.by === 'engine' && first.by === 'engine'
        ? 'engine-speed'
        : event.by === 'vehicle' || first.by === 'vehicle'
          ? 'vehicle-speed'
          : 'roller-speed';
    if (found) return { event, offsetS: found.offsetS, how, withinS: found.withinS };
  }
  const offsetS = event.liftS - first.liftS;
  // A file in which no full throttle shows belongs to the pull by its clock or its order: nobody knows when in it.
  if (event.liftWithinS === null || first.liftWithinS === null) return { event, offsetS, how: 'assumed', withinS: null };
  // What steps shows the end of full throttle at once; its beginning comes late where a turbocharger spools.
  return { event, offsetS, how: 'step', withinS: Math.max(event.liftWithinS, first.liftWithinS) };
}

interface Offset {
  offsetS: number;
  withinS: number;
  residualS: number;
}

function offsetAt(first: SpeedMap, other: SpeedMap, scale: number): Offset | null {
  const low = Math.max(first.speed[0]!, scale * other.speed[0]!);
  const high = Math.min(first.speed.at(-1)!, scale * other.speed.at(-1)!);
  const differences: number[] = [];
  for (let level = 0; level < LEVELS; level += 1) {
    const speed = low + (high - low) * (0.1 + (0.8 * level) / (LEVELS - 1));
    const difference = interpolate(other.speed, other.timeS, speed / scale) - interpolate(first.speed, first.timeS, speed);
    if (Number.isFinite(difference)) differences.push(difference);
  }
  if (differences.length < LEVELS / 4) return null;
  const offsetS = median(differences);
  const residualS = 1.4826 * median(differences.map((value) => Math.abs(value - offsetS)));
  const withinS = Math.hypot((1.96 * 1.2533 * residualS) / Math.sqrt(differences.length / SHARED), DEVICE_DELAY_S);
  return { offsetS, withinS, residualS };
}

/** A roller's speed is scaled: at the right ratio the differences in time at all speeds are alike. */
function offsetByScale(first: SpeedMap, other: SpeedMap): Offset | null {
  const guess = first.speed.at(-1)! / other.speed.at(-1)!;
  let best: Offset | null = null;
  for (let step = -100; step <= 100; step += 1) {
    const found = offsetAt(first, other, guess * (1 + step / 500));
    if (found && (!best || found.residualS < best.residualS)) best = found;
  }
  // The ratio is fitted as well: the offset is known less well than at a known one.
  return best && { ...best, withinS: Math.hypot(best.withinS * 3, DEVICE_DELAY_S) };
}
