import type { DeskLine } from './desk-lines.js';

/** A column of a table of data. */
interface TableColumn {
  header: string;
  values: readonly number[];
}

/** Lines as a table: what was logged at the same moments shares its column of time, or of what else it is drawn over. */
export function deskTable(lines: readonly DeskLine[], axisHeader: string, span: readonly [number, number] | null): TableColumn[] {
  const [from, to] = span ?? [-Infinity, Infinity];
  const groups: { at: number[]; columns: TableColumn[] }[] = [];
  for (const { pull, label, unit, series } of lines) {
    const inside = Array.from(series.at.keys()).filter((i) => series.at[i]! >= from && series.at[i]! <= to);
    const at = inside.map((i) => series.at[i]!);
    const column = { header: `${pull} ${label} [${unit}]`, values: inside.map((i) => series.values[i]!) };
    const same = groups.find((group) => group.at.length === at.length && group.at.every((value, i) => value === at[i]));
    if (same) same.columns.push(column);
    else groups.push({ at, columns: [column] });
  }
  return groups.flatMap(({ at, columns }) => [{ header: axisHeader, values: at }, ...columns]);
}
