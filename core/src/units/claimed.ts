import type { Claim } from '@gezeit/contract';
import { GezeitError } from '../errors.js';

const KW_PER: Record<string, number> = { kW: 1, hp: 0.74569987, PS: 0.73549875, W: 0.001 };
const NM_PER: Record<string, number> = { 'N·m': 1, Nm: 1, 'lb·ft': 1.35581795, 'lb-ft': 1.35581795, 'kgf·m': 9.80665 };

/** A claimed power in kW. @throws GezeitError `unknown-unit`. */
export function claimKW(claim: Claim): number {
  const factor = KW_PER[claim.unit ?? 'kW'];
  if (factor === undefined)
    throw new GezeitError('unknown-unit', `“${claim.unit}” is no unit of power.`, 'Use kW, hp, PS or %; for torque N·m or lb·ft.');
  return (claim.value ?? 0) * factor;
}

/** Whether a claim is made in a unit of torque. */
export const isTorqueUnit = (unit: string | null | undefined): boolean => unit != null && unit in NM_PER;

/** A claimed torque in N·m. @throws GezeitError `unknown-unit`. */
export function claimNm(claim: Claim): number {
  const factor = NM_PER[claim.unit ?? 'N·m'];
  if (factor === undefined) throw new GezeitError('unknown-unit', `“${claim.unit}” is no unit of torque.`, 'Use N·m or lb·ft.');
  return (claim.value ?? 0) * factor;
}
