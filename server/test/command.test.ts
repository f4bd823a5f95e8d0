import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, readFileSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { bundleSchema, findingsSchema, planReportSchema, readingSchema } from '@gezeit/contract';
import { drivePairWords, equalStartText, PLAIN_FORMATTER, planReport, roadPairText } from '@gezeit/core';
import { zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { findingsTable } from '../src/cli/findings-table.js';
import { serve } from '../src/serve.js';
import { gezeitHere as gezeit } from './command-here.js';
import { DEMO_BUNDLES, filesOf, temporaryFolder } from './support.js';

const ROOT = fileURLToPath(new URL('../..', import.meta.url));
/** The command as it is shipped, which needs a build: each of its words is tried so at least once. */
const COMMAND = join(ROOT, 'server/bin/gezeit.js');
const COOLER = join(DEMO_BUNDLES, 'water-cooler-and-fuel');

function shipped(args: string[], { cwd = ROOT, env = {} }: { cwd?: string; env?: Record<string, string> } = {}) {
  const inherited: NodeJS.ProcessEnv = { ...process.env };
  delete inherited['INIT_CWD'];
  const { status, stdout, stderr } = spawnSync(process.execPath, [COMMAND, ...args], {
    cwd,
    encoding: 'utf8',
    env: { ...inherited, ...env },
  });
  return {
    status,
    stdout,
    stderr: stderr
      .split('\n')
      .filter((line) => !line.startsWith('npm warn'))
      .join('\n')
      .trim(),
  };
}

describe('gezeit analyse', () => {
  it('prints a short table', async () => {
    const { status, stdout } = await gezeit(['analyse', COOLER]);
    expect(status).toBe(0);
    expect(stdout).toContain('levelled');
    expect(stdout).toContain('withheld');
    expect(stdout.split('\n').length).toBeLessThan(60);
  });

  it('says what was found beside the power in the words of the pages', async () => {
    const airfield = join(DEMO_BUNDLES, 'airfield-feed');
    const findings = findingsSchema.parse(JSON.parse((await gezeit(['analyse', airfield, '--json'])).stdout));
    const bundle = bundleSchema.parse(JSON.parse(readFileSync(join(airfield, 'gezeit.json'), 'utf8')));
    const lines = findingsTable(bundle, findings).split('\n');
    const { head, lines: laps, note } = drivePairWords(findings.drives.pairs[0]!, PLAIN_FORMATTER);
    expect(laps.length).toBeGreaterThan(3);
    for (const line of [`${head}:`, ...[...laps, note].map((text) => `  ${text}`)]) expect(lines).toContain(line);
    expect(findings.road.pairs.length).toBeGreaterThan(1);
    for (const pair of findings.road.pairs) expect(lines).toContain(roadPairText(pair, PLAIN_FORMATTER));
    expect(lines).toContain(equalStartText(findings.comparisons[0]!, PLAIN_FORMATTER));
    expect(lines.filter((line) => /[.:]\s?\./.test(line))).toEqual([]);
  });

  it('takes no number of another unit for the weather: it says so, and judges what needs no weather', async () => {
    const folder = temporaryFolder();
    cpSync(join(DEMO_BUNDLES, 'airfield-feed'), folder, { recursive: true });
    const path = join(folder, 'gezeit.json');
    const bundle = bundleSchema.parse(JSON.parse(readFileSync(path, 'utf8')));
    for (const { ambient } of bundle.pulls) if (ambient?.pressureKPa) ambient.pressureKPa /= 100;
    writeFileSync(path, JSON.stringify(bundle));
    const { status, stdout, stderr } = await gezeit(['analyse', folder, '--json']);
    expect([status, stderr]).toEqual([0, '']);
    const { pulls, comparisons } = findingsSchema.parse(JSON.parse(stdout));
    expect(pulls.flatMap(({ warnings }) => warnings).join('\n')).toMatch(/Ambient pressure: the sheet says .*which no weather is/);
    expect(comparisons[0]!.answers.map(({ answer }) => answer)).toEqual(['not-resolved', 'gain']);
    expect(comparisons[0]!.answers[0]!.why).toMatch(/above its cold side, and that is not known/);
  });

  it('prints findings of a folder and of its zip alike, with a path relative to the folder it is called in', async () => {
    const folder = temporaryFolder();
    writeFileSync(join(folder, 'day.zip'), zipSync(Object.fromEntries(filesOf(COOLER))));
    const sub = join(folder, 'sub');
    mkdirSync(sub);
    const zipped = shipped(['analyse', '../day.zip', '--json'], { cwd: sub });
    const plain = await gezeit(['analyse', COOLER, '--json']);
    const viaNpx = await gezeit(['analyse', '../day.zip', '--json'], { INIT_CWD: sub });
    expect(findingsSchema.parse(JSON.parse(plain.stdout)).comparisons[0]!.verdict.power).toBe('withheld');
    expect(zipped.stdout).toBe(plain.stdout);
    expect(viaNpx.stdout).toBe(plain.stdout);
  });

  it('refuses bad input in one line with file, row, column and what to do, status 2', async () => {
    const folder = join(temporaryFolder(), 'bundle');
    cpSync(COOLER, folder, { recursive: true });
    const log = join(folder, 'logs/p02-dyno.csv');
    const whole = readFileSync(log, 'utf8');
    writeFileSync(log, whole.replace('\n0.100,', '\n0.100,oops'));
    expect((await gezeit(['analyse', folder])).status, 'one bad cell is a gap').toBe(0);
    writeFileSync(log, 'Time [s],Elapsed time [s],Engine speed [rpm]\n0,0,2000\n1,2,3000\n2,4,4000\n');
    const { status, stdout, stderr } = await gezeit(['analyse', folder]);
    expect(status).toBe(2);
    expect(stdout).toBe('');
    expect(stderr.split('\n').length).toBe(1);
    expect(stderr).toMatch(/logs\/p02-dyno\.csv, column Elapsed time.*contradict each other.*Ignore the wrong one/);
    expect(shipped(['analyse', '/nowhere'])).toMatchObject({ status: 2, stderr: expect.stringContaining('no such file') });
    expect((await gezeit(['analyse', log])).status).toBe(2);
  });
});

describe('gezeit read and draft', () => {
  const row = (i: number) => `${(i / 20).toFixed(2)},${i < 80 ? 1800 : i < 380 ? 1800 + (i - 80) * 15 : 6300 - (i - 380) * 40}`;
  const run = (clocks: string, cells: (i: number) => string) =>
    `${clocks},Engine speed [rpm],Wheel power [kW]\n${Array.from({ length: 480 }, (_, i) => `${cells(i)}${row(i)},${i < 80 || i >= 380 ? 0 : i / 4}`).join('\n')}\n`;
  function folderOf(files: Record<string, string>): string {
    const folder = join(temporaryFolder(), 'exports');
    mkdirSync(folder);
    for (const [name, text] of Object.entries(files)) writeFileSync(join(folder, name), text);
    return folder;
  }
  const plain = run('Time [s]', () => '');

  it('read says what files are taken for, asks what it cannot tell, and ends with 2 where nothing could be read', async () => {
    const apart = run('Clock [s],Elapsed time [s]', (i) => `${(i / 5).toFixed(2)},`);
    const folder = folderOf({ 'a.csv': plain, 'b.csv': apart });
    const { status, stdout } = shipped(['read', folder]);
    expect(status).toBe(0);
    expect(stdout).toMatch(/a\.csv: dyno, 480 rows, elapsed, 1 sweep\n/);
    expect(stdout).toMatch(/b\.csv: dyno, 480 rows, no time, 0 sweeps\n/);
    expect(stdout).toContain(
      'question: Two time columns of b.csv contradict each other: which one is right? Clock [s] or Elapsed time [s]',
    );
    const reading = readingSchema.parse(JSON.parse((await gezeit(['read', folder, '--json'])).stdout));
    expect(reading.questions.map(({ about }) => about)).toEqual(['which-clock']);
    expect((await gezeit(['read', folderOf({ 'b.csv': apart })])).status).toBe(2);
  });

  it('draft writes a bundle of the files, with the setups that their names tell, and what is left to say', async () => {
    const names = ['warmup.csv', 'cone_1.csv', 'cone_2.csv', 'stock_1.csv', 'stock_2.csv'];
    // A file that stands there twice is one pull.
    const textOf = (name: string) => plain.replace('1800,', `${1700 + 10 * names.indexOf(name)},`);
    const folder = folderOf(Object.fromEntries(names.map((name) => [name, textOf(name)])));
    const out = join(temporaryFolder(), 'bundle');
    const { status, stdout } = shipped(['draft', folder, '--out', out]);
    expect([status, stdout]).toEqual([0, expect.stringContaining('5 files, 5 pulls')]);
    const draft = JSON.parse(readFileSync(join(out, 'gezeit.json'), 'utf8')) as { pulls: { startedAt: unknown }[] };
    expect(draft.pulls.map(({ startedAt }) => startedAt)).toEqual(names.map(() => null));
    const bundle = bundleSchema.parse({ ...draft, pulls: draft.pulls.map((pull) => ({ ...pull, startedAt: '2026-03-04T09:00:00Z' })) });
    expect(bundle.setups.map(({ id, name, reference }) => [id, name, reference])).toEqual([
      ['A', 'Stock', true],
      ['B', 'Cone', false],
    ]);
    const of = bundle.pulls.map(({ setup, kind, logs }) => `${logs[0]!.file} ${kind === 'conditioning' ? kind : setup}`).sort();
    expect(of).toEqual(
      ['cone_1.csv B', 'cone_2.csv B', 'stock_1.csv A', 'stock_2.csv A', 'warmup.csv conditioning'].map((text) => `logs/${text}`),
    );
    for (const name of names) expect(readFileSync(join(out, 'logs', name), 'utf8')).toBe(textOf(name));
    // With something left to say it is shown, and not judged.
    const { status: analysed, stdout: findings } = await gezeit(['analyse', out, '--json']);
    expect(analysed).toBe(0);
    expect(findingsSchema.parse(JSON.parse(findings)).comparisons).toEqual([]);
    expect(await gezeit(['draft', folder, '--out', out])).toMatchObject({ status: 2, stderr: expect.stringContaining('not empty') });
  });
});

describe('gezeit plan', () => {
  const AIRBOX = join(DEMO_BUNDLES, 'sealed-airbox');

  it('prints the report of the plan in the exchange format, the same as the screen’s function gives', async () => {
    const { status, stdout } = shipped(['plan', AIRBOX, '--json']);
    expect(status).toBe(0);
    const bundle = bundleSchema.parse(JSON.parse(readFileSync(join(AIRBOX, 'gezeit.json'), 'utf8')));
    expect(planReportSchema.parse(JSON.parse(stdout))).toEqual(planReport(bundle));
    expect((await gezeit(['plan', AIRBOX])).stdout).toMatch(/B against A: recognises \d\.\d\d\u00a0%/);
  });

  it('says what to do where there is no plan, nor a path, nor such a word', async () => {
    expect(await gezeit(['plan', COOLER])).toMatchObject({ status: 2, stderr: expect.stringContaining('holds no plan') });
    expect(await gezeit(['plan'])).toMatchObject({ status: 2, stderr: expect.stringContaining('needs a path') });
    expect(await gezeit(['plam', COOLER])).toMatchObject({ status: 2, stderr: expect.stringContaining('"plam" is no command') });
    expect(await gezeit(['plan', COOLER, '--jsn'])).toMatchObject({ status: 2, stderr: expect.stringContaining('--jsn') });
  });
});

describe('help', () => {
  it.each([[[]], [['--help']], [['plan', '--help']], [['draft', '--help', 'x']], [['plam', '--help']]])(
    '%j names every command',
    async (args) => {
      const { status, stdout, stderr } = await gezeit(args);
      expect([status, stderr]).toEqual([0, '']);
      for (const word of ['analyse', 'plan', 'read', 'draft', 'import', 'serve', 'key', 'backup', 'restore'])
        expect(stdout).toMatch(new RegExp(`^gezeit ${word}\\b`, 'm'));
    },
  );
});

describe('import, backup and restore', () => {
  it('keep everything in one file and bring it back', async () => {
    const folder = temporaryFolder();
    const env = { GEZEIT_DATA: join(folder, 'data') };
    // Of several, what stands before one that cannot be read is kept.
    const imported = shipped(['import', COOLER, '/nowhere'], { env });
    expect(imported).toMatchObject({ status: 2, stdout: expect.stringContaining('imported: programme') });
    expect(imported.stderr).toContain('no such file');
    expect((await gezeit(['import', COOLER], env)).stdout).toContain('already imported');
    const backup = join(folder, 'backup.file');
    expect(shipped(['backup', backup], { env }).status).toBe(0);
    expect(await gezeit(['backup', backup], env)).toMatchObject({ status: 2, stderr: expect.stringContaining('Choose another name') });
    const elsewhere = { GEZEIT_DATA: join(folder, 'elsewhere') };
    expect(shipped(['restore', backup], { env: elsewhere }).stdout).toContain('restored');
    expect((await gezeit(['import', COOLER], elsewhere)).stdout).toContain('already imported');
    expect(await gezeit(['restore', join(COOLER, 'gezeit.json')], elsewhere)).toMatchObject({
      status: 2,
      stderr: expect.stringContaining('no backup'),
    });
    expect((await gezeit(['import', COOLER], elsewhere)).stdout).toContain('already imported');
  }, 60_000);
});

describe('starting', () => {
  it('says in one line what to run where nothing is built, also from a sub-folder', () => {
    const clone = temporaryFolder();
    mkdirSync(join(clone, 'server/bin'), { recursive: true });
    cpSync(join(ROOT, 'server/bin/gezeit.js'), join(clone, 'server/bin/gezeit.js'));
    writeFileSync(join(clone, 'package.json'), '{ "type": "module" }');
    symlinkSync(join(ROOT, 'node_modules'), join(clone, 'node_modules'));
    const { status, stderr } = spawnSync(process.execPath, ['bin/gezeit.js', 'analyse', 'x'], {
      cwd: join(clone, 'server'),
      encoding: 'utf8',
    });
    expect(status).toBe(2);
    expect(stderr.trim()).toBe('gezeit: not built yet. Run "npm run build" in the project folder first.');
  });

  it('refuses to listen off loopback', async () => {
    await expect(serve({ folder: temporaryFolder(), host: '0.0.0.0', pages: null, version: 'test' })).rejects.toMatchObject({
      code: 'off-loopback',
    });
    expect((await gezeit(['serve', '--host', '0.0.0.0'], { GEZEIT_DATA: temporaryFolder() })).status).toBe(2);
  });

  it('takes a free port where the usual one is taken, and cleans up when it stops', async () => {
    const { default: pino } = await import('pino');
    const quiet = { pages: null, version: 'test', log: pino({ level: 'silent' }) };
    const folder = temporaryFolder();
    const first = await serve({ folder: temporaryFolder(), port: 0, ...quiet });
    const taken = Number(new URL(first.address).port);
    const second = await serve({ folder, port: taken, ...quiet });
    expect(second.address).not.toBe(first.address);
    expect((await fetch(`${second.address}api/health`)).status).toBe(200);
    await Promise.all([first.close(), second.close()]);
    const again = await serve({ folder, port: 0, ...quiet });
    await again.close();
  });
});
