import { tied } from '@gezeit/core';
import { withSign, type Show } from './units/show.js';

interface Figures {
  estimate: number | null;
  low: number | null;
  high: number | null;
  unit: string;
}

/** Decimals by the unit of an answer. */
const DIGITS: Record<string, number> = { lambda: 3, kPa: 2, codes: 0 };

/** An answer's figure with its unit, and its interval, in the chosen units; empty where there is none. */
export function answerFigure({ estimate, low, high, unit }: Figures, show: Show): { figure: string; range: string; unit: string } {
  const isPressure = unit === 'kPa';
  const convert = (value: number) => (unit === 'K' ? show.differenceOf(value) : isPressure ? show.pressureOf(value) : value);
  const shown =
    unit === 'pct' ? '%' : unit === 'K' ? show.differenceUnit : isPressure ? show.units.pressure : unit === 'lambda' ? 'λ' : unit;
  const text = (value: number) => withSign(convert(value), DIGITS[unit] ?? 1);
  return {
    figure: estimate === null ? '' : tied(text(estimate), shown),
    range: low === null || high === null ? '' : `(${text(low)}\u00a0to\u00a0${text(high)})`,
    unit: shown,
  };
}
