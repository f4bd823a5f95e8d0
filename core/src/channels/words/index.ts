import type { WordTable } from '../concepts.js';
import { ENGLISH } from './english.js';
import { FRENCH } from './french.js';
import { GERMAN } from './german.js';
import { ITALIAN } from './italian.js';
import { SPANISH } from './spanish.js';

/** The languages that headers are read in: another one is its table and a line here. */
export const LANGUAGES: Readonly<Record<string, WordTable>> = {
  english: ENGLISH,
  german: GERMAN,
  french: FRENCH,
  spanish: SPANISH,
  italian: ITALIAN,
};
