import type { Quantity } from '@gezeit/contract';
import type { Dimension, UnitName } from '../units/units.js';

/** What a log of a quantity looks like, in the unit kept inside. Assumptions: wide, and only one voice among several. */
export interface Expectation {
  dimension: Dimension;
  /** Where its lowest (2nd percentile) and its highest values (98th) lie. */
  bottom: readonly [number, number];
  top: readonly [number, number];
  /** For a pressure against ambient. */
  gaugeBottom?: readonly [number, number];
  gaugeTop?: readonly [number, number];
  /** Where its highest values mostly lie: decides between units that nobody wrote, and nothing else. */
  mostlyTop?: readonly [number, number];
  /** It is met beyond that often enough: units that lie close are not told apart by it alone. */
  oftenBeyond?: true;
  /** It does not move by more than this in one log. */
  steadyWithin?: number;
  /** Units in which it is met where none is written, likelier first: the judge chooses among them. */
  units: readonly UnitName[];
  /** Of those, one that is hardly met. */
  rareUnit?: UnitName;
}

const TEMPERATURES: readonly UnitName[] = ['°C', '°F', 'K'];
const PRESSURES: readonly UnitName[] = ['kPa', 'bar', 'mbar', 'psi', 'inHg', 'Pa'];
const DROPS: readonly UnitName[] = ['kPa', 'mbar', 'inH2O', 'psi', 'Pa', 'mmH2O', 'bar'];
const SPEEDS: readonly UnitName[] = ['km/h', 'mph', 'm/s'];
const PER_CENT: readonly UnitName[] = ['%'];
/** An opening is written as a share of one too. */
const OPENING: readonly UnitName[] = ['%', 'fraction'];
const NONE: readonly UnitName[] = ['–'];

const temperature = (
  bottom: readonly [number, number],
  top: readonly [number, number],
  more: Pick<Expectation, 'steadyWithin' | 'mostlyTop' | 'oftenBeyond'> = {},
): Expectation => ({ dimension: 'temperature', bottom, top, units: TEMPERATURES, ...more });
const pressure = (bottom: readonly [number, number], top: readonly [number, number], more: Partial<Expectation> = {}): Expectation => ({
  dimension: 'pressure',
  bottom,
  top,
  units: PRESSURES,
  ...more,
});
const share = (bottom: readonly [number, number], top: readonly [number, number], units = PER_CENT): Expectation => ({
  dimension: 'ratio',
  bottom,
  top,
  units,
});

/** Of every quantity: its dimension, where its values lie, and in which units it is written. */
export const EXPECTATIONS: Readonly<Record<Quantity, Expectation>> = {
  time: { dimension: 'time', bottom: [0, Infinity], top: [0, Infinity], units: [] },
  engineSpeed: { dimension: 'rotation', bottom: [0, 4500], top: [600, 11_000], units: ['rpm'] },
  compressorSpeed: { dimension: 'rotation', bottom: [0, 120_000], top: [30_000, 330_000], units: ['rpm'] },
  vehicleSpeed: { dimension: 'speed', bottom: [0, 45], top: [6, 110], units: SPEEDS },
  rollerSpeed: { dimension: 'speed', bottom: [0, 45], top: [6, 110], units: SPEEDS },
  power: { dimension: 'power', bottom: [-120e3, 200e3], top: [12e3, 1.2e6], units: ['kW', 'hp', 'PS', 'W'] },
  torque: { dimension: 'torque', bottom: [-300, 500], top: [30, 2500], units: ['N·m', 'lb·ft', 'kgf·m'] },
  throttle: share([-4, 100], [12, 106], OPENING),
  pedal: share([-4, 100], [12, 106], OPENING),
  ambientTemperature: temperature([-20, 45], [-15, 50], { steadyWithin: 8 }),
  ambientPressure: pressure([60e3, 108e3], [60e3, 108e3], {
    steadyWithin: 4000,
    units: ['kPa', 'mbar', 'bar', 'inHg', 'psi', 'Pa', 'mmHg'],
  }),
  relativeHumidity: share([1, 100], [2, 100]),
  coolingAirTemperature: temperature([-20, 60], [-15, 70]),
  manifoldPressure: pressure([8e3, 130e3], [60e3, 500e3], {
    gaugeBottom: [-95e3, 150e3],
    gaugeTop: [-5e3, 400e3],
    mostlyTop: [80e3, 450e3],
  }),
  boostPressure: pressure([-95e3, 130e3], [2e3, 400e3], {
    gaugeBottom: [-95e3, 150e3],
    gaugeTop: [-5e3, 400e3],
    mostlyTop: [20e3, 400e3],
    rareUnit: 'inHg',
  }),
  intakeAirTemperature: temperature([-25, 80], [-10, 130], { mostlyTop: [12, 62], oftenBeyond: true }),
  inletTemperature: temperature([-25, 70], [-15, 90], { mostlyTop: [8, 50], oftenBeyond: true }),
  compressorOutTemperature: temperature([-15, 150], [25, 260]),
  coolerOutTemperature: temperature([-20, 90], [0, 150]),
  inletPressure: pressure([55e3, 106e3], [65e3, 110e3], { gaugeBottom: [-35e3, 4e3], gaugeTop: [-6e3, 8e3] }),
  pressureDrop: pressure([-5e3, 10e3], [80, 60e3], { units: DROPS }),
  airMassFlow: {
    dimension: 'massFlow',
    bottom: [-0.01, 0.3],
    top: [0.02, 1.5],
    mostlyTop: [0.06, 0.6],
    units: ['g/s', 'kg/h', 'lb/min', 'kg/s'],
  },
  airMeterFrequency: { dimension: 'frequency', bottom: [50, 8000], top: [500, 20_000], units: ['Hz'] },
  lambda: { dimension: 'lambda', bottom: [0.5, 1.2], top: [0.7, 3], units: ['λ'] },
  ignitionAdvance: { dimension: 'angle', bottom: [-35, 40], top: [0, 65], units: ['°'] },
  knockRetard: { dimension: 'angle', bottom: [-25, 6], top: [-6, 25], units: ['°'] },
  injectorTime: { dimension: 'time', bottom: [0, 0.02], top: [0.001, 0.06], units: ['ms', 's', 'µs'] },
  shortTermTrim: share([-40, 30], [-30, 45]),
  longTermTrim: share([-40, 30], [-30, 45]),
  coolantTemperature: temperature([-20, 112], [25, 135], { mostlyTop: [60, 118] }),
  oilTemperature: temperature([-20, 135], [25, 170], { mostlyTop: [60, 145] }),
  coolantInTemperature: temperature([-10, 75], [0, 95]),
  coolantOutTemperature: temperature([-10, 80], [0, 110]),
  wastegateDuty: share([-1, 100], [-1, 101]),
  correctionFactor: { dimension: 'factor', bottom: [0.8, 1.2], top: [0.8, 1.25], steadyWithin: 0.1, units: NONE },
  gear: { dimension: 'factor', bottom: [-1, 8], top: [0, 10], units: NONE },
  distance: { dimension: 'length', bottom: [-1, 1e7], top: [1, 1e8], units: ['m', 'km'] },
  latitude: { dimension: 'angle', bottom: [-90, 90], top: [-90, 90], units: ['°'] },
  longitude: { dimension: 'angle', bottom: [-180, 180], top: [-180, 180], units: ['°'] },
  altitude: { dimension: 'length', bottom: [-450, 5000], top: [-400, 6000], units: ['m'] },
  lap: { dimension: 'factor', bottom: [0, 500], top: [0, 1000], units: NONE },
  exhaustTemperature: temperature([-20, 950], [150, 1200]),
  exhaustPressure: pressure([-5e3, 200e3], [1e3, 700e3], { gaugeBottom: [-5e3, 200e3], gaugeTop: [1e3, 600e3] }),
  preCoolerPressure: pressure([8e3, 150e3], [60e3, 500e3], { gaugeBottom: [-95e3, 150e3], gaugeTop: [0, 400e3] }),
  postCoolerPressure: pressure([8e3, 150e3], [60e3, 500e3], { gaugeBottom: [-95e3, 150e3], gaugeTop: [0, 400e3] }),
  coolantPressure: pressure([-20e3, 300e3], [0, 450e3], { gaugeBottom: [-20e3, 300e3], gaugeTop: [0, 400e3] }),
  flapPosition: share([-4, 100], [0, 106]),
  ethanolPct: share([0, 100], [0, 100]),
  headTemperature: temperature([-20, 200], [30, 280]),
};
