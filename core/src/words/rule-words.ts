import type { PassedLimit, PlanGate, PlanStop } from '@gezeit/contract';
import { gateEnds, type GateView } from '../day/gates.js';
import { isStreamed } from '../day/stop-criteria.js';
import type { Formatter } from '../format/formatter.js';
import { plain, signed } from '../format/values.js';

/** Minutes and seconds: 4:05. */
export function minutesText(seconds: number): string {
  const whole = Math.max(0, Math.round(seconds));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}

/** A gate's value in the chosen units, without its unit. */
export function gateValueText({ gate, value }: Pick<GateView, 'gate' | 'value'>, format: Formatter): string {
  if (value === null) return '–';
  return gate.unit === 'min' ? minutesText(value * 60) : gateFigure(value, gate.unit, format);
}

export function gateUnitText({ unit }: PlanGate, format: Formatter): string {
  return unit === 'min' ? 'min:s' : format.shownUnit(unit);
}

/** The road speed that the air speed at the opening stands for; null for any other gate. */
export function roadSpeedText({ gate: { id, unit }, value }: Pick<GateView, 'gate' | 'value'>): string | null {
  if (id !== 'fan' || value === null || (unit !== 'm/s' && unit !== 'km/h')) return null;
  return `road at ${Math.round(unit === 'm/s' ? value * 3.6 : value)} km/h`;
}

/** What a gate asks for: "88 ± 3", "at most +12". */
export function gateTargetText(gate: PlanGate, format: Formatter): string {
  const { low, high } = gateEnds(gate);
  if (gate.side === 'at-most') return `at most ${gateFigure(high, gate.unit, format)}`;
  if (gate.side === 'at-least') return `at least ${gateFigure(low, gate.unit, format)}`;
  const tolerance = figure(format.shownValue(gate.tolerance, gate.unit, true), gate.unit);
  return `${gateFigure(gate.target, gate.unit, format)} ± ${tolerance}`;
}

function gateFigure(value: number, unit: string, format: Formatter): string {
  if (unit === 'K') return signed(format.shownValue(value, unit, true), 0);
  return figure(format.shownValue(value, unit), unit);
}

/** Temperatures to the degree, the rest to a tenth where it is not whole. */
const figure = (shown: number, unit: string) => plain(shown, unit === '°C' || unit === 'K' || Number.isInteger(shown) ? 0 : 1);

/** Whether a limit has no figure at all: somebody sees it or does not. */
export const isByEye = (stop: PlanStop): boolean => !isStreamed(stop) && stop.limit === null && stop.unit === '–';

/** A limit in words: "Oil above 140 °C"; where none is agreed, room to fill it in; what no stream can watch says so. */
export function stopText(stop: PlanStop, format: Formatter, open = '(not set)'): string {
  const { label, limit, unit, above } = stop;
  if (isByEye(stop)) return `${label} (watched by eye)`;
  const shown = limit === null ? open : threeFigures(format.shownValue(limit, unit));
  return `${label} ${above ? 'above' : 'below'} ${shown} ${format.shownUnit(unit)}`.trim() + (isStreamed(stop) ? '' : ' (watched by eye)');
}

/** A limit that was passed, in the chosen units; a stop that was called is its own text. */
export function stoppedText({ text, passed }: { text: string; passed: PassedLimit | null }, format: Formatter): string {
  return passed ? passedText(passed, format) : text;
}

/** A limit that was passed: "Oil 141 °C is over the limit of 140 °C". */
export function passedText({ label, value, limit, unit, above }: PassedLimit, format: Formatter): string {
  const withUnit = (figure: number) => `${threeFigures(format.shownValue(figure, unit))} ${format.shownUnit(unit)}`.trim();
  return `${label} ${withUnit(value)} is ${above ? 'over' : 'under'} the limit of ${withUnit(limit)}`;
}

const threeFigures = (value: number) => String(Number(value.toFixed(Math.max(0, 2 - Math.floor(Math.log10(Math.abs(value) || 1))))));
