// What a plan's rehearsals say of a large true gain and of none, and whether their intervals hold the truth: npm run bench:rehearsals -- [days]
import { rehearsedDays } from './rehearsed-days.js';

const [days = 100] = process.argv.slice(2).map(Number);
for (const aspiration of ['na', 'turbo'] as const) {
  const { large, none } = rehearsedDays(aspiration, days);
  const held = large.held + none.held;
  console.log(
    `${aspiration}: a large gain called one on ${large.verdicts.gain} of ${days} days, none on ${none.verdicts.gain}; the truth held on ${held} of ${2 * days}`,
  );
  if (large.verdicts.gain < 0.85 * days || none.verdicts.gain > 0.07 * days || held < 0.89 * 2 * days) process.exitCode = 1;
}
