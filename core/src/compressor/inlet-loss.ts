import { DRY_AIR_SPECIFIC_HEAT } from '../air/moist-air.js';
import { notNegative } from '../input-rules.js';
import { compress, compressorPressures } from './compression.js';

export interface InletLossInput {
  ambientPa: number;
  inletDropPa: number;
  /** Further loss before the compressor, Pa; negative where it is taken away. */
  extraPa: number;
  /** Pressure after the compressor, held, Pa absolute. */
  outletPa: number;
  inletC: number;
  efficiency: number;
  massFlowKgS: number;
  /** Effectiveness of the cooler, 0 to 1. */
  coolerEffectiveness: number;
  gamma?: number;
  specificHeat?: number;
}

export interface InletLossCost {
  ratioBefore: number;
  ratioAfter: number;
  outletRiseK: number;
  /** More power into the air, W, and as a share. */
  compressionPowerW: number;
  compressionShare: number;
  manifoldRiseK: number;
}

/**
 * What more loss before the compressor costs where the pressure after it is held: two-point evaluation (formula h7). The extra back
 * pressure of the turbine is not modelled.
 */
export function inletLossCost(input: InletLossInput): InletLossCost {
  const {
    ambientPa,
    inletDropPa,
    extraPa,
    outletPa,
    inletC,
    efficiency,
    massFlowKgS,
    coolerEffectiveness,
    specificHeat = DRY_AIR_SPECIFIC_HEAT,
  } = input;
  const at = (dropPa: number) => {
    const { ratio } = compressorPressures(ambientPa, notNegative('inlet loss', dropPa), outletPa, 0);
    return { ratio, ...compress(inletC, ratio, efficiency, massFlowKgS, { shaftEfficiency: 1, specificHeat, gamma: input.gamma }) };
  };
  const [before, after] = [at(inletDropPa), at(inletDropPa + extraPa)];
  const outletRiseK = after.outletC - before.outletC;
  const compressionPowerW = after.shaftPowerW - before.shaftPowerW;
  return {
    ratioBefore: before.ratio,
    ratioAfter: after.ratio,
    outletRiseK,
    compressionPowerW,
    compressionShare: compressionPowerW / before.shaftPowerW,
    manifoldRiseK: (1 - coolerEffectiveness) * outletRiseK,
  };
}
