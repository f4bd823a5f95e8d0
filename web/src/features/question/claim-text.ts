import type { Claim } from '@gezeit/contract';

export interface UnderstoodClaim {
  understood: boolean;
  /** What is kept beside the text. */
  fields: Partial<Claim>;
  /** What was understood, in words. */
  words: string;
}

const NUMBER = String.raw`([+\-−–]?)\s*(\d+(?:[.,]\d+)?)`;
const number = (sign: string | undefined, digits: string) => (sign && sign !== '+' ? -1 : 1) * Number(digits.replace(',', '.'));
const speedOf = (text: string) => {
  const match = /(?:at|@)\s*(\d{3,5})\s*(?:rpm|\/min)?/i.exec(text);
  return match ? Number(match[1]) : null;
};

/** Reads a claim as people write it: a gain of power, flow or temperature, or that nothing is lost. What is not understood is kept as text. */
export function claimFromText(text: string): UnderstoodClaim {
  if (/\bno loss\b|\bloses nothing\b|\bwithout loss\b/i.test(text))
    return { understood: true, fields: { quantity: 'no-loss' }, words: 'Understood: no loss in the band.' };
  const atRpm = speedOf(text);
  const power = new RegExp(`${NUMBER}\\s*(kW|hp|PS)\\b`, 'i').exec(text);
  if (power) {
    const unit = { kw: 'kW', hp: 'hp', ps: 'PS' }[power[3]!.toLowerCase()]!;
    const value = number(power[1], power[2]!);
    return {
      understood: true,
      fields: { quantity: 'power', value, unit, atRpm },
      words: `Understood: ${value} ${unit}${atRpm ? ` at ${atRpm} rpm` : ', mean over the band'}.`,
    };
  }
  const share = new RegExp(`${NUMBER}\\s*%`).exec(text);
  if (share) {
    const value = number(share[1], share[2]!);
    const quantity = /flow/i.test(text) ? 'flow' : 'power';
    return {
      understood: true,
      fields: { quantity, value, unit: '%', ...(quantity === 'power' ? { atRpm } : {}) },
      words: `Understood: ${value} % of ${quantity}${atRpm && quantity === 'power' ? ` at ${atRpm} rpm` : ''}.`,
    };
  }
  const kelvin = new RegExp(`${NUMBER}\\s*(K|°C|degrees?)(?![A-Za-z])`).exec(text);
  if (kelvin) {
    const size = number(kelvin[1], kelvin[2]!);
    const value = /cool|less|lower/i.test(text) && size > 0 ? -size : size;
    return { understood: true, fields: { quantity: 'temperature', value, unit: 'K' }, words: `Understood: charge temperature ${value} K.` };
  }
  return {
    understood: false,
    fields: {},
    words: 'Kept as written; to be held against a measurement it needs a figure in kW, hp, PS, % or K, or “no loss”.',
  };
}
