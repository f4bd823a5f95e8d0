import { describe, expect, it } from 'vitest';
import { bothReadings, looksLikeTime, parseTimeS, timeFormatOf, type TimeFormat } from '../src/log/time-cells.js';

// Every way of writing a day with every way of writing a time of it, made here from a moment that is known.

interface Moment {
  year: number;
  month: number;
  day: number;
  hours: number;
  minutes: number;
  seconds: number;
  hundredths: number;
}
const moment = (year: number, month: number, day: number, hours: number, minutes: number, seconds: number, hundredths = 0): Moment => ({
  year,
  month,
  day,
  hours,
  minutes,
  seconds,
  hundredths,
});
const MOMENTS = [
  moment(2026, 6, 11, 9, 5, 7, 25),
  moment(2026, 12, 31, 23, 59, 59, 99),
  moment(2024, 2, 29, 0, 0, 0),
  moment(1999, 1, 2, 12, 30, 1, 50),
  moment(2031, 3, 9, 13, 0, 30, 5),
];
const two = (value: number) => String(value).padStart(2, '0');
const dayS = ({ year, month, day }: Moment) => Date.UTC(year, month - 1, day) / 1000;

const NAMES: Record<string, string[]> = {
  en: ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'],
  de: ['Januar', 'Februar', 'März', 'April', 'Mai', 'Juni', 'Juli', 'August', 'September', 'Oktober', 'November', 'Dezember'],
  fr: ['janvier', 'février', 'mars', 'avril', 'mai', 'juin', 'juillet', 'août', 'septembre', 'octobre', 'novembre', 'décembre'],
  es: ['enero', 'febrero', 'marzo', 'abril', 'mayo', 'junio', 'julio', 'agosto', 'septiembre', 'octubre', 'noviembre', 'diciembre'],
  it: ['gennaio', 'febbraio', 'marzo', 'aprile', 'maggio', 'giugno', 'luglio', 'agosto', 'settembre', 'ottobre', 'novembre', 'dicembre'],
};
const SHORT = NAMES['en']!.map((name) => name.slice(0, 3));

/** Ways of writing a day, with the order in which its numbers stand where they are only numbers. */
const DAYS: Record<string, { write: (at: Moment) => string; order: TimeFormat['order'] }> = {
  'year-month-day': { write: ({ year, month, day }) => `${year}-${two(month)}-${two(day)}`, order: 'year-first' },
  'year/month/day': { write: ({ year, month, day }) => `${year}/${month}/${day}`, order: 'year-first' },
  'year.month.day': { write: ({ year, month, day }) => `${year}.${two(month)}.${two(day)}`, order: 'year-first' },
  'in one': { write: ({ year, month, day }) => `${year}${two(month)}${two(day)}`, order: 'year-first' },
  'day.month.year': { write: ({ year, month, day }) => `${two(day)}.${two(month)}.${year}`, order: 'day-first' },
  'day.month.year without noughts': { write: ({ year, month, day }) => `${day}.${month}.${year}`, order: 'day-first' },
  'day/month/year': { write: ({ year, month, day }) => `${two(day)}/${two(month)}/${year}`, order: 'day-first' },
  'day-month-year': { write: ({ year, month, day }) => `${day}-${month}-${year}`, order: 'day-first' },
  'month/day/year': { write: ({ year, month, day }) => `${month}/${day}/${year}`, order: 'month-first' },
  'month-day-year': { write: ({ year, month, day }) => `${two(month)}-${two(day)}-${year}`, order: 'month-first' },
  'day.month.short year': { write: ({ year, month, day }) => `${two(day)}.${two(month)}.${two(year % 100)}`, order: 'day-first' },
  'month/day/short year': { write: ({ year, month, day }) => `${two(month)}/${two(day)}/${two(year % 100)}`, order: 'month-first' },
  'day, short name': { write: ({ year, month, day }) => `${day} ${SHORT[month - 1]} ${year}`, order: 'year-first' },
  'day-NAME-year': { write: ({ year, month, day }) => `${two(day)}-${SHORT[month - 1]!.toUpperCase()}-${year}`, order: 'year-first' },
  'name day, year': { write: ({ year, month, day }) => `${NAMES['en']![month - 1]} ${day}, ${year}`, order: 'year-first' },
  'weekday, name day, year': { write: ({ year, month, day }) => `Thu, ${SHORT[month - 1]} ${day}, ${year}`, order: 'year-first' },
  'weekday day name year': {
    write: ({ year, month, day }) => `Donnerstag, ${day}. ${NAMES['de']![month - 1]} ${year}`,
    order: 'year-first',
  },
  'year name day': { write: ({ year, month, day }) => `${year}-${SHORT[month - 1]}-${two(day)}`, order: 'year-first' },
  'day de name de year': { write: ({ year, month, day }) => `${day} de ${NAMES['es']![month - 1]} de ${year}`, order: 'year-first' },
  ...Object.fromEntries(
    Object.entries(NAMES).map(([language, names]) => [
      `day and ${language} name`,
      { write: ({ year, month, day }: Moment) => `${day}. ${names[month - 1]} ${year}`, order: 'year-first' as const },
    ]),
  ),
};

/** Ways of writing a time of the day, and how finely each says it, s. */
const TIMES: Record<string, { write: (at: Moment) => string; exact: (at: Moment) => number }> = (() => {
  const whole = ({ hours, minutes, seconds }: Moment) => hours * 3600 + minutes * 60 + seconds;
  const fine = (at: Moment) => whole(at) + at.hundredths / 100;
  const half = (hours: number) => (hours < 12 ? 'AM' : 'PM');
  const twelve = (hours: number) => (hours % 12 === 0 ? 12 : hours % 12);
  return {
    'h:mm:ss': { write: ({ hours, minutes, seconds }) => `${hours}:${two(minutes)}:${two(seconds)}`, exact: whole },
    'hh:mm:ss.hundredths': {
      write: ({ hours, minutes, seconds, hundredths }) => `${two(hours)}:${two(minutes)}:${two(seconds)}.${two(hundredths)}`,
      exact: fine,
    },
    'hh:mm:ss,hundredths': {
      write: ({ hours, minutes, seconds, hundredths }) => `${two(hours)}:${two(minutes)}:${two(seconds)},${two(hundredths)}`,
      exact: fine,
    },
    'hh:mm:ss:hundredths': {
      write: ({ hours, minutes, seconds, hundredths }) => `${two(hours)}:${two(minutes)}:${two(seconds)}:${two(hundredths)}`,
      exact: fine,
    },
    'h:mm:ss AM': {
      write: ({ hours, minutes, seconds }) => `${twelve(hours)}:${two(minutes)}:${two(seconds)} ${half(hours)}`,
      exact: whole,
    },
    'hh:mm:ss.hundredths p.m.': {
      write: ({ hours, minutes, seconds, hundredths }) =>
        `${two(twelve(hours))}:${two(minutes)}:${two(seconds)}.${two(hundredths)} ${half(hours).toLowerCase().split('').join('.')}.`,
      exact: fine,
    },
    'hh h mm m ss s': {
      write: ({ hours, minutes, seconds }) => `${two(hours)} h ${two(minutes)} m ${two(seconds)} s`,
      exact: whole,
    },
  };
})();
const ways = <T>(of: Record<string, T>) => Object.entries(of);

describe('a time of the day', () => {
  for (const [name, { write, exact }] of ways(TIMES))
    it(`as ${name} is read as the seconds since midnight`, () => {
      for (const at of MOMENTS) {
        const cell = write(at);
        const format = timeFormatOf([cell]);
        expect(format, cell).toMatchObject({ kind: 'clock' });
        expect(parseTimeS(cell, format!), cell).toBeCloseTo(exact(at), 6);
      }
    });

  it('of minutes and seconds counts on beyond the hour', () => {
    const format = timeFormatOf(['0:30', '59:59', '75:10'])!;
    expect(['0:30', '59:59', '75:10'].map((cell) => parseTimeS(cell, format))).toEqual([30, 3599, 4510]);
  });
});

/** Between a day and its time. */
const BETWEEN = [' ', 'T', '  ', ', '];

describe('a day', () => {
  for (const [name, { write, order }] of ways(DAYS)) {
    it(`as ${name} is read by itself, and with every way of writing its time`, () => {
      for (const at of MOMENTS) {
        const day = write(at);
        const alone = timeFormatOf([day], order);
        expect(alone, day).toMatchObject({ kind: 'date' });
        expect(parseTimeS(day, alone!), day).toBe(dayS(at));
        for (const [, time] of ways(TIMES))
          for (const between of BETWEEN) {
            // A name runs on into a T.
            if (between === 'T' && !/\d$/.test(day)) continue;
            const cell = `${day}${between}${time.write(at)}`;
            const format = timeFormatOf([cell], order);
            expect(format, cell).toMatchObject({ kind: 'dateTime' });
            expect(parseTimeS(cell, format!), cell).toBeCloseTo(dayS(at) + time.exact(at), 4);
          }
      }
    });

    it(`as ${name} tells its order by itself once a day of the column is past the twelfth`, () => {
      const cells = [...MOMENTS, moment(2026, 6, 25, 8, 0, 0)].map(write);
      const format = timeFormatOf(cells)!;
      expect(format.ambiguous).toBe(false);
      expect(cells.map((cell) => parseTimeS(cell, format))).toEqual([...MOMENTS.map(dayS), Date.UTC(2026, 5, 25) / 1000]);
    });
  }

  it.each([
    ['03/04/2026', true],
    ['03-04-2026', true],
    // With points the day is first wherever it is written so.
    ['03.04.2026', false],
    // Either way the same day.
    ['04/04/2026', false],
    ['2026-04-03', false],
    ['3 Apr 2026', false],
  ])('%s can be read in two ways: %s', (cell, ambiguous) => {
    expect(timeFormatOf([cell])!.ambiguous).toBe(ambiguous);
    if (ambiguous) expect(bothReadings(cell)).toEqual(['2026-04-03', '2026-03-04']);
  });

  it('what is said by hand decides, but not against what the column itself shows', () => {
    expect(timeFormatOf(['03/04/2026'], 'month-first')).toMatchObject({ order: 'month-first', ambiguous: false });
    expect(timeFormatOf(['03/04/2026', '25/04/2026'], 'month-first')).toMatchObject({ order: 'day-first', ambiguous: false });
    expect(timeFormatOf(['03/04/2026', '04/25/2026'], 'day-first')).toMatchObject({ order: 'month-first', ambiguous: false });
  });
});

describe('a zone', () => {
  it.each([
    ['2026-06-11T09:05:07Z', 0],
    ['2026-06-11 09:05:07 UTC', 0],
    ['2026-06-11T09:05:07+02:00', 120],
    ['2026-06-11T09:05:07.25-0330', -210],
    ['11.06.2026 09:05:07 +05:45', 345],
  ])('%s stands %s minutes east', (cell, zoneMin) => {
    const format = timeFormatOf([cell])!;
    expect(format.zoneMin).toBe(zoneMin);
    const fraction = cell.includes('.25') ? 0.25 : 0;
    expect(parseTimeS(cell, format)).toBeCloseTo(Date.UTC(2026, 5, 11, 9, 5, 7) / 1000 + fraction - 60 * zoneMin, 6);
  });
});

describe('what is no time', () => {
  it.each([
    '',
    ' ',
    'Time',
    '12',
    '12.5',
    '-3',
    '1e3',
    '3600',
    'kPa',
    'N·m',
    '9:75',
    '25.13.2026x',
    '10:20:99',
    'A:B:C',
    '1:2:3:4:5',
    'Maybe 5, 2026 or so, it was a long morning in the cell',
    '192.168.1.20',
    '4.8.15.16',
    '±5',
    'p12',
  ])('%j is not taken for one', (cell) => {
    expect(looksLikeTime(cell)).toBe(false);
    expect(timeFormatOf([cell, cell, cell])).toBeNull();
  });

  it('a column that is mostly something else is no column of times, one with few gaps is', () => {
    expect(timeFormatOf(['9:00:00', 'x', '9:00:01', 'y'])).toBeNull();
    expect(timeFormatOf(['9:00:00', '9:00:01', '9:00:02', '9:00:03', 'x'])).toMatchObject({ kind: 'clock' });
    expect(timeFormatOf([])).toBeNull();
  });

  it('a date that does not exist in the order that is said has no time', () => {
    const format = timeFormatOf(['25/04/2026'])!;
    expect(parseTimeS('25/14/2026', format)).toBeNaN();
    expect(parseTimeS('x', format)).toBeNaN();
    expect(parseTimeS('9:00:00', format)).toBeNaN();
  });
});
