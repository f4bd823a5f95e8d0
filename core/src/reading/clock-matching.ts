import { median } from '../numeric/means.js';
import { matchInOrder } from './match-in-order.js';

/** How two series of moments are brought together by their clocks. Assumptions. */
export const CLOCK_RULES = {
  /** Log-odds of a sweep that another device has no file of. */
  skip: -2.5,
  /** The same where both have as many: two would have to be missing, one on either side. */
  skipOfEqual: -3.5,
  /** Two clocks agree on a pull within this, s, once their constant difference is taken out. */
  spreadS: 4,
  /** What a pair gains by a clock that agrees, and loses by one that does not. */
  agrees: 3,
  apart: -12,
  /** A clock that is right, one that is off by whole hours or days, and one that is off by anything, before anything is known. */
  right: 0,
  wholeHours: -4,
  anything: -10,
  rightWithinS: 90,
  wholeWithinS: 60,
  /** From this probability on a pair is taken without asking. */
  sureEnough: 0.9,
  /**
   * Another difference must explain this many fewer to be no rival: of a clock that is right, of one that is wrong, and of one that is wrong
   * where the other would have it right.
   */
  rivalFewer: { right: 1, wrong: 2, wrongAgainstRight: 3 },
  /** Under this a sweep is a pull of its own. */
  alone: 0.2,
};

/** What is less likely than the likeliest by this, as log-odds, is left out of the sum. */
const NEGLIGIBLE = 20;
/** Moments so many spreads apart are no pair; and what all ways together may add to the best of them. */
const FAR_SPREADS = 5;
const WAYS = 6;

/** What is known of one moment of the second series. */
interface Likely {
  /** The likeliest of the first series, and how likely; -1 where there is none. */
  best: number;
  sure: number;
  /** How likely it is that it has a partner at all. */
  any: number;
}

/** Two series brought together. */
interface Together {
  likely: Likely[];
  /** Second clock minus first, where it is likeliest, s; null where no clock tells. */
  offsetS: number | null;
  /** Whether another difference of the clocks explains nearly as many: evenly spaced pulls fit one place further as well. */
  rival: boolean;
}

/**
 * Probability of each pair, over every difference that the two clocks could have.
 * @param clock moments of the first series, s; null where one is not known, and null altogether where no clock tells.
 * @param isAbsolute whether both clocks say what time it is, so that a right one is likelier than any other.
 * @param plain log-odds of each pair by all else.
 */
export function bringTogether(
  clock: readonly (number | null)[] | null,
  nextAtS: readonly number[],
  isAbsolute: boolean,
  plain: readonly (readonly number[])[],
): Together {
  const skip = plain.length === nextAtS.length ? CLOCK_RULES.skipOfEqual : CLOCK_RULES.skip;
  if (!clock)
    return {
      likely: likelyOf(matchInOrder(plain, nextAtS.length, skip).together, nextAtS.length),
      offsetS: null,
      rival: false,
    };
  const offsets = new Set<number>(isAbsolute ? [0] : []);
  clock.forEach((atS) => nextAtS.forEach((nextS) => atS !== null && offsets.add(Math.round((nextS - atS) / 2) * 2)));
  const plainMost = plain.reduce((sum, row) => sum + Math.max(0, ...row), 0);
  const apartAt = (atS: number, j: number, offsetS: number) => nextAtS[j]! - atS - offsetS;
  const bounds = [...offsets]
    .map((offsetS) => {
      const near = (atS: number) => nextAtS.some((_, j) => Math.abs(apartAt(atS, j, offsetS)) <= FAR_SPREADS * CLOCK_RULES.spreadS);
      const pairs = clock.filter((atS) => atS === null || near(atS)).length;
      const alone = Math.abs(clock.length - pairs) + Math.max(0, nextAtS.length - pairs);
      const prior = isAbsolute ? clockPrior(offsetS) : 0;
      return { offsetS, prior, most: prior + plainMost + pairs * CLOCK_RULES.agrees + alone * skip + WAYS };
    })
    .sort((a, b) => b.most - a.most);
  const tried: (Explained & { match: ReturnType<typeof matchInOrder>; weight: number })[] = [];
  let top = -Infinity;
  for (const { offsetS, prior, most } of bounds) {
    // The best come first: what cannot reach them is not looked at.
    if (most < top - NEGLIGIBLE) break;
    const odds = plain.map((row, i) =>
      row.map((value, j) => {
        const atS = clock[i];
        if (atS == null) return value;
        return value + Math.max(CLOCK_RULES.apart, CLOCK_RULES.agrees - 0.5 * (apartAt(atS, j, offsetS) / CLOCK_RULES.spreadS) ** 2);
      }),
    );
    const match = matchInOrder(odds, nextAtS.length, skip);
    const weight = match.total + prior;
    top = Math.max(top, weight);
    tried.push({ match, weight, offsetS, pairs: match.together.flat().reduce((sum, value) => sum + value, 0) });
  }
  const probable = tried.filter(({ weight }) => weight > top - NEGLIGIBLE);
  const all = probable.reduce((sum, { weight }) => sum + Math.exp(weight - top), 0);
  const together = plain.map((row, i) =>
    row.map((_, j) => probable.reduce((sum, { weight, match }) => sum + (Math.exp(weight - top) / all) * match.together[i]![j]!, 0)),
  );
  const likely = likelyOf(together, nextAtS.length);
  const apart = likely.flatMap(({ best, any }, j) => (any >= CLOCK_RULES.alone && clock[best] != null ? [nextAtS[j]! - clock[best]] : []));
  const best = tried.reduce<Explained | null>((most, one) => (!most || one.weight > most.weight ? one : most), null);
  return { likely, offsetS: apart.length > 0 ? median(apart) : null, rival: tried.some((one) => rivals(best!, one)) };
}

/** What one difference of the clocks explains. */
interface Explained {
  offsetS: number;
  weight: number;
  pairs: number;
}

function rivals(best: Explained, other: Explained): boolean {
  const isRight = ({ offsetS }: Explained) => Math.abs(offsetS) <= CLOCK_RULES.rightWithinS;
  const { right, wrong, wrongAgainstRight } = CLOCK_RULES.rivalFewer;
  const fewer = isRight(best) ? right : isRight(other) ? wrongAgainstRight : wrong;
  const isElsewhere = Math.abs(other.offsetS - best.offsetS) > 2 * FAR_SPREADS * CLOCK_RULES.spreadS;
  return isElsewhere && Math.round(other.pairs) > Math.round(best.pairs) - fewer;
}

function likelyOf(together: readonly (readonly number[])[], count: number): Likely[] {
  return Array.from({ length: count }, (_, j) => {
    const column = together.map((row) => row[j]!);
    const best = column.indexOf(Math.max(...column));
    return { best, sure: column[best] ?? 0, any: column.reduce((sum, value) => sum + value, 0) };
  });
}

function clockPrior(offsetS: number): number {
  if (Math.abs(offsetS) <= CLOCK_RULES.rightWithinS) return CLOCK_RULES.right;
  const rest = Math.abs(offsetS) % 3600;
  return Math.min(rest, 3600 - rest) <= CLOCK_RULES.wholeWithinS ? CLOCK_RULES.wholeHours : CLOCK_RULES.anything;
}
