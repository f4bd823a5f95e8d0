import { xoroshiro128plus, unsafeUniformIntDistribution } from 'pure-rand';

/** A seeded source of numbers: the same seed gives the same day. */
export class Random {
  readonly #generator;

  constructor(seed: number) {
    this.#generator = xoroshiro128plus(seed);
    // Neighbouring seeds give neighbouring first numbers: those are passed over.
    for (let i = 0; i < 64; i += 1) this.uniform();
  }

  /** Uniform in [0, 1). */
  uniform(): number {
    return unsafeUniformIntDistribution(0, 0x3fffffff, this.#generator) / 0x40000000;
  }

  between(low: number, high: number): number {
    return low + (high - low) * this.uniform();
  }

  /** Normal with mean 0 (Box–Muller). */
  normal(sd = 1): number {
    const radius = Math.sqrt(-2 * Math.log(1 - this.uniform()));
    return sd * radius * Math.cos(2 * Math.PI * this.uniform());
  }

  chance(probability: number): boolean {
    return this.uniform() < probability;
  }

  /** One of a list. */
  pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.uniform() * list.length)]!;
  }
}
