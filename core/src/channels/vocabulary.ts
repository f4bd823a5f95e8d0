import { CONCEPTS, type Concept } from './concepts.js';
import { LANGUAGES } from './words/index.js';

/** What one word can mean: each entry is one way to take it. */
export type Meanings = readonly (readonly Concept[])[];

const isConcept = (text: string): text is Concept => (CONCEPTS as readonly string[]).includes(text);

/** Lower case without accents. */
export function folded(text: string): string {
  return text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase().replaceAll('ß', 'ss').replaceAll('œ', 'oe');
}

/** The spellings under which a word is met: without its accents, and with German vowels written out. */
function spellings(word: string): string[] {
  const written = word.replaceAll('ä', 'ae').replaceAll('ö', 'oe').replaceAll('ü', 'ue');
  return [...new Set([folded(word), folded(written)])];
}

interface Vocabulary {
  meanings: ReadonlyMap<string, Meanings>;
  fillers: ReadonlySet<string>;
  /** Letters of the longest word. */
  longest: number;
}

function build(): Vocabulary {
  const meanings = new Map<string, Concept[][]>();
  const fillers = new Set<string>();
  const add = (word: string, ways: Concept[][]) => {
    for (const spelling of spellings(word)) {
      const known = meanings.get(spelling) ?? [];
      const fresh = ways.filter((way) => !known.some((other) => other.join() === way.join()));
      meanings.set(spelling, [...known, ...fresh]);
    }
  };
  for (const { words, shortForms, fillers: said } of Object.values(LANGUAGES)) {
    for (const [concept, list] of Object.entries(words)) for (const word of list.split(' ')) add(word, [[concept as Concept]]);
    for (const [word, ways] of Object.entries(shortForms)) {
      add(
        word,
        ways.split('|').map((way) => way.split(' ').filter(isConcept)),
      );
    }
    for (const word of said.split(' ')) fillers.add(folded(word));
  }
  return { meanings, fillers, longest: Math.max(...[...meanings.keys()].map(({ length }) => length)) };
}

let built: Vocabulary | undefined;
/** Made when the first header is read: most processes and pages read none. */
const vocabulary = () => (built ??= build());

export const meaningsOf = (word: string): Meanings | null => vocabulary().meanings.get(word) ?? null;
export const isFiller = (word: string): boolean => vocabulary().fillers.has(word);

/** Letters that join the words of a compound. */
const JOINTS = ['', 's', 'n', 'en', 'es', 'er', 'e'];
/** A letter of a joint counts as a tenth of a word: "Rollen" before "Roll" and "en". */
const JOINT_COST = 0.1;
/** Shorter words are not looked for inside others. */
const SHORTEST_PART = 3;
/** But the first may be as short as "Öl". */
const SHORTEST_FIRST = 2;
/** A compound of which this share is known is taken for what its known parts say. */
const KNOWN_SHARE = 0.6;
/** Parts of a compound that is known only in part are at least so long. */
const SHORTEST_ISLAND = 5;
/** A word cut short keeps at least so many letters. */
const SHORTEST_STEM = 4;

interface Parts {
  words: string[];
  /** How many letters of the word are known. */
  known: number;
}

/** A word as it stands, as a whole compound of known words, as a known word cut short, or by the known parts in it; null where nothing is known. */
export function partsOf(word: string): Parts | null {
  if (meaningsOf(word)) return { words: [word], known: word.length };
  if (word.length < SHORTEST_FIRST + SHORTEST_PART) return stemOf(word);
  return wholeCompound(word) ?? stemOf(word) ?? islands(word);
}

/** Fewest known words, and fewest letters between them, that make up all of it. */
function wholeCompound(word: string): Parts | null {
  const best: ({ words: string[]; cost: number } | null)[] = [{ words: [], cost: 0 }, ...Array<null>(word.length).fill(null)];
  for (let end = SHORTEST_FIRST; end <= word.length; end += 1) {
    for (let start = Math.max(0, end - vocabulary().longest); start <= end - (start === 0 ? SHORTEST_FIRST : SHORTEST_PART); start += 1) {
      const before = best[start];
      const part = word.slice(start, end);
      if (!before || !meaningsOf(part)) continue;
      for (const joint of JOINTS) {
        const after = end + joint.length;
        if (!word.startsWith(joint, end) || (joint !== '' && after === word.length && joint !== 'e')) continue;
        const cost = before.cost + 1 + JOINT_COST * joint.length;
        if (!best[after] || best[after].cost > cost) best[after] = { words: [...before.words, part], cost };
      }
    }
  }
  const found = best[word.length];
  return found ? { words: found.words, known: word.length } : null;
}

/** A word that is the beginning of known words which all mean the same. */
function stemOf(word: string): Parts | null {
  if (word.length < SHORTEST_STEM) return null;
  let found: string | null = null;
  let means: string | null = null;
  for (const [known, ways] of vocabulary().meanings) {
    if (!known.startsWith(word)) continue;
    const said = ways.map((way) => way.join('+')).join('|');
    if (means !== null && means !== said) return null;
    means = said;
    found = known;
  }
  return found ? { words: [found], known: word.length } : null;
}

/** The longest known words inside one that is not known as a whole. */
function islands(word: string): Parts | null {
  const words: string[] = [];
  let known = 0;
  for (let at = 0; at < word.length;) {
    let length = Math.min(vocabulary().longest, word.length - at);
    while (length >= SHORTEST_ISLAND && !meaningsOf(word.slice(at, at + length))) length -= 1;
    if (length < SHORTEST_ISLAND) {
      at += 1;
      continue;
    }
    words.push(word.slice(at, at + length));
    known += length;
    at += length;
  }
  return known >= KNOWN_SHARE * word.length ? { words, known } : null;
}
