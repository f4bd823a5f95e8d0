import type { FlatStretch } from '../pull/channel-faults.js';
import type { PullCurve } from '../pull/curve.js';
import { interpolate } from '../numeric/interpolate.js';
import { median } from '../numeric/means.js';
import type { CheckInput } from './check.js';

/** Logarithm of the chance under which equal readings in a row are no chance, and pulls that tell how the channel should have moved. Assumptions. */
export const FLAT_RULES = { lnChance: -12, others: 2, rangeShare: 0.005 };

/** Flat stretches that are no chance: by the channel's own noise, and by how the setup's other pulls move there. */
export function flatBeyondChance({ curve, peers }: CheckInput): FlatStretch[] {
  if (!curve) return [];
  const found = curve.faults.flatMap((fault) => (fault.kind === 'flat' ? [fault] : []));
  return found.filter((flat) => flat.lnChance + lnMovement(flat, curve, peers.sameSetup) < FLAT_RULES.lnChance);
}

/** Whether another pull of the setup ends at the same value: what cannot read higher ends there every time. */
export function endsAlike({ value, step, key, atEnd }: FlatStretch, curve: PullCurve, sameSetup: readonly PullCurve[]): boolean {
  if (!atEnd) return false;
  return sameSetup.some(
    (peer) =>
      peer !== curve &&
      peer.faults.some(
        (fault) => fault.kind === 'flat' && fault.key === key && fault.atEnd === atEnd && Math.abs(fault.value - value) <= step,
      ),
  );
}

/** Logarithm of how likely standing still is where the other pulls move: a normal scatter of the channel's own, or half a per cent of its range. */
function lnMovement(flat: FlatStretch, curve: PullCurve, sameSetup: readonly PullCurve[]): number {
  const others = sameSetup.filter((peer) => peer !== curve && peer.channels.has(flat.key));
  if (others.length < FLAT_RULES.others) return 0;
  const { gridRpm, gridTimeS } = curve;
  const usualAt = (atS: number) => {
    const rpm = interpolate(gridTimeS, gridRpm, atS);
    return median(others.map((peer) => interpolate(peer.gridRpm, peer.channels.get(flat.key)!, rpm)).filter(Number.isFinite));
  };
  const usual = Array.from({ length: flat.samples }, (_, i) => usualAt(flat.fromS + (i / (flat.samples - 1)) * (flat.toS - flat.fromS)));
  const known = usual.filter(Number.isFinite);
  if (known.length < flat.samples / 2) return 0;
  const level = median(known);
  const range = rangeOf(others[0]!.channels.get(flat.key)!);
  const scatter = Math.max(flat.scatter, flat.step, FLAT_RULES.rangeShare * range);
  return -0.5 * known.reduce((sum, value) => sum + ((value - level) / scatter) ** 2, 0);
}

function rangeOf(values: Float64Array): number {
  const known = values.filter(Number.isFinite);
  return known.length === 0 ? 0 : known.reduce((a, b) => Math.max(a, b)) - known.reduce((a, b) => Math.min(a, b));
}
