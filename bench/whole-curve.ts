// The band of the whole curve on simulated days whose truth is known: seeds 1…N without omission.
// Usage: npm run bench:whole-curve -- [days without effect] [days with one]
import { curvesOf, judgeOf, measurePulls } from '@gezeit/core';
import { tablesOf, truthCurve } from '@gezeit/core/simulate';
import { calibrationDay, type EffectKind } from './population.js';

const [zeroDays = 500, otherDays = 500] = process.argv.slice(2).map(Number);
const score = {
  none: { days: 0, inside: 0, real: 0, points: 0, pointsInside: 0 },
  some: { days: 0, inside: 0, real: 0, points: 0, pointsInside: 0 },
};

function run(seed: number, effect: EffectKind): void {
  const day = calibrationDay(seed, effect);
  const { bundle } = day.simulated;
  const [curve] = curvesOf(judgeOf(bundle, measurePulls(bundle, tablesOf(day.simulated)))).differences;
  if (!curve) throw new Error(`seed ${seed}: no curve`);
  const truth = truthCurve(day.spec, day.driven, [curve.reference, curve.candidate]);
  const own = effect === 'none' ? score.none : score.some;
  own.days += 1;
  let inside = true;
  curve.engineSpeedRpm.forEach((rpm, i) => {
    const pct = 100 * Math.expm1(truth(rpm));
    own.points += 1;
    if (curve.lowPct[i]! <= pct && pct <= curve.highPct[i]!) own.pointsInside += 1;
    if (pct < curve.wholeLowPct[i]! || pct > curve.wholeHighPct[i]!) inside = false;
  });
  if (inside) own.inside += 1;
  if (curve.real.length > 0) own.real += 1;
}

for (let seed = 1; seed <= zeroDays; seed += 1) run(seed, 'none');
for (let seed = zeroDays + 1; seed <= zeroDays + otherDays; seed += 1) run(seed, seed % 3 === 0 ? 'heat' : 'flow');

const share = (count: number, of: number) =>
  `${((100 * count) / of).toFixed(1)} ± ${(100 * Math.sqrt(((count / of) * (1 - count / of)) / of)).toFixed(1)} %`;
for (const [name, own] of [
  ['no effect', score.none],
  ['with effect', score.some],
] as const) {
  if (own.days === 0) continue;
  console.log(
    `${name}: ${own.days} days; whole true curve inside ${share(own.inside, own.days)}; points inside their own interval ${share(own.pointsInside, own.points)}; a range called real on ${share(own.real, own.days)}`,
  );
}
const days = score.none.days + score.some.days;
const inside = (score.none.inside + score.some.inside) / days;
const isHeld = inside >= 0.94 - 2 * Math.sqrt((0.94 * 0.06) / days);
const isQuiet = score.none.real / score.none.days <= 0.05 + 2 * Math.sqrt((0.05 * 0.95) / score.none.days);
console.log(
  `whole curve inside on ${share(inside * days, days)} (at least 94 less two standard errors): ${isHeld ? 'met' : 'NOT met'}; real ranges without effect (at most 5 and two standard errors): ${isQuiet ? 'met' : 'NOT met'}`,
);
process.exitCode = isHeld && isQuiet ? 0 : 1;
