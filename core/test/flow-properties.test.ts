import { describe, expect, it } from 'vitest';
import {
  UNITS,
  airOfFuelKgS,
  airOverMeterFromTrims,
  areaAfterReplacingM2,
  areasInParallelM2,
  areasInSeriesM2,
  breakEvenDropPa,
  chokingRatio,
  coneMedia,
  coreAfter,
  correctedTrace,
  counterflowEffectiveness,
  crossflowEffectiveness,
  densityRatio,
  depressionReduction,
  dropOfAreaPa,
  dropOfLaw,
  dustAccounted,
  effectiveAreaM2,
  filterEfficiency,
  fitDropLaw,
  fitRecovery,
  flowAtDropM3S,
  flowGainOfReduction,
  fromSi,
  fuelFlowKgS,
  gainOfLessRestriction,
  inletLossCost,
  lawOfArea,
  leakAtPressure,
  leakRateKgS,
  leakedMassKg,
  meterShift,
  netFlow,
  nozzleAreaM2,
  nozzleFlowKgS,
  orificeFlow,
  penetrationRatio,
  timeToGoalS,
  toSi,
  transferUnitsFor,
  type UnitName,
} from '../src/index.js';
import { Random } from '../src/simulate/random.js';

const AIR = { viscosityPaS: 1.84e-5, densityKgM3: 1.18 };

/** Hundred draws of so many numbers from 0 to 1. */
function draws(count: number): number[][] {
  const random = new Random(7);
  return Array.from({ length: 100 }, () => Array.from({ length: count }, () => random.uniform()));
}

describe('areas', () => {
  it('combines in series to less than the smallest and in parallel to more than the largest, in any order', () => {
    for (const values of draws(4)) {
      const areas = values.map((value) => 1e-4 + value * 80e-4);
      const { areaM2, shares } = areasInSeriesM2(areas);
      expect(areaM2).toBeLessThan(Math.min(...areas));
      expect(shares.reduce((sum, value) => sum + value, 0)).toBeCloseTo(1, 12);
      expect(areasInSeriesM2([...areas].reverse()).areaM2).toBeCloseTo(areaM2, 12);
      expect(areasInParallelM2(areas)).toBeGreaterThan(Math.max(...areas));
      expect(areasInSeriesM2([areasInSeriesM2(areas.slice(0, 2)).areaM2, ...areas.slice(2)]).areaM2).toBeCloseTo(areaM2, 12);
      // Two equal sections in series pass 1/√2 of one.
      expect(areasInSeriesM2([areas[0]!, areas[0]!]).areaM2).toBeCloseTo(areas[0]! / Math.SQRT2, 12);
    }
  });

  it('replaces a section as combining anew would, and a perfect one by leaving it out', () => {
    const [a, b, c] = [30e-4, 45e-4, 60e-4];
    const whole = areasInSeriesM2([a, b, c]).areaM2;
    expect(areaAfterReplacingM2(whole, a, 90e-4)).toBeCloseTo(areasInSeriesM2([90e-4, b, c]).areaM2, 12);
    expect(areaAfterReplacingM2(whole, a, null)).toBeCloseTo(areasInSeriesM2([b, c]).areaM2, 12);
    expect(() => areaAfterReplacingM2(whole, whole / 2, null)).toThrow(/larger than the whole/);
  });

  it('takes drop and area back to each other, and loses more with more flow', () => {
    for (const [x, y] of draws(2) as [number, number][]) {
      const [area, flow] = [5e-4 + x * 60e-4, 0.01 + y * 0.4];
      const drop = dropOfAreaPa(area, flow, 1.18);
      expect(effectiveAreaM2(flow, 1.18, drop)).toBeCloseTo(area, 12);
      expect(dropOfAreaPa(area, flow * 1.01, 1.18)).toBeGreaterThan(drop);
      expect(dropOfAreaPa(area * 1.01, flow, 1.18)).toBeLessThan(drop);
    }
  });

  it('agrees with the nozzle at small drops and understates it by about 0.54 Δp/p further on', () => {
    const density = 100_000 / (287.042 * 293.15);
    for (const drop of [10, 100, 1000, 2000]) {
      const flow = nozzleFlowKgS(20e-4, 100_000, 20, drop);
      expect(nozzleAreaM2(flow, 100_000, 20, drop).areaM2).toBeCloseTo(20e-4, 10);
      const understated = 1 - effectiveAreaM2(flow, density, drop) / 20e-4;
      expect(understated / (drop / 100_000)).toBeGreaterThan(0.5);
      expect(understated / (drop / 100_000)).toBeLessThan(0.58);
    }
  });

  it('holds the flow at choking', () => {
    const at = (ratio: number) => nozzleFlowKgS(10e-4, 200_000, 20, 200_000 * (1 - ratio));
    expect(at(0.3)).toBe(at(chokingRatio()));
    expect(at(0.9)).toBeLessThan(at(0.7));
    expect(nozzleAreaM2(0.3, 200_000, 20, 150_000).choked).toBe(true);
  });
});

describe('the law of a filter', () => {
  it('has an exponent from 1 to 2, loses monotonically, and gives its flow back', () => {
    for (const [x, y, z] of draws(3) as [number, number, number][]) {
      const law = { viscousPerM3: x * 2e8, inertialPerM4: 1 + y * 5e4 };
      const flow = 0.01 + z * 0.3;
      const { dropPa, exponent } = dropOfLaw(law, flow, AIR);
      expect(exponent).toBeGreaterThanOrEqual(1);
      expect(exponent).toBeLessThanOrEqual(2);
      expect(dropOfLaw(law, flow * 1.02, AIR).dropPa).toBeGreaterThan(dropPa);
      expect(flowAtDropM3S(law, dropPa, AIR)).toBeCloseTo(flow, 10);
    }
    expect(flowAtDropM3S({ viscousPerM3: 1e8, inertialPerM4: 0 }, 184, AIR)).toBeCloseTo(0.1, 10);
    expect(dropOfLaw(lawOfArea(20e-4), 0.1, AIR).dropPa).toBeCloseTo(dropOfAreaPa(20e-4, 0.118, 1.18), 9);
  });

  it('is found again from readings, and its 95 % interval holds the truth on about 95 of 100 fits', () => {
    const law = { viscousPerM3: 9e7, inertialPerM4: 2.6e4 };
    const random = new Random(11);
    let held = 0;
    for (let round = 0; round < 400; round++) {
      const readings = [0.05, 0.08, 0.11, 0.14, 0.17].map((volumeFlowM3S) => ({
        ...AIR,
        volumeFlowM3S,
        dropPa: dropOfLaw(law, volumeFlowM3S, AIR).dropPa + 6 * random.normal(),
      }));
      const { dropPa, meanHalfWidthPa } = fitDropLaw(readings).predict(0.15, AIR);
      if (Math.abs(dropPa - dropOfLaw(law, 0.15, AIR).dropPa) <= meanHalfWidthPa) held += 1;
    }
    expect(held / 400).toBeGreaterThan(0.92);
    expect(held / 400).toBeLessThan(0.98);
  });

  it('is refused from too few readings or one flow', () => {
    const reading = { ...AIR, volumeFlowM3S: 0.1, dropPa: 300 };
    expect(() => fitDropLaw([reading, reading])).toThrow(/do not tell a law/);
    expect(() => fitDropLaw([reading, reading, reading])).toThrow(/one flow/);
    expect(() => fitDropLaw([reading, reading, { ...reading, dropPa: -2 }])).toThrow(/above zero/);
  });
});

describe('two ways of telling a gain', () => {
  it('come back to each other at every exponent', () => {
    for (const [x, y] of draws(2) as [number, number][]) {
      const exponent = 1 + y;
      expect(flowGainOfReduction(depressionReduction(x - 0.5, exponent), exponent)).toBeCloseTo(x - 0.5, 10);
    }
    expect(() => depressionReduction(-1.2)).toThrow(/above −100/);
    expect(() => flowGainOfReduction(1)).toThrow(/below 100/);
  });

  it('refuses a leak larger than the flow', () => {
    expect(() => netFlow(0.01, 7000, 0.02, 7000)).toThrow(/below the total/);
    expect(netFlow(0.1, 7000, 0, 7000)).toBe(0.1);
  });
});

describe('an orifice', () => {
  const input = { pipeDiameterM: 0.1, boreDiameterM: 0.05, taps: 'D_D2', upstreamPa: 100_000, upstreamC: 20, dropPa: 1500 } as const;

  it('passes more at a larger drop or bore, with a believable coefficient for all taps', () => {
    for (const taps of ['corner', 'D_D2', 'flange'] as const) {
      const flow = orificeFlow({ ...input, taps });
      expect(flow.dischargeCoefficient).toBeGreaterThan(0.59);
      expect(flow.dischargeCoefficient).toBeLessThan(0.63);
      expect(orificeFlow({ ...input, taps, dropPa: 1600 }).massFlowKgS).toBeGreaterThan(flow.massFlowKgS);
      expect(orificeFlow({ ...input, taps, boreDiameterM: 0.055 }).massFlowKgS).toBeGreaterThan(flow.massFlowKgS);
      expect(flow.outside).toEqual([]);
    }
  });

  it('names the limits of the standard that it leaves', () => {
    expect(orificeFlow({ ...input, boreDiameterM: 0.09 }).outside).toContain('the diameter ratio is not between 0.10 and 0.75');
    expect(() => orificeFlow({ ...input, boreDiameterM: 0.1 })).toThrow(/smaller than the pipe/);
    expect(() => orificeFlow({ ...input, dropPa: 200_000 })).toThrow(/below the pressure/);
  });
});

describe('fuel as a second witness of air', () => {
  const reading = {
    injectors: 4,
    engineSpeedRpm: 6000,
    strokes: 4,
    staticFlowKgS: 0.006,
    statedDropPa: 300_000,
    dropPa: 300_000,
    openS: 0.0149,
    deadS: 0.0009,
  } as const;

  it('counts one injection a cycle: 4 × 50 a second × 6 g/s × 14 ms', () => {
    expect(fuelFlowKgS(reading)).toBeCloseTo(4 * 50 * 0.006 * 0.014, 12);
    expect(fuelFlowKgS({ ...reading, dropPa: 4 * 300_000 })).toBeCloseTo(2 * fuelFlowKgS(reading), 12);
    expect(fuelFlowKgS({ ...reading, strokes: 2 })).toBeCloseTo(2 * fuelFlowKgS(reading), 12);
    expect(airOfFuelKgS(0.01, 0.88, 14.7)).toBeCloseTo(0.12936, 12);
  });

  it('finds a meter that reads 4 % more, and cares little for a wrong dead time between setups', () => {
    const fuel = (openS: number, deadS: number) => fuelFlowKgS({ ...reading, openS, deadS });
    const shift = (deadS: number) =>
      meterShift({ meterKgS: 0.2, fuelKgS: fuel(0.0149, deadS) }, { meterKgS: 0.2 * 1.04, fuelKgS: fuel(0.0149, deadS) });
    expect(shift(0.0009)).toBeCloseTo(0.04, 12);
    expect(shift(0.0011)).toBeCloseTo(0.04, 12);
    // Alone, 0.2 ms at 15 ms is some 1.4 per cent.
    expect(1 - fuel(0.015, 0.0011) / fuel(0.015, 0.0009)).toBeCloseTo(0.0142, 3);
  });

  it('reads the meter from trims, and refuses injectors that do not open', () => {
    expect(airOverMeterFromTrims(0.02, 0.03, 0.9, 0.9)).toBeCloseTo(1.02 * 1.03, 12);
    expect(() => fuelFlowKgS({ ...reading, openS: 0.0005 })).toThrow(/exceed the dead time/);
  });
});

describe('a pressure-decay test', () => {
  it('sees the mass that left, and no leak where only the air cooled', () => {
    const [p, t] = [150_000, 293.15];
    const mass = (pressure: number, kelvin: number) => (pressure * 0.01) / (287.042 * kelvin);
    expect(leakedMassKg(0.01, { pressurePa: p, temperatureC: 20 }, { pressurePa: p - 1000, temperatureC: 20 })).toBeCloseTo(
      mass(p, t) - mass(p - 1000, t),
      12,
    );
    expect(leakedMassKg(0.01, { pressurePa: p, temperatureC: 20 }, { pressurePa: (p * (t - 1)) / t, temperatureC: 19 })).toBeCloseTo(0, 12);
  });

  it('finds the rate of a decaying record with an interval that holds it, and tells 1 K of cooling from it', () => {
    const random = new Random(3);
    const truth = 2e-6;
    const record = (cooling: number) =>
      [0, 60, 120, 180, 240, 300].map((timeS) => {
        const temperatureC = 20 - (cooling * timeS) / 300;
        const kelvin = temperatureC + 273.15;
        const mass = (150_000 * 0.012) / (287.042 * 293.15) - truth * timeS;
        return { timeS, temperatureC, pressurePa: (mass * 287.042 * kelvin) / 0.012 + 2 * random.normal() };
      });
    for (const cooling of [0, 1]) {
      const rate = leakRateKgS(0.012, record(cooling));
      expect(rate.low).toBeLessThan(truth);
      expect(rate.high).toBeGreaterThan(truth);
      expect(rate.value / truth).toBeCloseTo(1, 1);
    }
    expect(() => leakRateKgS(0.012, record(0).slice(0, 2))).toThrow(/no interval/);
    expect(() => leakRateKgS(0.012, record(0).reverse())).toThrow(/advance/);
    expect(leakAtPressure(1, 10_000, 40_000)).toBe(2);
    expect(leakAtPressure(1, 10_000, 40_000, 1)).toBe(4);
  });
});

describe('a filter by weight', () => {
  it('compares what gets through, not what is held', () => {
    expect(filterEfficiency(99, 1)).toBe(0.99);
    expect(penetrationRatio(0.995, 0.99)).toBeCloseTo(2, 9);
    expect(penetrationRatio(0.99, 0.99)).toBe(1);
    expect(dustAccounted(100, 98.5, 0.9)).toBe(true);
    expect(dustAccounted(100, 90, 0.9)).toBe(false);
    expect(() => filterEfficiency(-1, 2)).toThrow(/zero or more/);
    expect(() => filterEfficiency(0, 0)).toThrow(/above zero/);
    expect(() => penetrationRatio(1, 0.9)).toThrow(/under 1/);
  });

  it('says when pleats block each other', () => {
    const cone = { pleats: 60, depthBaseM: 0.02, depthTopM: 0.015, baseDiameterM: 0.15, topDiameterM: 0.1, heightM: 0.15 };
    expect(coneMedia({ ...cone, mediaThicknessM: 0.001 }).blocked).toBe(false);
    expect(coneMedia({ ...cone, mediaThicknessM: 0.003 }).blocked).toBe(true);
  });
});

describe('coolers', () => {
  /** Exact crossflow, both sides unmixed (Mason's series), as a second route. */
  function exact(ntu: number, ratio: number): number {
    const bracket = (x: number, k: number) => {
      let [term, sum] = [1, 1];
      for (let m = 1; m <= k; m++) sum += term *= x / m;
      return 1 - Math.exp(-x) * sum;
    };
    let total = 0;
    for (let k = 0; k < 200; k++) {
      const term = bracket(ntu, k) * bracket(ratio * ntu, k);
      total += term;
      if (term < 1e-13) break;
    }
    return total / (ratio * ntu);
  }

  it('is effective from 0 to 1, more with more transfer, less than counterflow, and near the exact series', () => {
    for (let ntu = 0.1; ntu <= 7; ntu += 0.3) {
      for (const ratio of [0, 0.05, 0.3, 0.7, 1]) {
        const value = crossflowEffectiveness(ntu, ratio);
        expect(value).toBeGreaterThan(0);
        expect(value).toBeLessThan(1);
        expect(crossflowEffectiveness(ntu + 0.1, ratio)).toBeGreaterThan(value);
        expect(value).toBeLessThanOrEqual(counterflowEffectiveness(ntu, ratio) + 0.0112);
        if (ratio > 0) expect(Math.abs(value - exact(ntu, ratio))).toBeLessThan(0.0112);
      }
    }
    expect(crossflowEffectiveness(0, 0.5)).toBe(0);
    expect(crossflowEffectiveness(1.5, 1e-9)).toBeCloseTo(crossflowEffectiveness(1.5, 0), 6);
    expect(crossflowEffectiveness(transferUnitsFor(0.7, 0.4)!, 0.4)).toBeCloseTo(0.7, 9);
    expect(transferUnitsFor(0.99999, 1)).toBeNull();
    expect(() => crossflowEffectiveness(1, 1.5)).toThrow(/between 0 and 1/);
    expect(() => crossflowEffectiveness(-1, 0.5)).toThrow(/zero or more/);
  });

  it('gains no density at the break-even drop', () => {
    const drop = breakEvenDropPa(220_000, 140, 50);
    expect(densityRatio(220_000, 220_000 - drop, 140, 50)).toBeCloseTo(1, 12);
  });

  it('warms towards its steady temperature and never past it, and cools back as its time constant says', () => {
    const core = { heatCapacityJPerK: 4500, massFlowKgS: 0.2, effectiveness: 0.7, toAmbientWPerK: 60, chargeInC: 130, ambientC: 28 };
    let last = 30;
    for (const time of [1, 5, 20, 60, 600]) {
      const { coreC, steadyC } = coreAfter(core, 30, time);
      expect(coreC).toBeGreaterThan(last);
      expect(coreC).toBeLessThanOrEqual(steadyC);
      last = coreC;
    }
    const times = [0, 15, 30, 60, 90, 150];
    const recovery = fitRecovery(
      times,
      times.map((t) => 28 + 40 * Math.exp(-t / 45)),
      28,
    );
    expect(recovery.timeConstantS).toBeCloseTo(45, 4);
    expect(recovery.residualK).toBeLessThan(1e-6);
    expect(timeToGoalS(recovery, 48, 38)).toBeCloseTo(45 * Math.LN2, 4);
    expect(timeToGoalS(recovery, 48, 28)).toBeNull();
    expect(timeToGoalS(recovery, 35, 38)).toBe(0);
    expect(() => fitRecovery([0, 10], [50, 40], 28)).toThrow(/Three moments/);
  });

  it('takes the lag of a sensor out of a ramp', () => {
    const times = Array.from({ length: 20 }, (_, i) => i * 0.5);
    const sensed = times.map((t) => 30 + 2 * (t - 3));
    expect(correctedTrace(times, sensed, 3)[10]).toBeCloseTo(30 + 2 * times[10]!, 9);
  });
});

describe('what inlet loss costs', () => {
  it('is about a per cent a kilopascal on a naturally aspirated engine and far less where boost is held', () => {
    const { firstOrder, upper } = gainOfLessRestriction(98_000, 3000, 2000);
    expect(firstOrder).toBeCloseTo(0.0105, 3);
    expect(upper).toBeGreaterThan(firstOrder);
    expect(gainOfLessRestriction(98_000, 2000, 2000).firstOrder).toBe(0);
    expect(() => gainOfLessRestriction(98_000, 99_000, 0)).toThrow(/below the ambient/);
    const input = {
      ambientPa: 100_000,
      inletDropPa: 3000,
      outletPa: 205_000,
      inletC: 25,
      efficiency: 0.72,
      massFlowKgS: 0.25,
      coolerEffectiveness: 0.75,
    };
    const [more, less] = [inletLossCost({ ...input, extraPa: 1000 }), inletLossCost({ ...input, extraPa: -1000 })];
    expect(more.manifoldRiseK).toBeGreaterThan(0);
    expect(less.manifoldRiseK).toBeLessThan(0);
    expect(inletLossCost({ ...input, extraPa: 0 }).outletRiseK).toBe(0);
  });
});

describe('units', () => {
  it('come back from the unit kept inside, every one of them', () => {
    for (const unit of Object.keys(UNITS) as UnitName[]) {
      for (const value of [0, 1, -3.5, 1234.5]) expect(fromSi(toSi(value, unit), unit)).toBeCloseTo(value, 8);
    }
  });
});
