import type { PullHeat } from '@gezeit/contract';
import { recoveryOf } from '../pull/recovery.js';
import { intakeAirRiseK } from './charge-cooling.js';
import type { AnalysedPull } from './analysed-pull.js';

/** A recovery is looked for from so long after full throttle on: until then the heat of the sweep still comes through, s. */
const AFTER_S = 4;

/** What a pull did to its intake air, and how that fell back; null where it is not logged. */
export function heatOf(entry: AnalysedPull): PullHeat | null {
  const { curve, start, air } = entry;
  const riseK = intakeAirRiseK(entry);
  const channel = curve?.channels.get('intakeAirTemperature');
  if (!curve || !channel || riseK === null || start.intakeAirC === null) return null;
  const known = channel.filter(Number.isFinite);
  const peakC = Math.max(
    start.intakeAirC,
    known.reduce((a, b) => Math.max(a, b), -Infinity),
  );
  const lastsS = Number.isFinite(curve.endS) ? curve.endS - curve.startS : null;
  const workKJ = workOf(entry);
  return {
    startC: start.intakeAirC,
    peakC,
    riseK,
    risePerS: lastsS === null ? null : riseK / lastsS,
    risePerWheelKJ: workKJ === null ? null : riseK / workKJ,
    startAboveAmbientK: air ? start.intakeAirC - air.temperatureC : null,
    peakAboveAmbientK: air ? peakC - air.temperatureC : null,
    recovery: recoveryAfter(entry),
  };
}

/** Work at the place where power is measured, over the sweep, kJ; null without power or time. */
function workOf({ curve }: AnalysedPull): number | null {
  const power = curve?.channels.get('power');
  if (!curve || !power) return null;
  let joule = 0;
  for (let i = 1; i < power.length; i += 1) {
    const step = curve.gridTimeS[i]! - curve.gridTimeS[i - 1]!;
    const work = ((power[i]! + power[i - 1]!) / 2) * step;
    if (Number.isFinite(work)) joule += work;
  }
  return joule > 0 ? joule / 1000 : null;
}

function recoveryAfter({ heat, curve, pull }: AnalysedPull): PullHeat['recovery'] {
  const course = heat?.intakeAirTemperature;
  if (!course || !curve || !Number.isFinite(curve.endS)) return null;
  const endMs = Date.parse(pull.startedAt) + 1000 * (curve.endS - curve.startS);
  const after = [...course.atMs.keys()].filter((i) => course.atMs[i]! >= endMs + 1000 * AFTER_S);
  return recoveryOf(
    after.map((i) => (course.atMs[i]! - endMs) / 1000),
    after.map((i) => course.aboveAmbientK[i]!),
  );
}
