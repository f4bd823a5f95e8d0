// What the checks of a pull find, and what they find where nothing is: faults down to their threshold, clean pulls, and look-alikes.
// Usage: npm run bench:checks -- [faults a check] [clean days] [days a look-alike]
import { FAULTS, type StudiedFlag } from './check-cases.js';
import { checkDay, flagsOfDay } from './check-days.js';
import { LOOK_ALIKES } from './check-look-alikes.js';
import { Random } from '@gezeit/core/simulate';

const [faults = 400, cleanDays = 320, alikeDays = 20] = process.argv.slice(2).map(Number);
const studied = Object.keys(FAULTS) as StudiedFlag[];
const pct = (share: number) => `${(100 * share).toFixed(2)} %`;

console.log('| check | at 1 to 2 thresholds | at 2 to 3 thresholds |\n| --- | --- | --- |');
for (const flag of studied) {
  const score = { near: [0, 0], far: [0, 0] };
  for (let seed = 1; seed <= faults; seed += 1) {
    const times = new Random(seed * 31 + 1).between(1, 3);
    const { day, pull } = FAULTS[flag](seed, times);
    const which = times >= 2 ? score.far : score.near;
    which[1]! += 1;
    if (flagsOfDay(day).get(pull)!.includes(flag)) which[0]! += 1;
  }
  const text = ([hits, of]: number[]) => `${hits} of ${of} (${pct(hits! / of!)})`;
  console.log(`| ${flag} | ${text(score.near)} | ${text(score.far)} |`);
}

const alarms = new Map<string, number>();
let [pulls, any] = [0, 0];
for (let seed = 1; seed <= cleanDays; seed += 1) {
  for (const flags of flagsOfDay(checkDay(seed)).values()) {
    pulls += 1;
    if (flags.length > 0) any += 1;
    for (const flag of flags) alarms.set(flag, (alarms.get(flag) ?? 0) + 1);
  }
}
console.log(`\n${pulls} clean pulls of ${cleanDays} days: ${any} with any flag (${pct(any / pulls)})`);
for (const [flag, count] of [...alarms].sort((a, b) => b[1] - a[1])) console.log(`  ${flag}: ${count} (${pct(count / pulls)})`);

console.log('\n| look-alike | must not raise | days on which it did |\n| --- | --- | --- |');
for (const { name, silent, day } of LOOK_ALIKES) {
  let wrong = 0;
  for (let seed = 1; seed <= alikeDays; seed += 1) {
    const raised = new Set([...flagsOfDay(day(seed)).values()].flat());
    if (silent.some((flag) => raised.has(flag))) wrong += 1;
  }
  console.log(`| ${name} | ${silent.join(', ')} | ${wrong} of ${alikeDays} |`);
}
