import { describe, expect, it } from 'vitest';
import { readLog } from '../src/index.js';

// What a column is taken for by its cells, row for row, beside columns that are never in doubt.

const ROWS = 40;
const read = (cells: readonly string[], header = 'Fan', delimiter = ',') => {
  const lines = [`Time [s]${delimiter}Engine speed [rpm]${delimiter}${header}`];
  for (let row = 0; row < ROWS; row += 1)
    lines.push([(row / 10).toFixed(1), String(2000 + 40 * row), cells[row % cells.length]!].join(delimiter));
  const table = readLog(new TextEncoder().encode(`${lines.join('\n')}\n`), { file: 'made.csv' });
  const report = table.report.columns.find(({ name }) => name.startsWith(header.split(' ')[0]!))!;
  const column = table.columns.find(({ name }) => name === report.name);
  return { values: column ? [...column.values.slice(0, cells.length)] : null, report, table };
};

describe('a column of', () => {
  it.each([
    ['words for on and off', ['on', 'off'], [1, 0]],
    ['words of another language', ['ein', 'aus', 'aus'], [1, 0, 0]],
    ['a switch that is missing now and then', ['true', '', 'false', 'n/a'], [1, Number.NaN, 0, Number.NaN]],
    ['a switch that is always on', ['ON'], [1]],
    ['numbers of which some are said to be off', ['12.5', 'off', '13.5'], [12.5, Number.NaN, 13.5]],
    ['numbers with words for none', ['1', '---', '2', '#N/A', '3', 'OVF'], [1, Number.NaN, 2, Number.NaN, 3, Number.NaN]],
    ['numbers with blanks about them', [' 1.5', '2.5 ', '  3.5  '], [1.5, 2.5, 3.5]],
    ['numbers with signs and powers', ['+1.5e1', '-2', '.25', '7.'], [15, -2, 0.25, 7]],
    ['numbers in which a comma is met once', ['"1,5"', '2.5'], [1.5, 2.5]],
  ] as const)('%s', (_, cells, values) => {
    expect(read(cells).values).toEqual(values);
  });

  it.each([
    [';', ['1.234', '12.345'], [1.234, 12.345]],
    [';', ['1,5', '2,25'], [1.5, 2.25]],
    [';', ['1.234,5', '2.345,25'], [1234.5, 2345.25]],
    ['\t', ['1 234', '2 345'], [1234, 2345]],
    [';', ["1'234.5", "2'345.5"], [1234.5, 2345.5]],
  ] as const)('numbers parted by %j: %j', (delimiter, cells, values) => {
    expect(read(cells, 'Fan', delimiter).values).toEqual(values);
  });

  it('words is left out and said, whatever few numbers stand among them', () => {
    const { values, report } = read(['idle', 'launch', '3', 'cruise']);
    expect(values === null || values.every(Number.isNaN)).toBe(true);
    expect(report.name).toBe('Fan');
  });

  it('a day’s clock is seconds of that day, beside a time that counts', () => {
    const cells = Array.from({ length: ROWS }, (_, row) => `14:05:${(row / 10 + 10).toFixed(1)}`);
    const { table } = read(cells, 'Clock');
    expect(table.rowCount).toBe(ROWS);
    expect(table.report.timeColumn).toBe('Time');
  });

  it('every way of saying that nothing was read is a gap of its own column alone', () => {
    for (const blank of ['-', '–', 'n.v.', 'NaN', 'null', 'Fehler', '#VALUE!', '1.#QNAN', 'open', '∞']) {
      const { values, table } = read(['5', blank]);
      expect(values, blank).toEqual([5, Number.NaN]);
      const speed = table.columns.find(({ quantity }) => quantity === 'engineSpeed')!;
      expect([...speed.values].every(Number.isFinite), blank).toBe(true);
    }
  });
});

describe('a table', () => {
  const NUMBERS = ['0.5,1000,3', '0.6,1010,4', '0.7,1020,5', '0.8,1030,6'];
  it.each([';', '\t', '|', ',', '^', '~'])('is parted by %j, and no mark that stands in a name or a remark misleads', (mark) => {
    const others = [';', '|', ',', '^', '~'].filter((other) => other !== mark).join(' ');
    const rows = NUMBERS.map((row) => row.replaceAll(',', mark));
    const text = [`a remark with ${others}`, ['Time [s]', 'Engine speed [rpm]', `Odd ${others}`].join(mark), ...rows].join('\n');
    const { columns, report } = readLog(new TextEncoder().encode(text), { file: 'made.txt' });
    expect([...columns.find(({ quantity }) => quantity === 'engineSpeed')!.values].length).toBe(4);
    expect(report.columns).toHaveLength(3);
  });
});

describe('an engine that idles', () => {
  it.each([
    'Engine speed [rpm]',
    'Engine speed (1/min)',
    'Motordrehzahl [U/min]',
    'Régime moteur [tr/min]',
    'RPM',
    'rpm',
    'Engine RPM',
    'n_mot',
  ])('is read by %s as one that revs is', (header) => {
    const idling = Array.from({ length: ROWS }, (_, row) => `${(row / 10).toFixed(1)},${850 + ((row * 7) % 11)},${88 + (row % 2)}`);
    const revving = Array.from({ length: ROWS }, (_, row) => `${(row / 10).toFixed(1)},${2000 + 90 * row},${88 + (row % 2)}`);
    const takenFor = (rows: string[]) =>
      readLog(new TextEncoder().encode(`Time [s],${header},Coolant [°C]\n${rows.join('\n')}\n`), { file: 'made.csv' }).columns[0]!.quantity;
    expect([takenFor(idling), takenFor(revving)]).toEqual(['engineSpeed', 'engineSpeed']);
  });
});
