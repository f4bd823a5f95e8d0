import type { Comparison, Findings } from '@gezeit/contract';
import type { SteadyCooler } from '../cooler/steady-cooler.js';
import type { Formatter } from '../format/formatter.js';
import { COLD_SIDE_WORDS } from './labels.js';
import { plain } from '../format/values.js';

/** How the intake air of two setups rises from the same start; null where it cannot be told. */
export function equalStartText({ reference, candidate, riseAtEqualStartK }: Comparison, f: Formatter): string | null {
  if (!riseAtEqualStartK) return null;
  const { low, high } = riseAtEqualStartK;
  const figures = f.interval('temperatureDifference', riseAtEqualStartK);
  if (low <= 0 && high >= 0)
    return `From the same start the intake air of ${candidate} and ${reference} rise alike as far as can be told: ${figures}.`;
  return `From the same start the intake air of ${candidate} rises ${low > 0 ? 'more' : 'less'} than that of ${reference}: ${figures}.`;
}

/** "0.71 (0.68 to 0.74)", or the figure alone where nothing was repeated. */
export function effectivenessText({ value, low, high }: { value: number; low: number | null; high: number | null }): string {
  return low === null || high === null ? plain(value, 2) : `${plain(value, 2)} (${plain(low, 2)} to ${plain(high, 2)})`;
}

/** What a setup's charge cooler did over its pulls. */
export function coolingText(
  { setup, effectiveness, low, high, coldSide, intakeAirRiseK }: Findings['chargeCooling'][number],
  f: Formatter,
): string {
  const rise = intakeAirRiseK === null ? '' : `; intake air ${f.temperatureDifference(intakeAirRiseK)} over a pull`;
  return `${setup}: cooler effectiveness ${effectivenessText({ value: effectiveness, low, high })}, against ${COLD_SIDE_WORDS[coldSide]}${rise}.`;
}

/** What a charge cooler does over a stretch of a pull, as of a steady load; `cold` is what cools it. */
export function steadyCoolerText(pull: string, { effectiveness, heatW }: SteadyCooler, cold: string, f: Formatter): string {
  const end = (watts: number) => plain(f.shownValue(watts / 1000, 'kW'), 1);
  const given = heatW
    ? `; the charge gives up ${f.power(heatW.value)} (${end(heatW.low)} to ${end(heatW.high)})`
    : '; with the air mass flow drawn, the heat too';
  return `${pull}: effectiveness ${effectivenessText(effectiveness)} against ${cold}${given}.`;
}
