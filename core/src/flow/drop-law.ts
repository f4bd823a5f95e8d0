import { notNegative, positive } from '../input-rules.js';

/** Darcy–Forchheimer law of a filter or duct: Δp = a·μ·V + b·ρ·V²; a in 1/m³, b in 1/m⁴ (formula e6). */
export interface DropLaw {
  viscousPerM3: number;
  inertialPerM4: number;
}

/** Air of a reading. */
export interface GasState {
  viscosityPaS: number;
  densityKgM3: number;
}

/** Pressure drop, Pa, of a law at a volume flow, m³/s, and the local exponent of drop over flow, – (formula e6). */
export function dropOfLaw(
  { viscousPerM3, inertialPerM4 }: DropLaw,
  volumeFlowM3S: number,
  gas: GasState,
): { dropPa: number; exponent: number } {
  const viscous =
    notNegative('viscous term', viscousPerM3) * positive('viscosity', gas.viscosityPaS) * notNegative('volume flow', volumeFlowM3S);
  const inertial = notNegative('inertial term', inertialPerM4) * positive('density', gas.densityKgM3) * volumeFlowM3S ** 2;
  const dropPa = viscous + inertial;
  return { dropPa, exponent: dropPa > 0 ? (viscous + 2 * inertial) / dropPa : 2 };
}

/** Volume flow, m³/s, at which a law reaches a drop, Pa: the quadratic of formula e6 solved (formula e8). */
export function flowAtDropM3S({ viscousPerM3, inertialPerM4 }: DropLaw, dropPa: number, gas: GasState): number {
  const viscous = viscousPerM3 * gas.viscosityPaS;
  const inertial = inertialPerM4 * gas.densityKgM3;
  // Written so that a purely viscous law (inertial 0) needs no case of its own.
  return (2 * notNegative('pressure drop', dropPa)) / (viscous + Math.sqrt(viscous ** 2 + 4 * inertial * dropPa));
}

/** The inertial law of an effective area, m²: b = 1/(2A²) (formula e6). */
export function lawOfArea(areaM2: number): DropLaw {
  return { viscousPerM3: 0, inertialPerM4: 1 / (2 * positive('area', areaM2) ** 2) };
}

/** A state of flow that a drop was read at or is carried to. */
export interface FlowPoint {
  massFlowKgS: number;
  densityKgM3: number;
  viscosityPaS: number;
}

/** Pressure drop, Pa, of the same part at another mass flow and air, with an exponent of drop over flow (formula e13). */
export function dropAtOtherFlowPa(dropPa: number, from: FlowPoint, to: FlowPoint, exponent = 2): number {
  const flow = positive('air mass flow', to.massFlowKgS) / positive('air mass flow', from.massFlowKgS);
  const density = positive('density', from.densityKgM3) / positive('density', to.densityKgM3);
  const viscosity = positive('viscosity', to.viscosityPaS) / positive('viscosity', from.viscosityPaS);
  return notNegative('pressure drop', dropPa) * flow ** exponent * density * viscosity ** (2 - exponent);
}
