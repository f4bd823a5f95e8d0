import { z } from './zod.js';

/** Every quantity a logged column can be recognised as. The names are part of the exchange format. */
export const QUANTITIES = [
  'time',
  'engineSpeed',
  'vehicleSpeed',
  'rollerSpeed',
  'power',
  'torque',
  'throttle',
  'pedal',
  'ambientTemperature',
  'ambientPressure',
  'relativeHumidity',
  'coolingAirTemperature',
  'manifoldPressure',
  'boostPressure',
  'intakeAirTemperature',
  'inletTemperature',
  'compressorOutTemperature',
  'coolerOutTemperature',
  'inletPressure',
  'pressureDrop',
  'airMassFlow',
  'airMeterFrequency',
  'lambda',
  'ignitionAdvance',
  'knockRetard',
  'injectorTime',
  'shortTermTrim',
  'longTermTrim',
  'coolantTemperature',
  'oilTemperature',
  'coolantInTemperature',
  'coolantOutTemperature',
  'compressorSpeed',
  'wastegateDuty',
  'correctionFactor',
] as const;

export const quantitySchema = z.enum(QUANTITIES);
export type Quantity = z.infer<typeof quantitySchema>;
