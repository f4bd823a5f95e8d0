// Brings a fresh clone to where it can run: checks what the machine lacks, installs and builds only where something changed.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
const LEAST_NODE = [20, 19];
const SOURCES = [
  'contract/src',
  'core/src',
  'server/src',
  'web/src',
  'web/index.html',
  'web/vite.config.ts',
  'web/public',
  'web/service-worker',
  'web/component-styles',
  'web/compiled-ahead',
  'scripts/build.mjs',
  'scripts/server-build.mjs',
  'package-lock.json',
];

/** Runs a command in the project folder; its output is the user's. Returns whether it went well. */
export function run(command, args, options = {}) {
  return spawnSync(command, args, { cwd: ROOT, stdio: 'inherit', ...options }).status === 0;
}

/** Ends with one line on the error output. */
export function stop(line) {
  console.error(line);
  process.exit(1);
}

const has = (command) => spawnSync('sh', ['-c', `command -v ${command}`], { stdio: 'ignore' }).status === 0;

function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  const good = major > LEAST_NODE[0] || (major === LEAST_NODE[0] && minor >= LEAST_NODE[1]);
  if (!good)
    stop(
      `Gezeit needs Node.js ${LEAST_NODE.join('.')} or newer; this is ${process.versions.node}. Install a newer one from your system's packages.`,
    );
}

/** The database package compiles itself where no ready-made binary can be had. */
function checkCompiler() {
  const missing = [
    ['python3', 'python3'],
    ['make', 'make'],
    ['g++', 'g++'],
  ].filter(([command]) => !has(command));
  if (missing.length > 0 && process.platform === 'linux') {
    stop(
      `Gezeit's database package may have to be compiled, and ${missing.map(([command]) => command).join(', ')} is missing. Run: sudo apt-get install -y ${missing.map(([, name]) => name).join(' ')}`,
    );
  }
}

/** SHA-256 of files and folders by their names and contents, hexadecimal. */
export function digestOf(paths) {
  const hash = createHash('sha256');
  const visit = (path) => {
    const full = join(ROOT, path);
    if (!existsSync(full)) return;
    if (statSync(full).isDirectory()) for (const name of readdirSync(full).sort()) visit(`${path}/${name}`);
    else hash.update(path).update(readFileSync(full));
  };
  paths.forEach(visit);
  return hash.digest('hex');
}

/** The stamp of a piece of work: its inputs are those of the last time it went well, or not. */
function stampOf(stampFile, inputs) {
  const stamp = join(ROOT, stampFile);
  const digest = digestOf(inputs);
  return {
    isDone: existsSync(stamp) && readFileSync(stamp, 'utf8') === digest,
    done() {
      mkdirSync(dirname(stamp), { recursive: true });
      writeFileSync(stamp, digest);
    },
  };
}

/** Packages that have something to do themselves once they are unpacked: the database package compiles itself. */
function madeOnTheSpot() {
  const { packages } = JSON.parse(readFileSync(join(ROOT, 'package-lock.json'), 'utf8'));
  return Object.keys(packages)
    .filter((path) => packages[path].hasInstallScript)
    .map((path) => path.replace(/^.*node_modules\//, ''));
}

/**
 * Unpacks the packages of the lock file where that is not done yet, and begins to make what they make of themselves, which takes longest and needs
 * one core only. Resolves when that is made; until then nothing that opens a database can run.
 */
export function install() {
  checkNode();
  const installed = stampOf('node_modules/.gezeit-installed', ['package-lock.json']);
  if (installed.isDone) return Promise.resolve();
  checkCompiler();
  console.log('Installing packages (a few minutes the first time)…');
  const quiet = ['--no-audit', '--no-fund', '--loglevel=error'];
  if (!run('npm', ['ci', '--include=dev', '--ignore-scripts', ...quiet])) stop('The packages could not be installed: see the lines above.');
  const making = spawn('npm', ['rebuild', ...madeOnTheSpot(), ...quiet], { cwd: ROOT, stdio: 'inherit' });
  return new Promise((resolve) =>
    making.on('close', (status) => {
      if (status !== 0)
        stop(
          'The database package failed to compile: see the lines above. Run: sudo apt-get install -y python3 make g++, and start this again.',
        );
      installed.done();
      resolve();
    }),
  );
}

/** Builds server and pages where a source changed. */
export function build() {
  const built = stampOf('dist/.gezeit-built', SOURCES);
  if (built.isDone) return;
  console.log('Building…');
  if (!run(process.execPath, ['scripts/build.mjs'])) stop('The build failed: see the lines above.');
  built.done();
}
