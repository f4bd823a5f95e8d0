import type { Formatter } from '../format/formatter.js';
import type { Writer } from './writers.js';

type Said = { code: string; values: unknown };
type Say = (said: Said, f: Formatter) => string;

/** Writes whatever these words can say, and what is held in it as one of the clauses. What is not known (from a newer application) is its code. */
export function sayWith(words: object, clauses: object): Say {
  const inner = { ...words, ...clauses };
  const write = (known: object, { code, values }: Said, f: Formatter): string =>
    (known as Record<string, Writer | undefined>)[code]?.(values as never, f, (held) => write(inner, held, f)) ?? code;
  return (said, f) => write(words, said, f);
}

type Texted = { said: Record<string, { code: string; values: unknown }[]> };

/** Whether a part of findings has texts to be written. */
const isTexted = (node: object): node is Texted =>
  'said' in node && typeof node.said === 'object' && node.said !== null && !Array.isArray(node.said);

/**
 * A copy of findings (or a part of them) with every text written anew from what is said: a field that `said` names holds one sentence after the
 * other, or, where it is a list, one text each. A field with nothing said keeps what it holds.
 */
export function writtenBy<T>(say: Say, node: T, f: Formatter): T {
  if (Array.isArray(node)) return node.map((entry) => writtenBy(say, entry as unknown, f)) as T;
  if (typeof node !== 'object' || node === null) return node;
  const copy: Record<string, unknown> = {};
  for (const [key, value] of Object.entries(node)) copy[key] = key === 'said' ? value : writtenBy(say, value as unknown, f);
  if (isTexted(node))
    for (const [field, told] of Object.entries(node.said)) {
      const texts = told.map((entry) => say(entry, f));
      if (Array.isArray(copy[field])) copy[field] = texts;
      else if (texts.length > 0) copy[field] = texts.join(' ');
    }
  return copy as T;
}
