/** Median time of something, ms. */
export function medianMs(run: () => unknown, rounds = 41): number {
  const times = Array.from({ length: rounds }, () => {
    const start = performance.now();
    run();
    return performance.now() - start;
  });
  return times.sort((a, b) => a - b)[Math.floor(rounds / 2)]!;
}

/** A fixed calculation, so that figures of different machines can be compared: a million square roots, ms. */
export function fixedCalculationMs(): number {
  return medianMs(() => {
    let sum = 0;
    for (let i = 1; i <= 1_000_000; i++) sum += Math.sqrt(i);
    return sum;
  });
}
