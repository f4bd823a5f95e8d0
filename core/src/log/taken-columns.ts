import { insideValue, scaleOf } from '../channels/meaning.js';
import type { ColumnAsWritten, Recognition } from '../channels/recognition.js';
import type { BodyColumns } from './body.js';
import type { ColumnReport, LogColumn } from './log-table.js';

/** The columns as they were taken, in the units kept inside, and what is to be said of each. The values that were read are changed in their place. */
export function takeColumns(
  written: readonly ColumnAsWritten[],
  recognitions: readonly Recognition[],
  names: readonly string[],
  body: BodyColumns,
  notes: string[],
): { columns: LogColumn[]; reports: ColumnReport[] } {
  const columns: LogColumn[] = [];
  const reports: ColumnReport[] = [];
  const twins = recognitions.map((_, i) => twinOf(i, written, recognitions));
  recognitions.forEach((recognition, i) => {
    const { quantity, unitText, unit, section, gauge } = recognition;
    const { values, mapping, header, kind } = written[i]!;
    // In its place: a second table of a long log would be as large as its file.
    if (quantity && quantity !== 'time' && kind !== 'text') toInside(values, scaleOf(recognition, mapping));
    const range = quantity === 'time' || kind === 'text' ? null : rangeOf(values);
    const twin = twins[i]!;
    // What holds the values of a column that is sure is the same, however its name would be taken.
    const copied = quantity === null && twin !== null && recognitions[twin]!.quantity !== null ? reports[twin]! : null;
    const said = copied ?? {
      takenFor: quantity,
      unit: unit === null ? null : recognition.divisor !== 1 && quantity === 'lambda' ? 'AFR' : unit,
      section,
      gauge,
      low: range?.low ?? null,
      middle: range?.middle ?? null,
      high: range?.high ?? null,
      sure: recognition.sure,
      rivals: recognition.rivals,
      reasons: recognition.because,
    };
    reports.push({
      ...said,
      name: names[i]!,
      header,
      duplicateOf: twin,
      used: quantity !== null && twin === null,
      reasons: copied ? [{ code: 'copy', of: names[twin!]! }] : said.reasons,
      gaps: body.gaps[i]!,
    });
    if (twin !== null && quantity !== 'time') notes.push(`"${names[i]}" holds the same values as "${names[twin]}": the first is kept.`);
    if (quantity === 'time' || kind === 'text' || twin !== null) return;
    columns.push({
      name: names[i]!,
      quantity,
      unitText,
      section,
      corrected: mapping?.corrected ?? null,
      gauge: gauge === true || (quantity === 'boostPressure' && gauge !== false),
      values,
    });
  });
  return { columns, reports };
}

function toInside(values: Float64Array, scale: ReturnType<typeof scaleOf>): void {
  for (let i = 0; i < values.length; i += 1) values[i] = insideValue(scale, values[i]!);
}

/** An earlier column of the same quantity with the same values; null where there is none. */
function twinOf(index: number, written: readonly ColumnAsWritten[], recognitions: readonly Recognition[]): number | null {
  const { quantity, name, section, rivals } = recognitions[index]!;
  for (let i = 0; i < index; i += 1) {
    const other = recognitions[i]!;
    const sameMeaning =
      quantity !== null && quantity !== 'time'
        ? other.quantity === quantity && other.section === section
        : quantity === null && (other.name === name || (other.quantity !== null && other.quantity === rivals[0]?.quantity));
    if (sameMeaning && written[i]!.kind !== 'text' && sameValues(written[i]!.values, written[index]!.values)) return i;
  }
  return null;
}

function sameValues(a: Float64Array, b: Float64Array): boolean {
  return a.length === b.length && a.length > 0 && a.every((value, index) => Object.is(value, b[index]) || value === b[index]);
}

/** A long column's middle is taken from so many of its values: sorting all of them took as long as reading the file. */
const MOST_SORTED = 10_000;

function rangeOf(values: Float64Array): { low: number; middle: number; high: number } | null {
  let [low, high] = [Infinity, -Infinity];
  const step = Math.ceil(values.length / MOST_SORTED);
  const sample = new Float64Array(Math.ceil(values.length / Math.max(1, step)));
  let count = 0;
  for (let i = 0; i < values.length; i += 1) {
    const value = values[i]!;
    if (!Number.isFinite(value)) continue;
    if (value < low) low = value;
    if (value > high) high = value;
    if (i % step === 0) sample[count++] = value;
  }
  if (low > high) return null;
  return { low, high, middle: count === 0 ? low : sample.subarray(0, count).sort()[count >> 1]! };
}
