import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { GezeitError, readLog, reasonsText } from '../src/index.js';

const utf8 = (text: string) => new TextEncoder().encode(text);
const read = (text: string, channels?: Parameters<typeof readLog>[1]['channels']) => readLog(utf8(text), { file: 'logs/a.csv', channels });

function failure(action: () => unknown): GezeitError {
  try {
    action();
  } catch (error) {
    if (error instanceof GezeitError) return error;
    throw error;
  }
  throw new Error('nothing was refused');
}

function column(table: ReturnType<typeof readLog>, quantity: string): number[] {
  const found = table.columns.find((entry) => entry.quantity === quantity);
  if (!found) throw new Error(`${quantity} was not recognised in ${table.report.columns.map(({ name }) => name).join()}`);
  return Array.from(found.values);
}

describe('reading a log', () => {
  it('takes comma, point and a units row', () => {
    const table = read('Time,Engine Speed,Power\ns,rpm,hp\n0.0,2000,100\n0.1,2100,101\n');
    expect(table.timeS && Array.from(table.timeS)).toEqual([0, 0.1]);
    expect(column(table, 'engineSpeed')).toEqual([2000, 2100]);
    expect(column(table, 'power')[0]).toBeCloseTo(74_569.987, 2);
    expect(table.report).toMatchObject({ delimiter: ',', decimalMark: 'point', headerRow: 1, unitsRow: 2, firstDataRow: 3, rowCount: 2 });
  });

  it('takes words for on and off as 1 and 0, and off for a gap where it stands among numbers', () => {
    const rows = ['0.0,2000,OFF,off,OFF,off', '0.1,2100,On,off,OFF,on', '0.2,2200,,off,OFF,7.5', '0.3,2300,on,14.7,OFF,8'];
    const { columns, report } = read(`Time [s],Engine speed [rpm],Trigger,Lambda sensor,Fan,Mixed\n${rows.join('\n')}\n`);
    const [, trigger, lambda, fan, mixed] = columns.map(({ values }) => Array.from(values));
    expect(trigger).toEqual([0, 1, NaN, 1]);
    expect(lambda!.slice(0, 3)).toEqual([NaN, NaN, NaN]);
    expect(fan).toEqual([NaN, NaN, NaN, NaN]);
    expect(mixed).toEqual([NaN, NaN, 7.5, 8]);
    expect(report.columns.map(({ gaps }) => gaps)).toEqual([0, 0, 0, 3, 4, 1]);
    expect(report.problems.some(({ what }) => what.includes('"on" is no value'))).toBe(true);
  });

  it('finds a switch that is on only where no sample was taken', () => {
    const rows = Array.from(
      { length: 20_000 },
      (_, i) => `${(i / 50).toFixed(2)},${2000 + (i % 900)},${i >= 7000 && i < 7100 ? 'ON' : 'OFF'}`,
    );
    const { columns, rowCount, report } = read(`Time [s],Engine speed [rpm],Trigger\n${rows.join('\n')}\n`);
    expect([rowCount, report.problems]).toEqual([20_000, []]);
    expect(columns[1]!.values.reduce((sum, value) => sum + value, 0)).toBe(100);
  });

  it('takes semicolon, decimal comma, preamble, remarks, Windows-1252 and blank cells', () => {
    const text =
      'Logger 7\nDriver: nobody\n\nZeit [s];Drehzahl [1/min];Ansauglufttemperatur [°C]\n0,00;2000;\n0,05;2050;31,5\n0,10;2100;\nEnd of log\n';
    const bytes = Uint8Array.from(text, (character) => character.charCodeAt(0));
    const table = readLog(bytes, { file: 'logs/b.csv' });
    expect(table.report).toMatchObject({
      encoding: 'windows-1252',
      delimiter: ';',
      decimalMark: 'comma',
      headerRow: 4,
      remarks: ['End of log'],
    });
    expect(table.report.preamble).toEqual(['Logger 7', 'Driver: nobody']);
    expect(column(table, 'intakeAirTemperature')).toEqual([Number.NaN, 31.5, Number.NaN]);
  });

  it.each([
    ['utf-16le', true],
    ['utf-16be', true],
    ['utf-16le', false],
  ])('takes %s, byte order mark %s', (encoding, mark) => {
    const text = `${mark ? '\uFEFF' : ''}Time [s]\tRPM\tBoost [psi]\n0\t2000\t-2\n0.1\t2100\t1\n`;
    const bytes = new Uint8Array(text.length * 2);
    const view = new DataView(bytes.buffer);
    [...text].forEach((character, index) => view.setUint16(index * 2, character.charCodeAt(0), encoding === 'utf-16le'));
    const table = readLog(bytes, { file: 'logs/c.txt' });
    expect(table.report.delimiter).toBe('tab');
    expect(column(table, 'boostPressure')[1]).toBeCloseTo(6894.757, 2);
    expect(table.columns.find(({ quantity }) => quantity === 'boostPressure')?.gauge).toBe(true);
  });

  it('takes a UTF-8 byte order mark, CRLF, quotes and clock times over midnight', () => {
    const table = read('\uFEFF"Time";"Engine speed (rpm)"\r\n"23:59:59.90";"2000"\r\n"0:00:00.10";"2100"\r\n');
    expect(table.report.encoding).toContain('byte order mark');
    expect(table.timeS![1]! - table.timeS![0]!).toBeCloseTo(0.2, 6);
  });

  it('judges a time column without unit by its steps, then by the sweep', () => {
    const rows = (step: number, rise: number, length = 200) =>
      Array.from({ length }, (_, i) => `${i * step},${2000 + i * rise}`).join('\n');
    expect(read(`Time,RPM\n${rows(20, 25)}\n`).timeS![1]).toBeCloseTo(0.02, 9);
    expect(read(`Time,RPM\n${rows(0.05, 25)}\n`).timeS![1]).toBeCloseTo(0.05, 9);
    const oneApart = read(`Time,RPM\n${rows(1, 1, 2000)}\n`);
    expect(oneApart.timeS![1]).toBeCloseTo(0.001, 9);
    expect(oneApart.report.notes.join()).toContain('names no unit');
  });

  it('keeps the first of two equal columns and renames a differing one', () => {
    const table = read('Time [s],RPM,RPM,Throttle,Throttle\n0,2000,2000,100,99\n0.1,2100,2100,100,98\n');
    expect(table.columns.map(({ name }) => name)).toEqual(['RPM', 'Throttle', 'Throttle (2)']);
    expect(table.columns[2]!.quantity).toBeNull();
  });

  it('uses the mapping: unit, zero, section and corrected column', () => {
    const channels = {
      CH7: { quantity: 'pressureDrop', unit: 'inH2O', section: 'filter', zero: 0.4 },
      Power: { quantity: 'power', unit: 'kW', corrected: 'SAE_J1349' },
    } as const;
    const table = read('Time [s],CH7,Power\n0,0.4,100\n0.1,10.4,101\n', channels);
    const drop = table.columns.find(({ quantity }) => quantity === 'pressureDrop')!;
    expect(drop.section).toBe('filter');
    expect(drop.values[0]).toBeCloseTo(0, 9);
    expect(drop.values[1]).toBeCloseTo(2490.889, 2);
    expect(table.columns.find(({ quantity }) => quantity === 'power')!.corrected).toBe('SAE_J1349');
  });

  it('turns a displayed air-fuel ratio into lambda and says what it divided by', () => {
    const table = read('Time [s],AFR\n0,14.7\n0.1,12.5\n');
    expect(column(table, 'lambda')[1]).toBeCloseTo(12.5 / 14.7, 9);
    expect(reasonsText(table.report.columns[1]!.reasons)).toContain('14.7');
  });

  it('does not recognise a column whose unit does not fit, and says so', () => {
    const table = read('Time [s],Torque [kPa],Boost\n0,1,2\n1,2,3\n');
    expect(table.columns.every(({ quantity }) => quantity === null)).toBe(true);
    expect(table.report.columns[1]!.reasons).toEqual([{ code: 'unit-apart', unit: 'kPa' }]);
    expect(table.report.columns[2]!).toMatchObject({ reasons: [{ code: 'unit-unsure' }], rivals: [{ quantity: 'boostPressure' }] });
  });

  it('reads a curve without time', () => {
    expect(read('Engine speed [rpm],Power [kW]\n3000,60\n3100,62\n').timeS).toBeNull();
  });

  it('reads short rows as blanks and lone remarks as remarks', () => {
    const table = read('Time [s],RPM,Throttle\n0,2000,100\n0.1,2100\nmarker one\n0.2,2200,100\n');
    expect(column(table, 'throttle')).toEqual([100, Number.NaN, 100]);
    expect(table.report.remarks).toEqual(['marker one']);
  });

  it('reads every number as the language does, however it is written, marked and ended', () => {
    const digits = fc.stringMatching(/^\d{1,18}$/);
    const written = fc.oneof(
      fc.tuple(fc.constantFrom('', '-', '+'), digits, fc.option(digits)).map(([sign, a, b]) => `${sign}${a}${b === null ? '' : `.${b}`}`),
      fc.double({ noNaN: true, noDefaultInfinity: true }).map(String),
      fc.integer({ min: -99_999, max: 99_999 }).map((value) => (value / 1000).toFixed(3)),
      fc.constantFrom('-0', '0', '.5', '5.', ' 7.25', '7.25 ', '-.125', '1e-7', '6.5E+03', '0000123.4500', '', 'NaN', '-'),
    );
    const marks = fc.constantFrom(',', ';', '\t');
    const ends = fc.constantFrom('\n', '\r\n', '\r');
    fc.assert(
      fc.property(
        fc.array(written, { minLength: 3, maxLength: 40 }),
        marks,
        ends,
        fc.boolean(),
        fc.boolean(),
        (cells, mark, end, last, quoted) => {
          const lines = [
            ['Time [s]', 'Strange value', 'Engine speed [rpm]'],
            ...cells.map((cell, i) => [`${i}`, cell, `${2000 + 10 * i}`]),
          ];
          const row = (line: string[]) => line.map((cell) => (quoted ? `"${cell}"` : cell)).join(mark);
          const table = read(lines.map(row).join(end) + (last ? end : ''));
          const own = table.columns.find(({ name }) => name === 'Strange value');
          // A column of blanks and words is none of numbers.
          if (!own || own.values.length === 0) return;
          const asLanguage = (cell: string) => (cell.trim() === '' || !Number.isFinite(+cell) ? Number.NaN : +cell);
          expect([...own.values]).toEqual(cells.map(asLanguage));
          expect(column(table, 'engineSpeed')).toEqual(cells.map((_, i) => 2000 + 10 * i));
        },
      ),
      { numRuns: 400, seed: 20261129 },
    );
  });

  it.each([
    ['a row too short', '0.2,2200\n'],
    ['a row too long', '0.2,2200,100,7\n'],
    ['an empty row', '\n'],
    ['a remark', 'marker\n'],
  ])('%s among the rows is no other row', (_, odd) => {
    const table = read(`Time [s],Engine speed [rpm],Throttle [%]\n0,2000,98\n0.1,3100,99\n${odd}0.3,4300,100\n0.4,5400,100\n`);
    expect(column(table, 'engineSpeed').filter((value) => [2000, 3100, 4300, 5400].includes(value))).toHaveLength(4);
    expect(column(table, 'throttle').at(-1)).toBe(100);
  });

  it('reads chunks and rows beyond the first guess exactly', () => {
    const rows = Array.from({ length: 60_000 }, (_, i) => `${(i / 100).toFixed(2)},${2000 + (i % 997)},${i}`).join('\n');
    const table = read(`Time [s],RPM,Counter\n${rows}\n`);
    expect(table.rowCount).toBe(60_000);
    expect(table.columns[1]!.values.reduce((a, b) => a + b, 0)).toBe((60_000 * 59_999) / 2);
  });
});

describe('refusing what is no log', () => {
  it.each([
    ['empty-file', ''],
    ['empty-file', '  \n \n'],
    ['not-a-table', 'Dear diary,\nnothing was measured today\n'],
    ['no-header', '1,2\n3,4\n'],
    ['no-time', 'Wrkl,RPM,Power [kW]\nxa,2000,1\nxb,2300,2\nxc,2100,2\nxd,2500,3\nxe,2000,2\n'],
    ['time-columns-contradict', 'Time [s],Elapsed time [s],RPM\n0,0,2000\n0.1,0.3,2100\n0.2,0.6,2200\n'],
  ])('%s', (code, text) => {
    const error = failure(() => read(text));
    expect(error.code).toBe(code);
    expect(error.line).toContain('logs/a.csv');
    expect(error.nextStep.length).toBeGreaterThan(10);
  });

  it.each([
    ['a cut last row is dropped', 'Time [s],RPM,Power [kW]\n0,2000,50\n0.1,2100,51\n0.2,21', 2, { row: 4, what: 'stops half-way' }],
    ['a word is a gap', 'Time [s],RPM\n0,2000\n\n0.1,abc\n0.2,2100\n', 3, { row: 4, column: 1, what: '"abc" is no value' }],
    ['extra cells are left out', 'Time [s],RPM\n0,2000\n0.1,2100,7\n0.2,2200\n', 3, { row: 3, what: 'more cells than the header' }],
    ['a swapped sample is sorted', 'Time [s],RPM\n0,2000\n0.2,2200\n0.1,2100\n0.3,2300\n', 4, { what: 'out of order' }],
    ['known words for no value are counted', 'Time [s],RPM\n0,2000\n0.1,#DIV/0!\n0.2,Inf\n0.3,---\n0.4,2100\n', 5, { what: '3 cells say' }],
    [
      'a clock that starts again makes two recordings',
      `Time [s],RPM\n${[0, 1, 2, 3, 0, 1, 2, 3].map((t) => `${t * 5},${2000 + t}`).join('\n')}\n`,
      8,
      { row: 6, what: '2 recordings' },
    ],
  ])('%s, and it is said', (_, text, rows, { what, ...place }) => {
    const table = read(text);
    expect(table.rowCount).toBe(rows);
    expect(table.timeS!.every((value, i) => i === 0 || value > table.timeS![i - 1]!)).toBe(true);
    const problem = table.report.problems.find((entry) => entry.what.includes(what));
    expect(problem).toMatchObject(place);
    expect(problem!.todo.length).toBeGreaterThan(5);
  });

  it('binary', () => {
    const noise = Uint8Array.from({ length: 5000 }, (_, i) => (i * 7919 + (i >> 3) * 31) % 256);
    expect(failure(() => readLog(noise, { file: 'x.bin' })).code).toBe('binary-file');
  });
});
