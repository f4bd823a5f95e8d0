import type { Habit, Levelling, LevelledPull } from '@gezeit/contract';
import { logMetric } from '../compare/day-series.js';
import type { JudgedPair, PairJudge } from '../compare/judged-pair.js';
import { partsOfPulls } from '../judge/taken-out.js';
import { percentOf } from '../judge/verdict.js';
import { mean } from '../numeric/means.js';

/** What is taken out of a pull to level it. */
const LEVELLED_CAUSES = ['heatState', 'drift', 'learning', 'oil'] as const;

/**
 * From the pulls to the number: every pull of a pair with its value as run, what levelling took out of it, and its value levelled, all in per cent
 * of the reference's mean as run; and what the habits would have said from the same pulls. Null without pulls.
 */
export function levellingOf(judge: PairJudge, pair: JudgedPair): Levelling | null {
  const { fitted, reference, candidate, terms, band } = pair;
  if (!fitted) return null;
  const { day, levelled, fits } = fitted;
  const { series } = day;
  const base = mean(series.value.filter((_, i) => series.setup[i] === 0));
  const parts = partsOfPulls(levelled);
  const value = logMetric(judge.bundle, terms.metric);
  const pulls = judge.pulls.flatMap((entry): LevelledPull[] => {
    const own = value(entry, band.band);
    if (own === null || (entry.pull.setup !== reference.id && entry.pull.setup !== candidate.id)) return [];
    const at = day.pulls.indexOf(entry);
    const asRunPct = percentOf(own - base);
    const shared = { pull: entry.pull.id, setup: entry.pull.setup, asRunPct };
    if (at < 0) return [{ ...shared, levelledPct: null, takenPct: {}, badChance: null }];
    const taken = LEVELLED_CAUSES.flatMap((cause) => (parts.has(cause) ? [[cause, parts.get(cause)![at]!] as const] : []));
    const whole = taken.reduce((sum, [, part]) => sum + part, 0);
    return [
      {
        ...shared,
        levelledPct: percentOf(own - whole - base),
        takenPct: Object.fromEntries(taken.map(([cause, part]) => [cause, percentOf(part)])),
        badChance: fits.levelled.bad[at]!,
      },
    ];
  });
  return { pulls, habits: habitsOf(pair) };
}

/** What the habits would report: single pulls held against single pulls, and means. */
function habitsOf({ fitted }: JudgedPair): Habit[] {
  const { day, index } = fitted!;
  const own = (setup: number) => day.series.value.filter((_, i) => day.series.setup[i] === setup);
  const [a, b] = [own(0), own(index)];
  const habit = (code: Habit['code'], of: (values: number[]) => number): Habit => ({ code, pct: percentOf(of(b) - of(a)) });
  return [
    habit('best', (values) => Math.max(...values)),
    habit('mean', mean),
    habit('first', (values) => values[0]!),
    habit('last', (values) => values.at(-1)!),
  ];
}
