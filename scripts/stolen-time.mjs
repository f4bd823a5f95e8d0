// How much of the processors' time the host has given to others: minutes and ratios are read beside it.
import { readFileSync } from 'node:fs';

/** The kernel's counts since its start, in its own ticks, over all processors; zero everywhere where there is no such kernel. */
function ticks() {
  try {
    const [user, nice, system, idle, waiting, interrupts, softInterrupts, stolen] = readFileSync('/proc/stat', 'utf8')
      .split('\n', 1)[0]
      .trim()
      .split(/\s+/)
      .slice(1)
      .map(Number);
    return { stolen, all: user + nice + system + idle + waiting + interrupts + softInterrupts + stolen };
  } catch {
    return { stolen: 0, all: 0 };
  }
}

/** Begins to watch; what it returns tells the share of the processors' time, 0 to 1, that was taken away since. */
export function watchStolenTime() {
  const before = ticks();
  return () => {
    const now = ticks();
    return now.all > before.all ? (now.stolen - before.stolen) / (now.all - before.all) : 0;
  };
}
