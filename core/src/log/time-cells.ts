/** How the times of one column are written. */
export interface TimeFormat {
  kind: 'clock' | 'dateTime' | 'date';
  /** In which order a date of numbers stands. */
  order: 'year-first' | 'day-first' | 'month-first';
  /** Nothing in the column tells day from month: the order is assumed. */
  ambiguous: boolean;
  /** Minutes east of UTC that the cells give; null where they give none. */
  zoneMin: number | null;
}

const LANGUAGES = ['en', 'de', 'fr', 'es', 'it'];

let months: ReadonlyMap<string, number> | undefined;

/** Names of months in the languages that are read, long and short, lower case without points; found out once, where a file has any. */
const monthNames = () =>
  (months ??= new Map(
    LANGUAGES.flatMap((language) =>
      (['long', 'short'] as const).flatMap((month) => {
        const format = new Intl.DateTimeFormat(language, { month, timeZone: 'UTC' });
        return Array.from({ length: 12 }, (_, i): [string, number] => [plainMonth(format.format(Date.UTC(2026, i, 15))), i + 1]);
      }),
    ),
  ));

function plainMonth(name: string): string {
  return name.normalize('NFD').replace(/\p{M}/gu, '').replace(/\./g, '').toLowerCase();
}

function monthOf(name: string): number | null {
  const plain = plainMonth(name);
  return monthNames().get(plain) ?? monthNames().get(plain.slice(0, 3)) ?? null;
}

const CLOCK = /^(\d{1,4}):([0-5]?\d)(?::([0-5]?\d|60)(?:[.,:](\d+))?)?\s*([ap])?\.?m?\.?$/i;
const CLOCK_H = /^(\d{1,2})\s?h\s?([0-5]?\d)(?:\s?(?:m|min|')\s?(?:([0-5]?\d)(?:[.,](\d+))?\s?(?:s|sec|'')?)?)?$/i;
const ZONE = /\s*(z|utc|gmt|[+-]\d{2}:?\d{2})$/i;
const WEEKDAY = /^\p{L}{2,10}\.?,?\s+(?=\d|\p{L}{3,}\.?\s+\d)/u;
const NUMERIC_DATE = /^(\d{1,4})([./-])\s?(\d{1,2})\2\s?(\d{1,4})/;
const COMPACT_DATE = /^((?:19|20)\d{2})(\d{2})(\d{2})(?!\d)/;
const DAY_MONTH_NAME = /^(\d{1,2})\.?(?:st|nd|rd|th)?[\s./-]*(?:de\s+)?(\p{L}{3,12})\.?,?[\s./-]*(?:de\s+)?(\d{2,4})/u;
const MONTH_NAME_DAY = /^(\p{L}{3,12})\.?[\s./-]*(\d{1,2})(?:st|nd|rd|th)?,?[\s./-]+(\d{2,4})/u;
const YEAR_MONTH_NAME = /^((?:19|20)\d{2})[\s./-](\p{L}{3,12})\.?[\s./-](\d{1,2})/u;

interface DateParts {
  /** The three as they stand, or year, month, day where the way of writing says it. */
  numbers: [number, number, number];
  sure: boolean;
  mark: string;
  rest: string;
}

function dateParts(text: string): DateParts | null {
  const compact = COMPACT_DATE.exec(text);
  if (compact) return { numbers: [+compact[1]!, +compact[2]!, +compact[3]!], sure: true, mark: '', rest: text.slice(compact[0].length) };
  const numeric = NUMERIC_DATE.exec(text);
  if (numeric) {
    const [all, a, mark, b, c] = numeric;
    const numbers: [number, number, number] = [+a!, +b!, +c!];
    return { numbers, sure: a!.length === 4, mark: mark!, rest: text.slice(all.length) };
  }
  if (!/\p{L}{3}/u.test(text)) return null;
  for (const [pattern, order] of [
    [DAY_MONTH_NAME, [3, 2, 1]],
    [YEAR_MONTH_NAME, [1, 2, 3]],
    [MONTH_NAME_DAY, [3, 1, 2]],
  ] as const) {
    const match = pattern.exec(text);
    if (!match) continue;
    const [year, month, day] = order.map((i) => match[i]!);
    const number = monthOf(month!);
    if (number === null) continue;
    return { numbers: [fullYear(+year!), number, +day!], sure: true, mark: ' ', rest: text.slice(match[0].length) };
  }
  return null;
}

const fullYear = (year: number) => (year < 70 ? 2000 + year : year < 100 ? 1900 + year : year);

function clockSeconds(text: string): number | null {
  const match = CLOCK.exec(text) ?? CLOCK_H.exec(text);
  if (!match) return null;
  const [, first, second, third, fraction, half] = match;
  if (third === undefined && half === undefined && !/h/i.test(text)) return +first! * 60 + +second!;
  let hours = +first!;
  if (half) hours = (hours % 12) + (half.toLowerCase() === 'p' ? 12 : 0);
  return hours * 3600 + +second! * 60 + +(third ?? 0) + (fraction ? +`0.${fraction}` : 0);
}

interface Taken {
  date: DateParts | null;
  clockS: number | null;
  zoneMin: number | null;
}

function takeApart(cell: string): Taken | null {
  let text = cell.trim().replace(/^["']|["']$/g, '');
  if (text === '' || text.length > 48) return null;
  let date = dateParts(text);
  // A word before a number may be a month as well as a day of the week.
  if (!date && !/^\d/.test(text)) {
    text = text.replace(WEEKDAY, '');
    date = dateParts(text);
  }
  let rest = date ? date.rest.replace(/^(?:\s*[T,;@_|-]\s*|\s+(?:um|at|à)?\s*)/i, '').trim() : text;
  if (date && rest === '') return { date, clockS: null, zoneMin: null };
  let zoneMin: number | null = null;
  const zone = date ? ZONE.exec(rest) : null;
  if (zone) {
    zoneMin = zoneMinutes(zone[1]!);
    rest = rest.slice(0, zone.index).trim();
  }
  if (date && /^\d{6}([.,]\d+)?$/.test(rest)) rest = `${rest.slice(0, 2)}:${rest.slice(2, 4)}:${rest.slice(4)}`;
  // Beside a date two numbers are hours and minutes.
  if (date && /^\d{1,2}:\d{2}$/.test(rest)) rest = `${rest}:00`;
  const clockS = clockSeconds(rest.replace(/\s*(uhr|h)$/i, ''));
  return clockS === null ? null : { date, clockS, zoneMin };
}

function zoneMinutes(text: string): number {
  const match = /^([+-])(\d{2}):?(\d{2})$/.exec(text);
  return match ? (match[1] === '-' ? -1 : 1) * (60 * +match[2]! + +match[3]!) : 0;
}

/** Whether a text is a time or a date in any way of writing it. */
export const looksLikeTime = (cell: string): boolean => takeApart(cell) !== null;

/** How a column's times are written, from some of its cells; null where they are none. `order`: said by hand. */
export function timeFormatOf(cells: readonly string[], order: TimeFormat['order'] | null = null): TimeFormat | null {
  const taken = cells.map(takeApart);
  if (taken.length === 0 || taken.filter((entry) => entry === null).length > 0.2 * taken.length) return null;
  const known = taken.filter((entry) => entry !== null);
  const dates = known.flatMap(({ date }) => (date ? [date] : []));
  const withClock = known.filter(({ clockS }) => clockS !== null).length;
  const zoneMin = known.find((entry) => entry.zoneMin !== null)?.zoneMin ?? null;
  if (dates.length < 0.5 * known.length) return { kind: 'clock', order: 'year-first', ambiguous: false, zoneMin: null };
  const kind = withClock > 0 ? 'dateTime' : 'date';
  if (dates.every(({ sure }) => sure)) return { kind, order: 'year-first', ambiguous: false, zoneMin };
  const open = dates.filter(({ sure }) => !sure);
  if (open.some(({ numbers: [a] }) => a > 12))
    return { kind, order: open.some(({ numbers: [a] }) => a > 31) ? 'year-first' : 'day-first', ambiguous: false, zoneMin };
  if (open.some(({ numbers: [, b] }) => b > 12)) return { kind, order: 'month-first', ambiguous: false, zoneMin };
  if (order) return { kind, order, ambiguous: false, zoneMin };
  const same = open.every(({ numbers: [a, b] }) => a === b);
  return { kind, order: 'day-first', ambiguous: !same && open[0]!.mark !== '.', zoneMin };
}

/** Seconds of a cell: of a clock since midnight, of a date since 1970 as the clock on the wall says it (in UTC where it gives a zone). NaN where it is none. */
export function parseTimeS(cell: string, format: TimeFormat): number {
  const taken = takeApart(cell);
  if (!taken) return Number.NaN;
  const { date, clockS, zoneMin } = taken;
  if (format.kind === 'clock') return clockS ?? Number.NaN;
  if (!date) return Number.NaN;
  const [year, month, day] = inOrder(date, format.order);
  if (month < 1 || month > 12 || day < 1 || day > 31) return Number.NaN;
  return Date.UTC(year, month - 1, day) / 1000 + (clockS ?? 0) - 60 * (zoneMin ?? 0);
}

function inOrder({ numbers: [a, b, c], sure }: DateParts, order: TimeFormat['order']): [number, number, number] {
  if (sure || order === 'year-first') return [fullYear(a), b, c];
  return order === 'day-first' ? [fullYear(c), b, a] : [fullYear(c), a, b];
}

/** The two days that a date of numbers can mean, ISO; null where it is plain. */
export function bothReadings(cell: string): [string, string] | null {
  const date = takeApart(cell)?.date;
  if (!date || date.sure) return null;
  const iso = (order: TimeFormat['order']) => {
    const [year, month, day] = inOrder(date, order);
    return `${year}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
  };
  return [iso('day-first'), iso('month-first')];
}
