/**
 * The clock of the wall while no day runs. From the day's beginning on it only goes forward, at its own pace: the system's clock may be set
 * back or forward, and a server may be started again, without a rest that is negative or a happening before the one that led to it.
 */
export class SteadyClock {
  #held: { ms: number; at: number } | null = null;

  constructor(
    readonly wallMs: () => number = () => Date.now(),
    readonly elapsedMs: () => number = () => performance.now(),
  ) {}

  /** ms since 1970. */
  get nowMs(): number {
    return this.#held ? this.#held.ms + (this.elapsedMs() - this.#held.at) : this.wallMs();
  }

  /** Goes on by itself from now on, and not from before a moment: the last thing that is known to have happened. */
  hold(notBeforeMs: number): void {
    if (this.#held && this.nowMs >= notBeforeMs) return;
    this.#held = { ms: Math.max(this.nowMs, notBeforeMs), at: this.elapsedMs() };
  }

  /** Follows the wall again. */
  release(): void {
    this.#held = null;
  }
}
