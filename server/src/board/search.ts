import type { SearchHit } from '@gezeit/contract';
import type { Card } from './card.js';

const MOST_HITS = 40;

/** Programmes, parts, files and notes that hold every word of a question, upper or lower case. */
export function search(cards: readonly Card[], question: string): SearchHit[] {
  const words = question.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return [];
  const holds = (text: string) => {
    const searched = text.toLowerCase();
    return words.every((word) => searched.includes(word));
  };
  const hits: SearchHit[] = [];
  for (const { entry, searched } of cards)
    for (const { kind, step, lines, also } of searched) {
      // What not even all of them together hold is in none of them.
      if (!holds(`${lines} ${also}`)) continue;
      for (const text of lines.split('\n')) {
        if (!holds(`${text} ${also}`)) continue;
        hits.push({ kind, programmeId: entry.id, programme: entry.title, text, step });
        if (hits.length === MOST_HITS) return hits;
      }
    }
  return hits;
}
