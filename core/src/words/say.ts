import type { SaidValues } from '../said.js';
import { ANSWER_WORDS } from './answer-words.js';
import { CLAIM_WORDS } from './claim-words.js';
import { CLOUD_WORDS } from './cloud-words.js';
import type { Formatter } from './formatter.js';
import { PULL_WORDS } from './pull-words.js';
import { REASON_WORDS } from './reason-words.js';
import type { SayInner, Writers } from './writers.js';

/** The words of everything that findings can say. */
const WORDS: Writers<SaidValues> = { ...PULL_WORDS, ...CLOUD_WORDS, ...REASON_WORDS, ...ANSWER_WORDS, ...CLAIM_WORDS };

/** Something said, in words. What is not known (from a newer application) is its code. */
export function say({ code, values }: { code: string; values: unknown }, f: Formatter): string {
  const write = (WORDS as Record<string, ((values: never, f: Formatter, say: SayInner) => string) | undefined>)[code];
  return write ? write(values as never, f, (inner) => say(inner, f)) : code;
}

type Texted = { said: Record<string, { code: string; values: unknown }[]> };

/** Whether a part of findings has texts to be written. */
const isTexted = (node: object): node is Texted =>
  'said' in node && typeof node.said === 'object' && node.said !== null && !Array.isArray(node.said);

/**
 * A copy of findings (or a part of them) with every text written anew from what is said: a field that `said` names holds one sentence after the
 * other, or, where it is a list, one text each. A field with nothing said keeps what it holds.
 */
export function withWords<T>(node: T, f: Formatter): T {
  if (Array.isArray(node)) return node.map((entry) => withWords(entry as unknown, f)) as T;
  if (typeof node !== 'object' || node === null) return node;
  const copy: Record<string, unknown> = {};
  for (const [key, value] of Object.entries(node)) copy[key] = key === 'said' ? value : withWords(value as unknown, f);
  if (isTexted(node))
    for (const [field, told] of Object.entries(node.said)) {
      const texts = told.map((entry) => say(entry, f));
      if (Array.isArray(copy[field])) copy[field] = texts;
      else if (texts.length > 0) copy[field] = texts.join(' ');
    }
  return copy as T;
}
