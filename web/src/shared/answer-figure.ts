import type { FigureKind } from '@gezeit/core';
import { tied } from '@gezeit/core';
import type { Show } from './units/show.js';

interface Figures {
  estimate: number | null;
  low: number | null;
  high: number | null;
  unit: string;
}

/** What an answer's unit is to the formatter that sentences are written with, and the factor to the unit kept inside. */
const KINDS: Record<string, { kind: FigureKind; factor: number }> = {
  pct: { kind: 'percent', factor: 1 },
  K: { kind: 'temperatureDifference', factor: 1 },
  kPa: { kind: 'pressureDifference', factor: 1000 },
  lambda: { kind: 'lambda', factor: 1 },
  codes: { kind: 'count', factor: 1 },
  rpm: { kind: 'rpm', factor: 1 },
  s: { kind: 'seconds', factor: 1 },
};

/** An answer's figure with its unit, and its interval, in the chosen units, to the digit that its sentence prints; empty where there is none. */
export function answerFigure({ estimate, low, high, unit }: Figures, { words }: Show): { figure: string; range: string; unit: string } {
  const { kind, factor } = KINDS[unit] ?? { kind: 'number', factor: 1 };
  const shown = words.unit(kind) || unit;
  return {
    figure:
      estimate === null ? '' : words.unit(kind) === '' ? tied(words.figure(kind, estimate), unit) : words.figure(kind, factor * estimate),
    range: low === null || high === null ? '' : `(${words.ends(kind, factor * low, factor * high)})`,
    unit: shown,
  };
}
