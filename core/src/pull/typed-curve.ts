import { torqueFromPowerNm } from '../units/power.js';
import type { PullCurve } from './curve.js';
import { gridOf } from './resample.js';
import { interpolate } from '../numeric/interpolate.js';

/**
 * A curve through points read off a screen or sheet, straight between them, on the grid of engine speed.
 * @param rpm ascending; @param powerW uncorrected, at the same places.
 */
export function pointCurve(rpm: readonly number[], powerW: readonly number[]): PullCurve {
  const ends = { speed: Float64Array.of(rpm[0]!, rpm.at(-1)!), timeS: Float64Array.of(0, 1) };
  const gridRpm = gridOf(ends);
  const power = gridRpm.map((speed) => interpolate(rpm, powerW, speed));
  return {
    id: 'typed',
    startS: Number.NaN,
    endS: Number.NaN,
    gridRpm,
    gridTimeS: gridRpm.map(() => Number.NaN),
    channels: new Map([
      ['power', power],
      ['torque', power.map((value, i) => torqueFromPowerNm(value, gridRpm[i]!))],
    ]),
    start: { intakeAirC: null, coolantC: null, oilC: null },
    air: null,
    spikes: [],
    faults: [],
    alignments: [],
    readTwice: [],
    sources: new Map(),
    unmatched: new Map(),
    warnings: [],
  };
}
