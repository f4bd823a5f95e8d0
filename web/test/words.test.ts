import type { Comparison, Setup } from '@gezeit/contract';
import { answerWord, formatterFor, maskedSentence, PLAIN_FORMATTER, sameAirShort, USUAL_UNITS } from '@gezeit/core';
import { describe, expect, it } from 'vitest';
import { BOARD_RANGE, onBoard } from '../src/shared/charts/board-scale.js';
import { windowOn } from '../src/features/logs/desk/pull-window.js';
import { columnUnit, shownIn } from '../src/features/logs/desk/shown-unit.js';
import { attributeRows } from '../src/model/setup-rows.js';
import { Show } from '../src/shared/units/show.js';

const estimate = (pct: number, low: number, high: number) => ({ pct, low, high });
const comparison = (power: Comparison['verdict']['power'], levelled: Comparison['levelled'], more: Partial<Comparison> = {}) =>
  ({ reference: 'A', candidate: 'B', verdict: { power, why: '' }, levelled, ownStart: null, asRun: null, ...more }) as Comparison;

describe('the words beside the headline', () => {
  it('tells what the habit would have reported only where it differs', () => {
    const masked = comparison('gain', estimate(2.6, 1.5, 3.7), { asRun: estimate(0.8, -0.5, 2.1) });
    expect(maskedSentence(masked, 1, 7.2, PLAIN_FORMATTER)).toBe(
      'As run it looked like +0.8\u00a0% (−0.5\u00a0to\u00a0+2.1): B started 7.2\u00a0K hotter than A.',
    );
    expect(maskedSentence(masked, 1, -7.2, formatterFor({ ...USUAL_UNITS, temperature: '°F', pressure: 'psi' }))).toContain(
      '13.0\u00a0°F cooler',
    );
    expect(maskedSentence(masked, 1, 0.5, PLAIN_FORMATTER)).toContain('drift and learning');
    expect(maskedSentence(comparison('gain', estimate(2.6, 1.5, 3.7), { asRun: estimate(2.5, 1, 4) }), 1, 7, PLAIN_FORMATTER)).toBeNull();
  });

  it('answers yes to "no loss" and to limits kept, and never calls a bound a gain', () => {
    expect(answerWord('power-no-loss', 'gain')).toBe('yes');
    expect(answerWord('mixture-within', 'gain')).toBe('yes');
    expect(answerWord('less-restriction', 'gain')).toBe('yes, less');
    expect(answerWord('power-gain', 'no-difference')).toBe('no difference that matters');
    expect(answerWord('power-gain', 'gain', true)).toBe('a bound: at most');
  });

  it('calls the same air the flow’s doing only where nothing else is in it', () => {
    const same = (sameAirContains: Comparison['sameAirContains']) => sameAirShort({ sameAirContains } as Comparison);
    expect(same([])).toBe('what the flow alone did');
    expect(same(['tune', 'ignition'])).toBe('same air with map, ignition');
  });
});

it('the board clips what lies beyond its scale and says so', () => {
  expect(onBoard(0).beyond).toBe(0);
  expect(onBoard(BOARD_RANGE[0])).toEqual({ share: 0, beyond: 0 });
  expect(onBoard(9)).toEqual({ share: 1, beyond: 1 });
  expect(onBoard(-9)).toEqual({ share: 0, beyond: -1 });
  expect(onBoard(1).share).toBeGreaterThan(onBoard(-1).share);
});

it('setups side by side: what differs, and what only one of them says', () => {
  const setups: Setup[] = [
    { id: 'A', name: 'a', parts: ['x'], state: { tune: '1', tyrePressureKPa: 230, fan: 'front' } },
    { id: 'B', name: 'b', parts: ['x'], state: { tune: '2', tyrePressureKPa: 230 }, sensorPlaces: { intakeAirTemperature: 'box' } },
  ];
  const rows = Object.fromEntries(attributeRows(setups, (kPa) => `${kPa} kPa`).map((row) => [row.label, row]));
  expect(rows['Tune']).toMatchObject({ differs: true, unknown: false });
  expect(rows['Tyre pressure']).toMatchObject({ differs: false, values: ['230 kPa', '230 kPa'] });
  expect(rows['Fan']).toMatchObject({ differs: false, unknown: true, values: ['front', 'not said'] });
  expect(rows['Sensor: intake air temperature']).toMatchObject({ unknown: true });
});

describe('traces', () => {
  const show = new Show({ power: 'hp', torque: 'N·m', temperature: '°F', pressure: 'psi' });

  it('are drawn in the chosen units, and what has none as it is written', () => {
    const unit = (quantity: Parameters<typeof columnUnit>[0]['quantity'], unitText: string | null) =>
      columnUnit({ quantity, unitText }, show);
    expect(unit('power', 'kW')).toBe('hp');
    expect(unit('intakeAirTemperature', '°C')).toBe('°F');
    expect(unit('engineSpeed', 'rpm')).toBe('rpm');
    expect(unit('airMassFlow', 'kg/h')).toBe('kg/h');
    expect(unit(null, 'V')).toBeNull();
    expect(shownIn('K', '', true, show)).toMatchObject({ text: '°F' });
    expect(shownIn('K', '', true, show).change(10)).toBeCloseTo(18);
    expect(shownIn(null, 'kg·m⁻⁷', false, show)).toMatchObject({ text: 'kg·m⁻⁷' });
  });

  it('place the window on the log’s own clock', () => {
    const log = { file: 'x' } as Parameters<typeof windowOn>[0];
    const finding = { startS: 3, endS: 12 } as Parameters<typeof windowOn>[1];
    const detail = { alignments: [{ file: 'x', offsetS: -1.5, how: 'engine-speed', residualS: 0 }] } as Parameters<typeof windowOn>[2];
    expect(windowOn(log, finding, detail)).toEqual([1.5, 10.5]);
    expect(windowOn(log, finding, undefined)).toBeNull();
  });
});
