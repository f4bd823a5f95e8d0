import { describe, expect, it } from 'vitest';
import { readLog } from '../src/index.js';

// Columns without a unit, called by one word or by their unit alone: what is plain is taken, what could be two things is asked about.

const isOpen = (i: number) => i >= 60 && i < 260;
/** From the beginning of full throttle to its end, 0 to 1, and down again. */
const along = (i: number) => (i < 60 ? 0 : i < 260 ? (i - 60) / 200 : Math.max(0, 1 - (i - 260) / 30));
const noise = (i: number, size: number) => size * Math.sin(i * 12.9898);
const speed = (i: number) => (i < 60 ? 1900 + (i % 9) : i < 260 ? 1960 + (i - 60) * 24 : 6760 - (i - 260) * 40);
const torque = (i: number) => (isOpen(i) ? 150 + 80 * Math.sin(3 * along(i)) : 0);
const power = (i: number) => (torque(i) * speed(i) * Math.PI) / 30_000;
const manifold = (i: number) => (isOpen(i) ? 120 + 90 * Math.min(1, 4 * along(i)) : 38);

/** One sweep as devices log it: by the unit in which they write. */
const SIGNALS: Readonly<Record<string, (i: number) => number>> = {
  s: (i) => i / 20,
  ms: (i) => i * 50,
  rpm: speed,
  coolantC: (i) => 88 + 3 * along(i) + noise(i, 0.2),
  coolantF: (i) => 190 + 6 * along(i) + noise(i, 0.3),
  oilC: (i) => 96 + 4 * along(i) + noise(i, 0.1),
  oilPsi: (i) => 55 + 10 * along(i),
  intakeC: (i) => 24 + 18 * along(i) + noise(i, 0.2),
  hotC: (i) => 70 + 12 * along(i) + noise(i, 0.2),
  intakeF: (i) => 75 + 30 * along(i) + noise(i, 0.4),
  boostBar: (i) => (manifold(i) - 100) / 100 + noise(i, 0.01),
  boostKPa: (i) => manifold(i) - 100 + noise(i, 1),
  boostPsi: (i) => (manifold(i) - 100) / 6.895 + noise(i, 0.1),
  mapKPa: (i) => manifold(i) + noise(i, 1),
  mapMbar: (i) => 10 * manifold(i) + noise(i, 10),
  mapPsi: (i) => manifold(i) / 6.895 + noise(i, 0.1),
  mapUnboosted: (i) => (isOpen(i) ? 98 : 34) + noise(i, 0.5),
  lambda: (i) => (isOpen(i) ? 0.86 : 1) + noise(i, 0.01),
  afr: (i) => (isOpen(i) ? 12.4 : 14.7) + noise(i, 0.1),
  degrees: (i) => (isOpen(i) ? 8 + 14 * along(i) : 30) + noise(i, 0.3),
  share: (i) => (isOpen(i) ? 100 : 4),
  kmh: (i) => speed(i) / 40,
  mph: (i) => speed(i) / 64.4,
  kW: (i) => power(i) + noise(i, 0.4),
  hp: (i) => 1.341 * power(i) + noise(i, 0.4),
  newtonMetres: (i) => torque(i) + noise(i, 0.6),
  poundFeet: (i) => 0.7376 * torque(i) + noise(i, 0.6),
  baroKPa: () => 99.3,
  baroMbar: () => 993,
  humidity: () => 46,
  gramsPerSecond: (i) => (isOpen(i) ? 30 + 130 * along(i) : 8) + noise(i, 0.5),
  kilogramsPerHour: (i) => (isOpen(i) ? 100 + 470 * along(i) : 30) + noise(i, 2),
  volts: (i) => 13.9 + noise(i, 0.05),
  pulseMs: (i) => (isOpen(i) ? 8 + 6 * along(i) : 2.5),
  trim: (i) => noise(i, 3),
  exhaustC: (i) => 500 + 350 * along(i),
};

/** What each column is taken for: the quantity and its unit; null where it is asked about. */
function taken(columns: readonly (readonly [header: string, signal: string])[]): (string | null)[] {
  const rows = Array.from({ length: 300 }, (_, i) => columns.map(([, signal]) => Number(SIGNALS[signal]!(i).toFixed(3))).join(','));
  const text = `${columns.map(([header]) => header).join(',')}\n${rows.join('\n')}\n`;
  const { report } = readLog(new TextEncoder().encode(text), { file: 'bare.csv' });
  return report.columns.map(({ takenFor, unit }) => (takenFor === null ? null : `${takenFor} ${unit ?? ''}`.trim()));
}

const ALONE: [header: string, signal: string, taken: string | null][] = [
  ...['Coolant', 'Coolant temp', 'CLT', 'Water', 'Water temp', 'Engine temp', 'Kühlmittel', 'Wasser'].map(
    (header) => [header, 'coolantC', 'coolantTemperature °C'] as [string, string, string],
  ),
  ['Coolant', 'coolantF', 'coolantTemperature °F'],
  ['ECT', 'coolantF', 'coolantTemperature °F'],
  ['Coolant level', 'share', null],
  ['Coolant flow', 'gramsPerSecond', null],
  ['Oil', 'oilC', null],
  ['Oil', 'oilPsi', null],
  ['Oil temp', 'oilC', 'oilTemperature °C'],
  ['IAT', 'intakeC', 'intakeAirTemperature °C'],
  // A hot summer's day, or a cool one of the other unit: beside a coolant it is told, alone it is asked.
  ['IAT', 'intakeF', null],
  ['Boost', 'boostBar', 'boostPressure bar'],
  ['Boost', 'boostKPa', 'boostPressure kPa'],
  ['MAP', 'mapKPa', 'manifoldPressure kPa'],
  ['MAP', 'mapUnboosted', 'manifoldPressure kPa'],
  ['MAP', 'mapMbar', 'manifoldPressure mbar'],
  ['MAP', 'mapPsi', null],
  ['Lambda', 'lambda', 'lambda λ'],
  ['AFR', 'afr', 'lambda AFR'],
  ...['Timing', 'Ignition', 'Advance', 'Spark'].map((header) => [header, 'degrees', 'ignitionAdvance °'] as [string, string, string]),
  ['TPS', 'share', 'throttle %'],
  ['Pedal', 'share', 'pedal %'],
  ['VSS', 'kmh', 'vehicleSpeed km/h'],
  ['Speed', 'kmh', null],
  ['Power', 'kW', null],
  ...['HP', 'WHP', 'BHP', 'Wheel HP'].map((header) => [header, 'hp', 'power hp'] as [string, string, string]),
  ['PS', 'hp', 'power PS'],
  ['CV', 'hp', 'power PS'],
  ['kW', 'kW', 'power kW'],
  ['KW', 'kW', 'power kW'],
  ['W', 'kW', null],
  ['Torque', 'newtonMetres', null],
  ...['Nm', 'NM', 'N·m'].map((header) => [header, 'newtonMetres', 'torque N·m'] as [string, string, string]),
  ...['ft-lbs', 'lb-ft'].map((header) => [header, 'poundFeet', 'torque lb·ft'] as [string, string, string]),
  ['Baro', 'baroKPa', 'ambientPressure kPa'],
  ['Baro', 'baroMbar', 'ambientPressure mbar'],
  ['Humidity', 'humidity', 'relativeHumidity %'],
  ['MAF', 'gramsPerSecond', 'airMassFlow g/s'],
  ['MAF', 'kilogramsPerHour', null],
  ['Inj PW', 'pulseMs', 'injectorTime ms'],
  ['Injector pulse width', 'pulseMs', 'injectorTime ms'],
  // Nothing but a guess, and no second clock.
  ['PW', 'pulseMs', null],
  ['EGT', 'exhaustC', 'exhaustTemperature °C'],
  ['STFT', 'trim', 'shortTermTrim %'],
  ['LTFT', 'trim', 'longTermTrim %'],
  ['Batt', 'volts', null],
];

describe('a column without a unit', () => {
  it.each(ALONE)('%s (%s) is %s', (header, signal, expected) => {
    const [time, engineSpeed, own] = taken([
      ['Time', 's'],
      ['RPM', 'rpm'],
      [header, signal],
    ]);
    expect([time, engineSpeed]).toEqual(['time', 'engineSpeed rpm']);
    expect(own).toBe(expected);
  });
});

describe('a whole file without a unit', () => {
  it.each<[string, [string, string, string | null][]]>([
    [
      'of an engine control, metric',
      [
        ['Time', 's', 'time'],
        ['RPM', 'rpm', 'engineSpeed rpm'],
        ['MAP', 'mapKPa', 'manifoldPressure kPa'],
        ['TPS', 'share', 'throttle %'],
        ['AFR', 'afr', 'lambda AFR'],
        ['IAT', 'intakeC', 'intakeAirTemperature °C'],
        ['CLT', 'coolantC', 'coolantTemperature °C'],
        ['Spark', 'degrees', 'ignitionAdvance °'],
        ['PW', 'pulseMs', null],
        ['Batt', 'volts', null],
      ],
    ],
    [
      'of an engine control, in degrees Fahrenheit and psi',
      [
        ['Time', 's', 'time'],
        ['RPM', 'rpm', 'engineSpeed rpm'],
        ['IAT', 'intakeF', 'intakeAirTemperature °F'],
        ['Coolant', 'coolantF', 'coolantTemperature °F'],
        ['Oil', 'oilPsi', null],
        ['Timing', 'degrees', 'ignitionAdvance °'],
      ],
    ],
    [
      'whose power is in hp, with air as hot as it gets under a bonnet',
      [
        ['Time', 's', 'time'],
        ['RPM', 'rpm', 'engineSpeed rpm'],
        ['HP', 'hp', 'power hp'],
        ['IAT', 'hotC', 'intakeAirTemperature °C'],
        ['Coolant', 'coolantC', 'coolantTemperature °C'],
      ],
    ],
    [
      'whose power is in hp, with the air alone',
      [
        ['Time', 's', 'time'],
        ['RPM', 'rpm', 'engineSpeed rpm'],
        ['HP', 'hp', 'power hp'],
        ['IAT', 'hotC', null],
      ],
    ],
    [
      'of a dyno, by letters',
      [
        ['Time', 's', 'time'],
        ['Engine RPM', 'rpm', 'engineSpeed rpm'],
        ['WHP', 'hp', 'power hp'],
        ['WTQ', 'poundFeet', 'torque lb·ft'],
        ['MPH', 'mph', 'rollerSpeed mph'],
      ],
    ],
    [
      'of a dyno, by units alone',
      [
        ['s', 's', 'time s'],
        ['rpm', 'rpm', 'engineSpeed rpm'],
        ['kW', 'kW', 'power kW'],
        ['Nm', 'newtonMetres', 'torque N·m'],
        ['km/h', 'kmh', 'rollerSpeed km/h'],
      ],
    ],
    [
      'of a dyno, in German',
      [
        ['Zeit', 's', 'time'],
        ['Drehzahl', 'rpm', 'engineSpeed rpm'],
        ['Leistung', 'kW', 'power kW'],
        ['Drehmoment', 'newtonMetres', 'torque N·m'],
        ['Ladedruck', 'boostBar', 'boostPressure bar'],
      ],
    ],
    [
      'of a box that counts milliseconds',
      [
        ['ms', 'ms', 'time ms'],
        ['RPM', 'rpm', 'engineSpeed rpm'],
        ['Throttle', 'share', 'throttle %'],
        ['Boost', 'boostBar', 'boostPressure bar'],
        ['Water', 'coolantC', 'coolantTemperature °C'],
        ['Air', 'intakeC', null],
      ],
    ],
  ])('%s', (_, columns) => {
    expect(taken(columns.map(([header, signal]) => [header, signal] as const))).toEqual(columns.map(([, , expected]) => expected));
  });
});
