// Drives whose truth is known: how often setups that are alike are told apart, and how often the interval of a drifting trim holds it.
// Usage: npm run bench:drives -- [days each]
import { isToldApart, trimHeld } from './drive-days.js';

const [days = 100] = process.argv.slice(2).map(Number);
const seeds = Array.from({ length: days }, (_, i) => i + 1);
const apart = seeds.filter((seed) => isToldApart(99 + seed)).length;
const held = seeds.filter(trimHeld).length;
console.log(`setups that are alike told apart on ${apart} of ${days} days; the drift of the trim inside its 95 % interval on ${held}`);
process.exitCode = apart > 0.2 * days || held < 0.85 * days ? 1 : 0;
