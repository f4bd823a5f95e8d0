import type { Bundle, PowerVerdict } from '@gezeit/contract';
import { assumptionsFor } from '../compare/assumptions-for.js';
import { comparedPairs } from '../compare/state-clouds.js';
import { findingsOf } from '../findings/findings-of.js';
import { GezeitError } from '../errors.js';
import { measurePulls } from '../pull/measure.js';
import {
  bundleOfDay,
  driveDay,
  dynoDevice,
  ecuDevice,
  engineLike,
  meanOverSpeed,
  Random,
  stockLike,
  tablesOf,
  truthOf,
  type DaySpec,
  type DrivenPull,
  type Mishap,
  type PartSet,
  type ScheduledPull,
} from '../simulate/index.js';

/** Chance that a pull has a mishap, and that the engine control was reset before the day or at every swap. Assumptions. */
export const REHEARSAL = { mishap: 1 / 20, resetBefore: 0.35, resetAtSwaps: 0.1 };

const MISHAPS: readonly Mishap['kind'][] = ['slip', 'late-lift', 'spike', 'throttle-closed', 'soft'];
const SLOPE_STEP = 0.02;
/** Scatter of the held boost from pull to pull, as a logarithm. Assumption. */
const BOOST_WANDER = 0.0025;

/** One rehearsed day of a plan: what the judgement would have said of a part of a stated true gain, and what the habit would. */
export interface RehearsedDay {
  verdict: PowerVerdict;
  /** Whether the levelled interval holds the truth; null where there was none. */
  held: boolean | null;
  /** Whether the best pull of the part beat the best of the reference by what matters. */
  bestClaims: boolean;
}

/** What rehearsals say together. */
export interface RehearsalCount {
  days: number;
  verdicts: Record<PowerVerdict, number>;
  held: number;
  bestClaims: number;
}

export const emptyCount = (): RehearsalCount => ({
  days: 0,
  verdicts: { gain: 0, loss: 0, 'no-difference': 0, 'not-resolved': 0, withheld: 0 },
  held: 0,
  bestClaims: 0,
});

/** Adds a day to a count. */
export function addDay(count: RehearsalCount, { verdict, held, bestClaims }: RehearsedDay): void {
  count.days += 1;
  count.verdicts[verdict] += 1;
  if (held) count.held += 1;
  if (bestClaims) count.bestClaims += 1;
}

/** A plan made ready to be rehearsed: engine, parts, and the tuning that gives a part one per cent. */
export interface Rehearsal {
  rehearse(seed: number, truePct: number): RehearsedDay;
}

/**
 * Prepares the rehearsal of a bundle's plan for its first comparison: every rehearsal is a simulated day (heat, learning, drift, weather,
 * one mishap in twenty) of this very order, read through summaries and judged as a real one.
 * @throws GezeitError `nothing-to-rehearse` where no comparison has measured pulls planned.
 */
export function prepareRehearsal(bundle: Bundle, chances: typeof REHEARSAL = REHEARSAL): Rehearsal {
  const planned = bundle.plan?.pulls ?? [];
  const pair = comparedPairs(bundle).find((both) =>
    both.every(({ id }) => planned.some(({ setup, kind }) => setup === id && kind === 'measured')),
  );
  if (!pair)
    throw new GezeitError(
      'nothing-to-rehearse',
      'The plan holds no comparison.',
      'Plan measured pulls of the reference and of another setup.',
    );
  const [reference, candidate] = pair;
  const engine = engineLike(bundle.vehicle);
  const stock = stockLike(bundle.vehicle);
  // Days are as noisy, and drift as much, as they are assumed to: a plan is not promised for a day that is already known.
  const { noise, driftPerHour, walkPerRootHour, sameAir } = assumptionsFor(bundle);
  const walkAtSwap = walkPerRootHour * Math.sqrt(meanSwapH(planned));
  const noiseOfDay = (seed: number) => noise.mid * Math.exp(new Random(seed + 5).normal(noise.logSd));
  const boostWander = engine.boost ? BOOST_WANDER : 0;
  const middleRpm = (bundle.programme.bandRpm[0] + bundle.programme.bandRpm[1]) / 2;
  // Breathing better by the same share over the whole band; what that is worth in power is found once, from two sweeps.
  const better = (gain: number): PartSet => ({
    ...stock,
    tuning: { gain: (stock.tuning?.gain ?? 0) + gain, rpm: middleRpm, widthRpm: 1e6 },
  });
  const spec = (seed: number, part: PartSet): DaySpec => ({
    seed,
    engine,
    setups: Object.fromEntries(bundle.setups.map(({ id }) => [id, id === candidate.id ? part : better(0)])),
    schedule: scheduleOfPlan(bundle, seed, chances),
    scatter: {
      runToRun: withoutBoost(noiseOfDay(seed), sameAir.manifoldPressure.mean * boostWander),
      boostWander,
      driftPerHour,
      walkAtSwap,
      weatherPerHour: { temperatureK: 1.2, pressurePa: 60, humidity: 0.02 },
    },
    weather: { temperatureC: 20, pressurePa: 99_500, relativeHumidity: 0.5 },
    oilColdK: 8,
  });
  const truth = (part: PartSet, driven: DrivenPull[], own: DaySpec) =>
    truthOf(
      { ...own, setups: { ...own.setups, [candidate.id]: part } },
      driven,
      [reference.id, candidate.id],
      bundle.programme.bandRpm,
      bundle.programme.correction,
    ).levelled;
  const first = spec(1, better(SLOPE_STEP));
  const perGain = truth(better(SLOPE_STEP), driveDay(first), first) / SLOPE_STEP;
  return {
    rehearse(seed, truePct) {
      const part = better(Math.log1p(truePct / 100) / perGain);
      const own = spec(seed * 7919 + 11, part);
      const driven = driveDay(own);
      const simulated = bundleOfDay(
        {
          programme: bundle.programme,
          vehicle: bundle.vehicle,
          cell: bundle.cells?.[0] ?? bundle.cell!,
          setups: bundle.setups,
          startedAt: '2026-01-05T08:00:00Z',
        },
        // A reset is not written down: the judgement has to find out by itself, as it mostly must.
        driven.map((pull) => ({ ...pull, ecuReset: false })),
        [
          { dialect: 'bracketed', device: (i) => ecuDevice(100 * i, engine.boost !== null) },
          { dialect: 'two-storey', device: () => dynoDevice(0) },
        ],
        seed,
      );
      const { findings } = findingsOf(simulated.bundle, measurePulls(simulated.bundle, tablesOf(simulated)));
      const comparison = findings.comparisons.find((entry) => entry.reference === reference.id && entry.candidate === candidate.id)!;
      const real = 100 * Math.expm1(truth(part, driven, own));
      const { levelled } = comparison;
      const best = (setup: string) =>
        Math.max(
          ...driven
            .filter((pull) => pull.kind === 'measured' && pull.setup === setup)
            .map(({ sweep }) => meanOverSpeed(sweep, bundle.programme.bandRpm, ({ wheelPowerW }) => wheelPowerW)),
        );
      return {
        verdict: comparison.verdict.power,
        held: levelled && levelled.low <= real && real <= levelled.high,
        bestClaims: 100 * (best(candidate.id) / best(reference.id) - 1) >= bundle.programme.smallestGainPct,
      };
    },
  };
}

/** Scatter that is left for the rest: what is stated of a cell's repeatability is all of it, and boost that wanders is a part. */
const withoutBoost = (noise: number, boost: number) => Math.sqrt(Math.max(noise ** 2 - boost ** 2, (noise / 2) ** 2));

function meanSwapH(planned: readonly { setup: string; atMin: number }[]): number {
  const swapsMin = planned.flatMap(({ setup, atMin }, i) =>
    i > 0 && planned[i - 1]!.setup !== setup ? [atMin - planned[i - 1]!.atMin] : [],
  );
  return swapsMin.length === 0 ? 0 : swapsMin.reduce((sum, swap) => sum + swap, 0) / swapsMin.length / 60;
}

function scheduleOfPlan(bundle: Bundle, seed: number, chances: typeof REHEARSAL): ScheduledPull[] {
  const random = new Random(seed + 3);
  const resetBefore = random.chance(chances.resetBefore);
  const resetAtSwaps = random.chance(chances.resetAtSwaps);
  const [low, high] = bundle.programme.bandRpm;
  const pulls = bundle.plan!.pulls;
  return pulls.map(({ setup, kind, atMin }, i): ScheduledPull => {
    const before = pulls[i - 1];
    const swapped = before !== undefined && before.setup !== setup;
    return {
      setup,
      kind: kind === 'measured' ? 'measured' : 'conditioning',
      afterMin: before ? Math.max(0.5, atMin - before.atMin) : 6,
      ecuReset: i === 0 ? resetBefore : swapped && resetAtSwaps,
      ...(random.chance(chances.mishap) ? { mishap: { kind: random.pick(MISHAPS), atRpm: random.between(low, high) } } : {}),
    };
  });
}
