// The split of a difference on simulated days with one cause switched on, whose truth is known: seeds 1…N a cause without omission.
// Usage: npm run bench:split -- [days a cause]
import { analyse } from '@gezeit/core';
import { tablesOf } from '@gezeit/core/simulate';
import { SPLIT_CAUSES, splitDay, type SplitCause } from './split-days.js';

const [each = 50] = process.argv.slice(2).map(Number);
const SMALL_PCT = 0.3;

interface Score {
  days: number;
  held: number;
  unexplained: number;
  /** Rows of causes that were not switched on: under the limit, and holding their own truth. */
  others: number;
  small: number;
  othersHeld: number;
  truthPct: number;
  errorPct: number;
}
const scores = new Map<SplitCause, Score>();
for (const cause of SPLIT_CAUSES) {
  const score: Score = { days: 0, held: 0, unexplained: 0, others: 0, small: 0, othersHeld: 0, truthPct: 0, errorPct: 0 };
  scores.set(cause, score);
  for (let seed = 1; seed <= each; seed += 1) {
    const { day, truth } = splitDay(seed, cause);
    const [comparison] = analyse(day.simulated.bundle, tablesOf(day.simulated)).findings.comparisons;
    const row = (name: string) => comparison!.contributions.find((entry) => entry.cause === name && entry.pct !== null);
    const holds = (name: string, value: number) => {
      const found = row(name);
      return found !== undefined && found.low! <= value && value <= found.high!;
    };
    score.days += 1;
    if (holds(cause, 100 * Math.expm1(truth[cause]))) score.held += 1;
    if (holds('unexplained', 0)) score.unexplained += 1;
    score.truthPct += Math.abs(100 * Math.expm1(truth[cause])) / each;
    score.errorPct += Math.abs((row(cause)?.pct ?? 0) - 100 * Math.expm1(truth[cause])) / each;
    for (const other of SPLIT_CAUSES) {
      const found = row(other);
      if (other === cause || !found) continue;
      score.others += 1;
      if (Math.abs(found.pct!) < SMALL_PCT) score.small += 1;
      if (holds(other, 100 * Math.expm1(truth[other]))) score.othersHeld += 1;
    }
  }
}

const share = (count: number, of: number) => {
  const p = count / of;
  return `${(100 * p).toFixed(1).padStart(5)} ± ${(100 * Math.sqrt((p * (1 - p)) / of)).toFixed(1)}`;
};
console.log(
  'cause switched on     days   its row holds its truth   unexplained holds 0   other rows under 0.3   other rows hold theirs   truth   error, %',
);
let good = true;
for (const [cause, s] of scores) {
  console.log(
    `${cause.padEnd(20)}${String(s.days).padStart(6)}       ${share(s.held, s.days)}            ${share(s.unexplained, s.days)}          ${share(s.small, s.others)}          ${share(s.othersHeld, s.others)}        ${s.truthPct.toFixed(2)}   ${s.errorPct.toFixed(2)}`,
  );
}
const total = [...scores.values()];
const sum = (of: (score: Score) => number) => total.reduce((all, score) => all + of(score), 0);
const days = sum(({ days: own }) => own);
const wanted = [
  ['its row holds its truth', sum(({ held }) => held), days, 0.9],
  ['unexplained holds 0', sum(({ unexplained }) => unexplained), days, 0.93],
  ['other rows under 0.3 points', sum(({ small }) => small), sum(({ others }) => others), 0.9],
] as const;
for (const [name, count, of, least] of wanted) {
  const isMet = count / of >= least - 2 * Math.sqrt((least * (1 - least)) / of);
  good &&= isMet;
  console.log(`${name}: ${share(count, of)} % of ${of} (at least ${100 * least} less two standard errors): ${isMet ? 'met' : 'NOT met'}`);
}
process.exitCode = good ? 0 : 1;
