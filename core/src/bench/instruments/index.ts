import type { Instrument } from '../instrument.js';
import { airDemandInstrument } from './air-demand.js';
import { areasInstrument } from './areas.js';
import { chargeVolumeInstrument } from './charge-volume.js';
import { compressorInstrument } from './compressor.js';
import { condensationInstrument } from './condensation.js';
import { coolerInstrument } from './cooler.js';
import { coreRecoveryInstrument } from './core-recovery.js';
import { filterInstrument } from './filter.js';
import { flowBenchInstrument } from './flow-bench.js';
import { fuelWitnessInstrument } from './fuel-witness.js';
import { intakeSourcesInstrument } from './intake-sources.js';
import { leakTestInstrument } from './leak-test.js';
import { meterHousingInstrument } from './meter-housing.js';
import { openingInstrument } from './opening.js';
import { orificeMeterInstrument } from './orifice-meter.js';
import { powerLevelInstrument } from './power-level.js';
import { waterCircuitInstrument } from './water-circuit.js';

/** Every instrument of the bench, in the order of the air's way; what belongs to the whole way comes first and last. */
export const INSTRUMENTS: readonly Instrument[] = [
  airDemandInstrument,
  intakeSourcesInstrument,
  openingInstrument,
  flowBenchInstrument,
  filterInstrument,
  meterHousingInstrument,
  orificeMeterInstrument,
  fuelWitnessInstrument,
  compressorInstrument,
  coolerInstrument,
  waterCircuitInstrument,
  chargeVolumeInstrument,
  condensationInstrument,
  coreRecoveryInstrument,
  areasInstrument,
  powerLevelInstrument,
  leakTestInstrument,
];

export function instrumentById(id: string): Instrument | null {
  return INSTRUMENTS.find((instrument) => instrument.id === id) ?? null;
}
