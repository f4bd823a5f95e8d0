import type { AssumptionKey, Bundle, ListedAssumption } from '@gezeit/contract';
import { ASSUMPTION_FIELDS, shownAssumption } from '../judge/assumption-fields.js';
import type { Assumptions, Belief } from '../judge/assumptions.js';
import { LAMBDA_CURVE, MEASURED_RULES } from '../judge/confound-rules.js';
import { CHECKS } from '../checks/index.js';
import { RESPONSE_LEVEL } from '../compare/response.js';
import { FADE_RULES } from '../compare/fade.js';
import { USUAL_DRAG_AREA_M2 } from '../compare/road-runs.js';
import { assumptionsFor, usualAssumptions } from '../compare/assumptions-for.js';
import { OWN_START_RULES } from '../compare/own-start.js';
import { COURSE_RPM } from '../compare/point-difference.js';
import { LEAST_BAND_SHARE } from '../compare/used-band.js';
import { SPLIT_RULES } from './contributions.js';
import { HINT_RULES } from './curve-hints.js';

/** An assumption in words, with the keys of what can be changed of it. */
interface Told {
  name: string;
  value: string;
  what: string;
  keys?: AssumptionKey[];
  per?: string;
}

const pct = (value: number, digits = 2) => `${(100 * value).toFixed(digits)} %`;
const belief = ({ mean, sd }: Belief, per: string) => `${pct(mean)} ± ${pct(sd)} ${per}`;

/** Every prior, default and threshold behind a programme's findings, in words. */
export function listAssumptions(bundle: Bundle): ListedAssumption[] {
  const [now, usual] = [assumptionsFor(bundle), usualAssumptions(bundle)];
  return [...priors(now), ...thresholds()].map(({ keys = [], per = '', ...told }) => ({
    ...told,
    per,
    fields: keys.map((key) => {
      const { label, unit, of } = ASSUMPTION_FIELDS[key];
      return { key, label, unit, value: shownAssumption(key, of(now)), usual: shownAssumption(key, of(usual)) };
    }),
  }));
}

function priors(a: Assumptions): Told[] {
  const story = (name: keyof Assumptions['stories'], what: string, keys: AssumptionKey[] = []): Told => ({
    keys,
    per: 'of power',
    name: `story: ${what}`,
    value: `${(100 * a.stories[name].weight).toFixed(0)} %, ${pct(a.stories[name].loss.mean)} ± ${pct(a.stories[name].loss.sd)}`,
    what: 'Weight before the day is seen, and the power missing at the first pull, won back over the following ones.',
  });
  return [
    {
      name: 'noise of one pull',
      value: `${pct(a.noise.mid)}, spread ×${Math.exp(a.noise.logSd).toFixed(2)}`,
      what: "From the cell's stated repeatability, else unknown.",
      keys: ['noise', 'noiseSpread'],
    },
    {
      name: 'start temperature',
      value: belief(a.startTemperature, 'per K'),
      what: 'Power per kelvin of intake air at the start of the pull.',
      keys: ['startTemperature', 'startTemperatureSd'],
      per: 'per K',
    },
    {
      name: 'oil at the start',
      value: belief(a.oilTemperature, 'per K'),
      what: 'Power per kelvin of oil at the start of the pull.',
      keys: ['oilTemperature', 'oilTemperatureSd'],
      per: 'per K',
    },
    {
      name: 'drift',
      value: `± ${pct(a.driftPerHour)} an hour`,
      what: 'A straight drift of car and dyno over the day; as the cell states it, else the default.',
      keys: ['drift'],
      per: 'an hour',
    },
    {
      name: 'walk',
      value: `± ${pct(a.walkPerRootHour)} per √h`,
      what: 'A random walk of car and dyno over the day.',
      keys: ['walk'],
      per: 'per √h',
    },
    {
      name: 'day to day',
      value: `± ${pct(a.dayToDay)}`,
      what: 'Between days; counts only where a programme spans several. Not yet calibrated.',
      keys: ['dayToDay'],
    },
    story('none', 'the engine control learned nothing', ['storyNoneLossSd']),
    {
      name: 'learning',
      value: `${a.learningPulls} pulls`,
      what: 'After so many pulls a third of a learning loss is left.',
      keys: ['learningPulls'],
    },
    story('day', 'it re-learned since the start of the day', ['storyDay', 'storyDayLoss', 'storyDayLossSd']),
    story('swap', 'it re-learned since each swap', ['storySwap', 'storySwapLoss', 'storySwapLossSd']),
    {
      name: 'ignition',
      value: belief(a.ignition, 'per degree'),
      what: 'Power per degree of ignition advance.',
      keys: ['ignition', 'ignitionSd'],
      per: 'per degree',
    },
    {
      name: 'ignition and heat',
      value: `${a.ignitionPerKelvin.mean} ± ${a.ignitionPerKelvin.sd}° per K`,
      what: 'Ignition that the engine control gives back per kelvin at the start.',
      keys: ['ignitionPerKelvin', 'ignitionPerKelvinSd'],
      per: 'per K',
    },
    {
      name: 'ignition as a witness',
      value: `± ${a.witnesses.ignition.scatterDeg}° a pull, read to ± ${a.witnesses.ignition.readingDeg}°`,
      what: `Fitted together with power: its level unknown by ± ${a.witnesses.ignition.levelSdDeg}°, between setups by at least ± ${a.witnesses.ignition.setupFloorDeg}° or ${a.witnesses.ignition.setupShare} of what was seen.`,
      keys: ['ignitionScatter', 'ignitionReading', 'ignitionLevelSd', 'ignitionSetupFloor', 'ignitionSetupShare'],
    },
    {
      name: 'manifold pressure as a witness',
      value: `± ${pct(a.witnesses.pressure.wanderSd)} a pull, read to ± ${pct(a.witnesses.pressure.readingSd)}`,
      what: `Where boost is held: its level unknown by ± ${pct(a.witnesses.pressure.levelSd, 0)}, between setups by at least ± ${pct(a.witnesses.pressure.setupFloor, 1)}; the wander is worth ${a.witnesses.pressure.wanderPulls} pulls.`,
      keys: ['pressureWander', 'pressureReading', 'pressureLevelSd', 'pressureSetupFloor', 'pressureWanderPulls'],
    },
    {
      name: 'bad pull',
      value: `${pct(a.badPull.chance, 0)} of pulls, ${pct(a.badPull.size, 0)} ± ${pct(a.badPull.sd, 1)}`,
      what: `Of these, ${pct(a.badPull.lowShare, 0)} too low.`,
      keys: ['badPull', 'badPullSize', 'badPullSizeSd', 'badPullLowShare'],
      per: 'of power',
    },
    { name: 'effect of a setup', value: `± ${pct(a.setupEffectSd, 0)}`, what: 'Before anything is known.', keys: ['setupEffectSd'] },
    {
      name: 'start temperature (same air)',
      value: belief(a.sameAir.startTemperature, 'per K'),
      what: 'What is left of the start once the charge temperature itself is taken out.',
      keys: ['sameAirStart', 'sameAirStartSd'],
      per: 'per K',
    },
    {
      name: 'charge temperature (same air)',
      value: `${a.sameAir.chargeTemperature.mean} ± ${a.sameAir.chargeTemperature.sd} per ln K`,
      what: 'Exponent of power on charge temperature.',
      keys: ['chargeExponent', 'chargeExponentSd'],
    },
    {
      name: 'manifold pressure (same air)',
      value: `${a.sameAir.manifoldPressure.mean} ± ${a.sameAir.manifoldPressure.sd} per ln`,
      what: 'Exponent of power on manifold pressure, where something holds it.',
      keys: ['manifoldExponent', 'manifoldExponentSd'],
    },
    {
      name: 'charge temperature (cooler charge)',
      value: `${a.temperature.noise.mid} K a pull, ± ${a.temperature.driftPerHour} K an hour, ± ${a.temperature.walkPerRootHour} K per √h`,
      what: 'Noise of one pull, drift and walk, for the question whether the charge is cooler.',
      keys: [
        'temperatureNoise',
        'temperatureNoiseSpread',
        'temperatureDrift',
        'temperatureWalk',
        'temperatureDayToDay',
        'temperatureSetupSd',
      ],
    },
    {
      name: 'charge per kelvin at the start',
      value: `${a.temperature.startTemperature!.mean} ± ${a.temperature.startTemperature!.sd}`,
      what: 'Kelvin of mean charge temperature per kelvin of intake air at the start.',
      keys: ['temperatureStart', 'temperatureStartSd'],
      per: 'K per K',
    },
    {
      name: 'pressure drop (less restriction)',
      value: `${pct(a.restriction.noise.mid)} a pull, ± ${pct(a.restriction.driftPerHour)} an hour, ± ${pct(a.restriction.walkPerRootHour)} per √h`,
      what: 'Noise of one pull, drift and walk of a drop at the reference flow. Not yet calibrated.',
      keys: [
        'restrictionNoise',
        'restrictionNoiseSpread',
        'restrictionDrift',
        'restrictionWalk',
        'restrictionDayToDay',
        'restrictionSetupSd',
      ],
    },
    {
      name: 'response (quicker response)',
      value: `${a.response.noise.mid} s a pull, ± ${a.response.driftPerHour} s an hour, ± ${a.response.walkPerRootHour} s per √h`,
      what: `Noise of one pull, drift and walk of a response; in rpm by how fast the engine runs up. Boost and torque are there at ${100 * RESPONSE_LEVEL} % of the reference’s own, until the question says otherwise.`,
      keys: ['responseNoise', 'responseNoiseSpread', 'responseDrift', 'responseWalk', 'responseDayToDay', 'responseSetupSd'],
    },
    {
      name: 'accuracy of temperature sensors',
      value: `± ${a.sensors.temperatureK} K`,
      what: 'At 95 %, shared by all pulls of a sensor; where the channel does not say its own.',
      keys: ['temperatureAccuracy'],
    },
    {
      name: 'accuracy of pressure sensors',
      value: `differential ± ${a.sensors.dropPa} Pa, others ± ${a.sensors.pressurePa} Pa`,
      what: 'At 95 %, shared by all pulls of a sensor; where the channel does not say its own.',
      keys: ['dropAccuracy', 'pressureAccuracy'],
    },
    {
      name: 'accuracy of the air meter',
      value: `± ${pct(a.sensors.flowShare, 0)} of the reading`,
      what: 'At 95 %, shared by all pulls of a sensor; where the channel does not say its own.',
      keys: ['flowAccuracy'],
    },
    {
      name: 'flow where no air meter is',
      value: `${a.sensors.filling} ± ${pct(a.sensors.fillingShare, 0)}`,
      what: 'Volumetric efficiency by which the flow is made of engine speed, displacement and the charge in the manifold (formula d1); it widens what rests on it.',
      keys: ['filling', 'fillingAccuracy'],
    },
    {
      name: 'engine power of wheel power',
      value: `× ${a.wheelToCrank.mean} ± ${a.wheelToCrank.sd}`,
      what: 'Wheel power times this is about engine power (formula d4): the loss is no fixed share. It makes an estimate on the sheet, and the check of the air meter; nothing is compared by it.',
      keys: ['wheelToCrank', 'wheelToCrankSd'],
    },
    {
      name: 'power on the road',
      value: `mass ± ${pct(a.road.massShare, 0)}, drag ± ${pct(a.road.dragShare, 0)}, slope ± ${pct(a.road.slope, 0)}, wind ± ${a.road.windMS} m/s`,
      what: `What an estimate of wheel power from mass, drag and acceleration leaves open (formula k1); what turns counts as ${a.road.massFactor} of the mass, rolling resistance ${a.road.rollingResistance}, drag area ${USUAL_DRAG_AREA_M2} m² where the car does not say its own.`,
      keys: ['roadMass', 'roadDrag', 'roadSlope', 'roadWind', 'roadTurning', 'roadRolling'],
    },
  ];
}

function thresholds(): Told[] {
  return [
    ...Object.values(CHECKS).flatMap((check) => [...check.thresholds]),
    {
      name: 'withheld by size',
      value: pct(MEASURED_RULES.withholdingShare, 0),
      what: 'Share of the answer that a measured difference may explain before the verdict is withheld.',
    },
    {
      name: 'a series that fades',
      value: `${FADE_RULES.leastPulls} pulls, ${FADE_RULES.restMin} min`,
      what:
        'At least so many pulls of one setup one after the other, with rests of at most so long. A change within it goes with its start by ' +
        `${FADE_RULES.start.K.mean} ± ${FADE_RULES.start.K.sd} K per K of charge and ± ${pct(FADE_RULES.start.pct.sd)} of power per K, and with ${pct(FADE_RULES.driftShare, 0)} of the day’s drift.`,
    },
    { name: 'ignition differs', value: `${MEASURED_RULES.timingDeg}°`, what: 'Reported from here on.' },
    {
      name: 'mixture differs',
      value: `lambda ${MEASURED_RULES.lambda}`,
      what: `Best lambda ${LAMBDA_CURVE.best.join(' to ')}, curvature ${LAMBDA_CURVE.curvature.join(' to ')}.`,
    },
    {
      name: 'equal rests',
      value: `${pct(OWN_START_RULES.restShare, 0)} or ${OWN_START_RULES.restMin} min`,
      what: `And coolant within ${OWN_START_RULES.coolantK} K: only then the part's own start is judged.`,
    },
    {
      name: 'power per air',
      value: `${SPLIT_RULES.airExponent.mean} ± ${SPLIT_RULES.airExponent.sd} per ln`,
      what:
        'In the split: power that goes with air mass flow. The flow of one pull is taken to scatter by ' +
        pct(SPLIT_RULES.airFlowScatter.sd, 1) +
        '.',
    },
    {
      name: 'weather in the split',
      value: `± ${pct(SPLIT_RULES.weatherShareSd, 0)} of itself`,
      what: 'What the weather took is known no better: the standards differ by about twice as much.',
    },
    {
      name: 'course of a curve',
      value: `${COURSE_RPM} rpm`,
      what: 'Over so much engine speed what is left of a difference keeps its course: the band of the whole curve is widened by it.',
    },
    {
      name: 'hints of a shape',
      value: `${HINT_RULES.slopePct} % from third to third, a bump of ${HINT_RULES.bumpPct} %, a charge ${HINT_RULES.chargeK} K cooler`,
      what: 'Rules of thumb by which a mechanism is named; never a proof.',
    },
    {
      name: 'least of the band',
      value: pct(LEAST_BAND_SHARE, 0),
      what: 'With less of the asked band free and covered, the verdict is withheld.',
    },
  ];
}

/** What was changed by hand, so that nobody takes it for the usual judgement; empty where nothing was. */
export function changedAssumptions(bundle: Bundle): { name: string; now: string; usual: string; per: string }[] {
  if (Object.keys(bundle.assumptions ?? {}).length === 0) return [];
  return listAssumptions(bundle).flatMap(({ name, per, fields }) =>
    fields
      .filter(({ value, usual }) => value !== usual)
      .map(({ label, unit, value, usual }) => {
        const figure = (shown: number) => `${shown}${unit === '–' ? '' : ` ${unit}`}`;
        const own = label.toLowerCase();
        const told = fields.length > 1 && own !== name ? `${name}, ${own}` : name;
        return { name: told, now: figure(value), usual: figure(usual), per };
      }),
  );
}
