import { onBand, smoothed } from '../pull/band.js';
import { mean } from '../numeric/means.js';
import { said } from '../said.js';
import { isHeld } from './boost-low.js';
import { placeAt, type Check } from './check.js';
import { atPlaces, placesOnGrid, withoutCourse } from './shape.js';

/** Mean manifold pressure off its target, and how far it wanders about its own course once it is reached: shares. Assumptions. */
const BOOST_RULES = { offShare: 0.04, wanderShare: 0.02, reachedShare: 0.97, leastPoints: 30, smoothedRpm: 100 };

export const boostOffTarget: Check = {
  flag: 'boost-off-target',
  leavesOut: false,
  suggestsLeavingOut: false,
  touches: ['power', 'temperature'],
  ofSetup: null,
  needs: ['manifoldPressure', 'boostPressure'],
  inCell: null,
  thresholds: [
    {
      name: 'boost off target',
      value: `${100 * BOOST_RULES.offShare} %`,
      what: 'Mean manifold pressure in the band against the setup’s boost target, where one is stated.',
    },
    {
      name: 'boost wanders',
      value: `± ${100 * BOOST_RULES.wanderShare} %`,
      what: 'Of manifold pressure about its own straight course in the band, from where boost is reached.',
    },
  ],
  find({ bundle, curve, band, setup }) {
    const manifold = curve?.channels.get('manifoldPressure');
    if (!curve || !manifold || !isHeld(bundle)) return null;
    const values = onBand(curve, manifold, band).filter(Number.isFinite);
    const targetPa = 1000 * Number(setup?.state['boostTargetKPa'] ?? Number.NaN);
    const meanPa = mean(values);
    if (targetPa > 0 && Math.abs(meanPa / targetPa - 1) > BOOST_RULES.offShare)
      return {
        said: said('flag:boost-off-target', { meanPa, targetPa, wanderPct: null }),
        where: placeAt(curve, 'manifoldPressure', ...band),
      };
    const { gridRpm } = curve;
    const reached = manifold.findIndex((pressurePa) => pressurePa >= BOOST_RULES.reachedShare * meanPa);
    const inside = placesOnGrid(
      gridRpm.length,
      (i) => i >= reached + 8 && gridRpm[i]! >= band[0] && gridRpm[i]! <= band[1] && Number.isFinite(manifold[i]!),
    );
    if (reached < 0 || inside.length < BOOST_RULES.leastPoints) return null;
    const x = atPlaces(inside, gridRpm);
    const shares = atPlaces(inside, manifold).map((pressurePa) => pressurePa / meanPa);
    const course = smoothed(shares, BOOST_RULES.smoothedRpm);
    const left = withoutCourse(x, course).slice().sort();
    const half = (left[Math.floor(0.975 * (left.length - 1))]! - left[Math.ceil(0.025 * (left.length - 1))]!) / 2;
    if (half <= BOOST_RULES.wanderShare) return null;
    return {
      said: said('flag:boost-off-target', { meanPa, targetPa: null, wanderPct: 100 * half }),
      where: placeAt(curve, 'manifoldPressure', x[0]!, x.at(-1)!),
    };
  },
};
