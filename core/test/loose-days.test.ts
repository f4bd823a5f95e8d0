import { describe, expect, it } from 'vitest';
import { sweepKey, type Reading } from '@gezeit/contract';
import { readingOf, readLoose, type StandingPull } from '../src/index.js';
import { looseDay, NATURAL_PICKUP, type LooseDay, type LooseDevice } from '../src/simulate/index.js';
import { driven, ECU, START } from './loose-driven.js';

const DYNO: LooseDevice = {
  device: 'dyno',
  files: 'pull',
  name: (n) => `run_${n}.csv`,
  clock: 'elapsed',
  offS: 0,
  rateHz: 25,
  delimiter: ',',
  decimal: '.',
  units: 'row',
};
const BOX: LooseDevice = {
  device: 'box',
  files: 'pull',
  name: (n) => `box-${n}.txt`,
  clock: 'clock',
  offS: 0,
  rateHz: 20,
  delimiter: '\t',
  decimal: '.',
  units: 'bracket',
};

const read = (files: ReadonlyMap<string, string>): Reading =>
  readingOf([...files].map(([file, text]) => readLoose({ file, bytes: new TextEncoder().encode(text), sha256: '' }, {})));

/** Whether every said pull holds files of one true pull only, and what was not brought together is named. */
function held(day: LooseDay, reading: Reading): { whole: number; silentlyWrong: string[] } {
  const silentlyWrong: string[] = [];
  let whole = 0;
  const truthOf = (file: string, startS: number | null): number =>
    day.pulls.findIndex(({ members }) =>
      Object.values(members).some((member) => member.file === file && (startS === null || Math.abs(member.startS - startS) < 3)),
    );
  for (const pull of reading.pulls) {
    const of = new Set(pull.members.map(({ file, startS }) => truthOf(file, startS)));
    if (of.size !== 1 || of.has(-1))
      silentlyWrong.push(`${pull.id}: ${pull.members.map(({ file, startS }) => `${file}@${startS}→${truthOf(file, startS)}`).join(', ')}`);
  }
  const asked = new Set([...reading.unmatched.map(({ file }) => file), ...reading.questions.flatMap(({ files }) => files)]);
  day.pulls.forEach(({ members }) => {
    const files = Object.values(members).map(({ file }) => file);
    const said = reading.pulls.filter((pull) => files.every((file) => pull.members.some((member) => member.file === file)));
    const isWhole = said.some((pull) =>
      pull.members.every((member) => truthOf(member.file, member.startS) === day.pulls.findIndex((entry) => entry.members === members)),
    );
    if (isWhole) whole += 1;
    else if (!files.some((file) => asked.has(file))) silentlyWrong.push(`${files.join(', ')}: not brought together, and not asked`);
  });
  return { whole, silentlyWrong };
}

const DAYS: [string, LooseDevice[], { atLeast?: number }][] = [
  ['an ECU file of the whole day, dyno and box a file a pull', [ECU, DYNO, BOX], {}],
  ['a box whose clock is an hour behind', [ECU, DYNO, { ...BOX, offS: -3600 }], {}],
  ['an ECU whose date is a day off', [{ ...ECU, offS: 86_400 }, { ...DYNO, clock: 'dateTime' }, BOX], {}],
  [
    'every file with a clock of its own',
    [{ ...ECU, files: 'pull', name: (n) => `ecu_${n}.csv`, clock: 'elapsed' }, DYNO, { ...BOX, clock: 'elapsed' }],
    {},
  ],
  ['a dyno file missing', [ECU, { ...DYNO, clock: 'dateTime', missing: [3] }, BOX], {}],
  ['a dyno file missing, and no clock on the dyno', [ECU, { ...DYNO, missing: [3] }, BOX], { atLeast: 0 }],
  ['two box files missing', [ECU, DYNO, { ...BOX, missing: [2, 5] }], {}],
  ['a box without speed', [ECU, DYNO, { ...BOX, without: ['engineSpeed'] }], {}],
  ['a box without speed for the whole day', [ECU, DYNO, { ...BOX, files: 'day', name: () => 'box.txt', without: ['engineSpeed'] }], {}],
  ['the dyno only', [DYNO], {}],
  ['one ECU file only', [ECU], {}],
  ['an ECU file of the whole day without a date', [{ ...ECU, clock: 'elapsed' }, DYNO], {}],
];

describe('loose days', () => {
  it.each(DAYS)('%s: every pull has all its files, or it is asked', (_, devices, { atLeast }) => {
    const day = looseDay(driven('AABBAB', 31 + devices.length), START, devices, 5);
    const reading = read(day.files);
    const { whole, silentlyWrong } = held(day, reading);
    expect(silentlyWrong).toEqual([]);
    expect(whole).toBeGreaterThanOrEqual(atLeast ?? day.pulls.length);
  });

  it('two days in one folder are kept apart', () => {
    const first = looseDay(driven('AAB', 41), START, [ECU, { ...DYNO, clock: 'dateTime' }], 5);
    const second = looseDay(
      driven('ABB', 42),
      START + 2 * 86_400_000,
      [
        { ...ECU, name: () => 'ecu-2.csv' },
        { ...DYNO, clock: 'dateTime', name: (n) => `second_${n}.csv` },
      ],
      6,
    );
    const day = { files: new Map([...first.files, ...second.files]), pulls: [...first.pulls, ...second.pulls] };
    const { whole, silentlyWrong } = held(day, read(day.files));
    expect(silentlyWrong).toEqual([]);
    expect(whole).toBe(day.pulls.length);
  });

  it('one bad file among forty takes none of the others down', () => {
    const day = looseDay(
      driven('AABBABABABABA', 51),
      START,
      [{ ...ECU, files: 'pull', name: (n) => `e${n}.csv` }, { ...DYNO, clock: 'dateTime' }, BOX],
      7,
    );
    const files = new Map([...day.files, ['photo.csv', '\u0000\u0001\u0002\u0003 not a table']]);
    const reading = read(files);
    expect(reading.files.length).toBe(files.size);
    expect(reading.files.filter(({ columns }) => columns.length === 0).map(({ file, problems }) => [file, problems.length])).toEqual([
      ['photo.csv', 1],
    ]);
    expect(held(day, reading)).toEqual({ whole: day.pulls.length, silentlyWrong: [] });
  });
});

describe('files that come later, to pulls that stand', () => {
  const table = ([file, text]: readonly [string, string]) => readLoose({ file, bytes: new TextEncoder().encode(text), sha256: '' }, {});
  /** What a programme kept of a reading. */
  const standingOf = ({ pulls }: Reading): StandingPull[] =>
    pulls.map(({ id, startedAt, members }) => ({
      id,
      startedMs: startedAt === null ? null : Date.parse(/(Z|[+-]\d\d:\d\d)$/.test(startedAt) ? startedAt : `${startedAt}Z`),
      logs: members.map(({ file, recording, startS }) => ({ file, recording, startS })),
    }));
  const LATE = DAYS.filter(([, devices]) => devices.length > 1).flatMap(([name, devices, options]) =>
    devices.map((late) => [`${name}; the ${late.device} comes last`, devices, late, options] as const),
  );

  it.each(LATE)('%s: each finds its pull or is asked, and what stands keeps its files', (_, devices, late, { atLeast }) => {
    const day = looseDay(driven('AABBAB', 31 + devices.length), START, devices, 5);
    const isLate = (file: string) => day.pulls.some(({ members }) => members[late.device]?.file === file);
    const tables = new Map([...day.files].map((entry) => [entry[0], table(entry)] as const));
    const early = readingOf([...tables].filter(([file]) => !isLate(file)).map(([, read]) => read));
    const standing = standingOf(early);
    const reading = readingOf([...tables.values()], { hand: { standing } });
    const kept = new Set(standing.flatMap(({ logs }) => logs.map(({ file }) => file)));
    for (const { id, members } of early.pulls) {
      const now = reading.pulls.find((pull) => pull.id === id)!;
      const filesOf = (list: typeof members) => list.map(({ file, startS }) => `${file}@${startS?.toFixed(1)}`);
      expect(filesOf(now.members)).toEqual(expect.arrayContaining(filesOf(members)));
      // A file that no pull had taken may find its place now; one that is kept never moves.
      expect(now.members.filter(({ file }) => kept.has(file)).length).toBe(members.length);
    }
    const { whole, silentlyWrong } = held(day, reading);
    // What was not brought together before stands as it was kept: only the late device is judged here.
    expect(silentlyWrong.filter((text) => day.pulls.some(({ members }) => text.includes(members[late.device]?.file ?? '\u0000')))).toEqual(
      [],
    );
    expect(whole).toBeGreaterThanOrEqual(atLeast ?? (held(day, early).whole < early.pulls.length ? 0 : day.pulls.length - 3));
  });

  it('a day that was driven without any device takes all of its files by its times', () => {
    const day = looseDay(driven('AABBAB', 36), START, [ECU, { ...DYNO, clock: 'dateTime' }, { ...BOX, offS: -3600 }], 5);
    const standing = day.pulls.map(({ startedMs }, i) => ({ id: `p${i + 1}`, startedMs: startedMs + 1500 * (i % 3), logs: [] }));
    const reading = readingOf([...day.files].map(table), { hand: { standing } });
    expect(reading.pulls.map(({ id, members }) => `${id}:${members.length}`)).toEqual(day.pulls.map((__, i) => `p${i + 1}:3`));
    expect(held(day, reading)).toEqual({ whole: day.pulls.length, silentlyWrong: [] });
  });

  it('what a hand has placed goes where it was put, whatever else is found', () => {
    const day = looseDay(driven('AABBAB', 36), START, [ECU, DYNO, BOX], 5);
    const tables = [...day.files].map(table);
    const found = readingOf(tables);
    const keyOf = ({ file, recording, startS }: Reading['pulls'][number]['members'][number]) => sweepKey({ file, recording, startS });
    const box = (pull: number) => found.pulls[pull]!.members.find(({ file }) => file.startsWith('box'))!;
    const places = {
      [keyOf(box(0))]: keyOf(found.pulls[3]!.members[0]!),
      [keyOf(box(1))]: 'none',
      [keyOf(box(2))]: 'own',
      [keyOf(box(4))]: 'no such pull',
    };
    const reading = readingOf(tables, { hand: { places } });
    const holding = (member: { file: string }) =>
      reading.pulls.filter(({ members }) => members.some(({ file }) => file === member.file)).map(({ members }) => members.length);
    expect(holding(box(0))).toEqual([4]);
    expect(holding(box(1))).toEqual([]);
    expect(holding(box(2))).toEqual([1]);
    expect(holding(box(3))).toEqual([4]);
    expect(reading.unmatched.map(({ file }) => file).sort()).toEqual([box(1).file, box(4).file].sort());
    expect(readingOf(tables, { hand: { places: {} } })).toEqual(found);
  });
});

describe('a box of temperatures alone', () => {
  const box: LooseDevice = { ...BOX, clock: 'dateTime', without: ['engineSpeed', 'pressureDrop'] };

  it('is only assumed where they hardly move, and feeds nothing', () => {
    const day = looseDay(driven('AABB', 9, NATURAL_PICKUP), START, [ECU, { ...DYNO, clock: 'dateTime' }, box], 3);
    const reading = read(day.files);
    for (const { members } of reading.pulls) expect(new Set(members.flatMap(({ file }) => /\d+/.exec(file)?.[0] ?? [])).size).toBe(1);
    const boxes = reading.pulls.flatMap((pull) => pull.members.filter(({ file }) => file.startsWith('box')));
    expect(boxes).toHaveLength(day.pulls.length);
    for (const { how, withinS } of boxes) expect([how, withinS]).toEqual(['assumed', null]);
    for (const { sweeps } of reading.files.filter(({ file }) => file.startsWith('box'))) expect(sweeps).toEqual([]);
  });

  it('shows the step where a compressor heats them, less sharply than a pressure does', () => {
    const day = looseDay(driven('AABB', 12), START, [ECU, { ...DYNO, clock: 'dateTime' }, box], 3);
    const members = read(day.files).pulls.flatMap((pull) => pull.members.filter(({ file }) => file.startsWith('box')));
    expect(members).toHaveLength(day.pulls.length);
    for (const { how, withinS } of members) expect([how, withinS]).toEqual(['step', 0.7]);
  });
});

describe('the measure of loose days', () => {
  it('sees a file that stands in the wrong pull', () => {
    const day = looseDay(driven('ABA', 61), START, [ECU, { ...DYNO, clock: 'dateTime' }], 8);
    const reading = read(day.files);
    const [first, second] = reading.pulls;
    [first!.members[1], second!.members[1]] = [second!.members[1]!, first!.members[1]!];
    expect(held(day, reading).silentlyWrong.length).toBeGreaterThan(0);
  });
});

describe('alignment', () => {
  it('of files with engine speed is true to 20 ms, of a box without speed to 150 ms, and says so', () => {
    const errors = { speed: [] as number[], step: [] as number[] };
    let outside = 0;
    for (let seed = 1; seed <= 4; seed += 1) {
      const box: LooseDevice = { ...BOX, clock: 'dateTime', rateHz: [10, 20, 25][seed % 3]!, without: ['engineSpeed'] };
      const day = looseDay(
        driven('AABBA', 70 + seed),
        START,
        [ECU, { ...DYNO, clock: 'dateTime', rateHz: [10, 25, 50][seed % 3]! }, box],
        seed,
      );
      for (const { members } of read(day.files).pulls) {
        const truth = day.pulls.find((pull) => pull.members.ecu && Math.abs(pull.members.ecu.startS - members[0]!.startS!) < 3)!;
        for (const { file, offsetS, how, withinS } of members.slice(1)) {
          const own = Object.values(truth.members).find((member) => member.file === file)!;
          const error = offsetS! - (own.startS - truth.members.ecu!.startS);
          errors[how === 'step' ? 'step' : 'speed'].push(Math.abs(error));
          if (Math.abs(error) > withinS!) outside += 1;
        }
      }
    }
    const most = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(0.95 * values.length)]!;
    expect(most(errors.speed)).toBeLessThan(0.02);
    expect(most(errors.step)).toBeLessThan(0.15);
    expect(outside / (errors.speed.length + errors.step.length)).toBeLessThan(0.05);
  });
});
