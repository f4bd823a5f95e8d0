import { insideValue, scaleOf } from '../channels/meaning.js';
import { readName } from '../channels/name-evidence.js';
import { recogniseHeader } from '../channels/recognise.js';
import { isBlank, looksLikeNumber } from './cells.js';
import type { PreambleValue } from './log-table.js';
import { parseTimeS, timeFormatOf } from './time-cells.js';

/** What stands above a table: readings of the air, a date, a time of day. */
export interface Preamble {
  values: PreambleValue[];
  /** Midnight of the day it names, ms since 1970 as the clock on the wall says it. */
  dateMs: number | null;
  /** Time of day, ms since midnight. */
  clockMs: number | null;
}

/** What is taken from above a table. */
const WANTED = new Set(['ambientTemperature', 'ambientPressure', 'relativeHumidity', 'coolingAirTemperature', 'correctionFactor']);

/** Reads the lines above a table: "Air pressure;994;mbar", "Humidity: 48 %", "# Date = 2026-03-04 09:12". */
export function readPreamble(lines: readonly string[]): Preamble {
  const preamble: Preamble = { values: [], dateMs: null, clockMs: null };
  for (const line of lines) {
    const text = line
      .trim()
      .replace(/^[#;/*!%"']+\s*/, '')
      .replace(/["']/g, '');
    const value = readingIn(text, line);
    if (value) preamble.values.push(value);
    else takeTime(preamble, text);
  }
  return preamble;
}

function readingIn(text: string, line: string): PreambleValue | null {
  const match =
    /^([\p{L}][^\d=:;,\t|]*?)\s*(?:\(([^)]*)\)|\[([^\]]*)\])?\s*[=:;,\t| ]\s*([+-]?\d+(?:[.,]\d+)?)\s*[;,\t| ]*\s*([^;\t|]*)$/u.exec(text);
  if (!match) return null;
  const [, name, round, square, number, tail] = match;
  const unit = (round ?? square ?? tail ?? '').trim();
  if (!looksLikeNumber(number!)) return null;
  // Above a table the temperature of the air is that of the place.
  const { concepts } = readName(name!.trim());
  const isAir = concepts.size === 2 && concepts.has('air') && concepts.has('temperature');
  const recognition = recogniseHeader(isAir ? `ambient ${name!.trim()}` : name!.trim(), unit);
  if (!recognition.quantity || !WANTED.has(recognition.quantity)) return null;
  const value = insideValue(scaleOf(recognition, null), +number!.replace(',', '.'));
  return { quantity: recognition.quantity, value, text: line.trim() };
}

function takeTime(preamble: Preamble, text: string): void {
  for (const part of [text, ...text.split(/[;\t|=]|(?<=\p{L})\s*:\s*|,\s*/u)]) {
    const cell = part.trim();
    if (isBlank(cell) || !/\d/.test(cell)) continue;
    const format = timeFormatOf([cell]);
    if (!format) continue;
    const seconds = parseTimeS(cell, format);
    if (!Number.isFinite(seconds)) continue;
    if (format.kind === 'clock') {
      if (/\d:\d{2}:\d{2}/.test(cell)) preamble.clockMs ??= seconds * 1000;
      continue;
    }
    const dayS = Math.floor(seconds / 86_400) * 86_400;
    preamble.dateMs ??= dayS * 1000;
    if (format.kind === 'dateTime') preamble.clockMs ??= (seconds - dayS) * 1000;
    return;
  }
}
