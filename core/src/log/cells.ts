/** What a cell of a table holds. */
export type CellKind = 'blank' | 'number' | 'clock' | 'text';

/** Texts that stand for "no value", lower case. */
const BLANKS = new Set(
  '|-|--|---|----|–|—|_|.|..|...|?|??|*|**|***|x|n/a|na|n.a.|n.v.|nan|nil|null|none|void|empty|missing|blank|invalid|inval|bad|err|error|fault|fehler|erreur|overflow|ovf|ol|o.l.|out of range|oor|no data|nodata|no value|#n/a|#nv|#na|#div/0!|#div/0|#diª/0!|#value!|#wert!|#valeur!|#num!|#zahl!|#ref!|#bezug!|#name?|#null!|inf|+inf|-inf|infinity|-infinity|+infinity|∞|-∞|1.#inf|-1.#inf|1.#qnan|-1.#ind|1.#ind|nan(ind)|-nan|+nan|undefined|undef|unknown|open|off|off-scale|k.a.|keine|s/d|n/d|nd|s.o.'.split(
    '|',
  ),
);
/** Words of a switch, lower case, in the five languages; some of them stand for "no value" where a column holds numbers. */
const ON = new Set(
  'on|true|yes|high|active|ein|an|ja|wahr|aktiv|oui|vrai|marche|actif|activé|sí|si|verdadero|activo|encendido|sì|vero|attivo|acceso'.split(
    '|',
  ),
);
const OFF = new Set(
  'off|false|no|low|inactive|aus|nein|falsch|inaktiv|non|faux|arrêt|arret|inactif|désactivé|inactivo|apagado|falso|inattivo|spento'.split(
    '|',
  ),
);
const NUMBER = /^[+-]?(\d+([.,]\d*)?|[.,]\d+)(e[+-]?\d+)?$/i;
const GROUPED = /^[+-]?\d{1,3}([.,'’\u00a0\u202f ]\d{3})+([.,]\d+)?$/;

const [PLUS, COMMA, MINUS, POINT, NOUGHT, NINE] = [0x2b, 0x2c, 0x2d, 0x2e, 0x30, 0x39];

/**
 * Whether a cell is digits with one mark among or behind them at most, and a sign before them at most. Nearly every cell of a log is: it is a number, and
 * what else a cell may be need not be tried.
 */
export function isPlainNumber(cell: string): boolean {
  const first = cell.charCodeAt(0);
  const start = first === MINUS || first === PLUS ? 1 : 0;
  let hasMark = false;
  for (let at = start; at < cell.length; at += 1) {
    const letter = cell.charCodeAt(at);
    if (letter >= NOUGHT && letter <= NINE) continue;
    if ((letter !== POINT && letter !== COMMA) || hasMark || at === start) return false;
    hasMark = true;
  }
  return cell.length > start;
}

/** Whether a text stands for "no value". */
export function isBlank(cell: string): boolean {
  return !isPlainNumber(cell) && BLANKS.has(cell.trim().toLowerCase());
}

/** What a cell of a switch says: 1 for on, −0 for off, which a number seldom is; null where it says neither. */
export function switchValue(cell: string): number | null {
  if (isPlainNumber(cell)) return null;
  const word = cell.trim().toLowerCase();
  return ON.has(word) ? 1 : OFF.has(word) ? -0 : null;
}

/** Whether a text is a number in any way of writing it. */
export const looksLikeNumber = (cell: string): boolean => isPlainNumber(cell) || NUMBER.test(cell) || GROUPED.test(cell);

/** How the numbers of one column are written. */
export interface NumberFormat {
  decimal: '.' | ',';
  /** What parts its thousands; empty where nothing does. */
  thousands: '' | '.' | ',' | "'" | ' ';
}

/** A number as a column writes it; NaN where it is none. */
export function parseNumber(cell: string, { decimal, thousands }: NumberFormat): number {
  if (thousands === '' || !GROUPED.test(cell.trim())) {
    const value = +cell;
    if (value === value && cell !== '') return Number.isFinite(value) ? value : Number.NaN;
    const text = cell.trim();
    // A point and a comma are met side by side: each is the decimal mark where it stands alone.
    return NUMBER.test(text) ? +text.replace(',', '.') : Number.NaN;
  }
  const text = cell.trim().replace(/['’\u00a0\u202f ]/g, '');
  const plain = decimal === ',' ? text.replaceAll('.', '').replace(',', '.') : text.replaceAll(',', '');
  return +plain;
}

/** Whether something parts the thousands of a number, or may do so. */
function isGrouped(cell: string): boolean {
  // With one mark at most there are three digits behind it.
  const end = cell.charCodeAt(cell.length - 4);
  return (end === POINT || end === COMMA || !isPlainNumber(cell)) && GROUPED.test(cell.trim());
}

/** How the numbers of a column are written, from some of its cells and from the mark that the rest of the file uses. */
export function numberFormatOf(cells: readonly string[], fileMark: '.' | ','): NumberFormat {
  const plain: NumberFormat = { decimal: fileMark, thousands: '' };
  const grouped = cells.filter(isGrouped).map((cell) => cell.trim());
  if (grouped.length === 0) return plain;
  const texts = cells.map((cell) => cell.trim()).filter((cell) => cell !== '' && !isBlank(cell));
  const blanks = grouped.some((text) => /['’\u00a0\u202f ]/.test(text));
  if (blanks)
    return {
      decimal: grouped.some((text) => /,\d+$/.test(text)) ? ',' : fileMark,
      thousands: grouped.some((text) => text.includes(' ')) ? ' ' : "'",
    };
  const both = grouped.find((text) => text.includes('.') && text.includes(','));
  if (both) return both.lastIndexOf(',') > both.lastIndexOf('.') ? { decimal: ',', thousands: '.' } : { decimal: '.', thousands: ',' };
  const mark = grouped[0]!.includes(',') ? ',' : '.';
  if (grouped.some((text) => !text.includes(mark))) return plain;
  if (grouped.some((text) => text.split(mark).length > 2)) return { decimal: mark === ',' ? '.' : ',', thousands: mark };
  if (mark === fileMark) return plain;
  // "2.350" among numbers with a comma: thousands, unless it begins with a nought or another has another count of places.
  const isOther = texts.some((text) => text.includes(mark) && (!GROUPED.test(text) || /^[+-]?0/.test(text)));
  return isOther ? plain : { decimal: mark === ',' ? '.' : ',', thousands: mark };
}
