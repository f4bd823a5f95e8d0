import type { ReadPull, StagedHints } from '@gezeit/contract';
import { stagedKey } from '@gezeit/contract';

/** Words that name a run, a device, a day or a copy, and no setup, with whatever number stands behind them. */
const NO_SETUP = new Set(
  (
    'run runs pull pulls log logs logfile test tests try trial pass take rep repeat retry redo again no nr num number sample samples session day dyno ' +
    'dynorun ecu daq data file files export exports exported table csv txt copy final gear am pm utc lauf messung fahrt mesure essai prueba prova ' +
    'jan feb mar apr may jun jul aug sep sept oct nov dec january february march april june july august september october november december ' +
    'st nd rd th mon tue wed thu fri sat sun monday tuesday wednesday thursday friday saturday sunday'
  ).split(' '),
);
const REFERENCE = new Set(
  'stock standard std original orig oem base baseline factory ref reference control before without old serie serien alt vorher ohne origine avant sans'.split(
    ' ',
  ),
);
const CONDITIONING = new Set('warmup conditioning precondition preconditioning preheat preheating'.split(' '));
/** Words that say of themselves that a setup is named behind them. */
const SETUP_WORDS = new Set('setup config configuration part version v variant variante option'.split(' '));
/** A number of more digits counts days or years, and no parts. */
const MOST_DIGITS = 3;
const MOST_SETUPS = 6;
/** With so few pulls one of each setup is enough. */
const FEW_PULLS = 3;

type Named = NonNullable<StagedHints['named']>;

/** A word of a name, with a number that belongs to it. */
interface Word {
  stem: string;
  number: string | null;
  /** As it is written, without the number and with it. */
  written: string;
  whole: string;
}

/** What is told of a pull. */
interface Told {
  key: string;
  words: Word[];
  isConditioning: boolean;
}

/**
 * Which setup each pull is of, as the names of its files and folders say it: words that stand with several pulls, and not with all of them. Null
 * where the names tell of no two setups.
 */
export function setupsByName(pulls: readonly ReadPull[]): Named | null {
  const told = pulls.map((pull): Told => ({ key: stagedKey(pull), ...wordsOf(pull) }));
  const only = told.map((pull) => ({ ...pull, words: pull.words.filter(({ stem }) => SETUP_WORDS.has(stem)) }));
  // "cone filter 1" counts its pulls, "filter 1 run 1" its parts.
  return grouped(told, withNumbers) ?? grouped(only, withNumbers) ?? grouped(told, withoutNumbers);
}

function grouped(told: readonly Told[], tellingOf: (pulls: readonly (readonly Word[])[]) => Map<string, string>[]): Named | null {
  const words = tellingOf(told.map((pull) => pull.words));
  const countOf = counted(words);
  const measured = told.map((_, i) => i).filter((i) => !told[i]!.isConditioning);
  const groups = new Map<string, { name: string; isReference: boolean; pulls: number[] }>();
  for (const i of measured) {
    const own = [...words[i]!.keys()].filter((word) => !measured.every((other) => words[other]!.has(word)));
    const shared = own.filter((word) => countOf.get(word)! > 1);
    const tokens = shared.length > 0 && measured.length > FEW_PULLS ? shared : own;
    const id = [...tokens].sort().join(' ');
    const name = tokens.map((word) => words[i]!.get(word)!).join(' ');
    const group = groups.get(id) ?? { name, isReference: tokens.some((word) => REFERENCE.has(word)), pulls: [] };
    group.pulls.push(i);
    groups.set(id, group);
  }
  const nameless = groups.get('');
  if (nameless && groups.size > 2) groups.delete('');
  const found = [...groups.values()];
  const isScattered = measured.length > FEW_PULLS && found.length > measured.length / 2;
  const areLetters = found.every(({ name }) => /^\p{L}$/u.test(name));
  // A letter that stands once may count files.
  const isCount = areLetters && found.length === measured.length;
  if (found.length < 2 || found.length > MOST_SETUPS || isScattered || isCount) return null;
  const inTurn = areLetters ? found.toSorted((a, b) => a.name.localeCompare(b.name)) : found;
  const reference = inTurn.find(({ isReference }) => isReference) ?? inTurn.find((group) => group === nameless) ?? inTurn[0]!;
  const setups = [reference, ...inTurn.filter((group) => group !== reference)];
  const setupOf = (i: number) => {
    const at = setups.findIndex((group) => group.pulls.includes(i));
    return at >= 0 ? at : null;
  };
  return {
    names: setups.map(({ name }) => (name === '' ? null : `${name[0]!.toUpperCase()}${name.slice(1)}`)),
    pulls: Object.fromEntries(told.map(({ key, isConditioning }, i) => [key, { setup: setupOf(i), isConditioning }])),
  };
}

/** Letters with the digits that stand against them, or digits by themselves. */
const PART = /(\d*)(\p{L}+)(\d*)|\d+/gu;

/** The words of the names of a pull's files and folders. */
function wordsOf({ members }: ReadPull): { words: Word[]; isConditioning: boolean } {
  const words: Word[] = [];
  let isConditioning = false;
  for (const { file } of members)
    for (const segment of file.replace(/\.[^./]*$/, '').split('/')) {
      const parts = [...segment.replace(/(\p{Ll})(\p{Lu})/gu, '$1 $2').matchAll(PART)];
      const stemAt = (at: number) => parts[at]?.[2]?.toLowerCase();
      parts.forEach(([, before = '', letters, behind = ''], at) => {
        const stem = letters?.toLowerCase();
        if (stem === undefined) return;
        const isWarmUp = (stem === 'warm' && stemAt(at + 1) === 'up') || (stem === 'up' && stemAt(at - 1) === 'warm');
        if (isWarmUp || CONDITIONING.has(stem)) isConditioning = true;
        else if (!NO_SETUP.has(stem)) words.push({ stem, ...numbered(letters!, before, behind, parts.slice(at + 1)) });
      });
    }
  return { words, isConditioning };
}

/** A word with its number: "70mm" before it, "v2" against it, "filter 1" behind it, where that begins no date and no time. */
function numbered(letters: string, before: string, behind: string, next: readonly RegExpMatchArray[]): Omit<Word, 'stem'> {
  const isNumber = (text: string) => text !== '' && text.length <= MOST_DIGITS;
  if (letters.length > 1 && isNumber(before)) return { number: before, written: letters, whole: `${before}${letters}` };
  if (isNumber(behind)) return { number: behind, written: letters, whole: `${letters}${behind}` };
  const isDigits = (part: RegExpMatchArray | undefined) => part !== undefined && part[2] === undefined;
  const apart = behind === '' && isDigits(next[0]) && !isDigits(next[1]) && !next[1]?.[1] ? next[0]![0] : '';
  return isNumber(apart)
    ? { number: apart, written: letters, whole: `${letters} ${apart}` }
    : { number: null, written: letters, whole: letters };
}

/** Each pull's words as they tell setups apart, with how they are written: with their number where several pulls share each of their numbers. */
function withNumbers(pulls: readonly (readonly Word[])[]): Map<string, string>[] {
  const idOf = ({ stem, number }: Word) => (number === null ? stem : `${stem} ${Number(number)}`);
  const countOf = counted(pulls.map((words) => new Map(words.map((word) => [idOf(word), '']))));
  const ids = new Map<string, Set<string>>();
  for (const word of pulls.flat()) ids.set(word.stem, (ids.get(word.stem) ?? new Set()).add(idOf(word)));
  const isNumbered = (stem: string) => {
    const all = [...ids.get(stem)!];
    return all.length > 1 && all.every((id) => id !== stem && countOf.get(id)! > 1);
  };
  return pulls.map((words) => new Map(words.map((word) => (isNumbered(word.stem) ? [idOf(word), word.whole] : [word.stem, word.written]))));
}

const withoutNumbers = (pulls: readonly (readonly Word[])[]) =>
  pulls.map((words) => new Map(words.map(({ stem, written }) => [stem, written])));

/** In how many pulls each word stands. */
function counted(pulls: readonly ReadonlyMap<string, string>[]): Map<string, number> {
  const count = new Map<string, number>();
  for (const words of pulls) for (const word of words.keys()) count.set(word, (count.get(word) ?? 0) + 1);
  return count;
}
