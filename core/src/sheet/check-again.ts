import type { CheckedAgain, Comparison, DifferingFigure } from '@gezeit/contract';

const ESTIMATES = ['uncorrected', 'asRun', 'levelled', 'ownStart', 'sameAir', 'wholeBand', 'boostedEstimate'] as const;
/** Equal to so many significant figures: what the same method on the same inputs gives. */
const FIGURES = 6;

/** Where comparisons that were computed again differ from those that were fixed: every estimate, every answer, to six figures. */
export function differingFigures(fixed: readonly Comparison[], now: readonly Comparison[]): CheckedAgain['differing'] {
  const pairOf = ({ reference, candidate }: Comparison) => `${candidate} against ${reference}`;
  const byPair = new Map(now.map((comparison) => [pairOf(comparison), comparison]));
  const gone = fixed
    .filter((comparison) => !byPair.has(pairOf(comparison)))
    .map((comparison) => ({ where: pairOf(comparison), fixed: 'compared', now: 'not compared' }));
  const fixedPairs = new Set(fixed.map(pairOf));
  const fresh = now
    .filter((comparison) => !fixedPairs.has(pairOf(comparison)))
    .map((comparison) => ({ where: pairOf(comparison), fixed: 'not compared', now: 'compared' }));
  return [
    ...gone,
    ...fresh,
    ...fixed.flatMap((comparison) => differencesOf(comparison, byPair.get(pairOf(comparison)), pairOf(comparison))),
  ];
}

function differencesOf(fixed: Comparison, now: Comparison | undefined, pair: string): DifferingFigure[] {
  if (!now) return [];
  const estimates = ESTIMATES.map((name) => difference(`${pair}, ${name}`, ends(fixed[name]), ends(now[name])));
  const questions = [...new Set([...fixed.answers, ...now.answers].map(({ question }) => question))];
  const answers = questions.map((question) => {
    const own = (comparison: Comparison) => comparison.answers.find((answer) => answer.question === question);
    const text = (answer: ReturnType<typeof own>) =>
      answer ? [answer.answer, ...[answer.estimate, answer.low, answer.high].map(figure)].join(' ') : 'not asked';
    return difference(`${pair}, question ${question}`, text(own(fixed)), text(own(now)));
  });
  return [...estimates, ...answers].filter((entry) => entry !== null);
}

const difference = (where: string, fixed: string, now: string): DifferingFigure | null => (fixed === now ? null : { where, fixed, now });
const figure = (value: number | null) => (value === null ? '–' : String(Number(value.toPrecision(FIGURES))));
const ends = (estimate: { pct: number; low: number; high: number } | null) =>
  estimate === null ? '–' : [estimate.pct, estimate.low, estimate.high].map(figure).join(' ');
