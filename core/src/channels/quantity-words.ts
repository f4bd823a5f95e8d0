import type { Quantity } from '@gezeit/contract';

/** Quantities whose name does not say it plainly. */
const OWN_WORDS: Partial<Record<Quantity, string>> = {
  intakeAirTemperature: 'intake air temperature (manifold)',
  inletTemperature: 'inlet temperature (before compressor or throttle)',
  inletPressure: 'inlet pressure (before compressor or throttle)',
  coolerOutTemperature: 'charge temperature after the cooler',
  compressorOutTemperature: 'charge temperature after the compressor',
  coolingAirTemperature: 'cooling air at the core’s face',
  coolantInTemperature: 'coolant into the charge cooler',
  coolantOutTemperature: 'coolant out of the charge cooler',
  preCoolerPressure: 'pressure before the cooler',
  postCoolerPressure: 'pressure after the cooler',
  injectorTime: 'injector opening time',
  shortTermTrim: 'short-term fuel trim',
  longTermTrim: 'long-term fuel trim',
  ethanolPct: 'ethanol content',
  headTemperature: 'cylinder head temperature',
  boostPressure: 'boost pressure (against ambient)',
  manifoldPressure: 'manifold pressure (absolute)',
};

/** A quantity in words: "engine speed", "charge temperature after the cooler". */
export function quantityWords(quantity: Quantity): string {
  return OWN_WORDS[quantity] ?? quantity.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);
}
