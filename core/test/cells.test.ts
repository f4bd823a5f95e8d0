import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isBlank, isPlainNumber, looksLikeNumber, numberFormatOf, parseNumber, switchValue } from '../src/log/cells.js';
import { cellKind } from '../src/log/layout.js';

/** Every text of so many letters at most. */
function* texts(letters: string, longest: number): Generator<string> {
  let last = [''];
  for (let length = 1; length <= longest; length += 1) {
    last = last.flatMap((text) => [...letters].map((letter) => text + letter));
    yield* last;
  }
}

describe('a plain number', () => {
  it('is digits with a mark at most and a sign at most, whatever else there is of short texts', () => {
    const isOne = (text: string) => /^[+-]?\d+(?:[.,]\d*)?$/.test(text);
    const all = ['', ...texts('07.,+-e x', 5)];
    expect(all.filter(isOne).length).toBeGreaterThan(100);
    // Gathered first: a comparison each would take longer than what is compared.
    expect(all.filter((text) => isPlainNumber(text) !== isOne(text))).toEqual([]);
  });

  it('is a number and nothing else, and has the value that it says', () => {
    const plain = [...texts('19.,+-', 6)].filter(isPlainNumber);
    expect(plain.length).toBeGreaterThan(100);
    const isNumber = (text: string) => !isBlank(text) && switchValue(text) === null && looksLikeNumber(text) && cellKind(text) === 'number';
    expect(plain.filter((text) => !isNumber(text))).toEqual([]);
    const value = (text: string) => parseNumber(text, { decimal: '.', thousands: '' });
    expect(plain.filter((text) => value(text) !== Number(text.replace(',', '.')))).toEqual([]);
  });

  it('of any length is one, and is none with anything put into it', () => {
    const plain = fc.stringMatching(/^[+-]?\d{1,12}([.,]\d{0,9})?$/);
    const strange = fc.constantFrom(' ', 'a', 'e', ':', '%', '"', '\u2212', '١', '\u00a0', '#');
    fc.assert(
      fc.property(plain, strange, fc.nat(20), (text, letter, place) => {
        const at = place % (text.length + 1);
        return isPlainNumber(text) && !isPlainNumber(text.slice(0, at) + letter + text.slice(at));
      }),
      { seed: 4, numRuns: 2000 },
    );
  });
});

describe('a cell', () => {
  it.each([
    [
      'blank',
      [
        '',
        '  ',
        '-',
        '--',
        '—',
        '?',
        '***',
        'n/a',
        'NaN',
        'NULL',
        'Keine',
        '#DIV/0!',
        '#WERT!',
        '1.#INF',
        '-1.#IND',
        '+inf',
        '∞',
        'Out of Range',
        'ovf',
        ' off ',
      ],
    ],
    [
      'number',
      [
        '0',
        '-0',
        '+1',
        '12.',
        '.5',
        ',5',
        '-.5',
        '1e3',
        '1.5E-3',
        '1,5e+2',
        '1 234',
        "1'234.5",
        '1\u202f234,5',
        '1.234.567',
        ' 7 ',
        '1,234.5',
        '20260611',
      ],
    ],
    [
      'clock',
      [
        '12:30:05',
        '1:02:03.5',
        '2:03 pm',
        '14h05',
        '2026-06-11',
        '11.06.2026 14:05',
        'June 11, 2026',
        '11 juin 2026',
        '2026-06-11T14:05:06Z',
      ],
    ],
    ['text', ['hello', 'gear 3', '12 kW', '1e', '1..2', '--1', '12:99', '3rd', 'µ', '1,2,3', '0x1f', '١٢', '1.#xyz']],
  ] as const)('is %s', (kind, cells) => {
    for (const cell of cells) expect(cellKind(cell), JSON.stringify(cell)).toBe(kind);
  });

  it.each([
    [1, ['on', 'ON', 'True', 'yes', 'ein', 'JA', 'wahr', 'oui', 'Activé', 'sí', 'verdadero', 'vero', ' attivo ', 'acceso']],
    [-0, ['off', 'False', 'no', 'aus', 'Nein', 'falsch', 'non', 'arrêt', 'Désactivé', 'apagado', 'spento']],
    [null, ['', '0', '1', 'o', 'onn', 'of', 'yes!', 'offen', 'none']],
  ] as const)('of a switch says %s', (value, cells) => {
    for (const cell of cells) expect(switchValue(cell), cell).toBe(value);
  });
});

describe('the numbers of a column', () => {
  it.each<[string, readonly string[], '.' | ',', ReturnType<typeof numberFormatOf>]>([
    ['are plain where nothing parts thousands', ['1.5', '22.75', '3'], '.', { decimal: '.', thousands: '' }],
    ['take the mark of the file', ['1,5', '22,75'], ',', { decimal: ',', thousands: '' }],
    ['have blanks between thousands', ['1 234', '12 345,5', '7'], '.', { decimal: ',', thousands: ' ' }],
    ['have apostrophes between thousands', ["1'234.5", '12.5'], '.', { decimal: '.', thousands: "'" }],
    ['have narrow blanks between thousands', ['1\u202f234,25'], '.', { decimal: ',', thousands: "'" }],
    ['say by both marks which is which', ['1.234,5', '20,5'], '.', { decimal: ',', thousands: '.' }],
    ['say it the other way round', ['1,234.5', '20.5'], ',', { decimal: '.', thousands: ',' }],
    ['have more than one group', ['1.234.567', '12'], '.', { decimal: ',', thousands: '.' }],
    ['part thousands by what is not the mark of the file', ['2.350', '6.250'], ',', { decimal: ',', thousands: '.' }],
    ['do not part thousands by the mark of the file', ['2.350', '6.250'], '.', { decimal: '.', thousands: '' }],
    ['are decimals where one has another count of places', ['2.350', '6.25'], ',', { decimal: ',', thousands: '' }],
    ['are decimals where one begins with a nought', ['2.350', '0.125'], ',', { decimal: ',', thousands: '' }],
    ['are plain where two marks part three digits', ['2.350', '2,350'], ',', { decimal: ',', thousands: '' }],
    ['are asked of numbers alone: what stands for none says nothing', ['n/a', '-', '1.234.567'], '.', { decimal: ',', thousands: '.' }],
    ['are plain where there are none', [], ',', { decimal: ',', thousands: '' }],
  ])('%s', (_, cells, fileMark, format) => {
    expect(numberFormatOf(cells, fileMark)).toEqual(format);
    // Nor does it matter how they are padded, or in which order they stand.
    expect(numberFormatOf(cells.map((cell) => `  ${cell} `).reverse(), fileMark)).toEqual(format);
  });

  it('are read back as they were written, in every way of writing them', () => {
    const formats: Parameters<typeof parseNumber>[1][] = [
      { decimal: '.', thousands: '' },
      { decimal: ',', thousands: '' },
      { decimal: '.', thousands: ',' },
      { decimal: ',', thousands: '.' },
      { decimal: '.', thousands: "'" },
      { decimal: ',', thousands: ' ' },
    ];
    const written = (value: number, places: number, { decimal, thousands }: (typeof formats)[number]) => {
      const [whole, rest] = Math.abs(value).toFixed(places).split('.');
      const grouped = whole!.replace(/\B(?=(\d{3})+$)/g, thousands);
      return `${value < 0 ? '-' : ''}${grouped}${rest ? decimal + rest : ''}`;
    };
    fc.assert(
      fc.property(
        fc.integer({ min: -99_999_999, max: 99_999_999 }),
        fc.constantFrom(0, 1, 2),
        fc.constantFrom(...formats),
        (raw, places, format) => {
          const value = raw / 10 ** places;
          return parseNumber(written(value, places, format), format) === value;
        },
      ),
      { seed: 9, numRuns: 3000 },
    );
  });
});
