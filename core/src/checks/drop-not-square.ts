import { lawPoints, sectionsLogged } from '../restriction/section-law.js';
import { stepOf, STEP_RULES } from '../restriction/section-step.js';
import { said } from '../said.js';
import { placeAt, type Check } from './check.js';

export const dropNotSquare: Check = {
  flag: 'drop-not-square',
  leavesOut: false,
  suggestsLeavingOut: false,
  touches: ['restriction'],
  ofSetup: null,
  needs: ['pressureDrop'],
  inCell: null,
  thresholds: [
    {
      name: 'drop does not follow the square of flow',
      value: `${100 * STEP_RULES.share} %`,
      what: 'A step of a section’s drop at one engine speed, against one law of flow and its square: a flap, a second inlet, a hose that collapses.',
    },
  ],
  find({ bundle, assumptions, curve }) {
    if (!curve) return null;
    const steps = sectionsLogged(curve).flatMap((section) => {
      const points = lawPoints(bundle.vehicle, assumptions.sensors.filling, { curve, air: curve.air }, section);
      const step = points && stepOf([points]);
      return step ? [{ section, ...step }] : [];
    });
    if (steps.length === 0) return null;
    return {
      said: said('flag:drop-not-square', { sections: steps.map(({ section, atRpm, stepPct }) => ({ section, atRpm, stepPct })) }),
      where: steps.flatMap(({ section, atRpm }) =>
        placeAt(curve, section ? `pressureDrop/${section}` : 'pressureDrop', atRpm - 100, atRpm + 100),
      ),
    };
  },
};
