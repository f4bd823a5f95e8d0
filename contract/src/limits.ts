import type { Bundle } from './bundle.js';

const MB = 1024 ** 2;

/** What a programme and a bundle may hold. Assumptions: no real day comes near them, and within them every view answers at once. */
export const LIMITS = {
  plannedPulls: 400,
  pulls: 2000,
  setups: 100,
  /** Files added by hand, results of the bench, and fixed findings: with them it must still leave as one bundle, at once. */
  attachments: 500,
  evidence: 500,
  fixedFindings: 50,
  nameLength: 200,
  noteLength: 20_000,
  descriptionBytes: 8 * MB,
  /** Of a bundle when it is unpacked. */
  bundleBytes: 192 * MB,
  bundleFiles: 20_000,
  pathLength: 400,
} as const;

/** Fields that name something; every other text may be as long as a note. */
const NAMES = new Set(
  'id title name setup part parts device item by section channel line revision serial material reference candidate label key from to unit'.split(
    ' ',
  ),
);

/** Where in a value a text is too long, and how long it may be; null where none is. */
export function tooLongText(value: unknown, place = '', name = ''): { place: string; most: number } | null {
  if (typeof value === 'string') {
    const most = name === 'file' || name === 'path' ? LIMITS.pathLength : NAMES.has(name) ? LIMITS.nameLength : LIMITS.noteLength;
    return value.length > most ? { place, most } : null;
  }
  if (typeof value !== 'object' || value === null) return null;
  for (const [key, part] of Object.entries(value)) {
    const isListed = Array.isArray(value);
    const found = tooLongText(part, isListed ? `${place}[${key}]` : place ? `${place}.${key}` : key, isListed ? name : key);
    if (found) return found;
    if (!isListed && key.length > LIMITS.nameLength) return { place: `${place}.${key.slice(0, 40)}…`, most: LIMITS.nameLength };
  }
  return null;
}

/** What of a bundle is more than a programme may hold, in words; null where nothing is. */
export function beyondLimits(bundle: Bundle): string | null {
  const counts: [number, number, string][] = [
    [bundle.pulls.length, LIMITS.pulls, 'pulls'],
    [bundle.plan?.pulls.length ?? 0, LIMITS.plannedPulls, 'planned pulls'],
    [bundle.setups.length, LIMITS.setups, 'setups'],
  ];
  const count = counts.find(([found, most]) => found > most);
  if (count) return `It holds ${count[0]} ${count[2]}; a programme may hold ${count[1]}`;
  const text = tooLongText(bundle);
  return text ? `${text.place} is longer than ${text.most} letters` : null;
}
