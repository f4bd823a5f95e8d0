// How fast this machine is at this moment: what minutes and milliseconds are read beside.

import { performance } from 'node:perf_hooks';

const STEPS = 1 << 20;

/** Milliseconds for a million square roots, and nanoseconds a step from place to place through 4 MB of memory. */
export function machineSpeed() {
  let began = performance.now();
  let sum = 0;
  for (let i = 0; i < 1e6; i += 1) sum += Math.sqrt(i);
  const rootsMs = performance.now() - began;
  // One round through all places in an order that nothing can foresee (Sattolo 1986), from a generator of fixed seed.
  const next = Int32Array.from({ length: STEPS }, (_, i) => i);
  let random = 1;
  for (let i = STEPS - 1; i > 0; i -= 1) {
    random = (Math.imul(random, 1_664_525) + 1_013_904_223) >>> 0;
    const other = random % i;
    [next[i], next[other]] = [next[other], next[i]];
  }
  began = performance.now();
  let place = 0;
  for (let i = 0; i < STEPS; i += 1) place = next[place];
  const stepNs = ((performance.now() - began) * 1e6) / STEPS;
  // Both results are looked at, so that neither loop is left out.
  if (place !== 0 || !(sum > 0)) throw new Error('the round did not close');
  return { rootsMs, stepNs };
}
