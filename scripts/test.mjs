// npm test: everything. Installs, lint, types, unit tests, build, browser tests; the last line is "N passed, N failed".
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, install, ROOT, run } from './prepare.mjs';

const CHROMIUM = '/usr/bin/chromium';
const HEADLESS_SHELL = '/usr/bin/chromium-headless-shell';
const reports = join(ROOT, 'reports');
const bin = (name) => join(ROOT, 'node_modules/.bin', name);
let passed = 0;
let failed = 0;
/** What failed, to be named once more at the end: the middle of a long output is easily lost. */
const named = [];

function step(name, good) {
  console.log(`${good ? 'passed' : 'FAILED'}: ${name}`);
  if (good) passed += 1;
  else failed += 1;
  if (!good) named.push(name);
}

/** Runs a command beside others; resolves to whether it went well. */
function atOnce(command, args) {
  return new Promise((resolve) => {
    spawn(command, args, { cwd: ROOT, stdio: 'inherit' }).on('close', (status) => resolve(status === 0));
  });
}

/** Debian's Chromium and its headless shell, by apt where they are missing and this may; otherwise one line that says what to install. */
function chromium() {
  const isThere = () => existsSync(process.env.GEZEIT_TEST_BROWSER ?? CHROMIUM);
  if (isThere() && existsSync(HEADLESS_SHELL)) return true;
  const line = 'Chromium is missing for the browser tests. Run: sudo apt-get install -y chromium chromium-headless-shell';
  if (process.getuid?.() !== 0) return isThere() || (console.error(line), false);
  const apt = (...args) =>
    run('apt-get', ['-qq', ...args], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  const install = (name) => existsSync(`/usr/bin/${name}`) || apt('install', '-y', '--no-install-recommends', name);
  // The whole browser prints; the shell, where it can be had, is driven by the tests at half the work.
  if (apt('update') && install('chromium')) install('chromium-headless-shell');
  if (!isThere()) console.error(line);
  return isThere();
}

/** What reads a PDF's text, where it can be had: without it the tests that do so are skipped with a word. */
function pdfReader() {
  if (existsSync('/usr/bin/pdftotext') || process.getuid?.() !== 0) return;
  run('apt-get', ['-qq', 'install', '-y', '--no-install-recommends', 'poppler-utils'], { stdio: 'ignore' });
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

install();
rmSync(reports, { recursive: true, force: true });
mkdirSync(reports, { recursive: true });
// The build is one of the things tested: the command, the pages and the workers are run as they are shipped.
const [lint, types] = await Promise.all([atOnce('npm', ['run', '-s', 'lint']), atOnce('npm', ['run', '-s', 'types'])]);
step('lint, arrows between rooms, dead exports', lint);
step('types', types);
build();

// One test prints a sheet by it.
const hasChromium = chromium();
pdfReader();
run(bin('vitest'), ['run', '--reporter=default', '--reporter=json', '--outputFile.json=reports/unit.json']);
const unit = readReport('unit.json');
if (unit) {
  passed += unit.numPassedTests;
  for (const { name, status, message, assertionResults } of unit.testResults) {
    const own = assertionResults.filter((test) => test.status === 'failed');
    for (const { fullName, failureMessages } of own) named.push(`${fullName}: ${(failureMessages[0] ?? '').split('\n')[0]}`);
    if (status === 'failed' && own.length === 0) named.push(`${name}: ${(message ?? '').split('\n')[0]}`);
  }
  failed +=
    unit.numFailedTests +
    unit.testResults.filter(({ status, assertionResults }) => status === 'failed' && assertionResults.length === 0).length;
}

step('speed ratios', run(bin('tsx'), ['bench/ratios.ts']));

if (hasChromium) {
  run(bin('playwright'), ['test']);
  const browser = readReport('browser.json');
  if (browser) {
    passed += browser.stats.expected;
    // A second try is no pass, and what did not run has not passed either.
    failed += browser.stats.unexpected + browser.stats.flaky + browser.stats.skipped + browser.errors.length;
  }
} else failed += 1;

for (const name of named) console.log(`failed: ${name}`);
console.log(`${passed} passed, ${failed} failed`);
process.exitCode = failed > 0 || passed === 0 ? 1 : 0;
