import type { SearchHit } from '@gezeit/contract';
import type { Card } from './card.js';

const MOST_HITS = 40;

/** Programmes, parts, files and notes that hold every word of a question, upper or lower case. */
export function search(cards: readonly Card[], question: string): SearchHit[] {
  const words = question.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return [];
  const hits: SearchHit[] = [];
  for (const { entry, lines } of cards)
    for (const { kind, step, text, also } of lines) {
      const searched = `${text} ${also}`.toLowerCase();
      if (!words.every((word) => searched.includes(word))) continue;
      hits.push({ kind, programmeId: entry.id, programme: entry.title, text, step });
      if (hits.length === MOST_HITS) return hits;
    }
  return hits;
}
