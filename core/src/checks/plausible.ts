import type { Quantity } from '@gezeit/contract';

/**
 * What a channel can read in the middle of a full-throttle sweep, in the unit kept inside: far wider than what is usual, so that what lies
 * outside is another sensor, another unit or a broken one. Assumptions.
 */
export const PLAUSIBLE: Partial<Record<Quantity, readonly [low: number, high: number]>> = {
  engineSpeed: [800, 16_000],
  vehicleSpeed: [2, 120],
  rollerSpeed: [2, 120],
  power: [2_000, 1_500_000],
  torque: [10, 3_000],
  ambientTemperature: [-30, 55],
  ambientPressure: [60_000, 108_000],
  relativeHumidity: [1, 101],
  coolingAirTemperature: [-30, 90],
  manifoldPressure: [45_000, 600_000],
  boostPressure: [-40_000, 500_000],
  intakeAirTemperature: [-30, 130],
  inletTemperature: [-30, 110],
  compressorOutTemperature: [0, 280],
  coolerOutTemperature: [-20, 160],
  inletPressure: [-40_000, 130_000],
  pressureDrop: [-1_000, 80_000],
  airMassFlow: [0.004, 3],
  lambda: [0.55, 1.6],
  ignitionAdvance: [-25, 65],
  knockRetard: [-25, 25],
  injectorTime: [0.0002, 0.06],
  coolantTemperature: [20, 135],
  oilTemperature: [0, 175],
  coolantInTemperature: [-15, 95],
  coolantOutTemperature: [-15, 110],
  exhaustTemperature: [150, 1_250],
  headTemperature: [20, 320],
  ethanolPct: [0, 100],
};
