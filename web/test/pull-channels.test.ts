import { describe, expect, it } from 'vitest';
import type { LiveTrace } from '@gezeit/contract';
import { liftOf, pullChannels } from '../src/features/day/pull-channels.js';
import { Show } from '../src/shared/units/show.js';

const metric = new Show({ power: 'kW', torque: 'N·m', temperature: '°C', pressure: 'kPa' });
const other = new Show({ power: 'hp', torque: 'lb·ft', temperature: '°F', pressure: 'psi' });
const trace: LiveTrace = {
  pull: 'p02',
  engineSpeedRpm: [2000, 4000, 6000, 6010, 5000],
  channels: {
    power: [20_000, 60_000, 90_000, 0, 0],
    intakeAirTemperature: [31, 34, 38, 60, 60],
    inletPressure: [-500, -2100, -4120, -9000, -100],
    manifoldPressure: [150_000, 205_000, 203_000, 40_000, 40_000],
    lambda: [0.99, 0.87, 0.86, 1.6, 1.6],
  },
};

describe('what is drawn beside the power of a pull', () => {
  it('is how warm the air came in, what the tract lost, and how hard it was pressed in, up to the lift', () => {
    expect(liftOf(trace)).toBe(3);
    expect(pullChannels(trace, metric).map(({ label, text }) => `${label} ${text}`)).toEqual([
      'Intake air 31 → 38 °C',
      'Pressure drop 4.1 kPa',
      'Manifold 205.0 kPa',
    ]);
  });

  it('follows the chosen units', () => {
    expect(pullChannels(trace, other).map(({ text }) => text)).toEqual(['88 → 100 °F', '0.60 psi', '29.73 psi']);
  });

  it('takes what else is logged where one of them is not, and leaves gaps out', () => {
    const channels = { inletTemperature: [null, 30, 33, 40, 41], lambda: [0.99, 0.87, 0.86, 1.6, 1.6], power: [1, 2, 3, 0, 0] };
    const drawn = pullChannels({ ...trace, channels }, metric);
    expect(drawn.map(({ label, text }) => `${label} ${text}`)).toEqual(['Intake air 30 → 33 °C', 'Lambda 0.99 → 0.86']);
    expect(drawn[0]!.rpm).toEqual([4000, 6000]);
    expect(pullChannels({ pull: null, engineSpeedRpm: [], channels: {} }, metric)).toEqual([]);
  });
});
