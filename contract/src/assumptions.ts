import { z } from './zod.js';

/**
 * Priors of the judgement that can be changed, each with the range in which it makes sense: fractions of power (of days, of pulls, of a reading),
 * exponents, counts of pulls and degrees of ignition as they are, temperatures in K, pressures in Pa. The weights of the two stories of the engine control leave at least a tenth for the third.
 */
export const ASSUMPTION_RANGES = {
  noise: [0.0005, 0.05],
  noiseSpread: [0.05, 1.5],
  drift: [0, 0.1],
  walk: [0, 0.05],
  dayToDay: [0, 0.1],
  startTemperature: [-0.01, 0.01],
  startTemperatureSd: [0, 0.01],
  oilTemperature: [-0.01, 0.01],
  oilTemperatureSd: [0, 0.01],
  ignition: [0, 0.05],
  ignitionSd: [0.0001, 0.05],
  ignitionPerKelvin: [-0.5, 0.5],
  ignitionPerKelvinSd: [0.001, 0.5],
  learningPulls: [0.3, 10],
  storyNoneLossSd: [0.0001, 0.02],
  storyDay: [0, 0.45],
  storyDayLoss: [0, 0.1],
  storyDayLossSd: [0.0005, 0.05],
  storySwap: [0, 0.45],
  storySwapLoss: [0, 0.1],
  storySwapLossSd: [0.0005, 0.05],
  badPull: [0.001, 0.2],
  badPullSize: [0.005, 0.2],
  badPullSizeSd: [0.001, 0.1],
  badPullLowShare: [0, 1],
  setupEffectSd: [0.005, 0.5],
  sameAirStart: [-0.01, 0.01],
  sameAirStartSd: [0.00001, 0.01],
  chargeExponent: [-2, 0],
  chargeExponentSd: [0.01, 1],
  manifoldExponent: [0, 2],
  manifoldExponentSd: [0.01, 1],
  ignitionScatter: [0.01, 2],
  ignitionReading: [0.01, 2],
  ignitionLevelSd: [0.5, 30],
  ignitionSetupFloor: [0.05, 10],
  ignitionSetupShare: [0, 2],
  pressureLevelSd: [0.01, 1],
  pressureSetupFloor: [0.0005, 0.1],
  pressureWander: [0.0002, 0.05],
  pressureWanderPulls: [0, 100],
  pressureReading: [0.0001, 0.05],
  temperatureNoise: [0.02, 10],
  temperatureNoiseSpread: [0.05, 2],
  temperatureSetupSd: [1, 100],
  temperatureDayToDay: [0, 20],
  temperatureStart: [-1, 2],
  temperatureStartSd: [0.01, 2],
  temperatureDrift: [0, 10],
  temperatureWalk: [0, 10],
  restrictionNoise: [0.0005, 0.2],
  restrictionNoiseSpread: [0.05, 2],
  restrictionSetupSd: [0.05, 3],
  restrictionDayToDay: [0, 0.2],
  restrictionDrift: [0, 0.1],
  restrictionWalk: [0, 0.1],
  responseNoise: [0.002, 5],
  responseNoiseSpread: [0.05, 2],
  responseSetupSd: [0.05, 30],
  responseDayToDay: [0, 5],
  responseDrift: [0, 2],
  responseWalk: [0, 2],
  temperatureAccuracy: [0, 20],
  dropAccuracy: [0, 5000],
  pressureAccuracy: [0, 20000],
  flowAccuracy: [0, 0.3],
  filling: [0.3, 1.5],
  fillingAccuracy: [0, 0.5],
  roadMass: [0, 0.3],
  roadDrag: [0, 0.6],
  roadSlope: [0, 0.1],
  roadWind: [0, 20],
  roadTurning: [1, 1.5],
  roadRolling: [0.003, 0.05],
} as const satisfies Record<string, readonly [number, number]>;
export type AssumptionKey = keyof typeof ASSUMPTION_RANGES;
export const ASSUMPTION_KEYS = Object.keys(ASSUMPTION_RANGES) as [AssumptionKey, ...AssumptionKey[]];

/** What of the priors was changed by hand; the others are the defaults. */
export const changedAssumptionsSchema = z.partialRecord(z.enum(ASSUMPTION_KEYS), z.number()).superRefine((changed, context) => {
  for (const [key, value] of Object.entries(changed) as [AssumptionKey, number][]) {
    const [low, high] = ASSUMPTION_RANGES[key];
    if (value < low || value > high) context.addIssue({ code: 'custom', path: [key], message: `must be between ${low} and ${high}` });
  }
});
export type ChangedAssumptions = z.infer<typeof changedAssumptionsSchema>;
