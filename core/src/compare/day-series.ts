import type { Bundle, Metric } from '@gezeit/contract';
import { CELSIUS_ZERO_K } from '../air/saturation.js';
import type { PullSeries } from '../judge/series.js';
import { bandMean, type Band } from '../pull/band.js';
import { said, type AnySaid } from '../said.js';
import { metricValue, pullFactor, type AnalysedPull } from './analysed-pull.js';

/** How a pull's value is taken; null leaves the pull out of this question. */
export type ValueOf = (pull: AnalysedPull, band: Band) => number | null;

/** Logarithm of the corrected metric. */
export function logMetric(bundle: Bundle, metric: Metric, correction = bundle.programme.correction): ValueOf {
  return (pull, band) => {
    const value = metricValue(metric, pull, band);
    const factor = pullFactor(correction, pull);
    return value === null || factor === null || !(value > 0) ? null : Math.log(value * factor);
  };
}

export interface DaySeries {
  series: PullSeries;
  /** Setup ids by index; 0 is the reference. */
  setups: string[];
  pulls: AnalysedPull[];
  /** Pulls that are used and do not give this value. */
  without: AnalysedPull[];
  /** Terms left out because a channel is missing on some used pulls. */
  leftOut: AnySaid[];
}

/** Columns of the used pulls for the judgement; the reference becomes setup 0, setups without used pulls are dropped. */
export function daySeries(pulls: AnalysedPull[], reference: string, band: Band, valueOf: ValueOf, dropStart = false): DaySeries | null {
  const usable = pulls.filter(({ used }) => used);
  const used = usable.filter((entry) => valueOf(entry, band) !== null);
  if (!used.some(({ pull }) => pull.setup === reference)) return null;
  const setups = [reference, ...new Set(used.map(({ pull }) => pull.setup).filter((setup) => setup !== reference))];
  const days = [...new Set(used.map(({ place }) => place.day))];
  const leftOut: AnySaid[] = [];
  const column = (what: string, value: (pull: AnalysedPull) => number | null): number[] | null => {
    const values = used.map(value);
    const known = values.filter((entry) => entry !== null);
    if (known.length === values.length) return known;
    if (known.length > 0) leftOut.push(said('term-left-out', { what, missing: values.length - known.length, of: values.length }));
    return null;
  };
  const mean = (key: string, transform?: (value: number) => number) => (entry: AnalysedPull) =>
    entry.curve ? bandMean(entry.curve, key, band, transform) : null;
  const kelvin = (value: number | null) => (value === null ? null : value + CELSIUS_ZERO_K);
  const charge = chargeKeyOf(used, band);
  const series: PullSeries = {
    setup: used.map(({ pull }) => setups.indexOf(pull.setup)),
    value: used.map((entry) => valueOf(entry, band)!),
    timeH: used.map(({ place }) => place.timeH),
    day: used.map(({ place }) => days.indexOf(place.day)),
    startIntakeK: dropStart ? null : column('intakeAirTemperature', ({ start }) => kelvin(start.intakeAirC)),
    oilK: column('oilTemperature', ({ start }) => kelvin(start.oilC)),
    chargeK: charge ? column('chargeTemperature', (entry) => kelvin(mean(charge)(entry))) : null,
    ignitionDeg: column('ignitionAdvance', mean('ignitionAdvance')),
    logManifold: column('manifoldPressure', mean('manifoldPressure', Math.log)),
    pullsBefore: used.map(({ place }) => place.pullsBefore),
    pullsSinceSwap: used.map(({ place }) => place.pullsSinceSwap),
  };
  if (dropStart) leftOut.push(said('start-sensor-moved', {}));
  return { series, setups, pulls: used, without: usable.filter((entry) => !used.includes(entry)), leftOut };
}

/** Channels that tell the temperature of the charge in the manifold, the best one first. */
const CHARGE_KEYS = ['intakeAirTemperature', 'coolerOutTemperature'] as const;

/** The one channel by which all of some pulls tell their charge temperature; null where they have none in common. */
export function chargeKeyOf(pulls: readonly AnalysedPull[], band: Band): (typeof CHARGE_KEYS)[number] | null {
  return CHARGE_KEYS.find((key) => pulls.length > 0 && pulls.every(({ curve }) => curve && bandMean(curve, key, band) !== null)) ?? null;
}
