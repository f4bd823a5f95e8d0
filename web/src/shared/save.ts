/** Saves a text, or what else a file can hold, as a file. */
export function saveText(fileName: string, type: string, text: string | ArrayBuffer): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = fileName;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/**
 * Columns under one header as CSV text; shorter columns leave blanks. A text that a spreadsheet would take for a formula is marked as text;
 * numbers never are. The writer is fetched when something is first saved.
 */
export async function csvText(columns: { header: string; values: readonly (number | string | null)[] }[]): Promise<string> {
  const { unparse } = await import('papaparse');
  const count = Math.max(0, ...columns.map(({ values }) => values.length));
  const rows = Array.from({ length: count }, (_, i) => columns.map(({ values }) => values[i] ?? null));
  return `${unparse({ fields: columns.map(({ header }) => header), data: rows }, { newline: '\n', escapeFormulae: true })}\n`;
}

/** Saves columns as a CSV file. */
export async function saveTable(fileName: string, columns: Parameters<typeof csvText>[0]): Promise<void> {
  saveText(fileName, 'text/csv', await csvText(columns));
}

/** How what is drawn looks: of all that is set from outside of it just this goes with it. */
const SEEN = [
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'stroke-linecap',
  'stroke-opacity',
  'paint-order',
  'opacity',
  'font-family',
  'font-size',
  'font-weight',
];

/** The markup of an SVG element that stands on the page, with the styles it is seen in. */
export function svgText(svg: SVGSVGElement): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const originals = [svg, ...svg.querySelectorAll<SVGElement>('*')];
  const copies = [copy, ...copy.querySelectorAll<SVGElement>('*')];
  originals.forEach((original, i) => {
    const style = getComputedStyle(original);
    for (const name of SEEN) {
      copies[i]!.style.setProperty(name, style.getPropertyValue(name));
    }
  });
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  return new XMLSerializer().serializeToString(copy);
}
