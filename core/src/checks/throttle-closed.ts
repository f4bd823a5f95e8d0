import { said } from '../said.js';
import type { Band } from '../pull/band.js';
import type { PullCurve } from '../pull/curve.js';
import { placeAt, type Check } from './check.js';

/** Throttle below this with the pedal down is closed by the engine control, %; reported from this share of the band on. Assumptions. */
const THROTTLE_RULES = { fullThrottlePct: 95, pedalDownPct: 90, closedShare: 0.02 };

/** Where the engine control closes the throttle within a band: the first engine speed and the share; null where it does not, or is not logged. */
export function throttleClosing(curve: PullCurve, band: Band): { fromRpm: number; toRpm: number; share: number } | null {
  const throttle = curve.channels.get('throttle');
  if (!throttle) return null;
  const pedal = curve.channels.get('pedal');
  let inBand = 0;
  const closed: number[] = [];
  curve.gridRpm.forEach((rpm, i) => {
    if (rpm < band[0] || rpm > band[1]) return;
    inBand += 1;
    const isDown = !pedal || !(pedal[i]! < THROTTLE_RULES.pedalDownPct);
    if (throttle[i]! < THROTTLE_RULES.fullThrottlePct && isDown) closed.push(rpm);
  });
  if (closed.length === 0 || closed.length < THROTTLE_RULES.closedShare * inBand) return null;
  return { fromRpm: closed[0]!, toRpm: closed.at(-1)!, share: closed.length / inBand };
}

export const throttleClosed: Check = {
  flag: 'throttle-closed',
  leavesOut: true,
  suggestsLeavingOut: false,
  touches: ['power'],
  // What a setup's closed throttle does to the band is said with the band itself.
  ofSetup: null,
  needs: ['throttle', 'pedal'],
  inCell: { id: 'throttle', label: 'Full throttle' },
  thresholds: [
    {
      name: 'full throttle',
      value: `${THROTTLE_RULES.fullThrottlePct} %`,
      what: `Less with the pedal down over ${100 * THROTTLE_RULES.closedShare} % of the band is a closed throttle.`,
    },
  ],
  find({ curve, band }) {
    const closing = curve && throttleClosing(curve, band);
    if (!closing) return null;
    const { fromRpm, toRpm, share } = closing;
    return {
      said: said('flag:throttle-closed', { underPct: THROTTLE_RULES.fullThrottlePct, sharePct: 100 * share, fromRpm }),
      where: placeAt(curve, 'throttle', fromRpm, toRpm),
    };
  },
};
