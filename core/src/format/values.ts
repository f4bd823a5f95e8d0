/** A band of engine speed, rpm. */
export type BandRpm = readonly [number, number];

/** Between a figure and its unit, and before an interval: a line never breaks there. */
const TIED = '\u00a0';

/** A number with its sign, a true minus; no sign before zero. */
export function signed(value: number, digits = 1): string {
  const text = Math.abs(value).toFixed(digits);
  const sign = Number(text) === 0 ? '' : value < 0 ? '−' : '+';
  return `${sign}${text}`;
}

/** A number with a true minus. */
export function plain(value: number, digits: number): string {
  const text = Math.abs(value).toFixed(digits);
  return value < 0 && Number(text) !== 0 ? `−${text}` : text;
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

/** A figure with its unit, tied together. */
export const tied = (figure: string, unit: string): string => (unit === '' ? figure : `${figure}${TIED}${unit}`);

/** "+1.5 to +3.7": the ends of an interval, on one line. */
export const ends = (low: number, high: number, digits?: number): string => `${signed(low, digits)}${TIED}to${TIED}${signed(high, digits)}`;

/** Per cent without decimals. */
export const whole = (percent: number): string => tied(`${Math.round(percent)}`, '%');
