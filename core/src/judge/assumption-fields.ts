import { ASSUMPTION_KEYS, type AssumptionKey, type ChangedAssumptions } from '@gezeit/contract';
import type { Assumptions, IgnitionWitnessBelief, PressureWitnessBelief } from './assumptions.js';

/** A prior that can be changed: where it stands among the assumptions, and how it is shown. */
interface AssumptionField {
  label: string;
  /** Shown as per cent, as the plain number that it is, or as a difference of temperatures or a pressure. */
  unit: '%' | '–' | 'K' | 'Pa' | '°' | 's' | 'm/s';
  of(assumptions: Assumptions): number;
  put(assumptions: Assumptions, value: number): void;
}

type BeliefName = 'startTemperature' | 'oilTemperature' | 'ignition';
type ExponentName = 'chargeTemperature' | 'manifoldPressure';

const belief = (name: BeliefName, part: 'mean' | 'sd', label: string): AssumptionField => ({
  label,
  unit: '%',
  of: (a) => a[name][part],
  put: (a, value) => (a[name][part] = value),
});
const exponent = (name: ExponentName, part: 'mean' | 'sd', label: string): AssumptionField => ({
  label,
  unit: '–',
  of: (a) => a.sameAir[name][part],
  put: (a, value) => (a.sameAir[name][part] = value),
});
const loss = (name: 'none' | 'day' | 'swap', part: 'mean' | 'sd', label: string): AssumptionField => ({
  label,
  unit: '%',
  of: (a) => a.stories[name].loss[part],
  put: (a, value) => (a.stories[name].loss[part] = value),
});
/** What the two other stories do not take is the first one's. */
const weight = (name: 'day' | 'swap', label: string): AssumptionField => ({
  label,
  unit: '%',
  of: (a) => a.stories[name].weight,
  put(a, value) {
    a.stories[name].weight = value;
    a.stories.none.weight = 1 - a.stories.day.weight - a.stories.swap.weight;
  },
});
const plain = (name: 'driftPerHour' | 'walkPerRootHour' | 'dayToDay' | 'setupEffectSd', label: string): AssumptionField => ({
  label,
  unit: '%',
  of: (a) => a[name],
  put: (a, value) => (a[name] = value),
});
const badPull = (name: 'chance' | 'size' | 'sd' | 'lowShare', label: string): AssumptionField => ({
  label,
  unit: '%',
  of: (a) => a.badPull[name],
  put: (a, value) => (a.badPull[name] = value),
});

const road = (name: keyof Assumptions['road'], unit: AssumptionField['unit'], label: string): AssumptionField => ({
  label,
  unit,
  of: (a) => a.road[name],
  put: (a, value) => (a.road[name] = value),
});

type PlainName = 'noise' | 'noiseSpread' | 'driftPerHour' | 'walkPerRootHour' | 'dayToDay' | 'setupEffectSd';
const UNIT_OF_PLAIN = { temperature: 'K', restriction: '%', response: 's' } as const;
const ofPlain = (which: 'temperature' | 'restriction' | 'response', name: PlainName, label: string): AssumptionField => ({
  label,
  unit: name === 'noiseSpread' ? '–' : UNIT_OF_PLAIN[which],
  of: ({ [which]: own }) => (name === 'noise' ? own.noise.mid : name === 'noiseSpread' ? own.noise.logSd : own[name]),
  put({ [which]: own }, value) {
    if (name === 'noise') own.noise.mid = value;
    else if (name === 'noiseSpread') own.noise.logSd = value;
    else own[name] = value;
  },
});
const ignitionWitness = (name: keyof IgnitionWitnessBelief, unit: '°' | '–', label: string): AssumptionField => ({
  label,
  unit,
  of: ({ witnesses }) => witnesses.ignition[name],
  put: ({ witnesses }, value) => (witnesses.ignition[name] = value),
});
const pressureWitness = (name: keyof PressureWitnessBelief, unit: '%' | '–', label: string): AssumptionField => ({
  label,
  unit,
  of: ({ witnesses }) => witnesses.pressure[name],
  put: ({ witnesses }, value) => (witnesses.pressure[name] = value),
});
const ignitionPerKelvin = (part: 'mean' | 'sd', label: string): AssumptionField => ({
  label,
  unit: '°',
  of: (a) => a.ignitionPerKelvin[part],
  put: (a, value) => (a.ignitionPerKelvin[part] = value),
});
const sameAirStart = (part: 'mean' | 'sd', label: string): AssumptionField => ({
  label,
  unit: '%',
  of: ({ sameAir }) => sameAir.startTemperature[part],
  put: ({ sameAir }, value) => (sameAir.startTemperature[part] = value),
});
const startOfCharge = (part: 'mean' | 'sd', label: string): AssumptionField => ({
  label,
  unit: '–',
  of: ({ temperature }) => temperature.startTemperature![part],
  put: ({ temperature }, value) => (temperature.startTemperature![part] = value),
});
const wheelToCrank = (part: 'mean' | 'sd', label: string): AssumptionField => ({
  label,
  unit: '–',
  of: (a) => a.wheelToCrank[part],
  put: (a, value) => (a.wheelToCrank[part] = value),
});
const sensor = (name: keyof Assumptions['sensors'], unit: AssumptionField['unit'], label: string): AssumptionField => ({
  label,
  unit,
  of: ({ sensors }) => sensors[name],
  put: ({ sensors }, value) => (sensors[name] = value),
});

/** Every prior that can be changed, by its key in a bundle. */
export const ASSUMPTION_FIELDS: Record<AssumptionKey, AssumptionField> = {
  noise: { label: 'Noise of one pull', unit: '%', of: (a) => a.noise.mid, put: (a, value) => (a.noise.mid = value) },
  noiseSpread: { label: 'Its spread, as a logarithm', unit: '–', of: (a) => a.noise.logSd, put: (a, value) => (a.noise.logSd = value) },
  drift: plain('driftPerHour', 'Drift an hour'),
  walk: plain('walkPerRootHour', 'Walk per root of an hour'),
  dayToDay: plain('dayToDay', 'From day to day'),
  startTemperature: belief('startTemperature', 'mean', 'Power per kelvin at the start'),
  startTemperatureSd: belief('startTemperature', 'sd', 'Its uncertainty, start'),
  oilTemperature: belief('oilTemperature', 'mean', 'Power per kelvin of oil'),
  oilTemperatureSd: belief('oilTemperature', 'sd', 'Its uncertainty, oil'),
  ignition: belief('ignition', 'mean', 'Power per degree of ignition'),
  ignitionSd: belief('ignition', 'sd', 'Its uncertainty, ignition'),
  ignitionPerKelvin: ignitionPerKelvin('mean', 'Ignition per kelvin at the start'),
  ignitionPerKelvinSd: ignitionPerKelvin('sd', 'Its uncertainty, ignition per kelvin'),
  learningPulls: {
    label: 'Pulls until a third of a learning loss is left',
    unit: '–',
    of: (a) => a.learningPulls,
    put: (a, value) => (a.learningPulls = value),
  },
  storyNoneLossSd: loss('none', 'sd', 'What may be missing though nothing was learned'),
  storyDay: weight('day', 'Days that begin re-learning'),
  storyDayLoss: loss('day', 'mean', 'Power missing at the start of the day'),
  storyDayLossSd: loss('day', 'sd', 'Its uncertainty, start of the day'),
  storySwap: weight('swap', 'Days that re-learn after each swap'),
  storySwapLoss: loss('swap', 'mean', 'Power missing after a swap'),
  storySwapLossSd: loss('swap', 'sd', 'Its uncertainty, swap'),
  badPull: badPull('chance', 'Chance of a bad pull'),
  badPullSize: badPull('size', 'Size of a bad pull'),
  badPullSizeSd: badPull('sd', 'Its uncertainty, bad pull'),
  badPullLowShare: badPull('lowShare', 'Share of bad pulls that are too low'),
  setupEffectSd: plain('setupEffectSd', 'Effect of a setup'),
  sameAirStart: sameAirStart('mean', 'Power per kelvin at the start, same air'),
  sameAirStartSd: sameAirStart('sd', 'Its uncertainty, start, same air'),
  chargeExponent: exponent('chargeTemperature', 'mean', 'Exponent of charge temperature'),
  chargeExponentSd: exponent('chargeTemperature', 'sd', 'Its uncertainty, charge temperature'),
  manifoldExponent: exponent('manifoldPressure', 'mean', 'Exponent of manifold pressure'),
  manifoldExponentSd: exponent('manifoldPressure', 'sd', 'Its uncertainty, manifold pressure'),
  ignitionScatter: ignitionWitness('scatterDeg', '°', 'Scatter of ignition from pull to pull'),
  ignitionReading: ignitionWitness('readingDeg', '°', 'Error of a reading of ignition'),
  ignitionLevelSd: ignitionWitness('levelSdDeg', '°', 'Level of ignition'),
  ignitionSetupFloor: ignitionWitness('setupFloorDeg', '°', 'Ignition between setups, at least'),
  ignitionSetupShare: ignitionWitness('setupShare', '–', 'Ignition between setups, share of what was seen'),
  pressureLevelSd: pressureWitness('levelSd', '%', 'Level of manifold pressure'),
  pressureSetupFloor: pressureWitness('setupFloor', '%', 'Manifold pressure between setups, at least'),
  pressureWander: pressureWitness('wanderSd', '%', 'Wander of held boost from pull to pull'),
  pressureWanderPulls: pressureWitness('wanderPulls', '–', 'Pulls that this belief is worth'),
  pressureReading: pressureWitness('readingSd', '%', 'Error of a reading of manifold pressure'),
  temperatureNoise: ofPlain('temperature', 'noise', 'Noise of a charge temperature'),
  temperatureNoiseSpread: ofPlain('temperature', 'noiseSpread', 'Its spread, charge temperature'),
  temperatureSetupSd: ofPlain('temperature', 'setupEffectSd', 'Effect of a setup on a charge temperature'),
  temperatureDayToDay: ofPlain('temperature', 'dayToDay', 'Charge temperature from day to day'),
  temperatureStart: startOfCharge('mean', 'Charge per kelvin at the start'),
  temperatureStartSd: startOfCharge('sd', 'Its uncertainty, charge'),
  temperatureDrift: ofPlain('temperature', 'driftPerHour', 'Drift of a charge temperature an hour'),
  temperatureWalk: ofPlain('temperature', 'walkPerRootHour', 'Walk of a charge temperature per root of an hour'),
  responseNoise: ofPlain('response', 'noise', 'Noise of a response'),
  responseNoiseSpread: ofPlain('response', 'noiseSpread', 'Its spread, response'),
  responseSetupSd: ofPlain('response', 'setupEffectSd', 'Between setups, response'),
  responseDayToDay: ofPlain('response', 'dayToDay', 'Day to day, response'),
  responseDrift: ofPlain('response', 'driftPerHour', 'Drift an hour, response'),
  responseWalk: ofPlain('response', 'walkPerRootHour', 'Walk per root of an hour, response'),
  restrictionNoise: ofPlain('restriction', 'noise', 'Noise of a pressure drop'),
  restrictionNoiseSpread: ofPlain('restriction', 'noiseSpread', 'Its spread, pressure drop'),
  restrictionSetupSd: ofPlain('restriction', 'setupEffectSd', 'Effect of a setup on a pressure drop'),
  restrictionDayToDay: ofPlain('restriction', 'dayToDay', 'Pressure drop from day to day'),
  restrictionDrift: ofPlain('restriction', 'driftPerHour', 'Drift of a pressure drop an hour'),
  restrictionWalk: ofPlain('restriction', 'walkPerRootHour', 'Walk of a pressure drop per root of an hour'),
  temperatureAccuracy: sensor('temperatureK', 'K', 'Accuracy of a temperature sensor'),
  dropAccuracy: sensor('dropPa', 'Pa', 'Accuracy of a differential pressure sensor'),
  pressureAccuracy: sensor('pressurePa', 'Pa', 'Accuracy of a pressure sensor'),
  flowAccuracy: sensor('flowShare', '%', 'Accuracy of an air meter'),
  filling: sensor('filling', '–', 'Volumetric efficiency where no meter is'),
  fillingAccuracy: sensor('fillingShare', '%', 'How well it is known'),
  wheelToCrank: wheelToCrank('mean', 'Engine power over wheel power'),
  wheelToCrankSd: wheelToCrank('sd', 'Its uncertainty, engine power'),
  roadMass: road('massShare', '%', 'How well the car’s mass is known'),
  roadDrag: road('dragShare', '%', 'How well its drag area is known'),
  roadSlope: road('slope', '%', 'Slope of the road that was not seen'),
  roadWind: road('windMS', 'm/s', 'Wind that was not seen'),
  roadTurning: road('massFactor', '–', 'Mass with what turns, as a factor'),
  roadRolling: road('rollingResistance', '–', 'Rolling resistance'),
};

/** Puts what was changed by hand into assumptions; the given ones are changed. */
export function putChanged(assumptions: Assumptions, changed: ChangedAssumptions | null | undefined): Assumptions {
  for (const key of ASSUMPTION_KEYS) {
    const value = changed?.[key];
    if (value !== undefined) ASSUMPTION_FIELDS[key].put(assumptions, value);
  }
  return assumptions;
}

/** A value as it is shown: per cent of a fraction, or as it is. */
export const shownAssumption = (key: AssumptionKey, value: number): number =>
  Number((ASSUMPTION_FIELDS[key].unit === '%' ? 100 * value : value).toPrecision(6));

/** A shown value as it is kept. */
export const keptAssumption = (key: AssumptionKey, shown: number): number =>
  Number((ASSUMPTION_FIELDS[key].unit === '%' ? shown / 100 : shown).toPrecision(6));
