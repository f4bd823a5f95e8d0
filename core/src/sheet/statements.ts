import type { Answer, Bundle, Comparison, DifferenceCurve, Findings, Setup } from '@gezeit/contract';
import type { PowerSaid } from '../said.js';
import { headlineOf } from '../words/headline.js';
import { CORRECTION_NAMES, METRIC_WORDS } from '../words/labels.js';
import type { Formatter } from '../format/formatter.js';
import { START_TERMS } from '../words/power-sentence.js';
import { QUESTION_LABELS } from '../words/questions/index.js';
import { sentence, tied } from '../format/values.js';

/** Something that may be said of a part, with the conditions under which it was measured. */
export interface Statement {
  /** As short as it can be said. */
  short: string;
  full: string;
}

interface Said {
  bundle: Bundle;
  findings: Findings;
  comparison: Comparison;
  /** The difference over engine speed; null where there are no curves. */
  difference: DifferenceCurve | null;
  f: Formatter;
}

const POWER_KINDS: readonly Answer['kind'][] = ['power-gain', 'power-no-loss', 'package-gain'];
const OPEN_ROADS = ['road', 'track'];

/** What may be said after this, each with its conditions, and what may not: it was not asked, not measured, or not shown. */
export function statementsOf(said: Said): { may: Statement[]; mayNot: string[] } {
  const { comparison, bundle } = said;
  const candidate = setupOf(bundle, comparison.candidate);
  const may = comparison.answers.flatMap((answer): Statement[] => {
    // A bound is never for sale, and what is withheld or open cannot be said.
    if (candidate.bound || answer.answer === 'withheld' || answer.answer === 'not-resolved') return [];
    return POWER_KINDS.includes(answer.kind) ? powerStatement(said, answer) : otherStatement(said, answer);
  });
  return { may: withoutRepeats(may), mayNot: notToBeSaid(said) };
}

function powerStatement(said: Said, answer: Answer): Statement[] {
  const power = powerSaidOf(answer);
  const { low, high, estimate } = answer;
  if (!power || low === null || high === null || estimate === null) return [];
  const { bundle, comparison, f } = said;
  const [candidate, reference] = [setupOf(bundle, comparison.candidate), setupOf(bundle, comparison.reference)];
  const place = `${METRIC_WORDS[power.metric as keyof typeof METRIC_WORDS]} at the ${power.powerAt}, ${f.band(power.bandRpm)}`;
  const terms = `${CORRECTION_NAMES[power.correction] ?? power.correction}, ${START_TERMS[power.of]}`;
  const who = `${candidate.name} against ${reference.name}`;
  const full = (what: string) => `${who}: ${what}, ${place}; ${terms}. ${conditionsText(said)}`;
  const measured = `measured ${f.interval('percent', { value: estimate, low, high })}`;
  switch (answer.answer) {
    case 'gain':
      return answer.kind === 'power-no-loss'
        ? [
            {
              short: `No loss of ${tied(String(answer.smallest), '%')} or more (${place})`,
              full: full(`no loss of as much as ${tied(String(answer.smallest), '%')}; ${measured}`),
            },
          ]
        : [{ short: `At least ${f.percent(low)} (${place})`, full: full(`at least ${f.percent(low)}; ${measured}`) }];
    case 'loss':
      return [{ short: `A loss of at least ${f.level('percent', Math.abs(high))} (${place})`, full: full(`a loss; ${measured}`) }];
    default:
      return [
        {
          short: `No difference of ${tied(String(answer.smallest), '%')} or more (${place})`,
          full: full(`neither gains nor loses as much as ${tied(String(answer.smallest), '%')}; ${measured}`),
        },
      ];
  }
}

/** The other questions say themselves under which terms they hold. */
function otherStatement(said: Said, answer: Answer): Statement[] {
  const { before, figure, after } = headlineOf(answer, said.f);
  const whole = `${before}${figure}${after}`;
  return [{ short: `${QUESTION_LABELS[answer.kind]}: ${figure || whole}`, full: `${whole} ${conditionsText(said)}` }];
}

function notToBeSaid({ bundle, comparison, difference, f }: Said): string[] {
  const cells = bundle.cells ?? (bundle.cell ? [bundle.cell] : []);
  const candidate = setupOf(bundle, comparison.candidate);
  const ofAnswers = comparison.answers.flatMap((answer): string[] => {
    const label = QUESTION_LABELS[answer.kind];
    if (answer.answer === 'withheld') return [`Nothing on “${label}”: ${answer.why}`];
    if (answer.answer === 'not-resolved') return [`Neither yes nor no on “${label}”: ${answer.why}`];
    if (!POWER_KINDS.includes(answer.kind) || answer.low === null || answer.high === null) return [];
    const more = answer.answer === 'gain' && answer.kind !== 'power-no-loss' && answer.low < answer.smallest;
    return [
      ...(more
        ? [`That it gains ${tied(String(answer.smallest), '%')} or more: the interval reaches down to ${f.percent(answer.low)}.`]
        : []),
      `${f.percent(answer.high)} or more, or any single figure without its interval.`,
    ];
  });
  const from = difference?.engineSpeedRpm[0];
  const to = difference?.engineSpeedRpm.at(-1);
  const isWheel = cells.some(({ powerAt }) => powerAt !== 'crank');
  return [
    ...(candidate.bound ? [`That ${candidate.name} can be had: it is a bound for what lies upstream of here, never for sale.`] : []),
    ...withoutEqual(ofAnswers),
    ...(from !== undefined && to !== undefined
      ? [
          `Anything below ${f.rpm(from)} or above ${f.rpm(to)}: it was not measured there. Between these and outside of ${f.band(comparison.bandUsedRpm)} it was not asked.`,
        ]
      : [`Anything outside of ${f.band(comparison.bandUsedRpm)}: it was not asked.`]),
    ...(isWheel
      ? ['Power at the engine as if it were measured: it was measured at the wheel or hub, and what is made of that is an estimate.']
      : []),
    ...(cells.some(({ kind }) => kind && !OPEN_ROADS.includes(kind))
      ? ['Anything on the road: it was measured in a cell, with its fans and its air. The law of the place decides on use on the road.']
      : ['That the part may be used on the road: the law of the place decides on that.']),
    'Anything about other cars, tunes, fuels or specimens: one car was measured.',
  ];
}

/** Under which conditions everything here holds. */
function conditionsText({ bundle, comparison, findings }: Said): string {
  const cells = bundle.cells ?? (bundle.cell ? [bundle.cell] : []);
  const used = (setup: string) => findings.pulls.filter((pull) => pull.setup === setup && pull.status === 'used').length;
  const state = setupOf(bundle, comparison.candidate).state;
  const stated = [
    state['bonnet'] ? `bonnet ${String(state['bonnet'])}` : null,
    state['fuel'] ? String(state['fuel']) : null,
    state['tune'] ? `tune ${String(state['tune'])}` : null,
  ].filter(Boolean);
  return sentence(
    `${[bundle.vehicle.name, ...cells.map(({ name }) => name), ...stated].join(', ')}; ${used(comparison.reference)} and ${used(comparison.candidate)} pulls.`,
  );
}

/** What an answer about power says; null where it says something else. */
function powerSaidOf({ said }: Answer): PowerSaid | null {
  const values = said['why']
    ?.map(({ values: one }) => one as Partial<PowerSaid> | null)
    .find((one) => one?.estimate !== undefined && one.bandRpm !== undefined && one.powerAt !== undefined);
  return (values as PowerSaid | undefined) ?? null;
}

const setupOf = (bundle: Bundle, id: string): Setup => bundle.setups.find((setup) => setup.id === id)!;
const withoutRepeats = (statements: readonly Statement[]) =>
  statements.filter(({ full }, i) => statements.findIndex((other) => other.full === full) === i);
const withoutEqual = (texts: readonly string[]) => [...new Set(texts)];
