// Sentences with a figure held against days whose truth is known: npm run bench:claims -- [DAYS] [FIRST SEED].
import { claimStudy, mostWrong, together } from './claim-days.js';

const [days = 70, firstSeed = 61_000] = process.argv.slice(2).map(Number);
const study = claimStudy(firstSeed, days);
for (const kind of ['false', 'true'] as const) {
  const all = together(study[kind]);
  for (const [name, { claims, wrong, held }] of [...Object.entries(study[kind]), ['all', all] as const])
    console.log(`${kind}, ${name}: ${claims} claims, ${held} may be said, ${wrong} wrong (at most ${mostWrong(claims).toFixed(1)})`);
  if (all.wrong > mostWrong(all.claims)) process.exitCode = 1;
}
