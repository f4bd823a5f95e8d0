import type { Tide } from '@gezeit/contract';
import type { Formatter } from '../format/formatter.js';

/** What the water line of a tide strip is, in a formatter's units. */
export function tideSourceText(source: Tide['source'], f: Formatter): string {
  const unit = f.shownUnit('K', true);
  const texts: Record<Tide['source'], string> = {
    intakeAir: `intake air above ambient, ${unit}; dashed: fitted recovery`,
    coolant: `no intake air temperature logged: coolant above ambient, ${unit}; dashed: fitted recovery`,
    pulls: 'no temperature logged: drawn from pulls and pauses alone',
    forecast: `forecast of intake air above ambient, ${unit}`,
    live: `intake air above ambient, ${unit}; dashed: forecast`,
    logs: 'no live temperature: from the logs, dashed: forecast',
  };
  return texts[source];
}
