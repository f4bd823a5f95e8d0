/** Gear ratios from a text: numbers with point or comma, separated by anything else; null where there is none. */
export function ratiosFromText(text: string): number[] | null {
  const ratios = (text.match(/\d+(?:[.,]\d+)?/g) ?? []).map((entry) => Number(entry.replace(',', '.'))).filter((ratio) => ratio > 0);
  return ratios.length > 0 ? ratios : null;
}

export function ratiosText(ratios: readonly number[] | null | undefined): string {
  return (ratios ?? []).join(' ');
}
