import Papa from 'papaparse';

/** A log of one JSON object a line, as a table parted by tabs with the objects' names as header; null where it is none. */
export function tableOfJsonLines(text: string): string | null {
  if (!/^\s*\{/.test(text.slice(0, 200))) return null;
  const rows: Record<string, unknown>[] = [];
  for (const line of text.split(/\r\n|\n|\r/)) {
    if (line.trim() === '') continue;
    try {
      rows.push(flat(JSON.parse(line.trim().replace(/,$/, '')) as Record<string, unknown>));
    } catch {
      // A line cut off at the end is dropped as a row would be; a file whose first line is no object is none of these.
      if (rows.length === 0) return null;
    }
  }
  if (rows.length === 0) return null;
  const fields = [...new Set(rows.flatMap((row) => Object.keys(row)))];
  const cell = (value: unknown) =>
    typeof value === 'number' || typeof value === 'string' ? value : typeof value === 'boolean' ? Number(value) : '';
  return Papa.unparse({ fields, data: rows.map((row) => fields.map((field) => cell(row[field]))) }, { delimiter: '\t', newline: '\n' });
}

/** Objects in objects as "outer inner". */
function flat(row: Record<string, unknown>): Record<string, unknown> {
  return Object.fromEntries(
    Object.entries(row).flatMap(([key, value]) =>
      value !== null && typeof value === 'object' && !Array.isArray(value)
        ? Object.entries(value as Record<string, unknown>).map(([inner, part]): [string, unknown] => [`${key} ${inner}`, part])
        : [[key, value]],
    ),
  );
}
