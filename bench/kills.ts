// Kills a working server again and again: npm run bench:kills -- ROUNDS SEED (needs a build; as root also with a disk that fills up).
import { killMigrations } from './kills/migrations.js';
import { killRounds } from './kills/rounds.js';

const [rounds = 300, seed = 1] = process.argv.slice(2).map(Number);
const report = await killRounds(rounds, seed, (line) => console.log(line));
const migrations = await killMigrations(Math.ceil(rounds / 5), seed);
console.log(JSON.stringify({ ...report, migrations }, null, 2));
process.exitCode = report.faults.length + migrations.faults.length > 0 ? 1 : 0;
