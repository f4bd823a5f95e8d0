import { unitFromText } from '../units/unit-spellings.js';

/** Marks that part the columns of such a table; a comma that parts columns stands before no digit. */
const DELIMITERS = [';', '\t', '|', ','];
const WITH_UNIT = /^([+-]?\d[\d.,]*)\s*([^\d\s.,+-][^\d;|\t]*)$/;
/** A value with its unit is no longer than this, letters. */
const LONGEST_CELL = 40;
const SAMPLE_LINES = 60;
const SAMPLE_CHARACTERS = 60_000;
/** Of the cells of a column so many carry one and the same unit. */
const LEAST_SHARE = 0.8;

/** A table whose cells say their unit each time, "98.5 %", without them; and the unit of each column. Null where it is no such table. */
export function unitsOutOfCells(text: string): { text: string; units: string[] } | null {
  const head = text.slice(0, SAMPLE_CHARACTERS).split(/\r\n|\n|\r/);
  for (const delimiter of DELIMITERS) {
    const rows = head.slice(0, SAMPLE_LINES).map((line) => line.split(delimiter));
    const width = rows.map((row) => row.length).sort((a, b) => b - a)[0]!;
    const whole = rows.filter((row) => row.length === width).slice(1);
    if (width < 2 || whole.length < 3) continue;
    const units = Array.from({ length: width }, (_, i) => unitOfColumn(whole.map((row) => row[i]!)));
    if (units.every((unit) => unit === '')) continue;
    const bare = (line: string) => {
      const cells = line.split(delimiter);
      if (cells.length !== width) return line;
      return cells.map((cell, i) => (units[i] === '' ? cell : (parted(cell)?.value ?? cell))).join(delimiter);
    };
    return {
      text: text
        .split(/\r\n|\n|\r/)
        .map(bare)
        .join('\n'),
      units,
    };
  }
  return null;
}

function parted(cell: string): { value: string; unit: string } | null {
  if (cell.length > LONGEST_CELL) return null;
  const match = WITH_UNIT.exec(cell.trim());
  return match ? { value: match[1]!, unit: match[2]! } : null;
}

function unitOfColumn(cells: readonly string[]): string {
  const said = cells.flatMap((cell) => parted(cell)?.unit ?? []);
  const [unit] = said;
  const alike = said.filter((text) => text === unit).length;
  return unit !== undefined && alike >= LEAST_SHARE * cells.length && unitFromText(unit) !== null ? unit : '';
}
