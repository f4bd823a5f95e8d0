import type { Quantity } from '@gezeit/contract';
import type { Concept } from './concepts.js';
import { PATTERNS, type Pattern } from './patterns.js';
import { isFiller, meaningsOf, folded, partsOf, type Meanings } from './vocabulary.js';

/** What the name of a column says, as log-odds: the more of it a quantity explains, the likelier it is. Assumptions, set on the corpus. */
const NAME_WEIGHTS = {
  /** For each concept that belongs to the quantity. */
  explained: 1.5,
  /** For each known concept that does not: "tyre temperature" is no temperature of ours. */
  foreign: -4,
  /** For each word of more than two letters that nobody knows. */
  unknownWord: -1.9,
  /** For each scrap of a letter or two, and each unknown part of a compound. */
  unknownScrap: -0.3,
  /** Where nothing in the name is left over. */
  nothingLeft: 0.8,
};
/** Concepts that qualify without changing what is measured. */
const MILD: Partial<Record<Concept, number>> = {
  neutral: 0,
  engine: -0.3,
  air: -0.3,
  absolute: -0.2,
  gauge: -0.2,
  position: -0.6,
  corrected: -1,
  term: -0.5,
  vehicle: -0.8,
  cylinder: -0.5,
};
/** A name is taken in no more ways than this. */
const MOST_WAYS = 48;

export interface NameClaim {
  quantity: Quantity;
  score: number;
  /** The way it was said lacked what is measured: a unit must say it. */
  needsUnit: boolean;
}

export interface NameReading {
  /** Every quantity that the name could mean, best first. */
  claims: NameClaim[];
  /** All that the words may mean. */
  concepts: ReadonlySet<Concept>;
}

/** Lower-case words of a name: camelCase, underscores, digits and punctuation part them. */
export function wordsOf(name: string): string[] {
  return name
    .replace(/(\p{Ll})(\p{Lu})/gu, '$1 $2')
    .replace(/(\p{Lu})(\p{Lu}\p{Ll})/gu, '$1 $2')
    .replace(/(\p{L})(\d)/gu, '$1 $2')
    .replace(/(\d)(\p{L})/gu, '$1 $2')
    .toLowerCase()
    .split(/[^\p{L}\d]+/u)
    .filter(Boolean);
}

/** Letters that an export loses where it knows no other alphabet than one of its own, likelier first. */
const LOST = ['ü', 'ä', 'ö', 'é', 'è', 'ß', 'á', 'ó', 'í', 'ú', 'ñ', 'à', 'ù', 'ç'];

/** "K?hlmittel": a mark within a word stands for a letter that was lost, where one makes a known word of it. */
function withLostLetters(name: string): string {
  return name.replace(/\p{L}*[?\ufffd]\p{L}[\p{L}?\ufffd]*/gu, (word) => {
    const whole = LOST.map((letter) => word.replace(/[?\ufffd]/g, letter)).find((spelled) => {
      const parts = wordsOf(spelled).map((part) => partsOf(folded(part)));
      return parts.every((part, i) => part !== null && part.known >= folded(wordsOf(spelled)[i]!).length);
    });
    return whole ?? word;
  });
}

/** Words as they stand as well, for short forms that look like two words: "deltaP", "H2O", "O2", "PreTurbo". */
function tokensOf(name: string): string[] {
  const plain = withLostLetters(name)
    .replace(/[ΔδΔ∆]\s*/gu, 'delta ')
    .replace(/λ/gu, ' lambda ')
    .replace(/ϑ|θ/gu, ' temperature ')
    .replace(/\bO2\b/gi, ' lambda ')
    .replace(/\bH2O\b/gi, ' water ')
    .replace(/Σ/gu, '');
  const words = wordsOf(plain).map(folded);
  const whole = plain
    .split(/[^\p{L}\d]+/u)
    .map(folded)
    .filter(Boolean);
  // Where the letters as they stand are a word, they are not taken apart: "deltaP", "PreTurbo".
  const kept: string[] = [];
  let at = 0;
  for (const token of whole) {
    const own: string[] = [];
    let letters = '';
    while (at < words.length && letters.length < token.length) {
      own.push(words[at]!);
      letters += words[at]!;
      at += 1;
    }
    kept.push(...(own.length > 1 && meaningsOf(token) ? [token] : own));
  }
  return joinedPairs(kept);
}

/** Two words that are one: "inter cooler", "mass airflow", "wide band". */
function joinedPairs(words: string[]): string[] {
  const joined: string[] = [];
  for (let i = 0; i < words.length; i += 1) {
    const next = words[i + 1];
    const isKnown = (word: string) => meaningsOf(word) !== null || isFiller(word);
    if (next !== undefined && !(isKnown(words[i]!) && isKnown(next)) && words[i]!.length > 1 && meaningsOf(words[i]! + next)) {
      joined.push(words[i]! + next);
      i += 1;
    } else joined.push(words[i]!);
  }
  return joined;
}

interface Token {
  ways: Meanings;
  /** What the parts that nobody knows cost. */
  penalty: number;
}

function readTokens(name: string): Token[] {
  return tokensOf(name).flatMap((word): Token[] => {
    const nothing: Meanings = [[]];
    if (/^\d+$/.test(word)) return [];
    const known = meaningsOf(word);
    if (isFiller(word)) return [{ ways: known ? [...known, []] : nothing, penalty: 0 }];
    if (known) return [{ ways: known, penalty: 0 }];
    const parts = partsOf(word);
    if (parts) {
      const penalty = parts.known < word.length ? NAME_WEIGHTS.unknownScrap : 0;
      return parts.words.map((part, i) => ({ ways: meaningsOf(part) ?? nothing, penalty: i === 0 ? penalty : 0 }));
    }
    return [{ ways: nothing, penalty: word.length > 2 ? NAME_WEIGHTS.unknownWord : NAME_WEIGHTS.unknownScrap }];
  });
}

/** Headers repeat from file to file: what they mean is kept, up to so many. */
const MOST_KEPT = 4000;
const KEPT = new Map<string, NameReading>();

/** What a name means by words of the field, every way to take it weighed. */
export function readName(name: string): NameReading {
  const known = KEPT.get(name);
  if (known) return known;
  const reading = weighedName(name);
  if (KEPT.size >= MOST_KEPT) KEPT.clear();
  KEPT.set(name, reading);
  return reading;
}

function weighedName(name: string): NameReading {
  const tokens = readTokens(name);
  let ways: Concept[][] = [[]];
  for (const token of tokens) {
    const longer = ways.flatMap((way) => token.ways.map((meaning) => [...way, ...meaning]));
    ways = longer.slice(0, MOST_WAYS);
  }
  const penalty = tokens.reduce((sum, token) => sum + token.penalty, 0);
  const best = new Map<Quantity, NameClaim>();
  for (const way of ways) {
    for (const pattern of PATTERNS) {
      const found = scoreOf(pattern, way);
      if (!found) continue;
      const score = found.score + penalty + (found.whole && penalty === 0 ? NAME_WEIGHTS.nothingLeft : 0);
      const before = best.get(pattern.quantity);
      if (!before || score > before.score || (score === before.score && !found.needsUnit))
        best.set(pattern.quantity, { quantity: pattern.quantity, score, needsUnit: found.needsUnit });
    }
  }
  const claims = [...best.values()].sort((a, b) => b.score - a.score);
  return { claims, concepts: new Set(ways.flat()) };
}

function scoreOf(
  { need, may = [], not = [], measure, weight = 0 }: Pattern,
  way: readonly Concept[],
): { score: number; needsUnit: boolean; whole: boolean } | null {
  const said = new Set(way);
  if (not.some((concept) => said.has(concept))) return null;
  const explained = new Set<Concept>();
  for (const group of need) {
    const met = group.filter((concept) => said.has(concept));
    if (met.length === 0) return null;
    met.forEach((concept) => explained.add(concept));
  }
  const measured = measure?.filter((concept) => said.has(concept)) ?? [];
  measured.forEach((concept) => explained.add(concept));
  let score = weight;
  let whole = true;
  for (const concept of said) {
    if (explained.has(concept) || may.includes(concept)) score += NAME_WEIGHTS.explained;
    else {
      score += MILD[concept] ?? NAME_WEIGHTS.foreign;
      whole &&= concept in MILD;
    }
  }
  return { score, needsUnit: measure !== undefined && measured.length === 0, whole };
}
