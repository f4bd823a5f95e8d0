import { describe, expect, it } from 'vitest';
import { convert, differenceFromSi, dimensionOf, fromSi, GezeitError, toSi, unitFromText, UNITS, type UnitName } from '../src/index.js';

const ALL = Object.keys(UNITS) as UnitName[];

describe('every unit', () => {
  it.each(ALL)('%s goes to SI and back', (unit) => {
    for (const value of [-40, 0, 0.001, 1, 273.15, 12_345]) expect(fromSi(toSi(value, unit), unit)).toBeCloseTo(value, 6);
  });

  it.each(ALL)('%s is recognised by its own name, and in lower case where that is no other unit', (unit) => {
    expect(unitFromText(unit)).toBe(unit);
    expect(unitFromText(` ${unit} `)).toBe(unit);
    const lower = unitFromText(unit.toLowerCase());
    expect(lower === unit || lower === null || dimensionOf(lower) !== dimensionOf(unit) || unit.toLowerCase() === lower.toLowerCase()).toBe(
      true,
    );
  });

  it('converts to every other of its kind and to none of another', () => {
    for (const from of ALL) {
      for (const to of ALL) {
        if (dimensionOf(from) === dimensionOf(to)) expect(convert(convert(7, from, to), to, from)).toBeCloseTo(7, 6);
        else expect(() => convert(7, from, to)).toThrow(GezeitError);
      }
    }
  });
});

describe('spellings met in files', () => {
  it.each([
    ['degC', '°C'],
    ['deg F', '°F'],
    ['1/min', 'rpm'],
    ['kph', 'km/h'],
    ['Nm', 'N·m'],
    ['lb-ft', 'lb·ft'],
    ['ft-lb', 'lb·ft'],
    ['KPA', 'kPa'],
    ['mBar', 'mbar'],
    ['inwc', 'inH2O'],
    ['percent', '%'],
    ['gps', 'g/s'],
    ['HP', 'hp'],
    ['ps', 'PS'],
    ['sec', 's'],
  ])('%s is %s', (text, unit) => expect(unitFromText(text)).toBe(unit));

  it('an unknown one is none', () => {
    for (const text of ['', 'furlong', 'kW/h', 'AFR', 'volts']) expect(unitFromText(text)).toBeNull();
  });
});

it('a difference of temperatures has no offset', () => {
  expect(differenceFromSi(10, '°F')).toBeCloseTo(18, 9);
  expect(differenceFromSi(10, 'K')).toBe(10);
});
