import type { Aspiration, Cause } from '@gezeit/contract';
import { Random, STOCK_NATURAL, STOCK_TURBO, truthSplit, type PartSet, type ScheduledPull, type TruthSplit } from '@gezeit/core/simulate';
import { dayOf, type CalibrationDay } from './population.js';

/** Causes that are switched on one at a time. */
export const SPLIT_CAUSES = [
  'heatState',
  'drift',
  'learning',
  'oil',
  'chargeTemperature',
  'manifoldPressure',
  'breathing',
  'ignition',
] as const;
export type SplitCause = (typeof SPLIT_CAUSES)[number] & Cause;

const ORDERS = ['ABBA', 'ABBAAB', 'ABBABAAB', 'AABBAABB'];
/** Causes that only a boosted car can show alone. */
const BOOSTED_ONLY: readonly SplitCause[] = ['chargeTemperature', 'manifoldPressure'];

/** A day on which one cause alone makes the candidate differ, with what each cause truly was. */
export function splitDay(seed: number, cause: SplitCause): { day: CalibrationDay; truth: TruthSplit } {
  const random = new Random(seed * 6007 + 29);
  const aspiration: Aspiration = BOOSTED_ONLY.includes(cause) || random.chance(0.5) ? 'turbo' : 'na';
  const stock = aspiration === 'turbo' ? STOCK_TURBO : STOCK_NATURAL;
  const order = random.pick(ORDERS);
  const schedule = scheduleFor(cause, order, random);
  const day = dayOf({
    seed,
    order,
    aspiration,
    effect: 'none',
    setups: { A: stock, B: changed(stock, cause, random) },
    schedule,
    scatter: {
      runToRun: Math.exp(random.between(Math.log(0.003), Math.log(0.006))),
      boostWander: 0.0015,
      driftPerHour: cause === 'drift' ? 0.012 : 0.0015,
      walkAtSwap: cause === 'drift' ? 0.003 : 0.0005,
      weatherPerHour: { temperatureK: 0.5, pressurePa: 25, humidity: 0.01 },
    },
    oilColdK: cause === 'oil' ? random.between(12, 25) : 0,
    random,
  });
  return { day, truth: truthSplit(day.spec, day.driven, ['A', 'B'], day.simulated.bundle.programme.bandRpm) };
}

function scheduleFor(cause: SplitCause, order: string, random: Random): ScheduledPull[] {
  const schedule: ScheduledPull[] = [];
  const rest = cause === 'heatState' ? { A: random.between(7, 10), B: random.between(1.5, 2.5) } : { A: 6, B: 6 };
  [...order].forEach((setup, i) => {
    const swapped = i === 0 || order[i - 1] !== setup;
    const rests = rest[setup as 'A' | 'B'];
    if (swapped && cause !== 'learning') schedule.push({ setup, kind: 'conditioning', afterMin: i === 0 ? 8 : 15 });
    schedule.push({
      setup,
      kind: 'measured',
      afterMin: i === 0 && cause === 'learning' ? 8 : swapped && cause === 'learning' ? 15 : rests,
    });
  });
  if (cause === 'learning') schedule[0]!.ecuReset = true;
  return schedule;
}

function changed(stock: PartSet, cause: SplitCause, random: Random): PartSet {
  const { cooler, tune } = stock;
  switch (cause) {
    case 'chargeTemperature':
      return { ...stock, cooler: cooler && { ...cooler, chargeShare: Math.min(0.92, cooler.chargeShare * random.between(1.04, 1.12)) } };
    case 'manifoldPressure':
      return { ...stock, tune: { ...tune, boostFactor: random.between(1.01, 1.03) } };
    case 'breathing':
      return { ...stock, tuning: { gain: random.between(-0.01, 0.03), rpm: 5400, widthRpm: 1500 } };
    case 'ignition':
      return { ...stock, tune: { ...tune, sparkDeg: tune.sparkDeg + random.between(-2, 2) } };
    default:
      return stock;
  }
}
