/** What a cell of a table holds. */
export type CellKind = 'blank' | 'number' | 'clock' | 'text';

const BLANKS = new Set(['', '-', '--', '---', 'n/a', 'na', 'nan', 'null', 'none', '#n/a', '?', '*']);
const NUMBER = /^[+-]?(\d+([.,]\d*)?|[.,]\d+)(e[+-]?\d+)?$/i;
const CLOCK = /^(\d{1,3}):([0-5]?\d)(?::([0-5]?\d(?:[.,]\d+)?))?$/;
const DATE_TIME = /^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}(:\d{2}([.,]\d+)?)?(Z|[+-]\d{2}:?\d{2})?$/;

/** Whether a text stands for "no value". */
export function isBlank(cell: string): boolean {
  return BLANKS.has(cell.trim().toLowerCase());
}

/** What kind of cell a text is. */
export function cellKind(cell: string): CellKind {
  const text = cell.trim();
  if (isBlank(text)) return 'blank';
  if (NUMBER.test(text)) return 'number';
  return CLOCK.test(text) || DATE_TIME.test(text) ? 'clock' : 'text';
}

/** A number written with a point or a comma as decimal mark; NaN where it is none. */
export function parseNumber(cell: string, decimalComma: boolean): number {
  const value = +cell;
  if (value === value && cell !== '') return value;
  const text = cell.trim();
  if (!NUMBER.test(text) || (!decimalComma && text.includes(','))) return Number.NaN;
  return +text.replace(',', '.');
}

/**
 * Seconds of a clock cell: h:mm:ss.fff since midnight, m:ss as minutes and seconds, an ISO date and time since 1970. NaN where it is none.
 */
export function parseClockS(cell: string): number {
  const text = cell.trim();
  const clock = CLOCK.exec(text);
  if (clock) {
    const [, first, second, third] = clock;
    if (third === undefined) return Number(first) * 60 + Number(second);
    return Number(first) * 3600 + Number(second) * 60 + Number(third.replace(',', '.'));
  }
  if (!DATE_TIME.test(text)) return Number.NaN;
  const iso = text.replace(' ', 'T').replace(',', '.');
  return Date.parse(/(Z|[+-]\d{2}:?\d{2})$/.test(iso) ? iso : `${iso}Z`) / 1000;
}
