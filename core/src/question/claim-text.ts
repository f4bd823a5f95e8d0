import type { Claim } from '@gezeit/contract';
import { dimensionOf, UNITS, type UnitName } from '../units/units.js';
import { unitFromText } from '../units/unit-spellings.js';

/** A claim as it was read from a text. */
export interface UnderstoodClaim {
  understood: boolean;
  /** What is kept beside the text. */
  fields: Partial<Claim>;
  /** What was understood, in words. */
  words: string;
}

const NUMBER = String.raw`([+\-−–]?)\s*(\d+(?:[.,]\d+)?)`;
/** Engine speeds with or without a separator of thousands: 6000, 6,000, 6 000, 6.000. */
const SPEED = String.raw`(\d{1,2}[,. \u00a0’']?\d{3})`;
const UNIT = String.raw`(kW|hp|bhp|whp|PS|W|N\s?[·.*]?\s?m|lbf?[-·. ]?ft|ft[-·. ]?lbf?s?|kPa|mbar|hPa|Pa|psi|inH2O|bar|K|°\s?C|°\s?F|degrees?|%|per\s?cent|percent)`;
const LOSES = /\b(?:loses?|losing|down|minus)\b/i;
/** Claims that nothing happens, of a size that may be named. */
const NOTHING = {
  'no-loss': { says: /\bno (?:power )?loss\b|\bloses nothing\b|\bwithout (?:any )?loss\b|\bnothing is lost\b/i, words: 'no loss' },
  'no-difference': { says: /\bno (?:power )?difference\b|\bneither gains nor loses\b|\bmakes no difference\b/i, words: 'no difference' },
};
const LESS = /\b(?:less|lower|drops?\s+by|smaller|fewer|reduced?|cuts?)\b/i;
const COOLER = /cool|less|lower/i;

const number = (sign: string | undefined, digits: string) => (sign && sign !== '+' ? -1 : 1) * Number(digits.replace(',', '.'));
const speed = (text: string) => Number(text.replace(/\D/g, ''));

/** Reads a claim as people write it: a gain of power, torque, flow, temperature or pressure, or that nothing is lost. What is not understood is kept as text. */
export function claimFromText(text: string): UnderstoodClaim {
  const where = whereOf(text);
  const place = placeText(where);
  // What is said of engine speeds is no figure of the claim.
  const rest = text
    .replace(new RegExp(`${SPEED}(?:\\s*(?:to|and|-|–|until)\\s*${SPEED})?\\s*(?:rpm|/min|min-1)`, 'gi'), ' ')
    .replace(/\b95\s?%\s*:/g, ' ');
  for (const [quantity, { says, words }] of Object.entries(NOTHING))
    if (says.test(text)) {
      const limit = /(\d+(?:[.,]\d+)?)\s*(?:%|per\s?cent)/i.exec(rest)?.[1];
      const value = limit === undefined ? {} : { value: number('', limit), unit: '%' };
      return {
        understood: true,
        fields: { quantity, ...value, ...where },
        words: `Understood: ${words}${limit === undefined ? '' : ` of ${value.value} % or more`}${place || ' in the band'}.`,
      };
    }
  const match = new RegExp(`${NUMBER}\\s*${UNIT}(?![A-Za-z])`, 'i').exec(rest);
  if (!match) return NOT_UNDERSTOOD;
  const size = withinInterval(number(match[1], match[2]!), rest);
  const signed = match[1] ? size : LOSES.test(text) ? -size : size;
  const unit = match[3]!;
  if (/^(?:%|per\s?cent|percent)$/i.test(unit)) return share(text, size, signed, where, place);
  if (/^degrees?$/i.test(unit)) return temperature(text, size);
  const known = unitFromText(unit);
  if (!known) return NOT_UNDERSTOOD;
  switch (dimensionOf(known)) {
    case 'power':
      return measured('power', signed, known, where, place);
    case 'torque':
      return measured('torque', signed, known, where, place);
    case 'temperature':
      return temperature(text, size * UNITS[known].factor);
    case 'pressure': {
      const kPa = Number(((size * UNITS[known].factor) / 1000).toPrecision(6));
      const value = LESS.test(text) && kPa > 0 ? -kPa : kPa;
      return {
        understood: true,
        fields: { quantity: 'restriction', value, unit: 'kPa' },
        words: `Understood: pressure drop ${value} kPa.`,
      };
    }
    default:
      return NOT_UNDERSTOOD;
  }
}

/** A figure that stands with its interval claims no more than the nearer end of that. */
function withinInterval(size: number, text: string): number {
  const interval = new RegExp(`\\(\\s*${NUMBER}\\s*(?:to|until|bis)\\s*${NUMBER}\\s*\\)`, 'i').exec(text);
  if (!interval) return size;
  const [low, high] = [number(interval[1], interval[2]!), number(interval[3], interval[4]!)];
  if (size < Math.min(low, high) || size > Math.max(low, high)) return size;
  return size < 0 ? Math.max(low, high) : Math.min(low, high);
}

const NOT_UNDERSTOOD: UnderstoodClaim = {
  understood: false,
  fields: {},
  words: 'Kept as written; to be held against a measurement it needs a figure in kW, hp, PS, N·m, lb·ft, %, K or kPa, or “no loss”.',
};

type Where = Pick<Claim, 'atRpm' | 'bandRpm' | 'powerAt'>;

/** At which speed or over which band, and where power is measured, as far as it is said. */
function whereOf(text: string): Where {
  const band = new RegExp(`${SPEED}\\s*(?:rpm)?\\s*(?:to|and|-|–|until)\\s*${SPEED}\\s*(?:rpm|/min|min-1)`, 'i').exec(text);
  const at = band ? null : new RegExp(`(?:at|@)\\s*${SPEED}(?!\\s*(?:[a-z]*hp|kW|PS|N))\\s*(?:rpm|/min)?`, 'i').exec(text);
  const place = /\b(?:at|on) the (wheel|hub|crank)/i.exec(text)?.[1]?.toLowerCase();
  return {
    atRpm: at ? speed(at[1]!) : null,
    ...(band ? { bandRpm: [speed(band[1]!), speed(band[2]!)].sort((a, b) => a - b) as [number, number] } : {}),
    ...(place ? { powerAt: place } : {}),
  };
}

function placeText({ atRpm, bandRpm, powerAt }: Where): string {
  const at = atRpm ? ` at ${atRpm} rpm` : bandRpm ? `, ${bandRpm[0]} to ${bandRpm[1]} rpm` : '';
  return `${at}${powerAt ? `, at the ${powerAt}` : ''}`;
}

function measured(quantity: 'power' | 'torque', value: number, unit: UnitName, where: Where, place: string): UnderstoodClaim {
  const over = where.atRpm || where.bandRpm ? place : `, mean over the band${place}`;
  return { understood: true, fields: { quantity, value, unit, ...where }, words: `Understood: ${value} ${unit}${over}.` };
}

function share(text: string, size: number, signed: number, where: Where, place: string): UnderstoodClaim {
  if (/restrict|pressure drop|\bdrop\b/i.test(text)) {
    const value = /\bmore\b|higher/i.test(text) || size < 0 ? size : -size;
    return { understood: true, fields: { quantity: 'restriction', value, unit: '%' }, words: `Understood: restriction ${value} %.` };
  }
  if (/flow/i.test(text))
    return { understood: true, fields: { quantity: 'flow', value: size, unit: '%' }, words: `Understood: ${size} % of flow.` };
  const quantity = /torque/i.test(text) ? 'torque' : 'power';
  return {
    understood: true,
    fields: { quantity, value: signed, unit: '%', ...where },
    words: `Understood: ${signed} % of ${quantity}${place}.`,
  };
}

function temperature(text: string, size: number): UnderstoodClaim {
  const kelvin = Number(size.toPrecision(6));
  const value = COOLER.test(text) && kelvin > 0 ? -kelvin : kelvin;
  return { understood: true, fields: { quantity: 'temperature', value, unit: 'K' }, words: `Understood: charge temperature ${value} K.` };
}
