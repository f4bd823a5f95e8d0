import type { Bundle } from '@gezeit/contract';
import { CELSIUS_ZERO_K } from '../air/saturation.js';
import type { PullSeries } from '../judge/series.js';
import { bandMean, type Band } from '../pull/band.js';
import { metricValue, pullFactor, type AnalysedPull } from './analysed-pull.js';

/** How a pull's value is taken; null leaves the pull out of this question. */
export type ValueOf = (pull: AnalysedPull, band: Band) => number | null;

/** Logarithm of the corrected metric. */
export function logMetric(bundle: Bundle, correction = bundle.programme.correction): ValueOf {
  return (pull, band) => {
    const value = metricValue(bundle.programme.metric, pull, band);
    const factor = pullFactor(correction, pull);
    return value === null || factor === null || !(value > 0) ? null : Math.log(value * factor);
  };
}

export interface DaySeries {
  series: PullSeries;
  /** Setup ids by index; 0 is the reference. */
  setups: string[];
  pulls: AnalysedPull[];
  /** Terms left out because a channel is missing on some used pulls, in words. */
  leftOut: string[];
}

/** Columns of the used pulls for the judgement; the reference becomes setup 0, setups without used pulls are dropped. */
export function daySeries(pulls: AnalysedPull[], reference: string, band: Band, valueOf: ValueOf, dropStart = false): DaySeries | null {
  const used = pulls.filter((entry) => entry.used && valueOf(entry, band) !== null);
  if (!used.some(({ pull }) => pull.setup === reference)) return null;
  const setups = [reference, ...new Set(used.map(({ pull }) => pull.setup).filter((setup) => setup !== reference))];
  const days = [...new Set(used.map(({ place }) => place.day))];
  const leftOut: string[] = [];
  const column = (name: string, value: (pull: AnalysedPull) => number | null): number[] | null => {
    const values = used.map(value);
    const known = values.filter((entry) => entry !== null);
    if (known.length === values.length) return known;
    if (known.length > 0)
      leftOut.push(`${name} is missing on ${values.length - known.length} of ${values.length} pulls: its term is left out.`);
    return null;
  };
  const mean = (key: string, transform?: (value: number) => number) => (entry: AnalysedPull) =>
    entry.curve ? bandMean(entry.curve, key, band, transform) : null;
  const kelvin = (value: number | null) => (value === null ? null : value + CELSIUS_ZERO_K);
  const series: PullSeries = {
    setup: used.map(({ pull }) => setups.indexOf(pull.setup)),
    value: used.map((entry) => valueOf(entry, band)!),
    timeH: used.map(({ place }) => place.timeH),
    day: used.map(({ place }) => days.indexOf(place.day)),
    startIntakeK: dropStart ? null : column('Intake air at the start', ({ start }) => kelvin(start.intakeAirC)),
    oilK: column('Oil at the start', ({ start }) => kelvin(start.oilC)),
    chargeK: column('Charge temperature', (entry) => kelvin(mean(chargeKey(entry))(entry))),
    ignitionDeg: column('Ignition', mean('ignitionAdvance')),
    logManifold: column('Manifold pressure', mean('manifoldPressure', Math.log)),
    pullsBefore: used.map(({ place }) => place.pullsBefore),
    pullsSinceSwap: used.map(({ place }) => place.pullsSinceSwap),
  };
  if (dropStart) leftOut.push('The sensor of intake air was moved: the term of the start temperature is left out.');
  return { series, setups, pulls: used, leftOut };
}

/** The channel that tells the temperature of the charge in the manifold. */
export function chargeKey({ curve }: AnalysedPull): string {
  return curve?.channels.has('intakeAirTemperature') ? 'intakeAirTemperature' : 'coolerOutTemperature';
}
