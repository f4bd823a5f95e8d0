/** Begins to watch; what it returns tells the share of the processors' time, 0 to 1, that was taken away since. */
export function watchStolenTime(): () => number;
