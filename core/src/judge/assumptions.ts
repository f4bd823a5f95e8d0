import type { Aspiration } from '@gezeit/contract';
import { WHEEL_TO_CRANK } from '../demand/air-demand.js';

/** A quantity believed to lie around a mean with a standard deviation. */
export interface Belief {
  mean: number;
  sd: number;
}

/** What the engine control unit may have been doing: nothing, re-learning since the start of the day, or since each swap. */
export type StoryName = 'none' | 'day' | 'swap';

interface Story {
  weight: number;
  /** Power missing at the first pull, as a logarithm, won back over the following ones. */
  loss: Belief;
}

/** Standard deviation of one pull: a log-normal belief. */
export interface NoiseBelief {
  mid: number;
  logSd: number;
}

/** How ignition scatters, degrees: from pull to pull, its reading, its unknown level, and between setups at least so much and this share of what was seen. */
export interface IgnitionWitnessBelief {
  scatterDeg: number;
  readingDeg: number;
  levelSdDeg: number;
  setupFloorDeg: number;
  setupShare: number;
}

/** How manifold pressure scatters, as logarithms: its unknown level, between setups at least so much, from pull to pull (as if seen on so many pulls before), and its reading. */
export interface PressureWitnessBelief {
  levelSd: number;
  setupFloor: number;
  wanderSd: number;
  wanderPulls: number;
  readingSd: number;
}

/** Every prior and default of the judgement. All are assumptions that the engineer may edit. Logarithms of power unless said otherwise. */
export interface Assumptions {
  /** Per K of intake air temperature at the start of the pull. */
  startTemperature: Belief;
  /** Per K of oil temperature at the start of the pull. */
  oilTemperature: Belief;
  /** Standard deviation of a straight drift, per hour. */
  driftPerHour: number;
  /** Standard deviation of a random walk, per square root of an hour. */
  walkPerRootHour: number;
  /** Standard deviation from day to day; not yet calibrated. */
  dayToDay: number;
  stories: Record<StoryName, Story>;
  /** Pulls over which a learning loss falls to 1/e. */
  learningPulls: number;
  /** Per degree of ignition advance. */
  ignition: Belief;
  /** Ignition that the engine gives back per K of start temperature, degrees. */
  ignitionPerKelvin: Belief;
  noise: NoiseBelief;
  /** Channels that are fitted together with power because they saw the same cause. */
  witnesses: { ignition: IgnitionWitnessBelief; pressure: PressureWitnessBelief };
  /** Standard deviation of a setup's effect before anything is known. */
  setupEffectSd: number;
  badPull: { chance: number; lowShare: number; size: number; sd: number };
  sameAir: {
    startTemperature: Belief;
    /** Per natural logarithm of charge temperature in kelvin. */
    chargeTemperature: Belief;
    /** Per natural logarithm of manifold pressure, where something holds it. */
    manifoldPressure: Belief;
  };
  /** The other two kinds of judgement: of a charge temperature, K, and of the logarithm of a pressure drop. */
  temperature: PlainAssumptions;
  restriction: PlainAssumptions;
  /** In seconds; where a response is asked in rpm they are multiplied by how fast the engine runs up. */
  response: PlainAssumptions;
  /**
   * What sensors may be off by where `channels` does not say it, ± at 95 %: absolute, and as a share of the reading. Without an air meter the
   * engine draws in so much of the charge in its manifold (volumetric efficiency), known to a share of itself.
   */
  sensors: { temperatureK: number; dropPa: number; pressurePa: number; flowShare: number; filling: number; fillingShare: number };
  /** Wheel power times this is about engine power (formula d4): an estimate is made of it, never a comparison. */
  wheelToCrank: Belief;
  /** What is not known of a road, ± at 95 %: shares of mass and drag, slope, wind; what turns as a factor on the mass, and rolling resistance. */
  road: { massShare: number; dragShare: number; slope: number; windMS: number; massFactor: number; rollingResistance: number };
}

/** Beliefs for a quantity that is judged without stories, witnesses and bad pulls; in its own unit. */
export interface PlainAssumptions {
  noise: NoiseBelief;
  setupEffectSd: number;
  startTemperature: Belief | null;
  driftPerHour: number;
  walkPerRootHour: number;
  dayToDay: number;
}

const COMMON = {
  oilTemperature: { mean: 0.0007, sd: 0.0005 },
  driftPerHour: 0.009,
  walkPerRootHour: 0.005,
  dayToDay: 0.01,
  stories: {
    none: { weight: 0.6, loss: { mean: 0, sd: 0.001 } },
    day: { weight: 0.28, loss: { mean: 0.018, sd: 0.008 } },
    swap: { weight: 0.12, loss: { mean: 0.018, sd: 0.008 } },
  },
  learningPulls: 1.3,
  ignitionPerKelvin: { mean: -0.03, sd: 0.05 },
  noise: { mid: 0.0055, logSd: 0.4 },
  witnesses: {
    ignition: { scatterDeg: 0.15, readingDeg: 0.15, levelSdDeg: 5, setupFloorDeg: 0.5, setupShare: 0.7 },
    pressure: { levelSd: 0.1, setupFloor: 0.006, wanderSd: 0.003, wanderPulls: 4, readingSd: 0.0015 },
  },
  setupEffectSd: 0.06,
  badPull: { chance: 0.02, lowShare: 0.8, size: 0.03, sd: 0.015 },
  temperature: {
    noise: { mid: 0.4, logSd: 0.7 },
    setupEffectSd: 15,
    startTemperature: { mean: 0.5, sd: 0.3 },
    driftPerHour: 0.3,
    walkPerRootHour: 0.2,
    dayToDay: 1,
  },
  response: {
    noise: { mid: 0.04, logSd: 0.8 },
    setupEffectSd: 2,
    startTemperature: { mean: 0, sd: 0.004 },
    driftPerHour: 0.02,
    walkPerRootHour: 0.01,
    dayToDay: 0.05,
  },
  restriction: {
    noise: { mid: 0.008, logSd: 1 },
    setupEffectSd: 0.6,
    startTemperature: null,
    driftPerHour: 0.004,
    walkPerRootHour: 0.002,
    dayToDay: 0.01,
  },
  sensors: { temperatureK: 1, dropPa: 50, pressurePa: 1000, flowShare: 0.02, filling: 0.92, fillingShare: 0.12 },
  wheelToCrank: { mean: WHEEL_TO_CRANK, sd: 0.05 },
  road: { massShare: 0.03, dragShare: 0.1, slope: 0.01, windMS: 2, massFactor: 1.06, rollingResistance: 0.012 },
} as const;

/** Defaults for the power questions, by kind of engine. */
export function defaultAssumptions(aspiration: Aspiration): Assumptions {
  const natural = aspiration === 'na';
  return structuredClone({
    ...COMMON,
    startTemperature: natural ? { mean: -0.0005, sd: 0.0005 } : { mean: -0.0015, sd: 0.0008 },
    ignition: natural ? { mean: 0.0066, sd: 0.002 } : { mean: 0.01, sd: 0.003 },
    sameAir: {
      startTemperature: { mean: 0, sd: 0.0004 },
      chargeTemperature: natural ? { mean: -0.5, sd: 0.2 } : { mean: -0.7, sd: 0.2 },
      manifoldPressure: { mean: 1.05, sd: 0.12 },
    },
  });
}

const NOISE_UNKNOWN_IN_STATED = 0.002;
const NOISE_STATED_LOG_SD = 0.25;

/** Belief about the noise where the cell's repeatability is stated as a fraction (0.006). */
export function noiseFromRepeatability(repeatability: number): NoiseBelief {
  return { mid: Math.hypot(repeatability, NOISE_UNKNOWN_IN_STATED), logSd: NOISE_STATED_LOG_SD };
}

/** Belief about the noise from earlier days: pooled within-setup standard deviation, its degrees of freedom, and the days. */
export function noiseFromHistory(withinSetupSd: number, degreesOfFreedom: number, days: number): NoiseBelief {
  const v = 1 / (2 * degreesOfFreedom) + 0.04 / days;
  const u = 1 / 0.16 + 1 / v;
  const logMid = (Math.log(COMMON.noise.mid) / 0.16 + (Math.log(withinSetupSd) + 1 / (2 * degreesOfFreedom)) / v) / u;
  return { mid: Math.exp(logMid), logSd: Math.sqrt(1 / u + 0.04) };
}

/** Noise used for a plan or an extension of a day whose own noise is known. */
export const KNOWN_NOISE_LOG_SD = 0.25;
