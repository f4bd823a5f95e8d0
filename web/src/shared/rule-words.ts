import type { PassedLimit, PlanGate, PlanStop } from '@gezeit/contract';
import { gateEnds, isStreamed, type GateView } from '@gezeit/core';
import { shownUnitOf, shownValueOf } from './units/field-unit.js';
import { plain, type Show } from './units/show.js';

/** Minutes and seconds: 4:05. */
export function minutesText(seconds: number): string {
  const whole = Math.max(0, Math.round(seconds));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}

/** A gate's value in the chosen units, without its unit. */
export function gateValueText({ gate, value }: Pick<GateView, 'gate' | 'value'>, show: Show): string {
  if (value === null) return '–';
  return gate.unit === 'min' ? minutesText(value * 60) : gateFigure(value, gate.unit, show);
}

export function gateUnitText({ unit }: PlanGate, show: Show): string {
  return unit === 'min' ? 'min:s' : shownUnitOf(unit, false, show.units);
}

/** What a gate asks for: "88 ± 3", "at most +12". */
export function gateTargetText(gate: PlanGate, show: Show): string {
  const { low, high } = gateEnds(gate);
  if (gate.side === 'at-most') return `at most ${gateFigure(high, gate.unit, show)}`;
  if (gate.side === 'at-least') return `at least ${gateFigure(low, gate.unit, show)}`;
  const tolerance = figure(shownValueOf(gate.tolerance, gate.unit, true, show.units), gate.unit);
  return `${gateFigure(gate.target, gate.unit, show)} ± ${tolerance}`;
}

function gateFigure(value: number, unit: string, show: Show): string {
  if (unit === 'K') return show.temperatureDifference(value, 0);
  return figure(shownValueOf(value, unit, false, show.units), unit);
}

/** Temperatures to the degree, the rest to a tenth where it is not whole. */
const figure = (shown: number, unit: string) => plain(shown, unit === '°C' || unit === 'K' || Number.isInteger(shown) ? 0 : 1);

/** Whether a limit has no figure at all: somebody sees it or does not. */
export const isByEye = (stop: PlanStop): boolean => !isStreamed(stop) && stop.limit === null && stop.unit === '–';

/** A limit in words: "Oil above 140 °C"; where none is agreed, room to fill it in; what no stream can watch says so. */
export function stopText(stop: PlanStop, show: Show, open = '(not set)'): string {
  const { label, limit, unit, above } = stop;
  if (isByEye(stop)) return `${label} (watched by eye)`;
  const shown = limit === null ? open : threeFigures(shownValueOf(limit, unit, false, show.units));
  return (
    `${label} ${above ? 'above' : 'below'} ${shown} ${shownUnitOf(unit, false, show.units)}`.trim() +
    (isStreamed(stop) ? '' : ' (watched by eye)')
  );
}

/** A limit that was passed, in the chosen units; a stop that was called is its own text. */
export function passedText({ text, passed }: { text: string; passed: PassedLimit | null }, show: Show): string {
  if (!passed) return text;
  const { label, value, limit, unit, above } = passed;
  const withUnit = (figure: number) =>
    `${threeFigures(shownValueOf(figure, unit, false, show.units))} ${shownUnitOf(unit, false, show.units)}`.trim();
  return `${label} ${withUnit(value)} is ${above ? 'over' : 'under'} the limit of ${withUnit(limit)}`;
}

const threeFigures = (value: number) => String(Number(value.toFixed(Math.max(0, 2 - Math.floor(Math.log10(Math.abs(value) || 1))))));
