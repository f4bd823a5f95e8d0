import type { Concept } from './concepts.js';
import { readName, wordsOf } from './name-evidence.js';

/** Sections under their own names, as they stand in a header. */
const NAMED = ['filter', 'duct', 'tract', 'cooler', 'box', 'snorkel', 'hose', 'housing', 'element'];
/** Sections by what a word means, whatever the language. */
const BY_CONCEPT: readonly (readonly [Concept, string])[] = [
  ['filter', 'filter'],
  ['cooler', 'cooler'],
  ['duct', 'duct'],
  ['tract', 'tract'],
  ['box', 'box'],
  ['snorkel', 'snorkel'],
];

/** The section that a pressure drop's header names: "Pressure drop filter" gives "filter"; null where it names none. */
export function sectionOf(name: string): string | null {
  const named = wordsOf(name).find((word) => NAMED.includes(word));
  if (named) return named;
  const { concepts } = readName(name);
  return BY_CONCEPT.find(([concept]) => concepts.has(concept))?.[1] ?? null;
}
