import { positive } from '../input-rules.js';
import { GezeitError, impossible } from '../errors.js';

/** Sections in a row feed each other: a sum of them is no better than this share. Assumption (formula e4). */
export const INTERACTION_SHARE = 0.15;

/**
 * Effective area, m², of sections that one flow passes in turn, and each one's share of the drop (formula e4).
 * @throws GezeitError `nothing-to-combine` for an empty list.
 * @example areasInSeriesM2([60e-4, 45e-4, 80e-4]).areaM2 // 32.83 cm²
 */
export function areasInSeriesM2(areasM2: readonly number[]): { areaM2: number; shares: number[] } {
  if (areasM2.length === 0) throw new GezeitError('nothing-to-combine', 'There is no section to combine.', 'Add a section.');
  const resistances = areasM2.map((area) => 1 / positive('area', area) ** 2);
  const total = resistances.reduce((sum, resistance) => sum + resistance, 0);
  return { areaM2: 1 / Math.sqrt(total), shares: resistances.map((resistance) => resistance / total) };
}

/** Effective area, m², of openings side by side at one drop: the sum (formula e5). */
export function areasInParallelM2(areasM2: readonly number[]): number {
  if (areasM2.length === 0) throw new GezeitError('nothing-to-combine', 'There is no opening to combine.', 'Add an opening.');
  return areasM2.reduce((sum, area) => sum + positive('area', area), 0);
}

/**
 * Effective area, m², of the whole after one section is replaced; `null` as the new one means a perfect section (formula e4b).
 * @throws GezeitError `impossible-input` where the section alone is smaller than the whole.
 */
export function areaAfterReplacingM2(wholeM2: number, oldSectionM2: number, newSectionM2: number | null): number {
  if (!(positive('section', oldSectionM2) > positive('whole', wholeM2)))
    throw impossible('section', 'must be larger than the whole that it is part of', oldSectionM2);
  const rest = 1 / wholeM2 ** 2 - 1 / oldSectionM2 ** 2 + (newSectionM2 === null ? 0 : 1 / positive('new section', newSectionM2) ** 2);
  return 1 / Math.sqrt(rest);
}
