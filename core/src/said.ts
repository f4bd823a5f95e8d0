import type { Comparison, LeansOn, PullFlag, QuestionKind } from '@gezeit/contract';
import type { AirQuantity } from './air/possible-air.js';
import type { Calibration } from './channels/calibration.js';
import type { StateName } from './judge/confound-rules.js';

/** An interval in the unit that its name ends with. */
export interface Interval {
  value: number;
  low: number;
  high: number;
}

/**
 * Everything that findings can say, by its code, with the values that belong to it. Numbers are in the unit that their name ends with; what is
 * said of it in words stands in `words/`, and only there.
 */
export interface SaidValues extends PullSaid, CloudSaid, ReasonSaid, AnswerSaid, ClaimSaid {}

/** Of a pull: its flags, its warnings, and why it is left out. */
export interface PullSaid {
  'flag:throttle-closed': { underPct: number; sharePct: number; fromRpm: number };
  'flag:slip': { offPct: number; atRpm: number };
  'flag:short': { fromRpm: number; toRpm: number; bandRpm: readonly [number, number] };
  'flag:boost-low': { underPct: number };
  /** The earlier pull. */
  'flag:copied': { of: string };
  'flag:lean': { lambda: number; sharePct: number };
  'flag:timing-pulled': { degrees: number; sharePct: number };
  'flag:spike': { columns: { name: string; file: string; samples: number }[] };
  'flag:air-meter-implausible': { offPct: number };
  'flag:started-hot': { apartK: number };
  'flag:started-cold': { apartK: number };
  'flag:typed': { corrected: string | null };
  'flag:wobble': { offPct: number; atRpm: number; widthRpm: number };
  'flag:outlier': { offPct: number; others: number };
  /** The first pulls of the setup, each against the later ones. */
  'flag:learning': { underPct: number; pulls: { pull: string; offPct: number }[] };
  'flag:misfire': { count: number; deepestPct: number };
  'flag:boost-off-target': { meanPa: number; targetPa: number | null; wanderPct: number | null };
  'flag:ramp-differs': { seconds: number; usualS: number };
  'flag:gear-differs': { gear: number | null; usualGear: number | null; differencePct: number | null };
  'flag:smoothing-differs': { times: number };
  'flag:drop-not-square': { sections: { section: string; atRpm: number; stepPct: number }[] };
  /** Means over the sweep, in the unit kept inside. */
  'flag:devices-contradict': { apart: { key: string; first: string; firstMean: number; second: string; secondMean: number }[] };
  'flag:channel-stuck': { channels: (ChannelSaid & { seconds: number })[] };
  'flag:channel-saturated': { channels: ChannelSaid[] };
  'flag:channel-unplugged': { channels: (ChannelSaid & { beside: number; seconds: number })[] };
  'flag:channel-implausible': { channels: (ChannelSaid & { low: number; high: number })[] };
  'flag-on-every-pull': { flag: PullFlag; setup: string };
  'clock-not-matched': { file: string; first: string };
  'corrected-without-weather': { quantity: string };
  'gauge-without-weather': { quantity: string };
  'boost-not-logged': Record<string, never>;
  'start-apart': { what: 'intakeAirC' | 'coolantC' | 'oilC'; loggedC: number; statedC: number };
  'air-impossible': { quantity: AirQuantity; value: number; logged: boolean };
  'ambient-apart': { loggedC: number; statedC: number };
  'pressure-apart': { loggedPa: number; statedPa: number };
  'humidity-assumed': { percent: number };
  'engine-speed-impossible': { file: string; count: number; mostRpm: number };
  'typed-correction-unknown': Record<string, never>;
  'channel-put-right': { calibration: Calibration };
}

/** A channel of a device with a reading, in the unit kept inside. */
interface ChannelSaid {
  key: string;
  column: string;
  device: string;
  value: number;
}

/** What clouds an answer. */
export interface CloudSaid {
  'state-changed': { what: StateName; changes: { from: string; to: string }[]; ask: 'mixture' | null };
  'gear-apart': { reference: number | null; candidate: number | null; differencePct: number | null };
  'sensor-moved': { quantities: string[] };
  'several-parts': { removed: string[]; added: string[] };
  'boost-changed': { differencePct: number };
  'timing-changed': { differenceDeg: number; follows: boolean };
  'fuelling-changed': { differenceLambda: number };
  'air-meter-disagrees': { differencePct: number };
  'coolant-apart': { differenceK: number };
  'weather-apart': { reference: number; candidate: number };
  'weather-outside': { factor: number; low: number; high: number };
  'order-confounded': Record<string, never>;
  'single-pull': { setups: string[] };
  'different-day': Record<string, never>;
  'different-cell': { cells: string[] };
  'condition-not-met': { items: string[]; stands: boolean };
  'flag-of-setups': { flag: PullFlag; setups: string[] };
  'throttle-closed-alike': Record<string, never>;
  'throttle-closed-above': { setup: string; aboveRpm: number };
}

/** Why an estimate, an answer or further pulls cannot be had; notes beside an answer. */
export interface ReasonSaid {
  'no-used-pull': { setups: string[] };
  'shiftable-gate': { gate: string };
  'rests-differ': { reference: string; candidate: string; referenceMin: number; candidateMin: number };
  'coolant-unknown': Record<string, never>;
  'coolant-differs': { apartK: number };
  'setups-not-mixed': Record<string, never>;
  'no-charge-temperature': Record<string, never>;
  'too-little-band': { sharePct: number; needPct: number };
  'not-with-this-cell': { pulls: number; smallestPct: number };
  'term-left-out': { what: string; missing: number; of: number };
  'start-sensor-moved': Record<string, never>;
  'stated-once': { keys: string[] };
  'band-cut': {
    bandRpm: readonly [number, number];
    askedRpm: readonly [number, number];
    cappedSetup: string | null;
    shortSetups: string[];
  };
  'assumptions-changed': { changed: { name: string; now: string; usual: string; per: string }[] };
  'no-reference': Record<string, never>;
  'draft-unanswered': { left: number; first: string };
  'spark-factor-on-diesel': Record<string, never>;
  'pulls-without-metric': { pulls: string[]; metric: string };
  'changed-after-results': { what: string; question: string | null };
  'pulls-amended': { pulls: string[] };
  'calibration-put-right': { calibration: Calibration; pulls: string[] };
  'open-at-the-end': { items: string[]; reason: string };
  'driven-anyway': { pulls: string[] };
  'cause-not-logged': { what: string };
  'cause-not-corrected': Record<string, never>;
  'cause-own-doing': Record<string, never>;
  'cause-meter-changed': Record<string, never>;
  'cause-meter-disagrees': Record<string, never>;
}

/** The sentences of answers. */
export interface AnswerSaid {
  power: PowerSaid;
  'power-withheld': PowerSaid & { because: AnySaid[] };
  'own-start-missing': { because: AnySaid };
  'no-loss': PowerSaid;
  package: PowerSaid & { stillIn: string[] };
  'as-driven': {
    estimate: Interval;
    bandRpm: readonly [number, number];
    freeRpm: readonly [number, number];
    setup: string;
    candidate: string;
  };
  'cooler-charge': {
    answer: AnswerCode;
    estimateK: Interval;
    coldSide: 'coolantIn' | 'coolingAir' | 'ambient';
    smallestK: number;
    bandRpm: readonly [number, number];
  };
  'less-restriction': {
    answer: AnswerCode;
    estimatePct: Interval;
    section: string;
    referenceDropPa: number;
    changePa: Interval;
    atFlowKgS: number;
    smallest: number;
    unit: 'pct' | 'kPa';
  };
  /** The estimate in the unit that is said; a level in Pa absolute or N·m, speeds in rpm or m/s. */
  response: {
    answer: AnswerCode;
    estimate: Interval;
    unit: 's' | 'rpm';
    of: 'boost' | 'torque' | 'engineSpeed' | 'vehicleSpeed';
    level: number | null;
    sharePct: number;
    between: readonly [number, number] | null;
    referenceValue: number;
    smallest: number;
  };
  'response-not-reached': { what: string };
  fades: {
    answer: AnswerCode;
    estimate: Interval;
    unit: 'pct' | 'K';
    nth: number;
    smallest: number;
    reference: string;
    candidate: string;
    referenceChange: number;
    candidateChange: number;
    series: { reference: number; candidate: number };
  };
  'no-series': { least: number; restMin: number };
  limit: { kind: QuestionKind; answer: AnswerCode; estimate: Interval; limit: number; unit: string };
  evidence: { kind: QuestionKind; answer: AnswerCode; value: number; unit: string; limit: number; note: string; by: string };
  'no-evidence': { kind: QuestionKind };
  'one-pull-each': { kind: QuestionKind };
  'not-logged': { what: string };
  'no-cold-side': Record<string, never>;
  'clock-unmatched': { what: string; files: string[] };
  withheld: { because: AnySaid[] };
  'outside-band': { ranges: { fromRpm: number; toRpm: number; isLoss: boolean }[]; bandRpm: readonly [number, number] };
  'leans-on': { answer: AnswerCode; leansOn: LeansOn[] };
}

/** What becomes of a claim. */
export interface ClaimSaid {
  'claim-holds': Record<string, never>;
  'claim-contradicted': Record<string, never>;
  'claim-open': Record<string, never>;
  'claim-withheld': { because: AnySaid[] };
  'claim-no-figure': Record<string, never>;
  'claim-nothing-compared': Record<string, never>;
  'claim-no-setup': { setups: string[] };
  'claim-setup-not-compared': { setup: string };
  'claim-flow-missing': { setup: string };
  'claim-flow-several': { setup: string; items: string[] };
  'claim-ask-first': { kind: QuestionKind };
  'claim-not-measured': { quantity: string };
  'claim-other-place': { claimed: string; measured: string };
  'claim-out-of-reach': { rpm: number };
  'claim-no-curve': Record<string, never>;
  'claim-refused': { text: string };
  'claim-no-loss-holds': { smallestPct: number };
  'claim-no-loss-open': Record<string, never>;
  'claim-no-difference-holds': { smallestPct: number };
  'claim-differs': { smallestPct: number };
  'claim-loses': { atLeastPct: number };
}

export type AnswerCode = Comparison['answers'][number]['answer'];

/** The figures of a power sentence, with the terms under which they were judged. */
export interface PowerSaid {
  answer: AnswerCode;
  candidate: string;
  reference: string;
  estimate: Interval;
  of: 'levelled' | 'ownStart';
  smallestPct: number;
  metric: string;
  bandRpm: readonly [number, number];
  correction: string;
  powerAt: string;
  pulls: { reference: number; candidate: number };
  bound: boolean;
  together: boolean;
  typed: boolean;
  single: string[];
  capped: string | null;
}

export type SaidCode = keyof SaidValues;
export interface Said<C extends SaidCode = SaidCode> {
  code: C;
  values: SaidValues[C];
}
/** Something said, whatever it is; spelled so that what is said may itself hold what is said. */
export interface AnySaid {
  code: string;
  values: unknown;
}

/** Something to be said: its code with the values that belong to it. */
export function said<C extends SaidCode>(code: C, values: SaidValues[C]): Said<C> {
  return { code, values };
}
