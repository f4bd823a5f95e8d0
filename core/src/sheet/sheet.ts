import type { Bundle, ClaimFinding, Comparison, Findings, Pull, Setup, SheetSource } from '@gezeit/contract';
import { AMENDED_WORDS, CORRECTION_NAMES, METRIC_WORDS, STATE_WORDS } from '../words/labels.js';
import { CAUSE_WORDS } from '../words/verdict-words.js';
import { answerWord, QUESTION_LABELS } from '../words/questions/index.js';
import { headlineOf } from '../words/headline.js';
import { pullReasonWord } from '../words/pull-reason.js';
import type { Formatter } from '../format/formatter.js';
import { listed, plain, sentence, signed, tied } from '../format/values.js';
import { CONDITION_WORDS, programmeGaps } from '../question/gaps.js';
import { zoneOf } from '../units/time-zone.js';
import { statementsOf, type Statement } from './statements.js';

/** A line of the sheet that says one thing. */
export interface SheetRow {
  label: string;
  text: string;
}

/** One question on the sheet. */
interface SheetAnswer {
  question: string;
  word: string;
  answer: Comparison['answers'][number]['answer'];
  sentence: string;
  behind: string[];
}

/** A sentence of the house on its sheet. */
export interface OwnWords {
  claim: string;
  text: string;
  by: string | null;
  /** Whether the measurement supports it; what it cannot be held against is not checked. */
  state: 'supported' | 'beyond' | 'unchecked';
  why: string;
}

/** The text of a validation sheet, in the units that its formatter shows; what is drawn on it is drawn from the same source. */
export interface Sheet {
  title: string;
  question: string;
  candidate: Setup;
  reference: Setup;
  answers: SheetAnswer[];
  /** What was tested, where, when, and how. */
  tested: SheetRow[];
  parts: { setup: Setup; lines: string[] }[];
  /** Order of the pulls: letters, small where conditioning, in brackets where left out. */
  order: string;
  leftOut: SheetRow[];
  mayBeSaid: Statement[];
  mayNotBeSaid: string[];
  /** What others claim of it, each with what became of it. */
  claims: { text: string; by: string | null; finding: ClaimFinding }[];
  /** Sentences that somebody of the house has put here: one that the measurement does not support says so. */
  ownWords: OwnWords[];
  /** What power at the engine would be: an estimate, marked so; null where none can be made. */
  atTheEngine: string | null;
  clouds: string[];
  limits: string[];
}

/**
 * A validation sheet's text for one comparison; its days are named in the time zone of the cell.
 */
export function sheetOf({ bundle, findings, curves }: SheetSource, comparison: Comparison, f: Formatter): Sheet {
  const setup = (id: string) => bundle.setups.find((entry) => entry.id === id)!;
  const [reference, candidate] = [setup(comparison.reference), setup(comparison.candidate)];
  const compared = new Set([reference.id, candidate.id]);
  // Laps and long runs are no pulls: nothing of this sheet rests on them.
  const pulls = bundle.pulls.filter(({ setup: own, kind }) => compared.has(own) && kind !== 'drive');
  const difference = curves.differences.find((entry) => entry.reference === reference.id && entry.candidate === candidate.id) ?? null;
  const { may, mayNot } = statementsOf({ bundle, findings, comparison, difference, f });
  return {
    title: bundle.programme.title,
    question: bundle.programme.question,
    candidate,
    reference,
    answers: answersOf(bundle, comparison, candidate, f),
    tested: testedRows(bundle, findings, comparison, pulls, f),
    parts: [reference, candidate].map((entry) => ({ setup: entry, lines: partLines(entry) })),
    order: orderText(pulls, findings),
    leftOut: leftOutRows(pulls, findings),
    mayBeSaid: may,
    mayNotBeSaid: mayNot,
    claims: claimsOf(bundle, findings, candidate),
    ownWords: ownWordsOf(bundle, findings, candidate, may),
    atTheEngine: engineText(comparison, f),
    clouds: comparison.confounds.map(
      ({ detail, withholds }) => `${sentence(detail)}.${withholds.length > 0 ? ` Withholds: ${withholds.join(', ')}.` : ''}`,
    ),
    limits: [
      ...comparison.notes,
      ...comparison.contributions.flatMap(({ cause, pct, reason }) =>
        pct === null ? [`No row for ${CAUSE_WORDS[cause].label}: ${reason}`] : [],
      ),
      ...afterwards(bundle),
      ...programmeGaps(bundle).map(({ text }) => text),
    ],
  };
}

function answersOf(bundle: Bundle, comparison: Comparison, candidate: Setup, f: Formatter): SheetAnswer[] {
  const questions = bundle.programme.questions ?? [];
  return comparison.answers.map((answer) => {
    const asked = questions.find(({ id }) => id === answer.question);
    const { before, figure, after, second } = headlineOf(answer, f);
    return {
      question: `${QUESTION_LABELS[answer.kind]}${asked?.section ? `, ${asked.section}` : ''}${asked?.afterwards ? ' (asked after the results)' : ''}`,
      word: answerWord(answer.kind, answer.answer, candidate.bound === true),
      answer: answer.answer,
      sentence: `${before}${figure}${after}`,
      behind: second,
    };
  });
}

function engineText({ engineEstimate }: Comparison, f: Formatter): string | null {
  if (!engineEstimate) return null;
  const { metric, factor, referenceKW, differenceKW } = engineEstimate;
  const unit = f.shownUnit('kW');
  const range = (low: number, high: number, text: (value: number) => string) => tied(`${text(low)} to ${text(high)}`, unit);
  const shown = (value: number) => f.shownValue(value, 'kW');
  const level = range(referenceKW.low, referenceKW.high, (value) => plain(shown(value), 0));
  const change = range(differenceKW.low, differenceKW.high, (value) => signed(shown(value), 1));
  const by = `${plain(factor.low, 2)} to ${plain(factor.high, 2)}`;
  return `Wheel power times ${by}, which is assumed: ${METRIC_WORDS[metric as keyof typeof METRIC_WORDS] ?? metric} of about ${level} with the reference, and a difference of ${change}.`;
}

const CELL_KINDS: Readonly<Record<string, string>> = {
  inertia: 'inertia rollers',
  brake: 'braked rollers',
  hub: 'hub dynamometer',
  engine: 'engine dynamometer',
  road: 'the road',
  track: 'a track',
};

function testedRows(bundle: Bundle, findings: Findings, comparison: Comparison, pulls: readonly Pull[], f: Formatter): SheetRow[] {
  const { programme, vehicle } = bundle;
  const cells = bundle.cells ?? (bundle.cell ? [bundle.cell] : []);
  const used = new Set(findings.pulls.filter(({ status }) => status === 'used').map(({ id }) => id));
  const measured = pulls.filter(({ kind }) => kind === 'measured');
  const row = (label: string, ...parts: (string | null | undefined)[]): SheetRow[] => {
    const text = parts.filter(Boolean).join(', ');
    return text === '' ? [] : [{ label, text }];
  };
  const correction = CORRECTION_NAMES[programme.correction] ?? programme.correction;
  return [
    ...row(
      'Car',
      vehicle.name,
      vehicle.displacementL && !vehicle.name.includes(`${vehicle.displacementL}-litre`) ? `${vehicle.displacementL} litres` : null,
      vehicle.fuel,
      vehicle.massKg ? `${vehicle.massKg} kg` : null,
    ),
    ...cells.flatMap(({ name, kind, powerAt, repeatabilityPct }) =>
      row(
        'Cell',
        name,
        kind ? CELL_KINDS[kind] : null,
        `power at the ${powerAt}`,
        repeatabilityPct ? `repeats within ${repeatabilityPct} %` : 'repeatability not stated',
      ),
    ),
    ...row('When', listed(daysOf(pulls, zoneOf(bundle)))),
    ...row('Air', ambientText(pulls, f)),
    ...row('Weather correction', correction === 'uncorrected' ? 'none: figures are as driven' : `${correction}, everywhere on this sheet`),
    ...row(
      'Judged by',
      METRIC_WORDS[programme.metric],
      f.band(comparison.bandUsedRpm),
      `smallest that matters ${programme.smallestGainPct} %`,
    ),
    ...stateRows(bundle, comparison),
    ...row(
      'Pulls',
      `${measured.filter(({ id }) => used.has(id)).length} of ${measured.length} measured ones used`,
      `${pulls.length - measured.length} more driven to condition`,
      pulls.some(({ typed }) => typed) ? 'some figures typed from a screen' : null,
    ),
    ...row('Checked before', conditionText(bundle)),
  ];
}

/** What is the same on both setups is said once; what differs, with both. */
function stateRows(bundle: Bundle, { reference, candidate }: Comparison): SheetRow[] {
  const state = (id: string) => bundle.setups.find((setup) => setup.id === id)!.state;
  const [a, b] = [state(reference), state(candidate)];
  const shown = (value: unknown) => (value === null || value === undefined || value === '' ? 'not said' : String(value));
  return Object.entries(STATE_WORDS).flatMap(([key, words]) => {
    const own = key as keyof typeof a;
    if (a[own] == null && b[own] == null) return [];
    const label = sentence(words.replace(/^the /, ''));
    return [{ label, text: a[own] === b[own] ? shown(a[own]) : `${reference}: ${shown(a[own])}; ${candidate}: ${shown(b[own])}` }];
  });
}

function daysOf(pulls: readonly Pull[], timeZone: string | null): string[] {
  const format = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone: timeZone ?? 'UTC' });
  return [...new Set(pulls.filter(({ startUnknown }) => !startUnknown).map(({ startedAt }) => format.format(new Date(startedAt))))];
}

function ambientText(pulls: readonly Pull[], f: Formatter): string | null {
  const known = pulls.flatMap(({ ambient }) => (ambient ? [ambient] : []));
  const range = (values: (number | null | undefined)[], show: (value: number) => string): string | null => {
    const given = values.filter((value): value is number => value != null);
    if (given.length === 0) return null;
    const [low, high] = [Math.min(...given), Math.max(...given)].map(show);
    return low === high ? low! : `${low} to ${high}`;
  };
  const parts = [
    range(
      known.map(({ temperatureC }) => temperatureC),
      (value) => f.temperature(value),
    ),
    range(
      known.map(({ pressureKPa }) => pressureKPa),
      (value) => f.pressure(1000 * value),
    ),
    range(
      known.map(({ relativeHumidityPct }) => relativeHumidityPct),
      (value) => `${Math.round(value)} %`,
    ),
  ].filter((part) => part !== null);
  return parts.length > 0 ? parts.join('; ') : null;
}

function conditionText({ condition }: Bundle): string | null {
  const good = (condition ?? []).filter(({ state }) => state === 'good');
  return good.length === 0 ? null : listed(good.map(({ item }) => CONDITION_WORDS[item].toLowerCase()));
}

function partLines({ parts, partDetails }: Setup): string[] {
  return parts.map((part) => {
    const detail = (partDetails ?? []).find((entry) => entry.part === part);
    const known = [
      detail?.revision ? `revision ${detail.revision}` : null,
      detail?.stage,
      detail?.material,
      detail?.serial ? `specimen ${detail.serial}` : null,
      detail?.tuneFile ? `tune ${detail.tuneFile}` : null,
    ].filter(Boolean);
    return known.length > 0 ? `${part} (${known.join(', ')})` : part;
  });
}

function orderText(pulls: readonly Pull[], findings: Findings): string {
  const used = new Set(findings.pulls.filter(({ status }) => status === 'used').map(({ id }) => id));
  const letters = pulls.map(({ id, setup, kind }) => (kind !== 'measured' ? setup.toLowerCase() : used.has(id) ? setup : `(${setup})`));
  return letters.reduce((text, letter, i) => {
    const isSame = i > 0 && pulls[i]!.setup === pulls[i - 1]!.setup;
    return text + (i === 0 ? '' : isSame ? ' ' : ' · ') + letter;
  }, '');
}

function leftOutRows(pulls: readonly Pull[], findings: Findings): SheetRow[] {
  const reasons = new Map(findings.pulls.map((pull) => [pull.id, pull]));
  return pulls.flatMap(({ id, kind, amended }) => {
    const finding = reasons.get(id);
    const corrected = (amended ?? []).map(({ what, by, why }) => `${AMENDED_WORDS[what] ?? what} corrected by ${by}: ${why}`);
    const out =
      kind === 'measured' && finding?.status === 'excluded' ? [`left out: ${finding.reasons.map(pullReasonWord).join(', ')}`] : [];
    const text = [...out, ...corrected].join('; ');
    return text === '' ? [] : [{ label: id, text }];
  });
}

function afterwards({ programme, setups }: Bundle): string[] {
  const late = setups.filter(({ afterwards: is }) => is).map(({ id, name }) => `${id} ${name}`);
  const claims = (programme.claims ?? []).filter(({ afterwards: is, ownWords }) => is && !ownWords).map(({ text }) => `“${text}”`);
  return [
    ...(late.length > 0 ? [`Added after results were known: ${listed(late)}.`] : []),
    ...(claims.length > 0 ? [`Claims written down after results were known: ${listed(claims)}.`] : []),
  ];
}

/** Claims from outside that are of this setup, or name none. */
function claimsOf({ programme }: Bundle, { claims }: Findings, candidate: Setup): Sheet['claims'] {
  return (programme.claims ?? []).flatMap(({ id, text, by, ownWords }) => {
    const finding = claims.find(({ claim }) => claim === id);
    if (ownWords || !text || !finding || (finding.candidate !== null && finding.candidate !== candidate.id)) return [];
    return [{ text, by: by ?? null, finding }];
  });
}

/** A sentence that names no setup is of the only candidate there is: the finding says of which it was held. */
function ownWordsOf({ programme }: Bundle, { claims }: Findings, candidate: Setup, may: readonly Statement[]): OwnWords[] {
  return (programme.claims ?? []).flatMap(({ id, text, by, setup, ownWords }) => {
    const finding = claims.find(({ claim }) => claim === id);
    if (!ownWords || !text || !finding || (setup ?? finding.candidate) !== candidate.id) return [];
    const own = { claim: id, text, by: by ?? null };
    if (may.some(({ short, full }) => short === text || full === text))
      return [{ ...own, state: 'supported', why: 'It is what may be said, word for word.' }];
    const state = finding.state === 'holds' ? 'supported' : finding.state === 'not-checked' ? 'unchecked' : 'beyond';
    return [{ ...own, state, why: finding.why }];
  });
}
