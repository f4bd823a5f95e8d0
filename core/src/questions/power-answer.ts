import type { Bundle, EstimatePct } from '@gezeit/contract';
import { quoted, type JudgedPair } from '../compare/judged-pair.js';
import { said, type AnswerCode, type AnySaid, type Interval, type PowerSaid } from '../said.js';
import { unresolved, type AnswerBody } from './question-kind.js';

const intervalOf = ({ pct, low, high }: EstimatePct): Interval => ({ value: pct, low, high });

/** The figures of a pair with the terms under which they were judged, as every sentence about power tells them. */
function powerSaid(bundle: Bundle, pair: JudgedPair, answer: AnswerCode): PowerSaid {
  const { terms, reference, candidate, band, clouds, fitted } = pair;
  const { of, estimate } = quoted(pair);
  const own = (setup: string) => fitted!.day.pulls.filter((entry) => entry.pull.setup === setup);
  const [a, b] = [own(reference.id), own(candidate.id)];
  const has = (code: string) => clouds.some((cloud) => cloud.code === code);
  const cells = bundle.cells ?? (bundle.cell ? [bundle.cell] : []);
  return {
    answer,
    candidate: candidate.name,
    reference: reference.name,
    estimate: intervalOf(estimate!),
    of,
    smallestPct: terms.smallestPct,
    metric: terms.metric,
    bandRpm: band.band,
    correction: bundle.programme.correction,
    powerAt: cells[0]?.powerAt ?? 'wheel',
    pulls: { reference: a.length, candidate: b.length },
    bound: candidate.bound === true,
    together: has('several-parts-changed'),
    typed: [...a, ...b].some(({ flags }) => flags.some(({ flag }) => flag === 'typed')),
    single: [a, b].flatMap((entries, i) => (entries.length === 1 ? [[reference, candidate][i]!.id] : [])),
    capped: band.cappedSetup,
  };
}

/** What the whole asked band gives as driven, where the engine control has cut it. */
function asDriven({ band, wholeBand, candidate }: JudgedPair): AnySaid[] {
  if (!band.cappedSetup || !wholeBand) return [];
  return [
    said('as-driven', {
      estimate: intervalOf(wholeBand),
      bandRpm: band.asked,
      freeRpm: band.band,
      setup: band.cappedSetup,
      candidate: candidate.id,
    }),
  ];
}

/** What every question about power does alike: no pulls, no own start, withheld, or answered by its rule on the estimate that is quoted. */
export function powerAnswer(
  bundle: Bundle,
  pair: JudgedPair,
  rule: {
    decide(estimate: Interval, smallestPct: number): AnswerCode;
    because(pair: JudgedPair, isLoss: boolean): AnySaid[];
    say(figures: PowerSaid): AnySaid;
  },
): AnswerBody {
  const { terms } = pair;
  const { of, estimate, reason } = quoted(pair);
  const smallest = terms.smallestPct;
  if (!pair.fitted) return unresolved(of, 'pct', smallest, said('no-used-pull', { setups: pair.missing }));
  if (!estimate) return unresolved(of, 'pct', smallest, said('own-start-missing', { because: reason! }));
  const decided = rule.decide(intervalOf(estimate), smallest);
  const because = [...(pair.bandWithheld ? [pair.bandWithheld] : []), ...rule.because(pair, decided === 'loss')];
  const answer = because.length > 0 ? 'withheld' : decided;
  const figures = powerSaid(bundle, pair, answer);
  return {
    answer,
    of,
    estimate: estimate.pct,
    low: estimate.low,
    high: estimate.high,
    unit: 'pct',
    smallest,
    said: [because.length > 0 ? said('power-withheld', { ...figures, because }) : rule.say(figures), ...asDriven(pair)],
  };
}
