import type { Calibration } from '../channels/calibration.js';

/** What a calibration was put right by, and on which days: "× 1.02 + 0.1 inH2O, 2026-03-01 to 2026-03-20"; empty where nothing was. */
export function calibrationTerms({ factor, offset, unit, from, to }: Omit<Calibration, 'device' | 'column'>): string {
  const by = [
    factor === 1 ? null : `× ${figure(factor)}`,
    offset === 0 ? null : `${offset < 0 ? '−' : '+'} ${figure(Math.abs(offset))}${unit ? `\u00a0${unit}` : ''}`,
  ].filter(Boolean);
  if (by.length === 0) return '';
  return by.join(' ') + (from && to ? `, ${from} to ${to}` : from ? `, from ${from}` : to ? `, until ${to}` : '');
}

const figure = (value: number) => String(Number(value.toPrecision(5))).replace('-', '−');

/** What was done to a channel whose calibration was found wrong. */
export function calibrationText({ device, column, ...terms }: Calibration): string {
  return `the calibration of “${column}” (${device}) was put right, ${calibrationTerms(terms)}`;
}
