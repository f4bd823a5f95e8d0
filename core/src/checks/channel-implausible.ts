import type { Quantity } from '@gezeit/contract';
import { median } from '../numeric/means.js';
import { said } from '../said.js';
import type { Check } from './check.js';
import { PLAUSIBLE } from './plausible.js';

/** Intake air so much colder than the air around is no intake air, where no coolant could have cooled it, K; assumption. */
const COLDER_K = 8;

export const channelImplausible: Check = {
  flag: 'channel-implausible',
  leavesOut: false,
  suggestsLeavingOut: false,
  touches: ['power', 'temperature', 'restriction'],
  ofSetup: null,
  needs: [],
  inCell: null,
  thresholds: [
    {
      name: 'channel implausible',
      value: 'beyond what can be',
      what: `The median of the sweep lies outside of what its name can read at full throttle, or intake air is more than ${COLDER_K} K colder than the air around. The limits are listed with the checks.`,
    },
  ],
  find({ bundle, curve }) {
    if (!curve) return null;
    const found: { key: string; column: string; device: string; value: number; low: number; high: number }[] = [];
    for (const [key, values] of curve.channels) {
      const source = curve.sources.get(key);
      const limits = limitsOf(key, bundle.vehicle.ignition === 'compression', curve.air?.temperatureC ?? null, curve.channels);
      if (!source || !limits) continue;
      // Where nothing lies outside its middle does not: nearly always, and every channel of every pull is asked.
      if (!reachesBeyond(values, limits)) continue;
      const value = median(values.filter(Number.isFinite));
      if (value < limits[0] || value > limits[1])
        found.push({ key, column: source.column, device: source.device, value, low: limits[0], high: limits[1] });
    }
    return found.length === 0 ? null : { said: said('flag:channel-implausible', { channels: found }) };
  },
};

function reachesBeyond(values: Float64Array, [low, high]: readonly [number, number]): boolean {
  for (let i = 0; i < values.length; i += 1) if (values[i]! < low || values[i]! > high) return true;
  return false;
}

function limitsOf(
  key: string,
  isDiesel: boolean,
  ambientC: number | null,
  channels: ReadonlyMap<string, Float64Array>,
): readonly [number, number] | null {
  const quantity = key.split('/')[0] as Quantity;
  // A diesel runs lean by nature, and has no spark.
  if (isDiesel && quantity === 'lambda') return [0.8, 8];
  const limits = PLAUSIBLE[quantity];
  const canBeCooled = channels.has('coolantInTemperature') || ambientC === null;
  if (limits && quantity === 'intakeAirTemperature' && !canBeCooled) return [Math.max(limits[0], ambientC - COLDER_K), limits[1]];
  return limits ?? null;
}
