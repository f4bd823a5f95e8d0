// What CI watches: ratios within one run, never milliseconds. A ratio over its limit is measured on, since whatever runs beside it weighs on the two
// threads of an import and not on the package alone. Ends with 75 where it stays so and the host left no quiet round to judge by.
import { median } from '../core/src/numeric/means.js';
import { importBench, isQuiet, ratioOf } from './import.js';
import { leftOutShare } from './left-out-share.js';

const MOST_TIMES_THE_PACKAGE = 3;
/** Enough for a ratio that is far from its limit; who reads milliseconds takes five. */
const ROUNDS = 3;
/** Of `sysexits.h`: not this time, try again. */
const NOT_THIS_TIME = 75;

const { rounds, megabytes } = await importBench(MOST_TIMES_THE_PACKAGE, ROUNDS);
const newest = rounds.slice(-ROUNDS);
const quiet = rounds.filter(isQuiet);
const [importMs, packageMs, stolen] = (['importMs', 'packageMs', 'stolen'] as const).map((key) =>
  median(newest.map((round) => round[key])),
);
console.log(
  `import of ${megabytes.toFixed(0)} MB: ${importMs!.toFixed(0)} ms; the CSV package alone: ${packageMs!.toFixed(0)} ms; ratio ${ratioOf(newest).toFixed(2)} (under ${MOST_TIMES_THE_PACKAGE} wanted); round ${rounds.length}, ${(100 * stolen!).toFixed(0)} % of the time taken away`,
);
const isGood = ratioOf(newest) < MOST_TIMES_THE_PACKAGE;
/** Leaving a pull out must not measure the pulls again, which is most of an analysis. */
const MOST_OF_AN_ANALYSIS = 0.5;
const share = await leftOutShare();
console.log(`a pull left out takes ${(100 * share).toFixed(0)} % of a whole analysis (under ${100 * MOST_OF_AN_ANALYSIS} wanted)`);
if (isGood && share < MOST_OF_AN_ANALYSIS) process.exitCode = 0;
else process.exitCode = quiet.length >= ROUNDS || share >= MOST_OF_AN_ANALYSIS ? 1 : NOT_THIS_TIME;
