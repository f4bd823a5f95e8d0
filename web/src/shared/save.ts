/** Saves a text as a file. */
export function saveText(fileName: string, type: string, text: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = fileName;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** Columns under one header as CSV text; shorter columns leave blanks. */
export function csvText(columns: { header: string; values: readonly (number | string | null)[] }[]): string {
  const quote = (text: string) => (/[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
  const rows = Math.max(0, ...columns.map(({ values }) => values.length));
  const lines = [columns.map(({ header }) => quote(header)).join(',')];
  for (let i = 0; i < rows; i += 1) lines.push(columns.map(({ values }) => (values[i] == null ? '' : quote(String(values[i])))).join(','));
  return `${lines.join('\n')}\n`;
}

/** The markup of an SVG element that stands on the page, with the styles it is seen in. */
export function svgText(svg: SVGSVGElement): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const originals = [svg, ...svg.querySelectorAll<SVGElement>('*')];
  const copies = [copy, ...copy.querySelectorAll<SVGElement>('*')];
  originals.forEach((original, i) => {
    const style = getComputedStyle(original);
    for (const name of ['fill', 'stroke', 'stroke-width', 'stroke-dasharray', 'opacity', 'font-family', 'font-size', 'font-weight']) {
      copies[i]!.style.setProperty(name, style.getPropertyValue(name));
    }
  });
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  return new XMLSerializer().serializeToString(copy);
}
