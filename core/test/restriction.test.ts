import { describe, expect, it } from 'vitest';
import { restrictionDay, restrictionFound } from '../../bench/restriction-days.js';
import { checkDay, pullsOf } from '../../bench/check-days.js';
import { analyseMeasured, measurePulls, type LogTable } from '../src/index.js';
import { areaOfLawM2, dropAtPa, fitLaw, type LawPoints } from '../src/restriction/section-law.js';
import { stepOf } from '../src/restriction/section-step.js';

/** Points of a law over engine speed, with a step where one is asked for. */
function points(laminar: number, areaM2: number, step: { atRpm: number; factor: number } | null = null): LawPoints {
  const rpm = Float64Array.from({ length: 160 }, (_, i) => 2500 + 25 * i);
  const flowKgS = rpm.map((speed) => speed / 40_000);
  const square = flowKgS.map((flow) => flow ** 2 / 1.17);
  const dropPa = square.map((value, i) => {
    const factor = step && rpm[i]! >= step.atRpm ? step.factor : 1;
    return laminar * flowKgS[i]! + (factor * value) / (2 * areaM2 ** 2);
  });
  return { rpm, flowKgS, square, dropPa, flowFrom: 'meter' };
}

describe('the law of a section', () => {
  it('gives back the law that made its points, over one pull and over several', () => {
    for (const pulls of [[points(4000, 26e-4)], [points(4000, 26e-4), points(4000, 26e-4)]]) {
      const law = fitLaw(pulls);
      expect(law.laminar).toBeCloseTo(4000, 4);
      expect(areaOfLawM2(law)! * 1e4).toBeCloseTo(26, 6);
    }
    expect(fitLaw([points(-500, 26e-4)]).laminar).toBe(0);
    expect(areaOfLawM2({ laminar: 10, turbulent: 0 })).toBeNull();
    expect(dropAtPa({ laminar: 1000, turbulent: 0 }, 0.1)).toBeCloseTo(100, 9);
  });

  it('finds a step where it is, with its size on both sides, and none in one law', () => {
    expect(stepOf([points(4000, 26e-4)])).toBeNull();
    for (const factor of [0.6, 0.8, 1.3]) {
      const step = stepOf([points(2000, 26e-4, { atRpm: 4800, factor })])!;
      expect(step.atRpm).toBe(4800);
      expect(areaOfLawM2(step.below)! * 1e4).toBeCloseTo(26, 4);
      expect(areaOfLawM2(step.above)! * 1e4).toBeCloseTo(26 / Math.sqrt(factor), 4);
      expect(Math.sign(step.stepPct)).toBe(Math.sign(factor - 1));
    }
    expect(stepOf([points(2000, 26e-4, { atRpm: 4800, factor: 0.95 })])).toBeNull();
  });
});

describe('restriction of simulated setups whose sensors are off', () => {
  it('holds the true area, invents no step, and finds flaps (a thousand setups by `npm run bench:restriction`)', () => {
    let [held, found] = [0, 0];
    for (let seed = 7001; seed <= 7004; seed += 1) {
      const plain = restrictionDay(seed, null);
      const figure = restrictionFound(plain);
      if (figure.low! <= plain.areaCm2 && plain.areaCm2 <= figure.high!) held += 1;
      expect(figure.step).toBeNull();
      const flapped = restrictionFound(restrictionDay(seed, -25));
      if (flapped.step && Math.abs(flapped.step.changePct + 25) < 6) found += 1;
    }
    expect(held).toBe(4);
    expect(found).toBe(4);
  });

  /** A day with its tables changed. */
  const changed = (day: ReturnType<typeof checkDay>, change: (table: LogTable) => LogTable) => ({
    ...day,
    tables: new Map([...day.tables].map(([file, table]) => [file, change(table)])),
  });
  const without = (quantities: readonly string[]) => (table: LogTable) => ({
    ...table,
    columns: table.columns.filter(({ quantity }) => !quantities.includes(quantity ?? '')),
  });
  const found = (day: ReturnType<typeof checkDay>) =>
    analyseMeasured(day.bundle, measurePulls(day.bundle, day.tables)).findings.restriction.filter(({ setup }) => setup === 'A');

  it('makes the flow of speed and density where no meter is, with a wider interval that holds the metered figure', () => {
    const day = checkDay(7100, { order: 'AABB' });
    const metered = found(day).find(({ section }) => section === 'duct')!;
    const made = found(changed(day, without(['airMassFlow']))).find(({ section }) => section === 'duct')!;
    expect([metered.flowFrom, made.flowFrom]).toEqual(['meter', 'speed-density']);
    expect(made.high! - made.low!).toBeGreaterThan(2 * (metered.high! - metered.low!));
    expect(made.low!).toBeLessThan(metered.effectiveAreaCm2!);
    expect(made.high!).toBeGreaterThan(metered.effectiveAreaCm2!);
  });

  it('takes ambient less the pressure before the compressor for the whole intake’s drop, absolute or gauge', () => {
    const day = checkDay(7200, { order: 'AABB', isBoosted: true });
    const own = new Set(pullsOf(day, 'A').concat(pullsOf(day, 'B')));
    const ambientPa = (pull: string) => day.bundle.pulls.find(({ id }) => id === pull)!.ambient!.pressureKPa! * 1000;
    const inlet = (isGauge: boolean) => {
      const tables = new Map(day.tables);
      for (const { id, logs } of day.bundle.pulls.filter((pull) => own.has(pull.id))) {
        const { file } = logs[2]!;
        const table = tables.get(file)!;
        const drops = table.columns.filter(({ quantity, section }) => quantity === 'pressureDrop' && section !== 'cooler');
        const values = drops[0]!.values.map(
          (_, i) => (isGauge ? 0 : ambientPa(id)) - drops.reduce((sum, drop) => sum + drop.values[i]!, 0),
        );
        const column = {
          ...drops[0]!,
          name: 'Before compressor',
          quantity: 'inletPressure' as const,
          section: null,
          values,
          gauge: isGauge,
        };
        tables.set(file, { ...table, columns: [...table.columns.filter((entry) => !drops.includes(entry)), column] });
      }
      return found({ ...day, tables }).find(({ section }) => section === 'intake')!;
    };
    const sum = found(day)
      .filter(({ section }) => section !== 'cooler')
      .reduce((total, { dropKPa }) => total + dropKPa, 0);
    for (const isGauge of [false, true]) {
      const whole = inlet(isGauge);
      expect(Math.abs(whole.dropKPa - sum)).toBeLessThan(0.15);
      expect(whole.dropHigh! - whole.dropLow!).toBeGreaterThan(1);
      expect(whole.atMost).toBe(false);
    }
  });

  it('calls ambient less manifold pressure a bound on a naturally aspirated engine', () => {
    const day = checkDay(7300, { order: 'AABB', isBoosted: false });
    const pressed = changed(day, (table) => {
      const speed = table.columns.find(({ quantity }) => quantity === 'engineSpeed')!;
      const flow = table.columns.find(({ quantity }) => quantity === 'airMassFlow');
      if (!flow) return table;
      const values = speed.values.map((rpm) => 95_000 - 4000 * (rpm / 6000) ** 2);
      return { ...table, columns: [...table.columns, { ...speed, name: 'MAP', quantity: 'manifoldPressure' as const, values }] };
    });
    const bound = found(pressed).find(({ section }) => section === 'intake, at most')!;
    expect(bound.atMost).toBe(true);
  });
});
