import { mean } from './means.js';

/** Places of a list by a group's number; one group where none is said. */
export function placesByGroup(count: number, group?: readonly number[]): number[][] {
  const places = new Map<number, number[]>();
  for (let i = 0; i < count; i += 1) {
    const key = group?.[i] ?? 0;
    places.set(key, [...(places.get(key) ?? []), i]);
  }
  return [...places.values()];
}

/**
 * Covariance of a random walk of unit size around its own mean, n × n row-major: double-centred −|tᵢ − tⱼ|/2, in the unit of the times.
 * Where groups are given, each walks by itself, and between them it is zero.
 */
export function walkCovariance(times: readonly number[], group?: readonly number[]): Float64Array {
  const n = times.length;
  const walk = new Float64Array(n * n);
  for (const places of placesByGroup(n, group)) {
    const distance = (i: number, j: number) => -Math.abs(times[i]! - times[j]!) / 2;
    const rows = places.map((i) => mean(places.map((j) => distance(i, j))));
    const overall = mean(rows);
    places.forEach((i, a) => places.forEach((j, b) => (walk[i * n + j] = distance(i, j) - rows[a]! - rows[b]! + overall)));
  }
  return walk;
}
