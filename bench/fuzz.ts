// Hands mutated files and requests to every reader and route: npm run bench:fuzz -- SECONDS SEED (needs a build).
import { fuzzApi } from './fuzz/api.js';
import { fuzzReaders } from './fuzz/readers.js';

const [seconds = 1800, seed = 1] = process.argv.slice(2).map(Number);
const reports = { api: await fuzzApi(seconds / 2, seed), readers: fuzzReaders(seconds / 2, seed) };
console.log(JSON.stringify(reports, null, 2));
process.exitCode = reports.api.faults.length + reports.readers.faults.length > 0 ? 1 : 0;
