/** Numbers in sentences: signed, with a true minus, one digit more where they are small. */
export function signed(value: number, digits = Math.abs(value) < 10 ? 1 : 0): string {
  const text = Math.abs(value).toFixed(digits);
  const sign = Number(text) === 0 ? '' : value < 0 ? '−' : '+';
  return `${sign}${text}`;
}

/** "+2.6 % (+1.5 to +3.7)". */
export function withInterval(value: number, low: number, high: number, unit: string): string {
  return `${signed(value)} ${unit} (${signed(low)} to ${signed(high)})`;
}

/** "a, b and c". */
export function listed(items: readonly string[]): string {
  if (items.length <= 1) return items.join('');
  return `${items.slice(0, -1).join(', ')} and ${items.at(-1)}`;
}

/** A sentence starts with a capital. */
export function sentence(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
