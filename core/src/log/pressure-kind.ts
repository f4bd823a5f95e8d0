import type { Quantity } from '@gezeit/contract';
import type { ColumnReport, LogColumn } from './log-table.js';

/** By what a channel called boost shows whether it is gauge or absolute; assumptions. */
const BOOST_RULES = {
  /** A pressure that falls below this is one against ambient: a closed throttle pulls it down, Pa. */
  belowAmbientPa: -3000,
  /** One that never falls under this cannot be a gauge pressure, Pa. */
  alwaysAbsolutePa: 60_000,
  /** One that never rises above this is none of the whole pressure, Pa. */
  neverAbsolutePa: 30_000,
  /** With the throttle shut, an absolute pressure stands above this, Pa, and a gauge one below ambient. */
  shutAbsolutePa: 10_000,
  shutThrottlePct: 15,
  /** So many samples with a shut throttle tell. */
  shutSamples: 5,
};

/** Tells channels called boost apart: those that are absolute become the manifold's pressure, and the report says by what. */
export function decidePressures(columns: LogColumn[], reports: ColumnReport[]): void {
  const throttle = columns.find(({ quantity }) => quantity === 'throttle') ?? columns.find(({ quantity }) => quantity === 'pedal');
  for (const column of columns) {
    const report = reports.find(({ name, takenFor }) => name === column.name && takenFor === column.quantity);
    if (column.quantity !== null && EITHER.includes(column.quantity) && report && report.gauge === null) {
      column.gauge = lowestOf(column.values) < BOOST_RULES.belowAmbientPa || highestOf(column.values) < BOOST_RULES.neverAbsolutePa;
      report.gauge = column.gauge;
      if (column.quantity !== 'boostPressure')
        report.reasons = [...report.reasons, column.gauge ? { code: 'gauge' } : { code: 'absolute', by: 'values' }];
    }
    if (column.quantity !== 'boostPressure') continue;
    const by = report?.gauge === true ? null : column.gauge ? absoluteBy(column.values, throttle?.values ?? null) : 'stated';
    if (report) report.gauge = by === null;
    if (by === null) continue;
    column.quantity = 'manifoldPressure';
    column.gauge = false;
    if (report) {
      report.takenFor = 'manifoldPressure';
      report.reasons = [...report.reasons, { code: 'absolute', by }];
    }
  }
}

/** Pressures that are met absolute and against ambient, where nothing says which. */
const EITHER: readonly Quantity[] = ['manifoldPressure', 'inletPressure', 'preCoolerPressure', 'postCoolerPressure', 'exhaustPressure'];

const lowestOf = (values: Float64Array) => values.reduce((low, value) => (value < low ? value : low), Number.POSITIVE_INFINITY);
const highestOf = (values: Float64Array) => values.reduce((high, value) => (value > high ? value : high), Number.NEGATIVE_INFINITY);

function absoluteBy(values: Float64Array, throttle: Float64Array | null): 'values' | 'shut-throttle' | null {
  const lowest = lowestOf(values);
  if (lowest < BOOST_RULES.belowAmbientPa) return null;
  if (lowest > BOOST_RULES.alwaysAbsolutePa) return 'values';
  if (!throttle) return null;
  const shut = values.filter((value, i) => Number.isFinite(value) && throttle[i]! < BOOST_RULES.shutThrottlePct);
  if (shut.length < BOOST_RULES.shutSamples) return null;
  const middle = shut.sort()[shut.length >> 1]!;
  return middle > BOOST_RULES.shutAbsolutePa ? 'shut-throttle' : null;
}
