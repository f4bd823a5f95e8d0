import type { READ_DEVICES, Quantity } from '@gezeit/contract';

export type DeviceKind = (typeof READ_DEVICES)[number];

const OF_A_DYNO: readonly Quantity[] = ['power', 'torque', 'rollerSpeed', 'correctionFactor'];
const OF_AN_ECU: readonly Quantity[] = [
  'throttle',
  'pedal',
  'ignitionAdvance',
  'knockRetard',
  'injectorTime',
  'shortTermTrim',
  'longTermTrim',
  'wastegateDuty',
  'lambda',
  'manifoldPressure',
  'boostPressure',
  'airMassFlow',
  'airMeterFrequency',
  'intakeAirTemperature',
  'oilTemperature',
  'coolantTemperature',
];
const OF_A_BOX: readonly Quantity[] = [
  'pressureDrop',
  'inletTemperature',
  'inletPressure',
  'compressorOutTemperature',
  'coolerOutTemperature',
  'compressorSpeed',
  'coolantInTemperature',
  'coolantOutTemperature',
  'coolingAirTemperature',
  'preCoolerPressure',
  'postCoolerPressure',
  'exhaustTemperature',
  'exhaustPressure',
  'coolantPressure',
  'headTemperature',
  'latitude',
  'longitude',
];
const OF_THE_AIR: readonly Quantity[] = ['ambientTemperature', 'ambientPressure', 'relativeHumidity'];

/** Which kind of device wrote a file, by what is in it. */
export function deviceKind(quantities: Iterable<Quantity | null>): DeviceKind {
  const has = new Set([...quantities].filter((quantity) => quantity !== null));
  const count = (list: readonly Quantity[]) => list.filter((quantity) => has.has(quantity)).length;
  if (has.has('power') || has.has('torque')) return count(OF_AN_ECU) > 4 ? 'ecu' : 'dyno';
  const [ecu, box] = [count(OF_AN_ECU), count(OF_A_BOX)];
  if (ecu > 0 && (ecu >= box || has.has('throttle') || has.has('ignitionAdvance'))) return 'ecu';
  if (box > 0) return 'daq';
  if (count(OF_A_DYNO) > 0) return 'dyno';
  if (count(OF_THE_AIR) > 0) return 'weather';
  return has.has('engineSpeed') || has.has('vehicleSpeed') ? 'daq' : 'unknown';
}
