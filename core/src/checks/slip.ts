import { said } from '../said.js';
import type { PullCurve } from '../pull/curve.js';
import { placeAt, type Check } from './check.js';
import { medianOfOthers, peerValues } from './peer-values.js';
import { median } from '../numeric/means.js';
import { speedRatio, type SpeedRatio } from '../pull/speed-ratio.js';

/** Change of the ratio of roller to engine speed that is slip, over so many points in a row; pulls that must be there to tell what is usual. Assumptions. */
const SLIP_RULES = { share: 0.02, points: 3, leastPeers: 3 };

/**
 * Whether the roller ran off the engine where it does not on the other pulls: a torque converter slips on every pull alike, and that is its
 * nature. With too few pulls to tell, a mechanical gearbox is held against the low-load part of its own sweep.
 */
export const slip: Check = {
  flag: 'slip',
  leavesOut: true,
  suggestsLeavingOut: false,
  touches: ['power'],
  ofSetup: { affects: ['power'], withholds: ['power'] },
  needs: ['rollerSpeed', 'vehicleSpeed'],
  inCell: { id: 'slip', label: 'Slip' },
  thresholds: [
    {
      name: 'slip',
      value: `${100 * SLIP_RULES.share} %`,
      what: 'Change of roller to engine speed against the other pulls in that gear, engine speed by engine speed.',
    },
  ],
  find({ bundle, curve, band, peers }) {
    const own = curve && speedRatio(curve);
    if (!curve || !own || own.known < 12) return null;
    const usual = usualRatio(curve, own, peers.sameGear, bundle.vehicle.gearbox ?? '');
    if (!usual) return null;
    let run = 0;
    for (let i = 0; i < own.onGrid.length; i += 1) {
      const ratio = own.onGrid[i]!;
      if (!Number.isFinite(ratio)) continue;
      const rpm = curve.gridRpm[i]!;
      const expected = usual(rpm, ratio);
      const off = expected === null ? 0 : 1 - ratio / expected;
      run = Math.abs(off) > SLIP_RULES.share && rpm <= band[1] ? run + 1 : 0;
      if (run >= SLIP_RULES.points)
        return { said: said('flag:slip', { offPct: 100 * off, atRpm: rpm }), where: placeAt(curve, 'rollerSpeed', rpm - 100, rpm + 100) };
    }
    return null;
  },
};

/** The ratio that is usual where a pull's own is so much. */
type Usual = (rpm: number, ratio: number) => number | null;

function usualRatio(curve: PullCurve, own: SpeedRatio, sameGear: readonly PullCurve[], gearbox: string): Usual | null {
  const others = sameGear.reduce((count, peer) => count + Number(peer !== curve && speedRatio(peer) !== null), 0);
  if (others + 1 >= SLIP_RULES.leastPeers) {
    // Roller speeds of devices with other units or scales are alike up to a factor: the overall ratio is taken out first.
    const relative = peerValues(sameGear, 'roller over engine speed', (peer) => {
      const peerRatio = speedRatio(peer);
      return peerRatio && peerRatio.onGrid.map((ratio) => ratio / peerRatio.overall);
    });
    return (rpm, ratio) => {
      const usual = medianOfOthers(relative, curve, rpm, ratio / own.overall, SLIP_RULES.leastPeers - 1);
      return Number.isNaN(usual) ? null : usual * own.overall;
    };
  }
  if (/auto|converter|cvt|wandler/i.test(gearbox)) return null;
  const low = own.onGrid.filter(Number.isFinite);
  const base = median(low.slice(0, Math.ceil(low.length / 4)));
  return () => base;
}
