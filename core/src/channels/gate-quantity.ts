import type { PlanGate, Quantity } from '@gezeit/contract';
import { quantityFromName } from './recognise.js';

export interface GateSource {
  quantity: Quantity;
  aboveAmbient: boolean;
}

/** The quantity that a gate reads; null for one that is typed or counted. `aboveAmbient`: its difference from the ambient air. */
export function gateQuantity({ id, label, unit, quantity: said }: PlanGate): GateSource | null {
  if (id === 'rest' || unit === 'min' || said === null) return null;
  if (said) return { quantity: said, aboveAmbient: unit === 'K' };
  const known: Record<string, Quantity> = {
    coolant: 'coolantTemperature',
    oil: 'oilTemperature',
    intake: 'intakeAirTemperature',
    inlet: 'inletTemperature',
  };
  if (unit !== '°C' && unit !== 'K') return null;
  const quantity = known[id] ?? quantityFromName(label.replace(/above ambient.*/i, 'temperature')) ?? null;
  return quantity ? { quantity, aboveAmbient: unit === 'K' } : null;
}

/** Temperatures that a part of the intake can shift by itself. */
const SHIFTED_BY_PART: readonly Quantity[] = [
  'intakeAirTemperature',
  'inletTemperature',
  'compressorOutTemperature',
  'coolerOutTemperature',
  'coolantOutTemperature',
];

/** The first gate that must be met and holds a temperature which the part can shift: what the part's own start brings is lost by it. */
export function shiftableGate(gates: readonly PlanGate[]): PlanGate | null {
  return gates.find((gate) => gate.must && SHIFTED_BY_PART.includes(gateQuantity(gate)?.quantity ?? 'time')) ?? null;
}
