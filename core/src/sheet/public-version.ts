import type { Bundle, Comparison, DifferenceCurve, SheetSource } from '@gezeit/contract';
import type { Formatter } from '../format/formatter.js';
import { HINT_WORDS, witnessLabel } from '../words/verdict-words.js';
import { sentence } from '../format/values.js';
import { sheetOf, type OwnWords } from './sheet.js';

/** A witness that moved less than this explains nothing to a reader, per cent. An assumption. */
const WORTH_TELLING_PCT = 3;
/** And a cause of power that explains less than this, per cent of it. An assumption. */
const WORTH_NAMING_PCT = 0.2;
const OPEN_ROADS = ['road', 'track'];

/** What a part does, for readers outside the house: nothing of how it was asked, nor who said what, stands in it. */
export interface PublicVersion {
  /** The part against what it replaces. */
  title: string;
  car: string;
  says: string[];
  /** Sentences of the house; what the measurement does not support is marked so. */
  ownWords: Pick<OwnWords, 'text' | 'state'>[];
  /** Why it works, from what was measured beside power; hints are named so. */
  why: string[];
  how: string;
  notMeasured: string[];
  law: string;
}

/** The short version of a sheet for one comparison. Only what may be said stands in it. */
export function publicVersionOf(source: SheetSource, comparison: Comparison, f: Formatter): PublicVersion {
  const { bundle, curves } = source;
  const sheet = sheetOf(source, comparison, f);
  const difference =
    curves.differences.find((one) => one.reference === comparison.reference && one.candidate === comparison.candidate) ?? null;
  const cells = bundle.cells ?? (bundle.cell ? [bundle.cell] : []);
  const inCell = cells.some(({ kind }) => !kind || !OPEN_ROADS.includes(kind));
  const isWheel = cells.some(({ powerAt }) => powerAt !== 'crank');
  const used = (setup: string) => source.findings.pulls.filter((pull) => pull.setup === setup && pull.status === 'used').length;
  const when = sheet.tested.find(({ label }) => label === 'When')?.text;
  return {
    title: `${sheet.candidate.name} against ${sheet.reference.name}`,
    car: bundle.vehicle.name,
    says: sheet.mayBeSaid.map(({ short }) => `${short}.`),
    ownWords: sheet.ownWords.map(({ text, state }) => ({ text, state })),
    why: sheet.mayBeSaid.length > 0 ? whyOf(bundle, comparison, difference, f) : [],
    how: sentence(
      `measured on one car in ${inCell ? 'a test cell' : 'the open'}${when ? `, ${when}` : ''}, ${used(comparison.candidate)} pulls with the part and ${used(comparison.reference)} without it. Every figure is the nearer end of a 95 % interval, or stands with its interval.`,
    ),
    notMeasured: [
      ...(inCell ? ['On the road: not measured.'] : []),
      ...(isWheel ? ['Power at the engine: not measured; figures are at the wheel or hub.'] : []),
      'On other cars, with other tunes or fuels: not measured.',
    ],
    law: 'Whether the part may be used on the road is decided by the law of the place.',
  };
}

function whyOf(bundle: Bundle, comparison: Comparison, difference: DifferenceCurve | null, f: Formatter): string[] {
  const restriction = comparison.witnesses.filter(
    ({ code, kind, value, low, high }) =>
      code.startsWith('pressureDrop') &&
      kind === 'percent' &&
      low !== null &&
      high !== null &&
      Math.abs(value) >= WORTH_TELLING_PCT &&
      (high < 0 || low > 0),
  );
  const breathing = comparison.contributions.find(
    ({ cause, low, high }) => cause === 'breathing' && low !== null && high !== null && (low > 0 || high < 0),
  );
  const charge = comparison.contributions.find(
    ({ cause, low, pct }) => cause === 'chargeTemperature' && low !== null && low > 0 && pct! >= WORTH_NAMING_PCT,
  );
  const opening = (bundle.setups.find(({ id }) => id === comparison.candidate)?.path ?? []).find(({ kind }) => kind === 'opening');
  const was = (bundle.setups.find(({ id }) => id === comparison.reference)?.path ?? []).find(({ kind }) => kind === 'opening');
  const [area, areaBefore] = [opening?.geometry?.areaCm2, was?.geometry?.areaCm2];
  return [
    ...restriction.map(
      ({ code, value, low, high }) =>
        `${sentence(witnessLabel(code))}: ${f.interval('percent', { value, low: low!, high: high! })}${value < 0 ? ': the air comes through with less resistance.' : ': the air meets more resistance.'}`,
    ),
    ...(breathing
      ? [
          `At the same charge air the engine takes in ${breathing.pct! > 0 ? 'more' : 'less'}: that by itself is ${f.interval('percent', { value: breathing.pct!, low: breathing.low!, high: breathing.high! })} of power.`,
        ]
      : []),
    ...(charge
      ? [
          `The charge is cooler, and so denser: that by itself is ${f.interval('percent', { value: charge.pct!, low: charge.low!, high: charge.high! })} of power.`,
        ]
      : []),
    ...(typeof area === 'number' && typeof areaBefore === 'number' && area > areaBefore
      ? [`Its opening to the air is larger: ${area} cm² against ${areaBefore} cm².`]
      : []),
    ...(difference?.hints ?? []).map((hint) => `${HINT_WORDS[hint]} The shape is a hint, never a proof.`),
  ];
}
