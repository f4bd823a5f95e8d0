import type { DayHappening } from '@gezeit/contract';
import { defaultGates, DETECTOR_RULES, instruct, nextPullId, PullDetector, pullStart } from '@gezeit/core';
import type { DeviceSample } from './device.js';
import type { OngoingDay } from './ongoing-day.js';
import { streamLog } from './stream-log.js';

const BEFORE_PULL_MS = 4000;
/** Full throttle on rollers lasts no longer. */
const LONGEST_PULL_MS = 30_000;

/** Finds the beginning and end of pulls in what streams, and keeps the stream of a pull as its log where that is wished. */
export class PullWatch {
  readonly #detector = new PullDetector();
  #endedLate = '';

  constructor(
    readonly day: OngoingDay,
    readonly keepsStream: () => boolean,
  ) {}

  /** Takes a sample; returns whether it was taken at full load within a pull. */
  take(sample: DeviceSample): boolean {
    const { values, atMs } = sample;
    const value = (quantity: string) => values.get(quantity) ?? Number.NaN;
    const found = this.#detector.take({
      timeS: atMs / 1000,
      throttlePct: value('throttle'),
      pedalPct: value('pedal'),
      engineSpeedRpm: value('engineSpeed'),
    });
    if (found?.kind === 'started') this.#begun(found.timeS * 1000);
    this.day.live.take([sample], this.#detector.running);
    if (found?.kind === 'ended') void this.#over(found.timeS * 1000);
    else if (this.#missedEnd(atMs)) void this.#over(this.day.state.running!.startedMs + LONGEST_PULL_MS);
    return this.#detector.running && (values.get('pedal') ?? values.get('throttle') ?? 0) >= DETECTOR_RULES.openPct;
  }

  /** What is stamped on a pull that begins by itself. */
  startOf(atMs: number, cause: 'stream' | 'file'): DayHappening {
    const { state, bundle, live } = this.day;
    const cell = { nowMs: atMs, readings: live.readings, history: live.history() };
    const instruction = instruct(state, bundle.plan?.gates ?? defaultGates(bundle), cell, true);
    const early = cause === 'stream' && instruction.kind === 'wait' ? 'driven before the gates were met' : null;
    return pullStart(state, bundle, cell, instruction, early, cause);
  }

  #begun(atMs: number): void {
    const { state, bundle, live } = this.day;
    live.beginTrace(state.running?.id ?? nextPullId(bundle, state));
    if (state.day === null || state.endedMs !== null || state.running) return;
    void this.day.happen(this.startOf(atMs, 'stream'), atMs);
  }

  /** Whether a pull that a stream began still stands though the engine idles: its end came while nobody listened. */
  #missedEnd(atMs: number): boolean {
    const { running } = this.day.state;
    const isOver = running?.begun.cause === 'stream' && !this.#detector.running && atMs - running.startedMs > 2 * LONGEST_PULL_MS;
    if (!isOver || this.#endedLate === running.id) return false;
    this.#endedLate = running.id;
    return true;
  }

  async #over(atMs: number): Promise<void> {
    // The start may still be on its way into the database.
    await this.day.settled();
    const { running } = this.day.state;
    if (!running) return;
    await this.day.happen({ kind: 'pull-ended', pull: running.id, aborted: false, cause: 'stream' }, atMs);
    const samples = this.keepsStream() ? this.day.live.samplesSince(running.startedMs - BEFORE_PULL_MS) : [];
    if (samples.length === 0) return;
    try {
      await this.day.takeFile({ name: `${running.id}-stream.csv`, bytes: streamLog(samples), madeAtMs: samples.at(-1)!.atMs });
    } catch (error) {
      this.day.services.log.error({ err: error, pull: running.id }, 'the stream of a pull could not be kept');
    }
  }
}
