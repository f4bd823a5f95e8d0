/** Two sequences brought together in order: of every pair, how likely it is that they are one. */
export interface OrderedMatch {
  /** Log of the sum over all ways. */
  total: number;
  /** Probability that left i and right j are one. */
  together: number[][];
}

/**
 * Brings two sequences together without changing the order of either, where some may be missing on both sides: all ways are weighed, not only
 * the best (forward and backward over the lattice of alignments; Durbin et al., Biological Sequence Analysis, 1998, chapter 4).
 * @param odds log-odds of each pair
 * @param skip log-odds of one that has no partner
 */
export function matchInOrder(odds: readonly (readonly number[])[], rightCount: number, skip: number): OrderedMatch {
  const n = odds.length;
  const m = rightCount;
  const grid = () => Array.from({ length: n + 1 }, () => new Float64Array(m + 1).fill(-Infinity));
  const forward = grid();
  forward[0]![0] = 0;
  for (let i = 0; i <= n; i += 1) {
    const [row, above] = [forward[i]!, forward[i - 1]];
    for (let j = i === 0 ? 1 : 0; j <= m; j += 1) {
      const together = above && j > 0 ? above[j - 1]! + odds[i - 1]![j - 1]! : -Infinity;
      // Of two neighbours without a partner the left one is skipped first, or one way would be counted twice.
      row[j] = logSum(together, above ? above[j]! + skip : -Infinity, j > 0 ? row[j - 1]! + skip : -Infinity);
    }
  }
  const backward = grid();
  backward[n]![m] = 0;
  for (let i = n; i >= 0; i -= 1) {
    const [row, below] = [backward[i]!, backward[i + 1]];
    for (let j = i === n ? m - 1 : m; j >= 0; j -= 1) {
      const together = below && j < m ? below[j + 1]! + odds[i]![j]! : -Infinity;
      row[j] = logSum(together, below ? below[j]! + skip : -Infinity, j < m ? row[j + 1]! + skip : -Infinity);
    }
  }
  const total = forward[n]![m]!;
  const together = odds.map((row, i) => row.map((value, j) => Math.exp(forward[i]![j]! + value + backward[i + 1]![j + 1]! - total)));
  return { total, together };
}

/** Log of the sum of three numbers that are given by their logs; this is nearly all of the work. */
function logSum(a: number, b: number, c: number): number {
  const top = Math.max(a, b, c);
  if (top === -Infinity) return top;
  return top + Math.log((a === top ? 1 : Math.exp(a - top)) + (b === top ? 1 : Math.exp(b - top)) + (c === top ? 1 : Math.exp(c - top)));
}
