// What CI watches: ratios within one run, never milliseconds.
import { importBench } from './import.js';

const MOST_TIMES_THE_PACKAGE = 3;
const { packageMs, importMs, ratio, megabytes } = await importBench();
console.log(
  `import of ${megabytes.toFixed(0)} MB: ${importMs.toFixed(0)} ms; the CSV package alone: ${packageMs.toFixed(0)} ms; ratio ${ratio.toFixed(2)} (under ${MOST_TIMES_THE_PACKAGE} wanted)`,
);
process.exitCode = ratio < MOST_TIMES_THE_PACKAGE ? 0 : 1;
