/** Two sequences brought together in order: of every pair, how likely it is that they are one. */
export interface OrderedMatch {
  /** Log of the sum over all ways, and of the best one. */
  total: number;
  best: number;
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
  const grid = (value: number) => Array.from({ length: n + 1 }, () => new Float64Array(m + 1).fill(value));
  const forward = grid(-Infinity);
  const best = grid(-Infinity);
  forward[0]![0] = 0;
  best[0]![0] = 0;
  for (let i = 0; i <= n; i += 1) {
    for (let j = 0; j <= m; j += 1) {
      if (i === 0 && j === 0) continue;
      const ways = [
        i > 0 && j > 0 ? [forward[i - 1]![j - 1]! + odds[i - 1]![j - 1]!, best[i - 1]![j - 1]! + odds[i - 1]![j - 1]!] : null,
        i > 0 ? [forward[i - 1]![j]! + skip, best[i - 1]![j]! + skip] : null,
        // Of two neighbours without a partner the left one is skipped first, or one way would be counted twice.
        j > 0 ? [forward[i]![j - 1]! + skip, best[i]![j - 1]! + skip] : null,
      ].filter((way) => way !== null);
      forward[i]![j] = logSum(ways.map(([sum]) => sum!));
      best[i]![j] = Math.max(...ways.map(([, top]) => top!));
    }
  }
  const backward = grid(-Infinity);
  backward[n]![m] = 0;
  for (let i = n; i >= 0; i -= 1) {
    for (let j = m; j >= 0; j -= 1) {
      if (i === n && j === m) continue;
      const ways: number[] = [];
      if (i < n && j < m) ways.push(backward[i + 1]![j + 1]! + odds[i]![j]!);
      if (i < n) ways.push(backward[i + 1]![j]! + skip);
      if (j < m) ways.push(backward[i]![j + 1]! + skip);
      backward[i]![j] = logSum(ways);
    }
  }
  const total = forward[n]![m]!;
  const together = odds.map((row, i) => row.map((value, j) => Math.exp(forward[i]![j]! + value + backward[i + 1]![j + 1]! - total)));
  return { total, best: best[n]![m]!, together };
}

function logSum(values: readonly number[]): number {
  const top = Math.max(...values);
  return Number.isFinite(top) ? top + Math.log(values.reduce((sum, value) => sum + Math.exp(value - top), 0)) : -Infinity;
}
