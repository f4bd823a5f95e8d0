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

  it('are converted inside the sentences of the core too, each value with its own unit', () => {
    const said = 'Coolant 118.5 °C is over the limit of 110 °C; started +4.2 K hotter, boost −12 kPa, 90.0 kW (per K, 3 K/h)';
    expect(metric.sentence(said)).toBe(said);
    expect(other.sentence(said)).toBe(
      'Coolant 245.3 °F is over the limit of 230 °F; started +7.6 °F hotter, boost −1.7 psi, 120.7 hp (per K, 3 K/h)',
    );
    expect(other.sentence('−10 °C')).toBe('14 °F');
  });

  it('keep the same figures of a pressure in every unit', () => {
    expect(metric.pressure(230, 3)).toBe('230');
    expect(other.pressure(230, 3)).toBe('33.4');
    expect(other.pressure(1.25)).toBe('0.1813');
  });
});

it('CSV quotes what needs it and leaves blanks for what is missing', () => {
  const text = csvText([
    { header: 'name, first', values: ['a"b', 'c'] },
    { header: 'x', values: [1, null, 3] },
  ]);
  expect(text).toBe('"name, first",x\n"a""b",1\nc,\n,3\n');
});
