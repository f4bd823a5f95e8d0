import { describe, expect, it } from 'vitest';
import {
  condensation,
  convertCorrected,
  correctionFactor,
  densityAltitudeM,
  dewPointC,
  dryPressurePa,
  GezeitError,
  boostedEstimate,
  humidityRatio,
  humidityRatioFromWetBulb,
  moistAirDensity,
  pressureAltitudeM,
  saeJ1349,
  saturationPressurePa,
  stationPressurePa,
  vapourPressureFromRatioPa,
  vapourPressurePa,
} from '../src/index.js';

const temperatures = Array.from({ length: 36 }, (_, i) => -30 + 5 * i);
const standards = ['SAE_J1349', 'STD_J607', 'DIN_70020', 'ISO_1585', 'NONE'] as const;

describe('moist air', () => {
  it('saturation pressure rises with temperature, and the dew point is its inverse', () => {
    for (let i = 1; i < temperatures.length; i += 1)
      expect(saturationPressurePa(temperatures[i]!)).toBeGreaterThan(saturationPressurePa(temperatures[i - 1]!));
    for (const t of temperatures) expect(dewPointC(saturationPressurePa(t))).toBeCloseTo(t, 6);
  });

  it('a dew point never lies above the air, and there is none without vapour or outside −60 to 180 °C', () => {
    for (const t of temperatures) for (const rh of [0.1, 0.5, 0.9]) expect(dewPointC(vapourPressurePa(rh, t))!).toBeLessThan(t);
    expect(dewPointC(0)).toBeNull();
    expect(dewPointC(-1)).toBeNull();
    expect(dewPointC(1e-3)).toBeNull();
    expect(dewPointC(1e8)).toBeNull();
  });

  it('humidity ratio and vapour pressure are inverses', () => {
    for (const share of [0.001, 0.01, 0.05, 0.3])
      expect(vapourPressureFromRatioPa(humidityRatio(share * 1e5, 1e5), 1e5)).toBeCloseTo(share * 1e5, 6);
  });

  it('moist air is lighter than dry air, warm lighter than cold, thin lighter than dense', () => {
    const air = { temperatureC: 30, pressurePa: 1e5, relativeHumidity: 0.5 };
    expect(moistAirDensity({ ...air, relativeHumidity: 0.9 })).toBeLessThan(moistAirDensity(air));
    expect(moistAirDensity({ ...air, temperatureC: 40 })).toBeLessThan(moistAirDensity(air));
    expect(moistAirDensity({ ...air, pressurePa: 9e4 })).toBeLessThan(moistAirDensity(air));
  });

  it('a wet bulb at the air temperature means saturated air', () => {
    for (const t of [5, 20, 35]) expect(humidityRatioFromWetBulb(t, t, 1e5)).toBeCloseTo(humidityRatio(saturationPressurePa(t), 1e5), 9);
  });

  it('more pressure or a colder outlet never condenses less', () => {
    const ambient = { temperatureC: 30, pressurePa: 1e5, relativeHumidity: 0.8 };
    let last = 0;
    for (const outlet of [60, 45, 40, 35, 30, 20]) {
      const { condensateKgS, condenses } = condensation(ambient, 2.2e5, outlet, 0.2);
      expect(condensateKgS).toBeGreaterThanOrEqual(last);
      expect(condenses).toBe(condensateKgS > 0);
      last = condensateKgS;
    }
  });

  it('impossible air is refused with a reason', () => {
    expect(() => saturationPressurePa(-273.15)).toThrow(GezeitError);
    expect(() => dryPressurePa({ temperatureC: 90, pressurePa: 50_000, relativeHumidity: 1 })).toThrow(/vapour pressure/);
    expect(() => humidityRatio(2e5, 1e5)).toThrow(GezeitError);
    expect(() => humidityRatioFromWetBulb(20, 25, 1e5)).toThrow(GezeitError);
    expect(() => stationPressurePa(101_325, 20_000)).toThrow(/elevation/);
    expect(() => saeJ1349(0, 25)).toThrow(GezeitError);
  });

  it('altitudes are nought at the standard and rise as the air thins', () => {
    expect(pressureAltitudeM(101_325)).toBeCloseTo(0, 6);
    expect(densityAltitudeM(1.225)).toBeCloseTo(0, 6);
    expect(pressureAltitudeM(90_000)).toBeGreaterThan(900);
    expect(stationPressurePa(101_325, 0)).toBeCloseTo(101_325, 3);
  });
});

describe('weather corrections', () => {
  const air = { temperatureC: 18, pressurePa: 98_700, relativeHumidity: 0.55 };

  it('every factor falls with pressure and rises with temperature; none corrects nothing', () => {
    for (const standard of standards.filter((name) => name !== 'NONE')) {
      expect(correctionFactor(standard, { ...air, pressurePa: 101_000 })).toBeLessThan(correctionFactor(standard, air));
      expect(correctionFactor(standard, { ...air, temperatureC: 30, relativeHumidity: 0 })).toBeGreaterThan(
        correctionFactor(standard, { ...air, relativeHumidity: 0 }),
      );
    }
    expect(correctionFactor('NONE', air)).toBe(1);
  });

  it('from any standard to any other and back is the same power', () => {
    for (const from of standards) {
      for (const to of standards) {
        const there = convertCorrected(150, from, to, air).converted;
        expect(convertCorrected(there, to, from, air).converted).toBeCloseTo(150, 9);
      }
    }
  });

  it('humidity plays no part in DIN 70020', () => {
    expect(correctionFactor('DIN_70020', { ...air, relativeHumidity: 0.1 })).toBe(
      correctionFactor('DIN_70020', { ...air, relativeHumidity: 0.9 }),
    );
  });

  it('the estimate for boosted engines is the standard for a mechanical blower and hardly anything for absolute control', () => {
    const thin = { ...air, pressurePa: 85_000 };
    const mechanical = boostedEstimate('mechanical', thin, 180_000);
    expect(mechanical.factor).toBeCloseTo(mechanical.saeJ1349, 4);
    const absolute = boostedEstimate('absolute', thin, 200_000);
    const gauge = boostedEstimate('gauge', thin, 185_000);
    expect(Math.abs(absolute.factor - 1)).toBeLessThan(0.03);
    expect(gauge.factor).toBeGreaterThan(absolute.factor);
    expect(gauge.factor).toBeLessThan(gauge.saeJ1349);
  });
});
