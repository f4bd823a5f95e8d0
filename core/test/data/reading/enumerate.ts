import { Random } from '../../../src/simulate/index.js';
import { HABITS, type Habit, type Key } from './habits.js';
import { TIME_FORMS, UNIT_PLACES, writeTable, type Form, type WrittenTable } from './write.js';

/** What each device of the known day logs. */
export const DEVICES: Record<string, Key[]> = {
  ecu: ['engineSpeed', 'vehicleSpeed', 'throttle', 'pedal', 'manifoldPressure', 'boostPressure', 'intakeAirTemperature', 'airMassFlow', 'lambda', 'ignitionAdvance', 'knockRetard', 'injectorTime', 'shortTermTrim', 'longTermTrim', 'coolantTemperature', 'oilTemperature', 'wastegateDuty', 'none/oilPressure', 'none/target', 'none/cam', 'none/battery', 'none/fuelPressure', 'none/load', 'none/marker'],
  dyno: ['engineSpeed', 'rollerSpeed', 'power', 'torque', 'ambientTemperature', 'ambientPressure', 'relativeHumidity'],
  box: ['engineSpeed', 'inletTemperature', 'compressorOutTemperature', 'coolerOutTemperature', 'inletPressure', 'pressureDrop/filter', 'pressureDrop/duct', 'pressureDrop/cooler', 'compressorSpeed', 'coolantInTemperature', 'coolantOutTemperature', 'exhaustTemperature', 'none/tyre', 'none/brake', 'none/steering', 'none/g', 'none/gearbox'],
};

export interface Case {
  habit: Habit;
  device: string;
  form: Form;
  way: number;
  write(): WrittenTable;
}

/** Every habit × device × place of the unit × system × way of naming, each with other times, marks and gaps in turn. */
export function* enumerateTables(): Generator<Case> {
  let turn = 0;
  for (const habit of HABITS)
    for (const [device, keys] of Object.entries(DEVICES))
      for (const units of UNIT_PLACES)
        for (const system of ['metric', 'imperial', 'bar', 'odd'] as const)
          for (let way = 0; way < 4; way += 1) {
            turn += 1;
            const seed = turn;
            const [delimiter, decimal] = MARKS[turn % MARKS.length]!;
            const time = TIME_FORMS[turn % TIME_FORMS.length]!;
            const form: Form = { delimiter, decimal, units, system, time, thousands: turn % 5 === 0, gaps: turn % 3 === 0 };
            const order = new Random(turn).chance(0.5) ? keys : [...keys].reverse();
            yield { habit, device, form, way, write: () => writeTable(habit, order, way, form, seed) };
          }
}

const MARKS: readonly [Form['delimiter'], Form['decimal']][] = [
  [',', '.'],
  [';', ','],
  ['\t', '.'],
  [';', '.'],
  ['\t', ','],
  ['|', '.'],
];
