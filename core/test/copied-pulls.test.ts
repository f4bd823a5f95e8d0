import { STANDING_FOLDER, type Bundle } from '@gezeit/contract';
import { describe, expect, it } from 'vitest';
import { analyseMeasured, measurePulls, PLAIN_FORMATTER, readingOf, readLoose, withWords, type LogTable } from '../src/index.js';
import { checkDay, type CheckDay } from '../../bench/check-days.js';

// A pull that stands in a day twice was driven once: it counts once, under whatever name, unit or setup it comes again.

const SEED = 7300;
type Values = LogTable['columns'][number]['values'];

/** How the same measurement is exported once more. */
const AGAIN: Record<string, (table: LogTable) => LogTable> = {
  'the same file': (table) => table,
  'with another clock': (table) => ({ ...table, timeS: table.timeS!.map((s) => s + 41.37) }),
  'in whole tenths of hp': (table) => withPower(table, (values) => values.map((watts) => Math.round(watts / 74.57) * 74.57)),
  'with times of two digits': (table) => ({ ...table, timeS: table.timeS!.map((s) => Math.round(s * 100) / 100) }),
};
const withPower = (table: LogTable, change: (values: Values) => Values): LogTable => ({
  ...table,
  columns: table.columns.map((column) => (column.quantity === 'power' ? { ...column, values: change(column.values) } : column)),
});

/** The day with one pull of it once more at its end. */
function withCopy(
  day: CheckDay,
  pull: string,
  setup: string,
  again: (table: LogTable) => LogTable,
): { bundle: Bundle; tables: CheckDay['tables'] } {
  const bundle = structuredClone(day.bundle);
  const tables = new Map(day.tables);
  const own = bundle.pulls.find(({ id }) => id === pull)!;
  const logs = own.logs.map((log) => {
    const file = `logs/again-${log.file.split('/').pop()}`;
    tables.set(file, { ...again(tables.get(log.file)!), file });
    return { ...log, file };
  });
  const last = Date.parse(bundle.pulls.at(-1)!.startedAt);
  bundle.pulls.push({ ...own, id: 'again', setup, logs, startedAt: new Date(last + 300_000).toISOString() });
  return { bundle, tables };
}
const analysed = ({ bundle, tables }: { bundle: Bundle; tables: CheckDay['tables'] }) =>
  analyseMeasured(bundle, measurePulls(bundle, tables));
const copyIn = (day: Parameters<typeof analysed>[0]) => analysed(day).pulls.find(({ pull }) => pull.id === 'again')!;

describe('a pull that stands in a day twice', () => {
  const day = checkDay(SEED, { order: 'AABBAABB' });
  const [first, second] = day.bundle.pulls.filter(({ setup, kind }) => setup === 'A' && kind === 'measured').map(({ id }) => id);

  it.each(Object.entries(AGAIN))('counts once: %s', (_, again) => {
    const [plain, copy] = [analysed(day), copyIn(withCopy(day, second!, 'A', again))];
    expect(copy.leftOut).toEqual([{ by: 'flag', reason: 'copied' }]);
    const detail = copy.flags.find(({ flag }) => flag === 'copied')!;
    expect(withWords({ text: '', said: { text: [detail.said] } }, PLAIN_FORMATTER).text).toContain(`as ${second}: one measurement`);
    const figures = ({ findings }: ReturnType<typeof analysed>) => findings.comparisons[0]!.levelled;
    expect(figures(analysed(withCopy(day, second!, 'A', again)))).toEqual(figures(plain));
  });

  it('is left out of the other setup as well', () => {
    expect(copyIn(withCopy(day, first!, 'B', AGAIN['the same file']!)).used).toBe(false);
  });

  it('counts where a hand has left out the one that it is of, or has said that it counts', () => {
    const twice = withCopy(day, second!, 'A', AGAIN['the same file']!);
    const with_ = (change: (pull: Bundle['pulls'][number]) => object) => ({
      ...twice,
      bundle: { ...twice.bundle, pulls: twice.bundle.pulls.map((pull) => ({ ...pull, ...change(pull) })) },
    });
    expect(copyIn(with_(({ id }) => (id === second ? { excluded: 'it stands there twice' } : {}))).used).toBe(true);
    expect(copyIn(with_(({ id }) => (id === 'again' ? { excluded: false } : {}))).used).toBe(true);
  });

  it('withholds the answer where a setup is nothing but copies of the other', () => {
    const bundle = structuredClone(day.bundle);
    const tables = new Map(day.tables);
    const ofA = bundle.pulls.filter(({ setup, kind }) => setup === 'A' && kind === 'measured');
    bundle.pulls
      .filter(({ setup, kind }) => setup === 'B' && kind === 'measured')
      .forEach((pull, i) => {
        pull.logs.forEach((log, k) => {
          const source = tables.get(ofA[i % ofA.length]!.logs[k]!.file)!;
          tables.set(log.file, { ...source, file: log.file });
        });
      });
    // Where the copies were driven first, it is the others that are called so.
    const [comparison] = analysed({ bundle, tables }).findings.comparisons;
    expect(comparison!.confounds.map(({ code }) => code)).toContain('copied');
    expect(comparison!.verdict.power).toBe('withheld');
  });
});

it('no two pulls of a quiet day on a coarse dyno are taken for copies', () => {
  for (let seed = SEED; seed < SEED + 6; seed += 1) {
    const day = checkDay(seed, { runToRun: 0.0005, driftPerHour: 0 });
    const tables = new Map(
      [...day.tables].map(([file, table]) => [file, withPower(table, (values) => values.map((w) => Math.round(w / 500) * 500))]),
    );
    const copies = analysed({ bundle: day.bundle, tables }).pulls.filter(({ flags }) => flags.some(({ flag }) => flag === 'copied'));
    expect(copies.map(({ pull }) => pull.id)).toEqual([]);
  }
});

describe('a file that is dropped twice', () => {
  const text = (shift: number) =>
    `Time [s],Engine speed [rpm],Wheel power [kW]\n${Array.from({ length: 480 }, (_, i) => `${(i / 20).toFixed(2)},${i < 80 ? 1800 : i < 380 ? 1800 + shift + (i - 80) * 15 : 6300 - (i - 380) * 40},${i < 80 || i >= 380 ? 0 : i / 4}`).join('\n')}\n`;
  const read = (files: Record<string, string>, sha = (content: string) => content) =>
    readingOf(
      Object.entries(files).map(([file, content]) =>
        readLoose({ file, bytes: new TextEncoder().encode(content), sha256: sha(content) }, {}),
      ),
    );

  it('is one pull, and the other is named', () => {
    const { pulls, unmatched } = read({ 'a - copy.csv': text(0), 'a.csv': text(0), 'b.csv': text(3), 'c/a.csv': text(0) });
    expect(pulls.flatMap(({ members }) => members.map(({ file }) => file)).sort()).toEqual(['a.csv', 'b.csv']);
    expect(unmatched).toEqual(
      ['c/a.csv', 'a - copy.csv'].map((file) => ({ file, why: 'It is the same file as a.csv, byte for byte.', copyOf: 'a.csv' })),
    );
  });

  it('of the programme itself stays with its pull, though another holds the same', () => {
    const { unmatched } = read({ [`${STANDING_FOLDER}a.csv`]: text(0), [`${STANDING_FOLDER}again.csv`]: text(0) });
    expect(unmatched.filter(({ copyOf }) => copyOf !== undefined)).toEqual([]);
  });

  it('is only known by its bytes', () => {
    expect(read({ 'a.csv': text(0), 'b.csv': text(1) }).pulls).toHaveLength(2);
  });
});
