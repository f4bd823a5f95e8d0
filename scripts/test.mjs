// npm test: everything. Installs, lint, types, unit tests, build, browser tests; the last line is "N passed, N failed".
import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { seededFolder } from '../e2e/seed.mjs';
import { machineSpeed } from './machine-speed.mjs';
import { install, ROOT, run } from './prepare.mjs';
import { watchStolenTime } from './stolen-time.mjs';
import { installSystemPackages } from './system-packages.mjs';

const reports = join(ROOT, 'reports');
const bin = (name) => join(ROOT, 'node_modules/.bin', name);
let passed = 0;
let failed = 0;
/** What failed, to be named once more at the end: the middle of a long output is easily lost. */
const named = [];

/** With this status a check says that the host did not let it judge (`bench/ratios.ts`): neither passed nor failed, and named at the end. */
const NOT_THIS_TIME = 75;

function step(name, status) {
  if (status === 0) {
    passed += 1;
    console.log(`passed: ${name}`);
    return;
  }
  if (status === NOT_THIS_TIME) named.push(`not measured, the host took too much of the time away: ${name}`);
  else {
    failed += 1;
    named.push(`failed: ${name}`);
  }
  console.log(named.at(-1));
}

/** Runs commands, two at a time, what is under way already being one of them; resolves to the status of each. */
async function twoAtATime(underWay, commands) {
  const ended = new Map();
  const waiting = Object.entries(commands);
  const lane = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) {
      const [name, [command, ...args]] = next;
      const child = spawn(command, args, { cwd: ROOT, stdio: 'inherit' });
      ended.set(name, await new Promise((resolve) => child.on('close', resolve)));
    }
  };
  await Promise.all([lane(), underWay.then(lane)]);
  return ended;
}

function readReport(file) {
  try {
    return JSON.parse(readFileSync(join(reports, file), 'utf8'));
  } catch {
    console.log(`FAILED: there is no report ${file}`);
    failed += 1;
    return null;
  }
}

/** Counts the tests of a run by its report, and keeps by name what failed; a run that failed beside its tests has failed too. */
function countUnit(name, status, report) {
  const before = failed;
  countTests(readReport(report));
  if (status !== 0 && failed === before) step(name, status);
}

function countTests(unit) {
  if (!unit) return;
  passed += unit.numPassedTests;
  for (const { name, status, message, assertionResults } of unit.testResults) {
    const own = assertionResults.filter((test) => test.status === 'failed');
    for (const { fullName, failureMessages } of own) named.push(`failed: ${fullName}: ${(failureMessages[0] ?? '').split('\n')[0]}`);
    if (status === 'failed' && own.length === 0) named.push(`failed: ${name}: ${(message ?? '').split('\n')[0]}`);
  }
  failed +=
    unit.numFailedTests +
    unit.testResults.filter(({ status, assertionResults }) => status === 'failed' && assertionResults.length === 0).length;
}

/** What failed once more by name, and the counts. */
function finish() {
  took();
  for (const line of named) console.log(line);
  console.log(`${passed} passed, ${failed} failed`);
  process.exit(failed > 0 || passed === 0 ? 1 : 0);
}

const minutes = (ms) => (ms / 60_000).toFixed(1);
const beganInstall = Date.now();
rmSync(reports, { recursive: true, force: true });
mkdirSync(reports, { recursive: true });
let began = beganInstall;
const systemInstalled = installSystemPackages();
const unpacked = install();
let hasBrowser;
const installed = Promise.all([unpacked, systemInstalled()]).then(([, found]) => {
  hasBrowser = found;
  began = Date.now();
  console.log(`installed in ${minutes(began - beganInstall)} min`);
});
let stolen = watchStolenTime();
function took() {
  const { rootsMs, stepNs } = machineSpeed();
  const speed = `a million square roots in ${rootsMs.toFixed(1)} ms, ${stepNs.toFixed(0)} ns a step through 4 MB of memory, ${(100 * stolen()).toFixed(0)} % of the time taken away by the host`;
  stolen = watchStolenTime();
  console.log(`${minutes(Date.now() - began)} min since the install, ${minutes(Date.now() - beganInstall)} min in all (${speed})`);
}
const script = (name) => ['npm', 'run', '-s', name];
/** Some of the tests of parts, with a report of their own. */
const unitTests = (report, ...args) => [
  bin('vitest'),
  'run',
  ...args,
  '--reporter=default',
  '--reporter=json',
  `--outputFile.json=reports/${report}`,
];
const HALVES = { 'tests of the core, one half': 1, 'tests of the core, the other': 2 };
const half = (part) => unitTests(`core-${part}.json`, '--project=core', '--maxWorkers=1', `--shard=${part}/2`);
// What needs no database begins while the package for it still compiles, which keeps one core busy for minutes: what takes longest first, the tests
// of the core. The build is one of the things tested: the command, the pages and the workers are run as they are shipped.
const checks = await twoAtATime(installed, {
  ...Object.fromEntries(Object.entries(HALVES).map(([name, part]) => [name, half(part)])),
  types: script('types'),
  rules: script('rules'),
  formatting: script('formatting'),
  'the build': [process.execPath, 'scripts/build-changed.mjs'],
  'arrows between rooms': script('arrows'),
  'dead exports': script('unused'),
  // Reading them once leaves them translated for the runner's processes.
  'the browser tests can be read': ['sh', '-c', `"${bin('playwright')}" test --list > /dev/null`],
});
// By itself: an import takes two threads, the package alone one, and what they share with others weighs on the ratio.
const measured = await twoAtATime(Promise.resolve(), { 'speed ratios': [bin('tsx'), 'bench/ratios.ts'] });
for (const [name, status] of [...checks, ...measured])
  if (name in HALVES) countUnit(name, status, `core-${HALVES[name]}.json`);
  else step(name, status);
took();
if (checks.get('the build') !== 0) finish();

// What both kinds of tests begin with. Where it fails the tests try themselves and say why.
const seed = await seededFolder().catch(() => undefined);
process.on('exit', () => seed && rmSync(seed, { recursive: true, force: true }));
const env = seed ? { ...process.env, GEZEIT_E2E_SEED: seed } : process.env;
const [vitest, ...args] = unitTests('unit.json', '--project=server', '--project=pages');
countUnit('tests of the server and of the pages', run(vitest, args, { env }) ? 0 : 1, 'unit.json');
took();

if (hasBrowser) {
  run(bin('playwright'), ['test'], { env });
  const browser = readReport('browser.json');
  if (browser) {
    passed += browser.stats.expected;
    // A second try is no pass, and what did not run has not passed either.
    failed += browser.stats.unexpected + browser.stats.flaky + browser.stats.skipped + browser.errors.length;
  }
} else failed += 1;

finish();
