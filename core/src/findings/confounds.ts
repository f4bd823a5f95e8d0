import type { Affected, Bundle, Confound, ConfoundCode, PullFlag, Setup } from '@gezeit/contract';
import { correctionFactor } from '../correction/standards.js';
import type { Assumptions } from '../judge/assumptions.js';
import { largestLambdaEffect, MATCHED_KEYS, MEASURED_RULES, STATE_RULES } from '../judge/confound-rules.js';
import type { Fit } from '../judge/fit.js';
import { ignitionDifferenceDeg } from '../judge/ignition-difference.js';
import { boostThresholdLn } from '../judge/manifold-scatter.js';
import { mean, setupMean } from '../judge/series.js';
import { bandMean, type Band } from '../pull/band.js';
import { isHeld } from '../pull/flags.js';
import { onEveryPull, type AnalysedPull } from './analysed-pull.js';
import type { DaySeries } from './day-series.js';
import { listed, signed } from './text.js';
import type { UsedBand } from './used-band.js';

/** Everything a comparison's confounds are judged from. */
export interface ConfoundInput {
  bundle: Bundle;
  reference: Setup;
  candidate: Setup;
  pulls: AnalysedPull[];
  day: DaySeries;
  band: UsedBand;
  levelled: Fit;
  assumptions: Assumptions;
  /** Estimate that leads, as a logarithm, and the smallest gain that matters as a fraction. */
  leading: number;
  smallestGain: number;
}

/** All confounds of a comparison. */
export function confoundsOf(input: ConfoundInput): Confound[] {
  return [
    ...stateConfounds(input.reference, input.candidate).confounds,
    ...measuredConfounds(input),
    ...orderConfounds(input),
    ...flagConfounds(input),
  ];
}

/** What the two setups' stated attributes differ in, and the keys that only one of them states. */
export function stateConfounds(reference: Setup, candidate: Setup): { confounds: Confound[]; unknown: string[] } {
  const confounds: Confound[] = [];
  const unknown: string[] = [];
  for (const rule of STATE_RULES) {
    const changes: string[] = [];
    for (const key of rule.keys) {
      const [before, after] = [reference.state[key] ?? null, candidate.state[key] ?? null];
      if (before === null && after === null) continue;
      if (before === null || after === null) unknown.push(key);
      else if (String(before) !== String(after)) changes.push(`${before} → ${after}`);
    }
    if (changes.length > 0) {
      confounds.push({
        code: rule.code,
        detail: `${rule.what} differs: ${changes.join(', ')}${rule.ask ? `; ${rule.ask}` : ''}`,
        affects: rule.affects,
        withholds: rule.withholds,
      });
    }
  }
  return { confounds: [...confounds, ...sensorConfounds(reference, candidate), ...partConfounds(reference, candidate)], unknown };
}

const TEMPERATURE_SENSOR = /temperature/i;

function sensorConfounds(reference: Setup, candidate: Setup): Confound[] {
  const moved = movedSensors(reference, candidate);
  if (moved.length === 0) return [];
  const affects: Affected[] = [];
  if (moved.some((key) => TEMPERATURE_SENSOR.test(key))) affects.push('temperature');
  if (moved.some((key) => !TEMPERATURE_SENSOR.test(key))) affects.push('restriction');
  return [{ code: 'sensor-moved', detail: `the sensor of ${listed(moved)} sits elsewhere`, affects, withholds: affects }];
}

/** Quantities whose sensor sits in another place in the two setups. */
export function movedSensors(reference: Setup, candidate: Setup): string[] {
  const [before, after] = [reference.sensorPlaces ?? {}, candidate.sensorPlaces ?? {}];
  return Object.keys(before).filter((key) => after[key] !== undefined && after[key] !== before[key]);
}

function partConfounds(reference: Setup, candidate: Setup): Confound[] {
  const removed = reference.parts.filter((part) => !candidate.parts.includes(part));
  const added = candidate.parts.filter((part) => !reference.parts.includes(part));
  if (removed.length <= 1 && added.length <= 1) return [];
  const detail = `several parts differ (${listed([...removed.map((part) => `− ${part}`), ...added.map((part) => `+ ${part}`)])}): they are judged together`;
  return [{ code: 'several-parts-changed', detail, affects: ['power', 'temperature', 'restriction'], withholds: [] }];
}

/** The reference whose state equals a candidate's where both state it; else the first reference. */
export function referenceFor(bundle: Bundle, candidate: Setup): Setup | null {
  const references = bundle.setups.filter((setup) => setup.reference && setup.id !== candidate.id);
  const equal = references.find((reference) =>
    MATCHED_KEYS.every((key) => {
      const [a, b] = [reference.state[key] ?? null, candidate.state[key] ?? null];
      return a === null || b === null || String(a) === String(b);
    }),
  );
  return equal ?? references[0] ?? null;
}

function measuredConfounds(input: ConfoundInput): Confound[] {
  const { day, bundle, assumptions, levelled } = input;
  const index = day.setups.indexOf(input.candidate.id);
  const found: Confound[] = [];
  const add = (code: ConfoundCode, detail: string, withholds: boolean, affects: Affected[] = ['power']) =>
    found.push({ code, detail, affects, withholds: withholds ? affects : [] });
  const bySize = (effect: number) =>
    Math.abs(effect) >= MEASURED_RULES.withholdingShare * Math.max(Math.abs(input.leading), input.smallestGain);
  const { series } = day;
  if (isHeld(bundle) && series.logManifold) {
    const difference = setupMean(series, series.logManifold, index) - setupMean(series, series.logManifold, 0);
    if (Math.abs(difference) >= boostThresholdLn(series, series.logManifold, index)) {
      const { mean: perLog, sd } = assumptions.sameAir.manifoldPressure;
      add(
        'boost-changed',
        `manifold pressure differs by ${signed(100 * Math.expm1(difference))} % in the band`,
        bySize(difference * (perLog + 2 * sd)),
      );
    }
  }
  const ignition = ignitionDifferenceDeg(series, index, assumptions, levelled.story);
  if (ignition && Math.abs(ignition.learningTakenOut) >= MEASURED_RULES.timingDeg) {
    const { mean: perDegree, sd } = assumptions.ignition;
    const follows = followsCharge(day, index, ignition.learningTakenOut);
    const because = follows ? ', as the charge temperature that the part changed explains' : '';
    const withholds = !follows && bySize(ignition.learningTakenOut * (perDegree + 2 * sd));
    add('timing-changed', `ignition differs by ${signed(ignition.learningTakenOut)}° in the band${because}`, withholds);
  }
  const lambda = meansOf(input, (entry) => entry.curve && bandMean(entry.curve, 'lambda', input.band.band));
  if (lambda && Math.abs(lambda.candidate - lambda.reference) >= MEASURED_RULES.lambda) {
    const effect = largestLambdaEffect(lambda.reference, lambda.candidate);
    add('fuelling-changed', `lambda differs by ${signed(lambda.candidate - lambda.reference, 3)} in the band`, bySize(effect));
  }
  const meter = meansOf(input, (entry) => airAgainstFuel(entry, input.band.band));
  if (meter && Math.abs(meter.candidate - meter.reference) >= MEASURED_RULES.airMeter) {
    const shift = 100 * Math.expm1(meter.candidate - meter.reference);
    add('air-meter-disagrees', `the air meter reads ${signed(shift)} % against the fuel: its witness is not used`, false, []);
  }
  const coolant = meansOf(input, ({ start }) => start.coolantC);
  if (coolant && Math.abs(coolant.candidate - coolant.reference) >= MEASURED_RULES.coolantK) {
    add('coolant-start-apart', `coolant at the start differs by ${signed(coolant.candidate - coolant.reference)} K`, false);
  }
  const weather = weatherDetail(input);
  if (weather) add('weather-out-of-range', weather, false);
  return found;
}

function followsCharge({ series }: DaySeries, index: number, ignitionDeg: number): boolean {
  if (!series.chargeK) return false;
  const chargeK = setupMean(series, series.chargeK, index) - setupMean(series, series.chargeK, 0);
  if (Math.abs(chargeK) < MEASURED_RULES.chargeMovedK || Math.sign(chargeK) === Math.sign(ignitionDeg)) return false;
  return Math.abs(ignitionDeg) <= MEASURED_RULES.sparkPerKelvin * Math.abs(chargeK);
}

/** Logarithm of metered air over the air that injector time and lambda tell of, up to a constant of the engine; null where a channel is missing. */
export function airAgainstFuel({ curve }: AnalysedPull, band: Band): number | null {
  if (!curve) return null;
  const air = bandMean(curve, 'airMassFlow', band, Math.log);
  const injector = bandMean(curve, 'injectorTime', band, Math.log);
  const lambda = bandMean(curve, 'lambda', band, Math.log);
  return air === null || injector === null || lambda === null ? null : air - injector - lambda;
}

/** Means of a value over the used pulls of reference and candidate; null where some pull lacks it. */
export function meansOf(
  { pulls, reference, candidate }: Pick<ConfoundInput, 'pulls' | 'reference' | 'candidate'>,
  value: (entry: AnalysedPull) => number | null | undefined,
): { reference: number; candidate: number } | null {
  const of = (setup: string) => pulls.filter((entry) => entry.used && entry.pull.setup === setup).map(value);
  const [a, b] = [of(reference.id), of(candidate.id)];
  if (a.length === 0 || b.length === 0 || [...a, ...b].some((entry) => entry == null || !Number.isFinite(entry))) return null;
  return { reference: mean(a as number[]), candidate: mean(b as number[]) };
}

function weatherDetail(input: ConfoundInput): string | null {
  const { correction } = input.bundle.programme;
  const standard = correction === 'NONE' ? 'SAE_J1349' : correction;
  const factor = ({ air }: AnalysedPull) => (air ? correctionFactor(standard, air) : null);
  const means = meansOf(input, factor);
  if (!means) return null;
  const { factorLow, factorHigh, factorsApart } = MEASURED_RULES;
  if (Math.abs(means.reference - means.candidate) > factorsApart) {
    return `the weather factors of the setups are ${Math.abs(means.reference - means.candidate).toFixed(3)} apart`;
  }
  const outside = [means.reference, means.candidate].find((value) => value < factorLow || value > factorHigh);
  return outside === undefined ? null : `a weather factor of ${outside.toFixed(3)} lies outside ${factorLow} to ${factorHigh}`;
}

function orderConfounds({ pulls, reference, candidate }: ConfoundInput): Confound[] {
  const own = (setup: Setup) => pulls.filter((entry) => entry.used && entry.pull.setup === setup.id);
  const [a, b] = [own(reference), own(candidate)];
  const found: Confound[] = [];
  const hours = (entries: AnalysedPull[]) => entries.map(({ place }) => place.timeH);
  if (isOrderConfounded(hours(a), hours(b))) {
    const detail = `every pull of one setup came before every pull of the other: drift cannot be told from the part`;
    found.push({ code: 'order-confounded', detail, affects: [], withholds: [] });
  }
  const single = [reference, candidate].filter((setup) => own(setup).length === 1);
  if (single.length > 0) {
    found.push({ code: 'single-pull', detail: `only one used pull of ${listed(single.map(({ id }) => id))}`, affects: [], withholds: [] });
  }
  const days = (entries: AnalysedPull[]) => new Set(entries.map(({ place }) => place.day));
  const [daysA, daysB] = [days(a), days(b)];
  if ([...daysA].some((day) => !daysB.has(day)) || [...daysB].some((day) => !daysA.has(day))) {
    const bridged = bridges(pulls, new Set([...daysA, ...daysB]), ({ place }) => place.day);
    found.push({
      code: 'different-day',
      detail: 'the setups did not run on the same days',
      affects: ['power'],
      withholds: bridged ? [] : ['power'],
    });
  }
  const cellOf = ({ pull }: AnalysedPull) => pull.cell ?? '';
  const cells = new Set([...a, ...b].map(cellOf));
  if (cells.size > 1 && ![...cells].every((cell) => a.some((entry) => cellOf(entry) === cell))) {
    const affects: Affected[] = ['power', 'temperature'];
    found.push({ code: 'different-cell', detail: `the setups ran in different cells: ${listed([...cells])}`, affects, withholds: affects });
  }
  return found;
}

/** Whether every pull of one setup came before every pull of the other. */
export function isOrderConfounded(a: number[], b: number[]): boolean {
  if (a.length === 0 || b.length === 0) return false;
  return Math.max(...a) < Math.min(...b) || Math.max(...b) < Math.min(...a);
}

/** Whether some setup ran on all of the days. */
function bridges(pulls: AnalysedPull[], days: ReadonlySet<string>, dayOf: (entry: AnalysedPull) => string): boolean {
  const setups = new Set(pulls.map(({ pull }) => pull.setup));
  return [...setups].some((setup) => {
    const own = new Set(pulls.filter((entry) => entry.used && entry.pull.setup === setup).map(dayOf));
    return [...days].every((day) => own.has(day));
  });
}

const FLAG_WITHHOLDS: readonly PullFlag[] = ['slip'];
const FLAG_CONFOUNDS: readonly PullFlag[] = [
  'slip',
  'short',
  'boost-low',
  'lean',
  'timing-pulled',
  'air-meter-implausible',
  'started-hot',
  'started-cold',
  'typed',
];

function flagConfounds({ pulls, reference, candidate, band }: ConfoundInput): Confound[] {
  const found: Confound[] = [];
  for (const flag of FLAG_CONFOUNDS) {
    const setups = [reference.id, candidate.id].filter((setup) => onEveryPull(pulls, setup, flag));
    if (setups.length === 0) continue;
    const withholds: Affected[] = FLAG_WITHHOLDS.includes(flag) ? ['power'] : [];
    found.push({ code: flag as ConfoundCode, detail: `on every pull of ${listed(setups)}`, affects: ['power'], withholds });
  }
  if (band.cappedSetup || band.cappedAlike) {
    const detail = band.cappedAlike
      ? 'the engine closes the throttle in both setups alike'
      : `the engine closes the throttle with ${band.cappedSetup} above ${Math.round(band.band[1])} rpm: the whole band gains at least what the free part does`;
    found.push({ code: 'throttle-closed', detail, affects: ['power'], withholds: [] });
  }
  return found;
}
