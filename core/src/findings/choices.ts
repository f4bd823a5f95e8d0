import { ASSUMPTION_KEYS, ASSUMPTION_RANGES, type AssumptionEffect } from '@gezeit/contract';
import type { Choice, ChoiceAnswer, ChoiceChange, ComparisonChoices, EstimatePct, LeansOn, Metric, Setup } from '@gezeit/contract';
import { isHeld } from '../checks/boost-low.js';
import { metricChannel, metricValue, pullBoostedFactor, pullFactor, type AnalysedPull } from '../compare/analysed-pull.js';
import { daySeries, type ValueOf } from '../compare/day-series.js';
import { pctOf, quoted, type JudgedPair, type PairJudge } from '../compare/judged-pair.js';
import { comparedPairs, movedSensors } from '../compare/state-clouds.js';
import { isAskedOf, isPowerQuestion, powerTerms, questionsOf } from '../compare/terms.js';
import { LEAST_BAND_SHARE, usedBand } from '../compare/used-band.js';
import { dryPressurePa } from '../air/moist-air.js';
import { CELSIUS_ZERO_K } from '../air/saturation.js';
import { ASSUMPTION_FIELDS } from '../judge/assumption-fields.js';
import type { Assumptions, Belief } from '../judge/assumptions.js';
import { JudgedDay } from '../judge/estimates.js';
import type { Fit } from '../judge/fit.js';
import { gainVerdict, noLossVerdict } from '../judge/verdict.js';
import { bandPeak } from '../pull/band.js';
import { answerOf } from '../questions/index.js';
import { jointChoices, shortChoices, singleChoices, type ChosenTerms } from './choice-list.js';

/**
 * Would another choice have changed it? For every compared pair, about the question of power that leads it: the same pulls under other
 * corrections, metrics, band edges, without a pull, and under other beliefs.
 * @param extent `short`: only what `leansOn` is found from; `all`: every single choice, and the joint ones.
 */
export function choicesOf(judge: PairJudge, extent: 'short' | 'all'): ComparisonChoices[] {
  const fits: Fits = new Map();
  return comparedPairs(judge.bundle).map(([reference, candidate]) => comparisonChoices({ judge, fits }, [reference, candidate], extent));
}

/** All setups of a day are fitted together: what is chosen for one pair is fitted for the others too. */
type Fits = Map<string, { setups: readonly string[]; fit: Fit } | null>;

interface Trying {
  judge: PairJudge;
  fits: Fits;
}

function comparisonChoices(trying: Trying, [reference, candidate]: readonly [Setup, Setup], extent: 'short' | 'all'): ComparisonChoices {
  const { judge } = trying;
  const { bundle, assumptions } = judge;
  const question = questionsOf(bundle).find((asked) => isPowerQuestion(asked) && isAskedOf(asked, candidate.id)) ?? null;
  const terms = powerTerms(bundle, question);
  const pair = judge.judge(reference, candidate, terms);
  const { estimate } = quoted(pair);
  const decide = question?.kind === 'power-no-loss' ? noLossVerdict : gainVerdict;
  const answer = ({ low, high }: EstimatePct): ChoiceAnswer => decide({ value: 0, low, high }, terms.smallestPct);
  const shared = { reference: reference.id, candidate: candidate.id, question: question?.id ?? null, smallestPct: terms.smallestPct };
  if (!pair.fitted || !estimate) return { ...shared, base: null, withheld: false, choices: [], leansOn: [], effects: [] };
  const withheld = question !== null && answerOf(question, { judge, reference, candidate }).answer === 'withheld';
  const own = pair.fitted.day.pulls.filter(({ pull }) => pull.setup === reference.id || pull.setup === candidate.id);
  const chosenTerms: ChosenTerms = { bundle, terms, assumptions, pulls: own.map(({ pull }) => pull.id), series: pair.fitted.day.series };
  const base = { estimate, answer: answer(estimate) };
  const tried = (changes: ChoiceChange[]): Choice => {
    const found = tryChoice(trying, pair, changes);
    return { changes, estimate: found, answer: found && answer(found) };
  };
  const short = shortChoices(chosenTerms);
  const singles = extent === 'all' ? singleChoices(chosenTerms) : short;
  const choices = [...singles.map((change) => [change]), ...(extent === 'all' ? jointChoices(chosenTerms) : [])].map(tried);
  const isShort = ({ changes: [first, ...others] }: Choice) =>
    others.length === 0 && short.some((change) => change.what === first!.what && change.to === first!.to);
  const leansOn = withheld ? [] : choices.filter(isShort).flatMap((choice) => leaning(choice, base.answer, chosenTerms));
  return { ...shared, base, withheld, choices, leansOn, effects: extent === 'all' ? assumptionEffects(trying, pair) : [] };
}

/** Smaller effects are none, per cent. */
const LEAST_EFFECT_PCT = 0.005;

/** What every assumption does to the estimate when it is moved. */
function assumptionEffects({ judge, fits }: Trying, pair: JudgedPair): AssumptionEffect[] {
  const { assumptions, bundle } = judge;
  const { day, index } = pair.fitted!;
  const { of, estimate } = quoted(pair);
  return ASSUMPTION_KEYS.flatMap((key): AssumptionEffect[] => {
    const spread = ASSUMPTION_KEYS.find((other) => other === `${key}Sd`);
    // The spread of another assumption is no assumption of its own here.
    if (key.endsWith('Sd') && ASSUMPTION_KEYS.some((other) => `${other}Sd` === key)) return [];
    const { of: now, put } = ASSUMPTION_FIELDS[key];
    const moved = structuredClone(assumptions);
    const step = spread ? ASSUMPTION_FIELDS[spread].of(assumptions) : now(assumptions) / 2;
    put(moved, Math.min(ASSUMPTION_RANGES[key][1], now(assumptions) + step));
    const place = JSON.stringify(['moved', key, pair.reference.id, pair.band.band, pair.terms.metric, of, day.leftOut]);
    if (!fits.has(place)) fits.set(place, { setups: day.setups, fit: new JudgedDay(day.series, moved, isHeld(bundle))[of]().fit });
    const movesPct = pctOf(fits.get(place)!.fit.estimates[index - 1]!).pct - estimate!.pct;
    return Math.abs(movesPct) < LEAST_EFFECT_PCT ? [] : [{ key, by: spread ? 'sd' : 'half', movesPct }];
  });
}

/** An assumption whose change has changed the answer. */
function leaning({ changes: [change], answer }: Choice, base: ChoiceAnswer, { bundle, terms, assumptions }: ChosenTerms): LeansOn[] {
  if (answer === null || answer === base) return [];
  const from: Partial<Record<ChoiceChange['what'], number | string>> = {
    powerPerKelvin: assumptions.startTemperature.mean,
    drift: assumptions.driftPerHour,
    learning: 1 - assumptions.stories.none.weight,
    correction: bundle.programme.correction,
    bandLow: terms.bandRpm[0],
    bandHigh: terms.bandRpm[1],
  };
  return [{ assumption: change!.what, from: from[change!.what] ?? null, to: change!.to, answerThen: answer }];
}

/** The estimate that the pair quotes, with some things chosen otherwise; null where the pulls then do not give it. */
function tryChoice({ judge, fits }: Trying, pair: JudgedPair, changes: readonly ChoiceChange[]): EstimatePct | null {
  const { bundle } = judge;
  const { reference, candidate, terms } = pair;
  const asked = [chosen(changes, 'bandLow') ?? terms.bandRpm[0], chosen(changes, 'bandHigh') ?? terms.bandRpm[1]] as const;
  const left = chosen(changes, 'pull');
  const pulls = left === undefined ? judge.pulls : judge.pulls.filter(({ pull }) => pull.id !== left);
  const { band, share } = usedBand(asked, pulls, [reference.id, candidate.id]);
  if (share < LEAST_BAND_SHARE) return null;
  const dropStart = movedSensors(reference, candidate).includes('intakeAirTemperature');
  const { of } = quoted(pair);
  const key = JSON.stringify([reference.id, band, terms.metric, of, dropStart, changes.filter(({ what }) => !what.startsWith('band'))]);
  if (!fits.has(key)) {
    const day = daySeries(pulls, reference.id, band, valueUnder(judge, chosen(changes, 'metric') ?? terms.metric, changes), dropStart);
    const isComparable = day !== null && day.setups.length > 1;
    const judged = isComparable ? new JudgedDay(day.series, believing(judge.assumptions, changes), isHeld(bundle)) : null;
    fits.set(key, day && judged && { setups: day.setups, fit: judged[of]().fit });
  }
  const found = fits.get(key);
  const index = found?.setups.indexOf(candidate.id) ?? -1;
  return found && index > 0 ? pctOf(found.fit.estimates[index - 1]!) : null;
}

type ChangedTo<W extends ChoiceChange['what']> = Extract<ChoiceChange, { what: W }>['to'];

/** To what something was changed; undefined where it was not. */
function chosen<W extends ChoiceChange['what']>(changes: readonly ChoiceChange[], what: W): ChangedTo<W> | undefined {
  return changes.find((change) => change.what === what)?.to as ChangedTo<W> | undefined;
}

/** The value of a pull under another correction, metric or smoothing. */
function valueUnder({ bundle }: PairJudge, metric: Metric, changes: readonly ChoiceChange[]): ValueOf {
  const correction = chosen(changes, 'correction');
  const exponent = chosen(changes, 'temperatureExponent');
  const smoothing = chosen(changes, 'smoothing');
  return (entry, band) => {
    const value =
      smoothing !== undefined && entry.curve
        ? (bandPeak(entry.curve, metricChannel(metric), band, smoothing)?.value ?? null)
        : metricValue(metric, entry, band);
    const factor =
      exponent !== undefined
        ? exponentFactor(entry, exponent)
        : correction === 'C9'
          ? pullBoostedFactor(bundle, entry, band)
          : pullFactor(correction ?? bundle.programme.correction, entry);
    return value === null || factor === null || !(value > 0) ? null : Math.log(value * factor);
  };
}

const REFERENCE_DRY_PA = 99_000;
const REFERENCE_K = 298;

/** Dry pressure in full, temperature to an exponent: the plain form that the standards share. */
function exponentFactor({ air }: AnalysedPull, exponent: number): number | null {
  return air && (REFERENCE_DRY_PA / dryPressurePa(air)) * ((air.temperatureC + CELSIUS_ZERO_K) / REFERENCE_K) ** exponent;
}

/** The beliefs with some of them held at another value; what is held is taken as known. */
function believing(assumptions: Assumptions, changes: readonly ChoiceChange[]): Assumptions {
  const known = (mean: number): Belief => ({ mean, sd: 0 });
  let beliefs = assumptions;
  for (const change of changes) {
    if (change.what === 'drift') beliefs = { ...beliefs, driftPerHour: 0, walkPerRootHour: 0 };
    if (change.what === 'oil') beliefs = { ...beliefs, oilTemperature: known(0) };
    if (change.what === 'powerPerKelvin') beliefs = { ...beliefs, startTemperature: known(change.to) };
    if (change.what === 'learning') {
      const { none, day, swap } = beliefs.stories;
      beliefs = { ...beliefs, stories: { none: { ...none, weight: 1 }, day: { ...day, weight: 0 }, swap: { ...swap, weight: 0 } } };
    }
  }
  return beliefs;
}
