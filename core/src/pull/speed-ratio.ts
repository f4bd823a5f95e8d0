import { median } from '../numeric/means.js';
import type { PullCurve } from './curve.js';

/** Speed over engine speed, by engine speed, and its median over the sweep, m/s per rpm. */
export interface SpeedRatio {
  /** Whose speed it is: what the roller and the car say may differ by a factor. */
  of: 'rollerSpeed' | 'vehicleSpeed';
  byRpm: ReadonlyMap<number, number>;
  overall: number;
}

/** Every pull is held against others: the ratio of each is made once. */
const ratios = new WeakMap<PullCurve, SpeedRatio | null>();

/** Roller speed, else the car's, over engine speed; null where neither is logged. */
export function speedRatio(curve: PullCurve): SpeedRatio | null {
  const known = ratios.get(curve);
  if (known !== undefined) return known;
  const { channels, gridRpm } = curve;
  const of = channels.has('rollerSpeed') ? 'rollerSpeed' : 'vehicleSpeed';
  const speed = channels.get(of);
  const byRpm = new Map<number, number>();
  for (let i = 0; speed && i < gridRpm.length; i += 1) {
    const ratio = speed[i]! / gridRpm[i]!;
    if (Number.isFinite(ratio)) byRpm.set(gridRpm[i]!, ratio);
  }
  const ratio: SpeedRatio | null = speed ? { of, byRpm, overall: median([...byRpm.values()]) } : null;
  ratios.set(curve, ratio);
  return ratio;
}

/**
 * Another gear: the ratio of the speeds differs by more than this. Neighbouring gears are a sixth apart and more, what a tyre or a converter does is less.
 * An assumption.
 */
export const OTHER_GEAR_SHARE = 0.08;

/** The gear that a pull was driven in, as its channel says; null where none is logged. */
export function loggedGear({ channels }: PullCurve): number | null {
  const gears = [...(channels.get('gear') ?? [])].filter(Number.isFinite);
  return gears.length > 0 ? Math.round(median(gears)) : null;
}
