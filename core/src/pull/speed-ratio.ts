import { madeOnce } from '../made-once.js';
import { median } from '../numeric/means.js';
import type { PullCurve } from './curve.js';

/** Speed over engine speed along the curve's grid, and its median over the sweep, m/s per rpm. */
export interface SpeedRatio {
  /** Whose speed it is: what the roller and the car say may differ by a factor. */
  of: 'rollerSpeed' | 'vehicleSpeed';
  /** NaN where it is not known. */
  onGrid: Float64Array;
  known: number;
  overall: number;
}

/** Roller speed, else the car's, over engine speed; null where neither is logged. Every pull is held against others: the ratio of each is made once. */
export const speedRatio = madeOnce(({ channels, gridRpm }: PullCurve): SpeedRatio | null => {
  const of = channels.has('rollerSpeed') ? 'rollerSpeed' : 'vehicleSpeed';
  const speed = channels.get(of);
  return speed ? ratioOf(of, speed, gridRpm) : null;
});

function ratioOf(of: SpeedRatio['of'], speed: Float64Array, gridRpm: Float64Array): SpeedRatio {
  const onGrid = gridRpm.map((rpm, i) => speed[i]! / rpm);
  const known = onGrid.filter(Number.isFinite);
  return { of, onGrid, known: known.length, overall: median(known) };
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
