import { DRY_AIR_GAS_CONSTANT } from './moist-air.js';
import { kelvin } from './saturation.js';

export interface FlowState {
  temperatureC: number;
  pressurePa: number;
}

/** Volume flow at another state, same unit as given, for the same dry-air mass (formula a6). */
export function volumeFlowAtState(volumeFlow: number, from: FlowState, to: FlowState): number {
  return volumeFlow * (from.pressurePa / to.pressurePa) * (kelvin(to.temperatureC) / kelvin(from.temperatureC));
}

/** Mass flow, kg/s, of a volume flow, m³/s, stated at a temperature and pressure (formula a6, dry air). */
export function massFlowKgS(volumeFlowM3S: number, state: FlowState): number {
  return (volumeFlowM3S * state.pressurePa) / (DRY_AIR_GAS_CONSTANT * kelvin(state.temperatureC));
}
