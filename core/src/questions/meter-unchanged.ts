import { airAgainstFuel } from '../compare/clouds.js';
import { MEASURED_RULES } from '../judge/confound-rules.js';
import { loggedLimit } from './limit.js';

/** Does the air meter read as before, against the fuel? The limit is the one from which on its disagreement is reported as a cloud. */
export const meterUnchanged = loggedLimit({
  kind: 'meter-unchanged',
  of: 'airMeter',
  limit: { smallest: 100 * MEASURED_RULES.airMeter, unit: 'pct' },
  channels: ['airMassFlow', 'injectorTime', 'lambda'],
  value: (entry, band) => {
    const ratio = airAgainstFuel(entry, band);
    return ratio === null ? null : 100 * ratio;
  },
});
