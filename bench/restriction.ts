// The effective area of a section and its step with engine speed, on simulated setups whose truth is known and whose sensors are off.
// Usage: npm run bench:restriction -- [setups]
import { Random } from '@gezeit/core/simulate';
import { restrictionDay, restrictionFound } from './restriction-days.js';

const [setups = 1000] = process.argv.slice(2).map(Number);
const count = { held: 0, invented: 0, flaps: 0, found: 0, signRight: 0, within: 0 };
const halves: number[] = [];
/** Half widths as many times what the sensors alone give. */
const times: number[] = [];
for (let seed = 1; seed <= setups; seed += 1) {
  const plain = restrictionDay(seed, null);
  const found = restrictionFound(plain);
  if (found.low! <= plain.areaCm2 && plain.areaCm2 <= found.high!) count.held += 1;
  if (found.step) count.invented += 1;
  const half = (found.high! - found.low!) / 2;
  halves.push(half / found.effectiveAreaCm2!);
  const exact = restrictionFound(plain, true);
  times.push(half / Math.sqrt(half ** 2 - ((exact.high! - exact.low!) / 2) ** 2));
  const random = new Random(seed);
  const flapPct = random.between(15, 40) * (random.chance(0.8) ? -1 : 1);
  const flapped = restrictionFound(restrictionDay(seed, flapPct));
  count.flaps += 1;
  if (!flapped.step) continue;
  count.found += 1;
  if (Math.sign(flapped.step.changePct) === Math.sign(flapPct)) count.signRight += 1;
  if (Math.abs(flapped.step.changePct - flapPct) < 5) count.within += 1;
}
const pct = (part: number, of: number) => `${part} of ${of} (${((100 * part) / of).toFixed(1)} %)`;
halves.sort((a, b) => a - b);
times.sort((a, b) => a - b);
console.log(
  `half width against what the sensors alone give: median ${times[times.length >> 1]!.toFixed(2)}, 95 of 100 under ${times[Math.floor(0.95 * times.length)]!.toFixed(2)}`,
);
console.log(
  `true effective area inside the 95 % interval: ${pct(count.held, setups)}; median half width ${(100 * halves[halves.length >> 1]!).toFixed(1)} %`,
);
console.log(`steps invented: ${pct(count.invented, setups)}`);
console.log(
  `flaps of 15 % to 40 % found: ${pct(count.found, count.flaps)}, sign right ${count.signRight}, size within 5 points ${count.within}`,
);
if (count.held < 0.9 * setups || count.invented > 0.05 * setups || count.found < 0.8 * count.flaps) process.exitCode = 1;
