import type { AssumptionKey, Bundle, ListedAssumption } from '@gezeit/contract';
import { ASSUMPTION_FIELDS, shownAssumption } from '../judge/assumption-fields.js';
import { RESTRICTION_ASSUMPTIONS, TEMPERATURE_ASSUMPTIONS, type Assumptions, type Belief } from '../judge/assumptions.js';
import { LAMBDA_CURVE, MEASURED_RULES } from '../judge/confound-rules.js';
import { FLAG_RULES } from '../pull/flags.js';
import { assumptionsFor, usualAssumptions } from './assumptions-for.js';
import { OWN_START_RULES } from './own-start.js';

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
      keys: ['noise'],
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
    story('none', 'the engine control learned nothing'),
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
      name: 'bad pull',
      value: `${pct(a.badPull.chance, 0)} of pulls, ${pct(a.badPull.size, 0)} ± ${pct(a.badPull.sd, 1)}`,
      what: `Of these, ${pct(a.badPull.lowShare, 0)} too low.`,
      keys: ['badPull', 'badPullSize', 'badPullSizeSd'],
      per: 'of power',
    },
    { name: 'effect of a setup', value: `± ${pct(a.setupEffectSd, 0)}`, what: 'Before anything is known.', keys: ['setupEffectSd'] },
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
    { name: 'noise of a charge temperature', value: `${TEMPERATURE_ASSUMPTIONS.noise.mid} K`, what: 'Not yet calibrated.' },
    { name: 'noise of an effective area', value: pct(RESTRICTION_ASSUMPTIONS.noise.mid, 0), what: 'Not yet calibrated.' },
  ];
}

function thresholds(): Told[] {
  return [
    {
      name: 'full throttle',
      value: `${FLAG_RULES.fullThrottlePct} %`,
      what: `Less with the pedal down over ${pct(FLAG_RULES.closedShare, 0)} of the band is a closed throttle.`,
    },
    { name: 'slip', value: pct(FLAG_RULES.slip, 0), what: 'Change of roller to engine speed against the low-load part of the sweep.' },
    { name: 'boost low', value: pct(FLAG_RULES.boostLow, 0), what: "Under the median of the setup's own pulls." },
    {
      name: 'lean',
      value: `lambda ${FLAG_RULES.leanLambda.toFixed(2)}`,
      what: `Above it over ${pct(FLAG_RULES.leanShare, 0)} of the band.`,
    },
    { name: 'spark pulled', value: `${FLAG_RULES.timingPulledDeg}°`, what: `Over ${pct(FLAG_RULES.timingPulledShare, 0)} of the band.` },
    { name: 'start apart', value: `${FLAG_RULES.startApartK} K`, what: "Intake air above ambient against the day's median." },
    {
      name: 'air per power',
      value: `${FLAG_RULES.airPerPower} g/s per kW ± ${pct(FLAG_RULES.airPerPowerOff, 0)}`,
      what: `At the crank; wheel power × ${FLAG_RULES.wheelToCrank}.`,
    },
    {
      name: 'withheld by size',
      value: pct(MEASURED_RULES.withholdingShare, 0),
      what: 'Share of the answer that a measured difference may explain before the verdict is withheld.',
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
  ];
}

/** What was changed by hand, in words, so that nobody takes it for the usual judgement; empty where nothing was. */
export function changedNotes(bundle: Bundle): string[] {
  const changed = listAssumptions(bundle).flatMap(({ name, per, fields }) =>
    fields
      .filter(({ value, usual }) => value !== usual)
      .map(({ label, unit, value, usual }) => {
        const figure = (shown: number) => `${shown}${unit === '%' ? ' %' : ''}`;
        return `${fields.length > 1 ? `${name}, ${label.toLowerCase()}` : name} ${figure(value)} instead of ${figure(usual)}${per ? ` ${per}` : ''}`;
      }),
  );
  return changed.length === 0 ? [] : [`Assumptions changed by hand: ${changed.join('; ')}.`];
}
