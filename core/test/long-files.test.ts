import { isDeepStrictEqual } from 'node:util';
import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readBodyOfBytes } from '../src/log/body.js';
import { excerptOf, rowsBeside } from '../src/log/excerpt.js';
import { findLayout } from '../src/log/layout.js';
import { readLog } from '../src/log/read-log.js';
import { enumerateTables } from './data/reading/enumerate.js';

/** So many of the enumerated tables are read here. */
const EVERY = 101;
const ODD = new URL('./data/reading/odd/', import.meta.url);

/** What the reader says of a file, in bytes or as a text: its table, or why it is refused. */
function readAs(bytes: Uint8Array, longFromBytes: number): unknown {
  try {
    return readLog(bytes, { file: 'a.csv', longFromBytes });
  } catch (error) {
    return error;
  }
}

/** Whether the bytes alone were enough. */
function isReadFromBytes(bytes: Uint8Array): boolean {
  try {
    const excerpt = excerptOf(bytes, 'a.csv');
    const layout = excerpt && findLayout(excerpt.text, 'a.csv');
    const rows = layout && rowsBeside(excerpt, layout, bytes);
    return rows !== null && readBodyOfBytes(layout!, rows) !== null;
  } catch {
    return false;
  }
}

/** The runner tells what differs; that nothing does takes Node a tenth of the time. */
function expectSame(bytes: Uint8Array): void {
  const [long, short] = [readAs(bytes, 0), readAs(bytes, Infinity)];
  const isSame = isDeepStrictEqual(long, short);
  if (!isSame) expect(long).toEqual(short);
  expect(isSame).toBe(true);
}

/** Latin 1, as loggers of before write: a byte a letter. */
const latin = (text: string) => Uint8Array.from(text, (letter) => letter.charCodeAt(0));
const utf8 = (text: string) => new TextEncoder().encode(text);

describe('a long file is read from its bytes as it is from its text', { timeout: 120_000 }, () => {
  it('in every way that a table is written', () => {
    let turn = 0;
    let [all, fromBytes] = [0, 0];
    for (const { write, form } of enumerateTables()) {
      turn += 1;
      if (turn % EVERY !== 0) continue;
      const bytes = utf8(write().text);
      expectSame(bytes);
      // Marks of thousands by comma are quoted where the comma parts columns.
      if (form.thousands) continue;
      all += 1;
      if (isReadFromBytes(bytes)) fromBytes += 1;
    }
    expect(all).toBeGreaterThan(20);
    expect(fromBytes / all).toBeGreaterThan(0.9);
  });

  it('however odd', () => {
    for (const name of readdirSync(ODD)) if (name !== 'expected.json') expectSame(readFileSync(new URL(name, ODD)));
  });

  const HEADS = ['Zeit [s];Drehzahl [1/min];Ladelufttemperatur [°C];Kennung', 'Zeit [s];Drehzahl [1/min];Ladedruck [mbar];Lambda λ'];
  const ROWS = 400;
  const oddity = fc.constantFrom(
    '12,5;4000;31,5;a;9',
    '12,5;4000',
    '12,5;"4000";31,5;a',
    '12,5;NaN;31,5;–',
    '12,5;#DIV/0!;;a',
    '12,5;4000;31,5;ä',
    'Bemerkung: Lüfter an',
    '',
    '   ',
    '12,5;4000;3e1;a',
    '12,5;40 00;31,5;a',
    '\u001a',
  );

  it('with anything in any row, at its end, in either encoding, and with each end of lines', () => {
    const file = fc.record({
      head: fc.constantFrom(...HEADS),
      preamble: fc.constantFrom('', 'Prüfstand 3\n', 'Außentemperatur;21,5\n\n'),
      odd: fc.array(fc.record({ row: fc.nat(ROWS - 1), text: oddity }), { maxLength: 2 }),
      end: fc.constantFrom('', '\n', '\nEnde der Messung\n', '\n12,5;40', '\n\n\n', '\nMittel;4000\nEnde'),
      lineEnd: fc.constantFrom('\n', '\r\n', '\r'),
      encode: fc.constantFrom(latin, utf8, (text: string) => utf8(`\ufeff${text}`)),
    });
    let fromBytes = 0;
    fc.assert(
      fc.property(file, ({ head, preamble, odd, end, lineEnd, encode }) => {
        const rows = Array.from({ length: ROWS }, (_, i) =>
          `${(i / 20).toFixed(2)};${1500 + 12 * i};${(30 + i / 70).toFixed(1)};a`.replaceAll('.', ','),
        );
        for (const { row, text } of odd) rows[row] = text;
        const bytes = encode(`${preamble}${head}\n${rows.join('\n')}${end}`.replaceAll('\n', lineEnd));
        expectSame(bytes);
        if (isReadFromBytes(bytes)) fromBytes += 1;
      }),
      { numRuns: 150, seed: 20261130 },
    );
    expect(fromBytes).toBeGreaterThan(20);
  });

  it('from four megabytes on without being asked', () => {
    const rows = Array.from({ length: 200_000 }, (_, i) => `${(i / 100).toFixed(2)},${1500 + (i % 5000)},${(i % 977) / 10}`);
    const bytes = utf8(`Time [s],Engine speed [rpm],Power [kW]\n${rows.join('\n')}\n1999.9,40`);
    const { rowCount, columns } = readLog(bytes, { file: 'a.csv' });
    expect(rowCount).toBe(200_000);
    expect(columns.map(({ quantity }) => quantity)).toEqual(['engineSpeed', 'power']);
    expectSame(bytes);
  });
});
