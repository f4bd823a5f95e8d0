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
    if (!curve || !own || own.byRpm.size < 12) return null;
    const usual = usualRatio(curve, own, peers.sameGear, bundle.vehicle.gearbox ?? '');
    if (!usual) return null;
    let run = 0;
    for (const [rpm, ratio] of own.byRpm) {
      const expected = usual(rpm);
      const off = expected === null ? 0 : 1 - ratio / expected;
      run = Math.abs(off) > SLIP_RULES.share && rpm <= band[1] ? run + 1 : 0;
      if (run >= SLIP_RULES.points)
        return { said: said('flag:slip', { offPct: 100 * off, atRpm: rpm }), where: placeAt(curve, 'rollerSpeed', rpm - 100, rpm + 100) };
    }
    return null;
  },
};

type Usual = (rpm: number) => number | null;

function usualRatio(curve: PullCurve, own: SpeedRatio, sameGear: readonly PullCurve[], gearbox: string): Usual | null {
  const others = sameGear.reduce((count, peer) => count + Number(peer !== curve && speedRatio(peer) !== null), 0);
  if (others + 1 >= SLIP_RULES.leastPeers) {
    // Roller speeds of devices with other units or scales are alike up to a factor: the overall ratio is taken out first.
    const relative = peerValues(sameGear, 'roller over engine speed', (peer) => {
      const { byRpm, overall } = speedRatio(peer) ?? { byRpm: new Map<number, number>(), overall: 1 };
      return [...byRpm].map(([rpm, ratio]) => [rpm, ratio / overall] as const);
    });
    return (rpm) => {
      const usual = medianOfOthers(relative, curve, rpm, own.byRpm.get(rpm)! / own.overall, SLIP_RULES.leastPeers - 1);
      return Number.isNaN(usual) ? null : usual * own.overall;
    };
  }
  if (/auto|converter|cvt|wandler/i.test(gearbox)) return null;
  const low = [...own.byRpm.values()];
  const base = median(low.slice(0, Math.ceil(low.length / 4)));
  return () => base;
}
