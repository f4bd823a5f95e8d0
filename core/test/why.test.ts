import type { Contribution } from '@gezeit/contract';
import { describe, expect, it } from 'vitest';
import { choicesOfMeasured, leadingEstimate, PLAIN_FORMATTER, whyHabitsDiffer } from '../src/index.js';
import { JudgedDay } from '../src/judge/estimates.js';
import { defaultAssumptions } from '../src/judge/assumptions.js';
import { partDifference, partsOfPulls } from '../src/judge/taken-out.js';
import { comparedPairs } from '../src/compare/state-clouds.js';
import { powerTerms, verdictQuestion } from '../src/compare/terms.js';
import { demoDay, POPULATION_DAYS, POWER_DAYS } from './known-days.js';

const days = [...POWER_DAYS, ...POPULATION_DAYS.slice(0, 16)];

const ln = (pct: number | null | undefined) => Math.log1p((pct ?? 0) / 100);
const sum = (rows: readonly Contribution[]) => rows.reduce((total, { pct }) => total + ln(pct), 0);

describe('the split of a difference', () => {
  it.each(days)('adds up between its ends, step by step ($name)', ({ findings }) => {
    for (const { contributions, uncorrected, asRun, levelled, sameAir } of findings.comparisons) {
      const at = (cause: Contribution['cause']) => contributions.findIndex((row) => row.cause === cause);
      const [start, charge, last] = [at('heatState'), at('chargeTemperature'), at('breathing')];
      if (contributions[0]!.pct !== null) expect(sum(contributions.slice(0, start))).toBeCloseTo(ln(uncorrected!.pct) - ln(asRun!.pct), 9);
      expect(sum(contributions.slice(start, charge))).toBeCloseTo(ln(asRun!.pct) - ln(levelled!.pct), 9);
      if (sameAir) expect(sum(contributions.slice(charge, last))).toBeCloseTo(ln(levelled!.pct) - ln(sameAir.pct), 9);
      expect(sum(contributions.slice(last))).toBeCloseTo(ln((sameAir ?? levelled)!.pct), 9);
      for (const { pct, low, high, reason, restsOn } of contributions) {
        if (pct === null) expect([reason!.length > 10, restsOn]).toEqual([true, []]);
        else expect(low! <= pct + 1e-9 && pct - 1e-9 <= high!).toBe(true);
      }
    }
  });

  it('stands in the order of the steps, with the weighing once before each levelled end', () => {
    const [comparison] = days[0]!.findings.comparisons;
    expect(comparison!.contributions.map(({ cause }) => cause)).toEqual(
      'weather heatState drift learning oil weighting chargeTemperature manifoldPressure weighting breathing ignition mixture unexplained'.split(
        ' ',
      ),
    );
  });
});

describe('the picture of the pulls', () => {
  it.each(days)('draws as run minus the posterior means of what was taken out, by the fit’s own numbers ($name)', ({ findings, judge }) => {
    const { comparisons } = findings;
    comparedPairs(judge.bundle).forEach(([reference, candidate], place) => {
      const pair = judge.judge(reference, candidate, powerTerms(judge.bundle, verdictQuestion(judge.bundle, candidate.id)));
      const parts = partsOfPulls(pair.fitted!.levelled);
      const { pulls } = comparisons[place]!.levelling!;
      let drawn = 0;
      for (const { pull, asRunPct, levelledPct } of pulls) {
        const at = pair.fitted!.day.pulls.findIndex((entry) => entry.pull.id === pull);
        expect(levelledPct === null).toBe(at < 0);
        if (levelledPct === null) continue;
        drawn += 1;
        const taken = (['heatState', 'drift', 'learning', 'oil'] as const).reduce(
          (total, cause) => total + (parts.get(cause)?.[at] ?? 0),
          0,
        );
        expect(ln(asRunPct) - ln(levelledPct)).toBeCloseTo(taken, 9);
      }
      expect(drawn).toBeGreaterThan(1);
      const own = (cause: 'drift') => comparisons[place]!.contributions.find((row) => row.cause === cause)!;
      const meanOf = (setup: string) => {
        const values = pulls.filter((pull) => pull.setup === setup && pull.levelledPct !== null).map(({ takenPct }) => ln(takenPct.drift));
        return values.reduce((total, value) => total + value, 0) / values.length;
      };
      expect(meanOf(candidate.id) - meanOf(reference.id)).toBeCloseTo(ln(own('drift').pct), 9);
    });
  });

  it('takes every pull apart without rest: setup, parts, scatter and noise give back its value', () => {
    const random = (i: number) => Math.sin(i * 12.9898) * 0.004;
    const setup = [0, 1, 1, 0, 0, 1];
    const series = {
      setup,
      value: setup.map((s, i) => 5 + 0.02 * s + random(i) - 0.0015 * (i % 3)),
      timeH: setup.map((_, i) => i / 6),
      startIntakeK: setup.map((_, i) => 300 + (i % 3)),
      oilK: setup.map((_, i) => 350 + 2 * i),
      chargeK: null,
      ignitionDeg: null,
      logManifold: null,
      pullsBefore: setup.map((_, i) => i),
      pullsSinceSwap: [0, 0, 1, 0, 1, 0],
    };
    const still = { ...defaultAssumptions('turbo'), badPull: { chance: 0, lowShare: 0.8, size: 0.03, sd: 0.015 } };
    // Without noise to speak of, everything but the setups is in the parts.
    const mixture = new JudgedDay(series, { ...still, noise: { mid: 1e-5, logSd: 0.01 } }, false).levelled();
    const parts = partsOfPulls(mixture);
    const effect = mixture.fit.estimates[0]!.value;
    const rest = series.value.map(
      (value, i) => value - setup[i]! * effect - [...parts.values()].reduce((total, part) => total + part[i]!, 0),
    );
    for (const value of rest) expect(value).toBeCloseTo(rest[0]!, 4);
    const contrast = partDifference(mixture, { candidate: 1, causes: ['drift'] })!;
    expect(contrast.low).toBeLessThan(contrast.value);
    expect(partDifference(mixture, { candidate: 1, causes: ['chargeTemperature'] })).toBeNull();
  });

  it('names the one reason why habits differ', () => {
    for (const { findings } of days) {
      for (const { contributions } of findings.comparisons) {
        const rows = contributions.slice(1, 6).filter(({ pct }) => pct !== null);
        const largest = Math.max(...rows.map(({ pct }) => Math.abs(pct!)));
        expect(whyHabitsDiffer(contributions, PLAIN_FORMATTER).includes('worth naming')).toBe(largest < 0.2);
      }
    }
  });
});

describe('other choices', () => {
  const some = days.filter((_, i) => i === 0 || i === 2 || i > 8);
  it.each(some)(
    'what it leans on is what changes its answer, and nothing else of the short list does ($name)',
    ({ bundle, measured, findings }) => {
      const { comparisons } = findings;
      for (const own of choicesOfMeasured(bundle, measured, 'short')) {
        const comparison = comparisons.find(({ candidate }) => candidate === own.candidate)!;
        const quoted = comparison.answers.find(({ question }) => question === own.question);
        expect(own.base!.estimate.pct).toBe(quoted?.estimate ?? leadingEstimate(comparison)!.pct);
        const flips = own.choices.filter(({ answer }) => answer !== null && answer !== own.base!.answer);
        expect(own.leansOn.map(({ to, answerThen }) => [to, answerThen])).toEqual(
          own.withheld ? [] : flips.map(({ changes: [change], answer }) => [change!.to, answer]),
        );
      }
    },
  );

  it('says so in the second sentence, in the command’s findings and only there where something was tried', () => {
    let said = 0;
    for (const { leaning } of some) {
      for (const { leansOn, answers } of leaning.comparisons) {
        const rests = answers.some(({ why }) => why.includes('It rests on'));
        expect(rests).toBe(leansOn!.length > 0);
        if (rests) said += 1;
      }
    }
    expect(said).toBeGreaterThan(0);
  });

  it('are more than two hundred for the airbox, the chosen one among them by no other name', () => {
    const { bundle, measured } = demoDay('sealed-airbox');
    const [all] = choicesOfMeasured(bundle, measured, 'all');
    const [short] = choicesOfMeasured(bundle, measured, 'short');
    expect(all!.choices.length).toBeGreaterThanOrEqual(200);
    expect(new Set(all!.choices.map(({ changes }) => JSON.stringify(changes))).size).toBe(all!.choices.length);
    expect(all!.leansOn).toEqual(short!.leansOn);
    expect(all!.effects.every(({ movesPct }) => Number.isFinite(movesPct))).toBe(true);
    expect(all!.effects.map(({ key }) => key)).toContain('startTemperature');
  });
});

describe('the whole curve', () => {
  it.each(days.slice(0, 9))('has a wider band than each point, and is real only where that excludes zero ($name)', ({ curves }) => {
    for (const curve of curves.differences) {
      curve.pct.forEach((pct, i) => {
        expect(curve.wholeLowPct[i]!).toBeLessThan(curve.lowPct[i]!);
        expect(curve.wholeHighPct[i]!).toBeGreaterThan(curve.highPct[i]!);
        const inRange = curve.real.find(({ fromRpm, toRpm }) => curve.engineSpeedRpm[i]! >= fromRpm && curve.engineSpeedRpm[i]! <= toRpm);
        if (inRange) expect(inRange.isLoss ? curve.wholeHighPct[i]! < 0 : curve.wholeLowPct[i]! > 0).toBe(true);
        expect(Number.isFinite(pct)).toBe(true);
      });
      const whole = curve.parts.find(({ kind, metric }) => kind === 'metric' && metric === 'meanPower');
      expect(whole).toBeDefined();
      for (const channel of curve.channels) expect(channel.value.length).toBe(channel.engineSpeedRpm.length);
    }
  });
});
