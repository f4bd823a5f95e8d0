// How well the moment is foreseen at which a gate is met, on cool-downs of the simulated rig. Usage: npm run bench:ready-time -- [cool-downs of each gate]
import { forecastCount } from './cool-downs.js';

const [each = 100] = process.argv.slice(2).map(Number);
const { all, shown, met, promisedInVain, calledUnreachable } = forecastCount(each);
console.log(`${all} cool-downs; a range was shown in ${shown}, and met in ${met} (${((100 * met) / shown).toFixed(1)} %)`);
console.log(`a moment was given that never came: ${promisedInVain}; called out of reach and reached: ${calledUnreachable}`);
process.exitCode = met / shown < 0.9 || promisedInVain > 0 || calledUnreachable > 0.03 * all ? 1 : 0;
