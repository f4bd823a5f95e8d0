import { describe, expect, it } from 'vitest';
import { readLog } from '../src/index.js';
import { cellKind, findLayout, splitLine } from '../src/log/layout.js';

// How a table of text is built, for every mixture of the ways in which one is: each part stands where it was put, to the character.

const DELIMITERS = [';', '\t', '|', ',', '^', '~'];
const LINE_ENDS = ['\n', '\r\n', '\r'];
const PREAMBLES: Record<string, string[]> = {
  none: [],
  'one line': ['Morning in the cell'],
  'keys and values': ['Operator: NW', 'Cell: the small one', 'Pulls: 12', ''],
  'a line of numbers': ['Log 4711 of 2026', '3 14 15'],
};
const NAMES = ['Time', 'Engine speed', 'Manifold pressure', 'Intake air temperature'];
const UNITS: Record<string, string[]> = { none: [], plain: ['s', 'rpm', 'kPa', '°C'], bracketed: ['[s]', '[rpm]', '[kPa]', '[°C]'] };
const TRAILING: Record<string, string[]> = {
  none: [],
  'a remark': ['End of the log'],
  'two remarks': ['Mean of the pull not computed', 'Bye'],
};
const ROWS = 24;

interface Ways {
  delimiter: string;
  lineEnd: string;
  preamble: string[];
  units: string[];
  trailing: string[];
  comma: boolean;
  quoted: boolean;
  /** The text ends with an end of line. */
  closed: boolean;
}

function cells({ comma }: Ways): string[][] {
  const mark = (value: number, digits: number) => (comma ? value.toFixed(digits).replace('.', ',') : value.toFixed(digits));
  return Array.from({ length: ROWS }, (_, i) => [
    mark(i / 20, 2),
    mark(2000 + 37.5 * i, 1),
    mark(98.6 + i / 7, 2),
    mark(31.25 - i / 11, 2),
  ]);
}

function written(ways: Ways): { text: string; lines: string[] } {
  const { delimiter, lineEnd, preamble, units, trailing, quoted, closed } = ways;
  const line = (row: string[], names = false) => row.map((cell) => (quoted && names ? `"${cell}"` : cell)).join(delimiter);
  const lines = [
    ...preamble,
    line(NAMES, true),
    ...(units.length > 0 ? [line(units)] : []),
    ...cells(ways).map((row) => line(row)),
    ...trailing,
  ];
  return { text: lines.join(lineEnd) + (closed ? lineEnd : ''), lines };
}

function* everyWay(): Generator<[string, Ways]> {
  for (const delimiter of DELIMITERS)
    for (const lineEnd of LINE_ENDS)
      for (const [before, preamble] of Object.entries(PREAMBLES))
        for (const [unit, units] of Object.entries(UNITS))
          for (const [after, trailing] of Object.entries(TRAILING))
            for (const comma of delimiter === ',' ? [false] : [false, true])
              for (const quoted of [false, true])
                for (const closed of [false, true])
                  yield [
                    `${JSON.stringify(delimiter)} ${JSON.stringify(lineEnd)}, before: ${before}, units: ${unit}, after: ${after}, ${comma ? 'comma' : 'point'}${quoted ? ', quoted' : ''}${closed ? '' : ', open end'}`,
                    { delimiter, lineEnd, preamble, units, trailing, comma, quoted, closed },
                  ];
}

describe('a table of text', () => {
  for (const delimiter of DELIMITERS)
    it(`parted by ${JSON.stringify(delimiter)} is taken apart as it was put together, whatever stands around it`, () => {
      const wrong: string[] = [];
      let count = 0;
      for (const [name, ways] of everyWay()) {
        if (ways.delimiter !== delimiter) continue;
        count += 1;
        const { text, lines } = written(ways);
        const header = ways.preamble.length + 1;
        const first = header + (ways.units.length > 0 ? 2 : 1);
        const layout = findLayout(text, 'own.csv');
        const start = lines.slice(0, first - 1).reduce((sum, line) => sum + line.length + ways.lineEnd.length, 0);
        const body = layout.text.slice(layout.bodyStart, layout.bodyEnd);
        const found = {
          delimiter: layout.delimiter,
          names: layout.names,
          units: layout.units,
          headerRow: layout.headerRow,
          firstDataRow: layout.firstDataRow,
          decimalComma: layout.decimalComma,
          bodyStart: layout.bodyStart,
          rows: body.split(ways.lineEnd).filter((line) => line !== '').length,
          trailing: layout.trailing,
          preamble: layout.preamble,
          cutRow: layout.cutRow,
        };
        const meant = {
          delimiter,
          names: NAMES,
          units: ways.units,
          headerRow: header,
          firstDataRow: first,
          decimalComma: ways.comma,
          bodyStart: start,
          rows: ROWS,
          trailing: ways.trailing,
          preamble: ways.preamble.filter((line) => line !== ''),
          cutRow: null,
        };
        if (JSON.stringify(found) !== JSON.stringify(meant)) wrong.push(`${name}: ${JSON.stringify(found)}`);
      }
      expect(count).toBeGreaterThan(400);
      expect(wrong.slice(0, 3)).toEqual([]);
    });

  it.each(DELIMITERS)('parted by %j whose last row stops half-way is read without that row, which is named', (delimiter) => {
    const { text, lines } = written({
      delimiter,
      lineEnd: '\n',
      preamble: [],
      units: UNITS['plain']!,
      trailing: [],
      comma: false,
      quoted: false,
      closed: false,
    });
    const last = lines.at(-1)!;
    // Cut behind its first cell, its second, its third.
    for (let cut = 1; cut < NAMES.length; cut += 1) {
      const half = last.split(delimiter).slice(0, cut).join(delimiter);
      const layout = findLayout(text.slice(0, text.length - last.length) + half, 'own.csv');
      expect(layout.cutRow, `${cut} cells`).toBe(lines.length);
      expect(layout.trailing).toEqual([]);
    }
  });

  it.each([2, 3, 5])('parted by %s blanks is one of tabs', (count) => {
    const rows = [NAMES.map((name) => name.replaceAll(' ', '_')), ...cells({ comma: false } as Ways)];
    for (const before of ['', '  ']) {
      const text = rows.map((row) => before + row.join(' '.repeat(count))).join('\n');
      const layout = findLayout(text, 'own.txt');
      expect(layout).toMatchObject({ delimiter: '\t', partedByBlanks: true, headerRow: 1, firstDataRow: 2 });
      expect(layout.names).toEqual(rows[0]);
      expect(splitLine(layout.text.slice(layout.bodyStart).split('\n')[0]!, '\t')).toEqual(rows[1]);
    }
  });

  it.each([
    // Engine speed, another column, and whether a comma is the decimal mark.
    ['6.250', '101,5', true],
    ['6,250', '101.5', false],
    ['1.006.250', '101,5', true],
    ['1,006,250', '101.5', false],
    ['6,250', '101', false],
    ['6250', '1,013', true],
    ['6250', '1.013', false],
    ['6250', '0,987', true],
    ['6,250', '0,987', true],
    ['6,250', '12,5', true],
    ['6250', '101', false],
    ['-6,250', '-101.5', false],
  ])('of %s beside %s has a comma for its decimal mark: %s', (big, small, comma) => {
    const rows = Array.from({ length: 12 }, (_, i) => `${i};${big};${small}`);
    expect(findLayout(['Time;Engine speed;Power', ...rows].join('\n'), 'own.csv').decimalComma).toBe(comma);
  });

  it.each([
    ['in Power', (i: number) => (90 + i / 7).toFixed(1)],
    ['nowhere', (i: number) => String(90 + i)],
  ])('whose engine speed parts its thousands by commas, with decimals %s, is read as it was meant', (_, power) => {
    const speeds = Array.from({ length: 40 }, (_, i) => 2037 + 41 * i);
    const row = (rpm: number, i: number) => [i, rpm.toLocaleString('en-US'), power(i)].join(';');
    const text = ['Time [s];Engine speed [rpm];Power [kW]', ...speeds.map(row)].join('\n');
    const { columns } = readLog(new TextEncoder().encode(text), { file: 'own.csv' });
    expect([...columns.find(({ quantity }) => quantity === 'engineSpeed')!.values]).toEqual(speeds);
    expect(columns.find(({ quantity }) => quantity === 'power')!.values[7]).toBeCloseTo(1000 * Number(power(7)), 6);
  });
});

describe('what is no table', () => {
  it.each(['', '\n\n\n', 'A morning in the cell.', 'Dear diary\ntoday nothing was measured\nat all', 'a;b;c\nd;e;f\ng;h;i', '1\n2\n3\n4'])(
    '%j is refused with what to do',
    (text) => {
      expect(() => findLayout(text, 'own.txt')).toThrow(expect.objectContaining({ code: 'not-a-table' }) as Error);
    },
  );

  it('but values without a name over them are told to need one', () => {
    const rows = Array.from({ length: 12 }, (_, i) => `${i};${2000 + i};${98 + i}`);
    expect(() => findLayout(rows.join('\n'), 'own.txt')).toThrow(expect.objectContaining({ code: 'no-header' }) as Error);
  });
});

it.each([
  ['', 'blank'],
  ['  ', 'blank'],
  ['-', 'blank'],
  ['12', 'number'],
  ['-3.5e2', 'number'],
  ['1,5', 'number'],
  ['1.234,5', 'number'],
  ['9:05:07', 'clock'],
  ['2026-06-11 09:05', 'clock'],
  ['rpm', 'text'],
  ['12 kPa', 'text'],
  ['Pull 3', 'text'],
])('the cell %j is a %s', (cell, kind) => {
  expect(cellKind(cell)).toBe(kind);
});
