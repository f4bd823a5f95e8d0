import { describe, expect, it } from 'vitest';
import { fromSi, numberText, typedNumber, UNITS, type UnitName } from '../src/index.js';

const value = (text: string, unit: UnitName, difference = false) => {
  const read = typedNumber(text, unit, difference);
  if (!read.understood) throw new Error(read.problem);
  return read.value;
};

describe('a typed number', () => {
  it('takes its unit with it, and the expected one without', () => {
    expect(value('25 inH2O', 'kPa')).toBeCloseTo(6227.22, 1);
    expect(value('2.5', 'kPa')).toBe(2500);
    expect(value('2,5', 'kPa')).toBe(2500);
    expect(value('2,5psi', 'kPa')).toBeCloseTo(17_236.9, 0);
    expect(value('1e-3 bar', 'kPa')).toBeCloseTo(100, 9);
    expect(value('-4 °C', '°C')).toBe(-4);
    expect(value('−4', '°C')).toBe(-4);
    expect(value('77 °F', '°C')).toBeCloseTo(25, 9);
    expect(value('9 °F', 'K', true)).toBeCloseTo(5, 9);
    expect(value('72 %', '–')).toBeCloseTo(0.72, 12);
    expect(value('0.72', '–')).toBe(0.72);
    expect(value('2 in', 'mm')).toBeCloseTo(0.0508, 9);
  });

  it.each([
    ['', /Type a number/],
    ['much', /is no number/],
    ['1,234.5', /thousands separators/],
    ['1 234', /thousands separators/],
    ['1.234.567', /thousands separators/],
    ['25 furlongs', /no unit that Gezeit reads/],
    ['25 °C', /another kind of quantity/],
    ['1e999', /too large/],
    ['--3', /is no number/],
  ])('refuses “%s” with what to do', (text, problem) => {
    const read = typedNumber(text, 'kPa');
    expect(read.understood).toBe(false);
    expect(!read.understood && read.problem).toMatch(problem);
  });

  it('reads back what it shows, in every unit', () => {
    for (const unit of Object.keys(UNITS) as UnitName[]) {
      for (const si of [0.0123, 1, 345.678])
        expect(fromSi(value(numberText(si, unit, false, 12), unit), unit) / fromSi(si, unit)).toBeCloseTo(1, 9);
      expect(value(numberText(12.5, unit, true, 12), unit, true)).toBeCloseTo(12.5, 8);
    }
  });
});
