import { say } from '@gezeit/core';
import { describe, expect, it } from 'vitest';
import { csvText } from '../src/shared/save.js';
import { plain, Show, withSign } from '../src/shared/units/show.js';

const metric = new Show({ power: 'kW', torque: 'N·m', temperature: '°C', pressure: 'kPa' });
const other = new Show({ power: 'hp', torque: 'lb·ft', temperature: '°F', pressure: 'psi' });

describe('figures on the screen', () => {
  it('take the chosen unit, a true minus and no sign before zero', () => {
    expect(metric.power(100)).toBe('100.0');
    expect(other.power(100)).toBe('134.1');
    expect(other.temperature(25)).toBe('77.0');
    expect(metric.temperatureDifference(-3)).toBe('−3.0');
    expect(other.temperatureDifference(10)).toBe('+18.0');
    expect(withSign(-0.02, 1)).toBe('0.0');
    expect(plain(-0.02, 1)).toBe('0.0');
  });

  it('show a missing value as a dash, never as zero', () => {
    expect([metric.power(null), metric.temperature(null), metric.temperatureDifference(null), metric.pressure(null)]).toEqual([
      '–',
      '–',
      '–',
      '–',
    ]);
  });

  it('are written into the sentences of the core, each with its own unit', () => {
    const started = { code: 'flag:started-hot', values: { apartK: 10 } };
    const apart = { code: 'pressure-apart', values: { loggedPa: 101_300, statedPa: 99_000 } };
    expect(say(started, metric.words)).toBe("started 10.0\u00a0K hotter than the day's usual");
    expect(say(started, other.words)).toBe("started 18.0\u00a0°F hotter than the day's usual");
    expect(say(apart, other.words)).toContain('14.69\u00a0psi, the sheet 14.36\u00a0psi');
    expect(say({ code: 'start-apart', values: { what: 'oilC', loggedC: -10, statedC: 20 } }, other.words)).toContain(
      'says 14.0\u00a0°F, the sheet 68.0\u00a0°F',
    );
  });

  it('keep the same figures of a pressure in every unit', () => {
    expect(metric.pressure(230, 3)).toBe('230');
    expect(other.pressure(230, 3)).toBe('33.4');
    expect(other.pressure(1.25)).toBe('0.1813');
  });
});

it('CSV quotes what needs it and leaves blanks for what is missing', async () => {
  const text = await csvText([
    { header: 'name, first', values: ['a"b', 'c'] },
    { header: 'x', values: [1, null, 3] },
  ]);
  expect(text).toBe('"name, first",x\n"a""b",1\nc,\n,3\n');
});

it('marks texts in a CSV that a spreadsheet would take for formulas, and no number', async () => {
  const dangerous = ['=1+1', '+1', '-1', '@x', '\t=1', '\r=1', '−1', 'plain'];
  const text = await csvText([
    { header: '=cmd', values: dangerous },
    { header: 'x', values: [-1, 2, -3.5, 1e-9, 0, -7, 8, 9] },
  ]);
  const { data } = (await import('papaparse')).parse<string[]>(text.trimEnd());
  expect(data.map(([first]) => first)).toEqual(["'=cmd", ...dangerous.map((value) => (/^[=+\-@\t\r]/.test(value) ? `'${value}` : value))]);
  expect(data.slice(1).map(([, second]) => Number(second))).toEqual([-1, 2, -3.5, 1e-9, 0, -7, 8, 9]);
});
