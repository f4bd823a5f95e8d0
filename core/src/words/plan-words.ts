import { tied } from '../format/values.js';

/** Length of a day in hours and minutes. */
export function lengthText(minutes: number): string {
  const whole = Math.round(minutes);
  return `${Math.floor(whole / 60)} h ${String(whole % 60).padStart(2, '0')} min`;
}

/** Letters of an order, conditioning pulls small. */
export function lettersOf(pulls: readonly { setup: string; kind: string }[]): string {
  return pulls.map(({ setup, kind }) => (kind === 'measured' ? setup : setup.toLowerCase())).join(' ');
}

/** What pulls can recognise: with the same digits wherever it stands, as a plan is weighed by its hundredths. */
export const resolutionText = (pct: number): string => tied(pct.toFixed(2), '%');

/** Whether a resolution is enough for the smallest difference that matters, in words. */
export function enoughText(resolvablePct: number, smallestPct: number): string {
  if (resolvablePct <= smallestPct) return 'enough for what matters';
  return `blind between ${smallestPct} and ${resolutionText(resolvablePct)}`;
}
