import type { Channels } from '@gezeit/contract';
import { describe, expect, it } from 'vitest';
import { readingOf, readLog, readLoose } from '../src/index.js';

// A dropped file that leaves open when its rows were: what it holds is shown, it takes part in no pull, and a word by hand settles it.

const RATE_HZ = 20;
/** Cruising, a sweep at full throttle, and down again: no curve over engine speed. */
const SAMPLES = Array.from({ length: 480 }, (_, i) => {
  const speed = i < 80 ? 1900 + (i % 7) : i < 380 ? 1900 + (i - 80) * 15 : 6400 - (i - 380) * 40;
  return { s: i / RATE_HZ, speed, open: i >= 80 && i < 380 };
});

/** A full-throttle run with these columns of time beside engine speed, boost and air temperature. */
function run(times: Record<string, (s: number, i: number) => number | string>, file = 'run.csv') {
  const rows = SAMPLES.map(({ s, speed, open }, i) =>
    [...Object.values(times).map((of) => of(s, i)), speed, open ? 95 : 2, (40 + 0.01 * i).toFixed(2)].join(','),
  );
  const text = `${[...Object.keys(times), 'Engine speed [rpm]', 'Boost [kPa]', 'Intake air temperature [°C]'].join(',')}\n${rows.join('\n')}\n`;
  return { file, bytes: new TextEncoder().encode(text), sha256: file };
}
const read = (loose: ReturnType<typeof run>[], channels: Channels | null = null) => {
  const files = loose.map((entry) => readLoose(entry, { channels }));
  return { files, reading: readingOf(files) };
};
const seconds = (s: number) => s.toFixed(3);
/** A second counter that somebody's logger runs three times too fast. */
const fast = (s: number) => (3 * s).toFixed(3);

describe('two time columns at odds', () => {
  const apart = { 'Time [s]': seconds, 'Elapsed time [s]': fast };

  it('are asked about once for all files that have them, which show their columns and are in no pull', () => {
    const { reading } = read([run(apart, 'a.csv'), run(apart, 'b.csv')]);
    expect(reading.questions).toEqual([
      {
        about: 'which-clock',
        what: expect.stringContaining('2 files'),
        choices: ['Time [s]', 'Elapsed time [s]'],
        files: ['a.csv', 'b.csv'],
      },
    ]);
    expect(reading.pulls).toEqual([]);
    for (const file of reading.files) {
      expect(file.columns.map(({ quantity }) => quantity)).toEqual([
        'time',
        'time',
        'engineSpeed',
        'boostPressure',
        'intakeAirTemperature',
      ]);
      expect([file.time, file.sweeps]).toEqual([null, []]);
      expect(file.problems[0]!.what).toContain('"Time [s]" covers 23.9 s, "Elapsed time [s]" 71.8 s');
    }
    expect(reading.unmatched.map(({ file, why }) => [file, why])).toEqual(
      reading.files.map(({ file, problems }) => [file, problems[0]!.what]),
    );
  });

  it.each([
    ['Time [s]', 1],
    ['Elapsed time [s]', 3],
  ] as const)('%s counts where the other is ignored', (right, times) => {
    const wrong = Object.keys(apart).find((header) => header !== right)!;
    const { reading } = read([run(apart)], { 'file:run.csv': { [wrong]: { ignore: true } } });
    expect([reading.questions, reading.unmatched]).toEqual([[], []]);
    const [sweep] = reading.files[0]!.sweeps;
    expect(sweep!.endS - sweep!.startS).toBeCloseTo(times * 15, -0.5);
    expect(reading.pulls).toHaveLength(1);
  });

  it.each([
    ['its unit is put right', { 'Elapsed time [s]': { quantity: 'time' as const, unit: 'ms' } }, (s: number) => (1000 * s).toFixed(0)],
    ['it is said of the whole device', { 'Elapsed time [s]': { ignore: true } }, fast],
    ['it is called without its unit', { 'Elapsed time': { ignore: true } }, fast],
  ])('are none any more where %s', (_, said, elapsed) => {
    const loose = run({ 'Time [s]': seconds, 'Elapsed time [s]': elapsed });
    expect(read([loose]).reading.questions).toHaveLength(1);
    const { device } = read([loose]).reading.files[0]!;
    expect(read([loose], { [device]: said }).reading).toMatchObject({ questions: [], unmatched: [], pulls: [{}] });
  });

  it('of three, each that is at odds is asked about in its turn', () => {
    const loose = run({ ...apart, 'Log time [s]': (s) => (7 * s).toFixed(3) });
    const [first] = read([loose]).reading.questions;
    expect(first!.choices).toEqual(['Time [s]', 'Elapsed time [s]']);
    const ignored: Record<string, { ignore: true }> = { 'Elapsed time [s]': { ignore: true } };
    const [second] = read([loose], { 'file:run.csv': ignored }).reading.questions;
    expect(second!.choices).toEqual(['Time [s]', 'Log time [s]']);
    const last = read([loose], { 'file:run.csv': { ...ignored, 'Log time [s]': { ignore: true } } }).reading;
    expect([last.questions, last.pulls.length]).toEqual([[], 1]);
  });

  it('of one name cannot be told apart by hand: the file is refused', () => {
    const text = new TextDecoder().decode(run(apart).bytes).replace('Elapsed time [s]', 'Time [s]');
    const { files, reading } = read([{ file: 'run.csv', bytes: new TextEncoder().encode(text), sha256: '' }]);
    expect([files[0]!.report.columns, reading.questions]).toEqual([[], []]);
    expect(files[0]!.report.problems[0]!.what).toContain('contradict each other');
  });

  it('a file of them takes no other file with it', () => {
    const { reading } = read([run(apart, 'a.csv'), run({ 'Time [s]': seconds }, 'b.csv')]);
    expect(reading.pulls.map(({ members }) => members.map(({ file }) => file))).toEqual([['b.csv']]);
  });
});

describe('a time that nobody knows for one', () => {
  const loose = run({ Zählwerk: (s, i) => (s + (i % 5) * 0.08).toFixed(3) });

  it('leaves its file with its columns, and what to do', () => {
    const { reading } = read([loose]);
    const [file] = reading.files;
    expect(file!.columns.map(({ header }) => header)).toContain('Zählwerk');
    expect(file!.problems[0]!.todo).toMatch(/Say which column is the time/);
    expect([file!.time, file!.sweeps, reading.pulls, reading.unmatched.length]).toEqual([null, [], [], 1]);
  });

  it('is the time once somebody says so', () => {
    const { reading } = read([loose], { 'file:run.csv': { Zählwerk: { quantity: 'time', unit: 's' } } });
    expect(reading.files[0]!.time).toMatchObject({ kind: 'elapsed', columns: [0] });
    expect([reading.pulls.length, reading.unmatched]).toEqual([1, []]);
  });
});

describe('a column that only counts rows', () => {
  const problemsOf = (times: Parameters<typeof run>[0]) => read([run(times)]).reading.files[0]!.problems.map(({ what }) => what);

  it.each(['Zählwerk', 'Index', 'Sample', 'Time', 'Counter', 'Row'])(
    '"%s" is named where no sweep of the engine takes that long',
    (header) => {
      const { reading } = read([run({ [header]: (_, i) => i })]);
      const [file] = reading.files;
      expect(file!.sweeps).toEqual([]);
      const told = file!.problems.map(({ what }) => what).join('\n');
      expect(told).toMatch(
        /rises by one from row to row, and may only count them: read as seconds, no sweep of the engine is quick enough|No column of it was understood as time/,
      );
    },
  );

  it('is no matter beside a clock, nor where it is one sample a second', () => {
    expect(problemsOf({ 'Time [s]': seconds, Index: (_, i) => i }).join()).not.toContain('count');
    const rows = Array.from({ length: 60 }, (_, i) => [
      i,
      i < 10 ? 1900 : i < 40 ? 1900 + (i - 10) * 150 : 6400 - (i - 40) * 150,
      i >= 10 && i < 40 ? 95 : 2,
    ]);
    const text = `Time,Engine speed [rpm],Boost [kPa]\n${rows.map((row) => row.join(',')).join('\n')}\n`;
    const { reading } = read([{ file: 'slow.csv', bytes: new TextEncoder().encode(text), sha256: 'slow' }]);
    expect(reading.files[0]!.problems).toEqual([]);
  });

  it.each([
    [1, 0, false],
    [1, 300, false],
    [1, 2000, false],
    [5, 0, true],
    [10, 0, true],
    [10, 2000, true],
    [50, 100, true],
    [100, 5000, true],
    [1000, 3000, false],
  ])('at %s samples a second, after %s rows of idling: named %s', (rateHz, idle, isNamed) => {
    const length = 30 * rateHz;
    const speeds = [
      ...Array.from({ length: idle }, (_, i) => 850 + ((i * 37) % 11)),
      ...Array.from({ length }, (_, i) => 1800 + (4500 * i) / length),
    ];
    const text = `Time,Engine speed [rpm],Boost [kPa]\n${speeds.map((speed, i) => `${i},${speed.toFixed(0)},${i < idle ? 2 : 95}`).join('\n')}\n`;
    const { reading } = read([{ file: 'counted.csv', bytes: new TextEncoder().encode(text), sha256: 'counted' }]);
    expect(reading.files[0]!.problems.some(({ what }) => what.includes('may only count'))).toBe(isNamed);
    const { timeS } = readLog(new TextEncoder().encode(text), { file: 'logs/counted.csv' });
    expect(timeS!.at(-1)! - timeS![0]!).toBeCloseTo((speeds.length - 1) * (rateHz === 1000 ? 0.001 : 1), 6);
  });
});
