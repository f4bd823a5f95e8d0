// Calibration of the judgement on simulated days whose truth is known: seeds 1…N without omission.
// Usage: npm run bench:calibration -- [days at zero effect] [days at others] [days over log files]
import { analyse, readLog, type LogTable } from '@gezeit/core';
import { filesOf, meanOverSpeed, tablesOf } from '@gezeit/core/simulate';
import { calibrationDay, type CalibrationDay, type EffectKind } from './population.js';

const [zeroDays = 500, otherDays = 500, fileDays = 100] = process.argv.slice(2).map(Number);
const BEST_THRESHOLD_PCT = 1;

interface Score {
  days: number;
  held: number;
  false: number;
  right: number;
  halfWidth: number;
}
const empty = (): Score => ({ days: 0, held: 0, false: 0, right: 0, halfWidth: 0 });
const scores = new Map<string, Score>();

function add(name: string, held: boolean, gain: boolean, truth: number, halfWidth: number): void {
  const score = scores.get(name) ?? empty();
  scores.set(name, score);
  score.days += 1;
  if (held) score.held += 1;
  if (gain && truth <= 0) score.false += 1;
  if (gain && truth > 0.01) score.right += 1;
  score.halfWidth += halfWidth;
}

function tables(day: CalibrationDay, overFiles: boolean): Map<string, LogTable> {
  if (!overFiles) return tablesOf(day.simulated);
  const read = new Map<string, LogTable>();
  for (const [file, bytes] of filesOf(day.simulated)) read.set(file, readLog(bytes, { file }));
  return read;
}

const bandMean = (day: CalibrationDay, setup: string) =>
  day.driven
    .filter((pull) => pull.kind === 'measured' && pull.setup === setup)
    .map(({ sweep }) => Math.log(meanOverSpeed(sweep, day.simulated.bundle.programme.bandRpm, ({ wheelPowerW }) => wheelPowerW)));

function run(seed: number, effect: EffectKind, overFiles: boolean): void {
  const day = calibrationDay(seed, effect);
  const { findings } = analyse(day.simulated.bundle, tables(day, overFiles));
  const [first] = findings.comparisons;
  const { levelled, asRun } = first!;
  if (!levelled || !asRun) throw new Error(`seed ${seed}: no estimate`);
  const truth = 100 * Math.expm1(day.truth.levelled);
  const group = effect === 'none' ? 'no effect' : 'with effect';
  const mean = (values: number[]) => values.reduce((a, b) => a + b, 0) / values.length;
  const candidate = first!.candidate;
  const best = 100 * (Math.max(...bandMean(day, candidate)) - Math.max(...bandMean(day, 'A')));
  const plain = 100 * (mean(bandMean(day, candidate)) - mean(bandMean(day, 'A')));
  for (const name of [
    `levelled, ${group}`,
    `levelled, ${day.order}`,
    `levelled, ${day.aspiration}`,
    ...(overFiles ? ['levelled, over log files'] : []),
  ]) {
    add(name, levelled.low <= truth && truth <= levelled.high, levelled.low > 0, truth, (levelled.high - levelled.low) / 2);
  }
  add(`as run, ${group}`, asRun.low <= truth && truth <= asRun.high, asRun.low > 0, truth, (asRun.high - asRun.low) / 2);
  add(`best against best, ${group}`, Math.abs(best - truth) <= BEST_THRESHOLD_PCT, best > BEST_THRESHOLD_PCT, truth, BEST_THRESHOLD_PCT);
  add(`mean against mean, ${group}`, Math.abs(plain - truth) <= BEST_THRESHOLD_PCT, plain > BEST_THRESHOLD_PCT, truth, BEST_THRESHOLD_PCT);
}

const started = Date.now();
for (let seed = 1; seed <= zeroDays; seed += 1) run(seed, 'none', seed <= fileDays / 2);
for (let seed = zeroDays + 1; seed <= zeroDays + otherDays; seed += 1) {
  run(seed, seed % 3 === 0 ? 'heat' : 'flow', seed - zeroDays <= fileDays / 2);
}

const share = (count: number, of: number) => {
  const p = count / of;
  return `${(100 * p).toFixed(1).padStart(5)} ± ${(100 * Math.sqrt((p * (1 - p)) / of)).toFixed(1)}`;
};
console.log('                                    days   interval holds truth, %   says gain where there is none, %   half width, %');
for (const [name, score] of [...scores].sort(([a], [b]) => a.localeCompare(b))) {
  const half = (score.halfWidth / score.days).toFixed(2);
  const falseGains = name.endsWith('no effect') ? share(score.false, score.days) : '          –';
  console.log(
    `${name.padEnd(36)}${String(score.days).padStart(5)}   ${share(score.held, score.days)}             ${falseGains}                     ${half}`,
  );
}
const levelled = [scores.get('levelled, no effect')!, scores.get('levelled, with effect')!];
const days = levelled.reduce((sum, score) => sum + score.days, 0);
const held = levelled.reduce((sum, score) => sum + score.held, 0) / days;
const falseGain = levelled[0]!.false / levelled[0]!.days;
const allowed = 0.025 + 2 * Math.sqrt((0.025 * 0.975) / levelled[0]!.days);
console.log(
  `levelled over all ${days} days: holds the truth on ${share(held * days, days)} % (93 to 99 wanted); false gains ${share(levelled[0]!.false, levelled[0]!.days)} % (at most ${(100 * allowed).toFixed(1)})`,
);
console.log(`${((Date.now() - started) / 1000).toFixed(0)} s`);
const good = held >= 0.93 && held <= 0.99 && falseGain <= allowed;
console.log(good ? 'calibrated' : 'not calibrated');
process.exitCode = good ? 0 : 1;
