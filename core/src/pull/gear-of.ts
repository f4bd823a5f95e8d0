import type { Vehicle } from '@gezeit/contract';
import { interpolate } from '../numeric/interpolate.js';
import { median } from '../numeric/means.js';
import { samplesBetween, traceBetween, type Trace } from './traces.js';

/** What turns engine speed into road speed. */
export type Gearbox = Pick<Vehicle, 'gearRatios' | 'finalDrive' | 'tyreRadiusM'>;

/** A gear is told by the ratio of the speeds where it is this near; assumption. */
const RATIO_SHARE = 0.06;
/** Slower than this a speed tells no ratio, m/s. */
const LEAST_SPEED_MS = 1;

/**
 * The gear by its own channel, else the one of the car's ratios that fits engine and road speed; null where neither tells.
 * @param rpmPerMS engine speed per road speed.
 */
export function gearOf(gear: Trace | null, gearbox: Gearbox, startS: number, endS: number, rpmPerMS: number | null): number | null {
  const samples = gear ? samplesBetween(gear, startS, endS) : [];
  if (samples.length > 0) return Math.round(median(samples));
  const { gearRatios, finalDrive, tyreRadiusM } = gearbox;
  if (rpmPerMS === null || !gearRatios?.length || !finalDrive || !tyreRadiusM) return null;
  const ratios = gearRatios.map((ratio) => (ratio * finalDrive * 60) / (2 * Math.PI * tyreRadiusM));
  const apart = ratios.map((ratio) => Math.abs(rpmPerMS / ratio - 1));
  const best = apart.indexOf(Math.min(...apart));
  return apart[best]! <= RATIO_SHARE ? best + 1 : null;
}

/** Engine speed per road speed between two times, rpm per m/s; null where the car stands or nothing is logged. */
export function rpmPerSpeed(engine: Trace, road: Trace, startS: number, endS: number): number | null {
  const { timeS, values } = traceBetween(engine, startS, endS);
  const ratios: number[] = [];
  for (const [i, at] of timeS.entries()) {
    const speedMS = interpolate(road.timeS, road.values, at);
    if (speedMS > LEAST_SPEED_MS) ratios.push(values[i]! / speedMS);
  }
  return ratios.length > 0 ? median(ratios) : null;
}
