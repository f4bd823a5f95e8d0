import type { Question } from '@gezeit/contract';
import { describe, expect, it } from 'vitest';
import { checkDay, pullsOf, type CheckDay } from '../../bench/check-days.js';
import { analyseMeasured, measurePulls } from '../src/index.js';

const asked = (day: CheckDay, question: Partial<Question> & Pick<Question, 'kind'>) => {
  const bundle = { ...day.bundle, programme: { ...day.bundle.programme, questions: [{ id: 'q', ...question } as Question] } };
  return analyseMeasured(bundle, measurePulls(bundle, day.tables)).findings.comparisons[0]!.answers[0]!;
};

/** Boost of B comes later by so many seconds: the whole channel is shifted. */
function laterBoost(day: CheckDay, seconds: number): CheckDay {
  const tables = new Map(day.tables);
  for (const id of pullsOf(day, 'B')) {
    const { file } = day.bundle.pulls.find((pull) => pull.id === id)!.logs[0]!;
    const table = tables.get(file)!;
    const by = Math.round(seconds * 20);
    const columns = table.columns.map((column) =>
      column.quantity === 'manifoldPressure'
        ? { ...column, values: column.values.map((_, i) => column.values[Math.max(0, i - by)]!) }
        : column,
    );
    tables.set(file, { ...table, columns });
  }
  return { ...day, tables };
}

describe('quicker response', () => {
  it('holds how much later boost comes, and says which way (300 days by `npm run bench:heat-and-response`)', () => {
    for (let seed = 1; seed <= 3; seed += 1) {
      const day = laterBoost(checkDay(9100 + seed, { order: 'ABBAAB', isBoosted: true }), 0.3);
      const answer = asked(day, { kind: 'quicker-response', smallest: 0.1, unit: 's' });
      expect(answer.low!).toBeLessThanOrEqual(0.3);
      expect(answer.high!).toBeGreaterThanOrEqual(0.3);
      expect(answer).toMatchObject({ of: 'response', unit: 's', answer: 'loss' });
      expect(answer.high! - answer.low!).toBeLessThan(0.3);
    }
  });

  it('is asked in rpm, of torque, between two speeds, and says what it is', () => {
    const day = laterBoost(checkDay(9200, { order: 'ABBAAB', isBoosted: true }), 0.4);
    const rpm = asked(day, { kind: 'quicker-response', unit: 'rpm' });
    expect(rpm.unit).toBe('rpm');
    expect(rpm.estimate!).toBeGreaterThan(50);
    expect(rpm.why).toMatch(/at the engine speed of boost at [\d.]+\s?kPa absolute/);
    const torque = asked(day, { kind: 'quicker-response', response: { of: 'torque', levelPct: 80 } });
    expect(torque.why).toMatch(/torque at [\d.]+\sN·m.*80\s%/);
    const speeds = asked(day, { kind: 'quicker-response', response: { of: 'engineSpeed', from: 4000, to: 5500 } });
    expect(speeds.why).toMatch(/from 4000\srpm to 5500\srpm/);
    expect(Math.abs(speeds.estimate!)).toBeLessThan(0.1);
    const road = asked(day, { kind: 'quicker-response', response: { of: 'vehicleSpeed', from: 110, to: 150 } });
    expect(road.why).toMatch(/from 110 to 150\skm\/h/);
  });

  it('says what is missing where the level is never reached, or nothing is logged', () => {
    const day = checkDay(9201, { order: 'AABB', isBoosted: false });
    expect(asked(day, { kind: 'quicker-response', response: { of: 'boost' } })).toMatchObject({ answer: 'not-resolved', estimate: null });
    expect(asked(day, { kind: 'quicker-response', response: { of: 'engineSpeed', from: 100, to: 300 } }).answer).toBe('not-resolved');
    expect(asked(day, { kind: 'quicker-response' }).why).toMatch(/from \d+\srpm to \d+\srpm/);
  });
});

describe('fades less', () => {
  const BETTER = 1.8;
  const chosen = (runToRun?: number) => ({
    order: 'AAAABBBBAAAABBBB',
    isBoosted: true,
    apartMin: () => 1.5,
    driftPerHour: 0.001,
    ...(runToRun === undefined ? {} : { runToRun }),
    setups: (stock: Parameters<NonNullable<NonNullable<Parameters<typeof checkDay>[1]>['setups']>>[0]) => ({
      A: stock,
      B: {
        ...stock,
        cooler: stock.cooler && {
          ...stock.cooler,
          heatCapacityJPerK: stock.cooler.heatCapacityJPerK * BETTER,
          coldConductanceWPerK: stock.cooler.coldConductanceWPerK * BETTER,
        },
      },
    }),
  });

  it('sees a cooler that holds its temperature, in kelvin and in power, and names the series', () => {
    const day = checkDay(9300, chosen(0.003));
    const kelvin = asked(day, { kind: 'fades-less', unit: 'K' });
    expect(kelvin).toMatchObject({ of: 'fade', unit: 'K' });
    expect(kelvin.estimate!).toBeLessThan(0);
    expect(kelvin.why).toMatch(/from the first to the 4th pull with short rests.*A changes by.*2 series/);
    const third = asked(day, { kind: 'fades-less', unit: 'K', nth: 3 });
    expect(third.why).toContain('3rd pull');
    const power = asked(day, { kind: 'fades-less' });
    expect(power.unit).toBe('pct');
    expect(power.low!).toBeLessThan(power.estimate!);
  });

  it('holds the truth of the same day without noise on two days of three (nine of ten of 300 by `npm run bench:heat-and-response`)', () => {
    let held = 0;
    for (let seed = 1; seed <= 3; seed += 1) {
      const truth = asked(checkDay(9400 + seed, chosen(1e-6)), { kind: 'fades-less' }).estimate!;
      const answer = asked(checkDay(9400 + seed, chosen(0.004)), { kind: 'fades-less' });
      if (answer.low! <= truth && truth <= answer.high!) held += 1;
    }
    expect(held).toBeGreaterThanOrEqual(2);
  });

  it('asks for series where none were driven', () => {
    const answer = asked(checkDay(9301, { order: 'AABB' }), { kind: 'fades-less' });
    expect(answer).toMatchObject({ answer: 'not-resolved', estimate: null });
    expect(answer.why).toMatch(/at least 3 pulls/);
  });
});
