import { UNITS, type UnitName } from '../units/units.js';
import { unitFromText } from '../units/unit-spellings.js';

/** A unit as it was written: what it is, and what the number is multiplied by first. */
export interface WrittenUnit {
  /** As written, without brackets. */
  text: string;
  /** Null where it is none that is read. */
  unit: UnitName | null;
  /** "rpm x1000": 1000. */
  multiplier: number;
  /** An air-fuel ratio: needs the ratio that the device divides by. */
  afr: boolean;
  /** "psig", "kPa (abs)". */
  gauge: boolean | null;
}

/** A header taken apart: what it is called, and the unit that it names. */
export interface Header {
  name: string;
  unit: WrittenUnit | null;
}

const OPENING = '[({<⟨【';
const CLOSING = '])}>⟩】';
const NO_UNIT = new Set(['', '-', '–', '—', '--', '.', 'none', 'n/a', 'na', 'unitless', 'dimensionless', '1', '[-]']);
const AFR = /^(afr|a\/f|air[/ -]?fuel( ratio)?|:1|x:1|afr:1)(\b.*)?$/i;
const GAUGE = /\b(gauge|gage|rel|relative|relativ|man|manometric|manométrique|g)\b\.?$/i;
const ABSOLUTE = /\b(abs|absolute?|absolue?|assolut[ao]|absoluta|a)\b\.?$/i;

/** Parts of a unit that stand alone only with a name that asks for them: "Engine T", "Bank 1". */
const AMBIGUOUS_LAST = /^(c|f|l|h|1|-|t|p|n|k|s|la|a|g|m|w|in|min|g\/s1|degree|ratio|gps|ppm|inch|')$/i;

/** What a text says as a unit; null for an empty one and for the marks that say that there is none. */
export function writtenUnit(text: string): WrittenUnit | null {
  let plain = bare(text);
  if (NO_UNIT.has(plain.toLowerCase())) return null;
  const said = plain;
  if (AFR.test(plain)) return { text: said, unit: null, multiplier: 1, afr: true, gauge: null };
  const whole = unitFromText(plain);
  if (whole === '–') return null;
  if (whole && !/^(psia|psig|bara|barg|kpaa|kpag)$/i.test(plain))
    return { text: said, unit: whole, multiplier: 1, afr: false, gauge: null };
  let multiplier = 1;
  const times =
    /^(.*?)[\s(*]*[x×*·]\s*(10+|10\s*\^\s*-?\d+|1e-?\d+)\)?$/i.exec(plain) ??
    swap(/^[x×*·]?\s*(10+|10\s*\^\s*-?\d+|1e-?\d+)\s*[x×*·/]?\s*(.*)$/i.exec(plain));
  if (times?.[1]) {
    const factor = numberOf(times[2]!);
    // "1/min" is a unit of its own, and "10" in front of nothing none.
    if (factor >= 10 || factor < 1) [plain, multiplier] = [times[1].trim(), factor];
  }
  if (/^k[\s-]?(rpm|u\/min|tr\/min|1\/min|min-1)$/i.test(plain)) [plain, multiplier] = [plain.replace(/^k[\s-]?/i, ''), 1000];
  const [kind, kept] = pressureKind(plain);
  const unit = unitFromText(kept) ?? unitFromText(plain);
  return { text: said, unit, multiplier, afr: false, gauge: kind };
}

const swap = (match: RegExpExecArray | null) => (match?.[2] ? [match[0], match[2], match[1]!] : null);

function numberOf(text: string): number {
  const power = /^10\s*\^\s*(-?\d+)$/.exec(text);
  return power ? 10 ** Number(power[1]) : Number(text);
}

function pressureKind(text: string): [boolean | null, string] {
  const glued = /^(psi|bar|kpa)(a|g)$/i.exec(text);
  if (glued) return [glued[2]!.toLowerCase() === 'g', glued[1]!];
  const plain = text.replace(/[()[\]]/g, ' ').trim();
  for (const [pattern, gauge] of [
    [GAUGE, true],
    [ABSOLUTE, false],
  ] as const) {
    const rest = plain.replace(pattern, '').trim();
    if (rest === plain || rest === '') continue;
    const unit = unitFromText(rest);
    if (unit && UNITS[unit].dimension === 'pressure') return [gauge, rest];
  }
  return [null, text];
}

function bare(text: string): string {
  let plain = text.trim();
  while (plain.length > 1 && OPENING.includes(plain[0]!) && CLOSING.includes(plain.at(-1)!)) plain = plain.slice(1, -1).trim();
  return plain;
}

/** Splits "Engine speed [rpm]", "Power, kW", "boost_kPa", "Leistung in PS", "pressureDropKpa" into name and unit. */
export function takeHeaderApart(header: string): Header {
  const text = header
    .trim()
    .replace(/^"(.*)"$/, '$1')
    .trim();
  return inBrackets(text) ?? afterMark(text) ?? asLastWords(text) ?? { name: text, unit: null };
}

/** The last bracket that holds a unit; others belong to the name. */
function inBrackets(text: string): Header | null {
  const brackets = [...text.matchAll(/[[({<⟨【]([^\])}>⟩】]*)[\])}>⟩】]/gu)];
  for (const match of brackets.reverse()) {
    const unit = writtenUnit(match[1]!);
    const isMark = unit === null && NO_UNIT.has(match[1]!.trim().toLowerCase());
    const ends = match.index + match[0].length === text.length;
    if (!isMark && !(unit && (unit.unit || unit.afr))) {
      // An unknown unit at the end is a unit still: it says what the column is not.
      if (!ends || !unit || !looksLikeAUnit(match[1]!)) continue;
    }
    const name = `${text.slice(0, match.index)} ${text.slice(match.index + match[0].length)}`.replace(/\s+/g, ' ').trim();
    if (name === '') continue;
    return { name, unit };
  }
  return null;
}

const UNKNOWN_UNITS =
  /^(m?v|volts?|m?a|amps?|counts?|raw|cnt|bits?|hex|bool|on\/off|ohms?|k?ohm|Ω|g|m\/s²|m\/s2|°\/s|mg\/(st|str|stroke|cyl|hub|h|coup|zyl|asp)\.?|l\/100 ?km|mpg|l\/h|cc\/min|n|kn|lbf?|nm\/s|steps?|gal|kg\/m³|l|rad|m³\/h)$/i;
const looksLikeAUnit = (text: string) => UNKNOWN_UNITS.test(text.trim());

function afterMark(text: string): Header | null {
  const match = /^(.+?)\s*(?:[,;:|]\s*|\s+\/\s+|\s+in\s+|\s+[-–—]\s+)([^,;:|]+)$/i.exec(text);
  if (!match) return null;
  const unit = writtenUnit(match[2]!);
  return unit && (unit.unit || unit.afr) ? { name: match[1]!.trim(), unit } : null;
}

/** The last one to three words where they are a unit: "IAT degC", "torque lb ft", "drop_in_H2O". */
function asLastWords(text: string): Header | null {
  const parted = text.replace(/(\p{Ll}|\d)(\p{Lu})/gu, '$1 $2');
  for (const form of new Set([text, parted])) {
    const words = form.split(/[\s_.]+/).filter(Boolean);
    for (const count of [3, 2, 1]) {
      if (words.length <= count) continue;
      const tail = words.slice(-count);
      if (count === 1 && (AMBIGUOUS_LAST.test(tail[0]!) || (form === parted && form !== text && tail[0]!.length < 2))) continue;
      for (const joined of [tail.join(' '), tail.join('/')]) {
        const unit = writtenUnit(joined);
        if (!unit || !(unit.unit || unit.afr)) continue;
        if (joined.includes('/') && !/^(kg|g|lb|lbs|km|m|l|1|u|tr|kgh)\//i.test(joined)) continue;
        return { name: words.slice(0, -count).join(' '), unit };
      }
    }
  }
  return null;
}
