import { gaugeOrAbsolute, insideValue, meaningOf } from '../channels/meaning.js';
import { doubtText } from './report-words.js';

/** Readings of one moment of a stream, in the units kept inside; time on the sender's clock, s, null where it sends none. */
export interface StreamSample {
  timeS: number | null;
  values: ReadonlyMap<string, number>;
}

interface StreamColumn {
  /** The quantity, pressure drops as `pressureDrop/section`. */
  key: string;
  toInside(value: number): number;
}

const MOST_PENDING = 1_000_000;

/**
 * Reads a stream of lines as they come: CSV whose first line (and any later line without numbers) names the columns with their units, or one
 * JSON object a line with the same names as keys. Columns are recognised by the same words as those of files.
 */
export class LineStream {
  #pending = '';
  #columns: (StreamColumn | 'time' | null)[] | null = null;
  readonly #keys = new Map<string, StreamColumn | 'time' | null>();
  /** Lines that could not be read. */
  refused = 0;
  /** Fields that look like something and are not taken for it, with the reason. */
  readonly doubts = new Map<string, string>();

  /** Takes a piece of text; returns the samples of the lines that are whole. */
  take(text: string): StreamSample[] {
    this.#pending += text;
    if (this.#pending.length > MOST_PENDING && !this.#pending.includes('\n')) {
      this.#pending = '';
      this.refused += 1;
      return [];
    }
    const lines = this.#pending.split(/\r?\n/);
    this.#pending = lines.pop()!;
    return lines.flatMap((line) => this.#line(line.trim()));
  }

  #line(line: string): StreamSample[] {
    if (line === '') return [];
    if (line.startsWith('{')) return this.#json(line);
    const separator = [';', '\t', ','].find((mark) => line.includes(mark)) ?? ',';
    const cells = line.split(separator).map((cell) => cell.trim());
    const numbers = cells.map((cell) => numberOf(cell, separator));
    if (!numbers.some((value) => Number.isFinite(value))) {
      this.#columns = cells.map((cell) => this.#columnOf(cell));
      return [];
    }
    if (!this.#columns) {
      this.refused += 1;
      return [];
    }
    return this.#sample(this.#columns.map((column, i) => [column, numbers[i] ?? Number.NaN]));
  }

  #json(line: string): StreamSample[] {
    let entries: [string, unknown][];
    try {
      entries = Object.entries(JSON.parse(line) as Record<string, unknown>);
    } catch {
      this.refused += 1;
      return [];
    }
    return this.#sample(
      entries.map(([key, value]) => {
        if (!this.#keys.has(key)) this.#keys.set(key, this.#columnOf(key));
        return [this.#keys.get(key)!, typeof value === 'number' ? value : Number.NaN];
      }),
    );
  }

  #columnOf(header: string): StreamColumn | 'time' | null {
    return columnOf(header, (why) => this.doubts.set(header, why));
  }

  #sample(cells: readonly (readonly [StreamColumn | 'time' | null, number])[]): StreamSample[] {
    const values = new Map<string, number>();
    let timeS: number | null = null;
    for (const [column, value] of cells) {
      if (column === null || !Number.isFinite(value)) continue;
      if (column === 'time') timeS = value;
      else if (!values.has(column.key)) values.set(column.key, column.toInside(value));
    }
    return values.size > 0 ? [{ timeS, values }] : [];
  }
}

function numberOf(cell: string, separator: string): number {
  if (cell === '') return Number.NaN;
  return Number(separator === ',' ? cell : cell.replace(',', '.'));
}

function columnOf(header: string, doubt: (why: string) => void): StreamColumn | 'time' | null {
  const { recognition, scale } = meaningOf(header);
  const { quantity, gauge, section } = recognition;
  if (quantity === null) {
    const why = doubtText(recognition);
    if (why) doubt(why);
    return null;
  }
  if (quantity === 'time') return 'time';
  const kept = gaugeOrAbsolute(quantity, gauge);
  return { key: section ? `${kept}/${section}` : kept, toInside: (value) => insideValue(scale, value) };
}
