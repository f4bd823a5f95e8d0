import { defaultGates, instruct, readyForFirstPull } from '@gezeit/core';
import type { RigDevice } from './devices/rig-device.js';
import type { OngoingDay } from './ongoing-day.js';

/** A simulated driver takes a moment before he floors it, s on the day's clock. */
const DRIVER_WAITS_S = 3;
/** Of the temperatures' course, as much as the gates' trends need, ms. */
const LOOKS_BACK_MS = 120_000;

/** The simulated driver and mechanics follow the screen: engine off for a swap, parts fitted at its end, full throttle where it says so. */
export class RigDriver {
  #does = '';
  #readySinceMs: number | null = null;
  #settling = false;

  constructor(readonly day: OngoingDay) {}

  follow(rig: RigDevice): void {
    this.#swap(rig);
    if (!rig.state.follows || rig.state.doing !== 'idle') return;
    const { nowMs } = this.day;
    const kind = this.#instruction(nowMs);
    if (kind === 'settle') void this.#settle();
    if (kind !== 'pull') {
      this.#readySinceMs = null;
      return;
    }
    this.#readySinceMs ??= nowMs;
    if (nowMs - this.#readySinceMs < DRIVER_WAITS_S * 1000) return;
    this.#readySinceMs = null;
    rig.command({ do: 'pull' });
  }

  #swap(rig: RigDevice): void {
    const { swapping, fitted, swaps } = this.day.state;
    const does = swapping ? `off ${swaps.length}` : `on ${fitted} ${swaps.length}`;
    if (does === this.#does) return;
    this.#does = does;
    if (swapping) rig.command({ do: 'engine', on: false });
    else if (fitted && rig.state.fitted !== fitted) rig.command({ do: 'fit', setup: fitted, ecuReset: swaps.at(-1)?.ecuReset ?? false });
    else rig.command({ do: 'engine', on: true });
  }

  /** A rest that was overrun begins anew with a conditioning pull. */
  async #settle(): Promise<void> {
    const { fitted } = this.day.state;
    if (this.#settling || !fitted) return;
    this.#settling = true;
    try {
      await this.day.happen({ kind: 'inserted', setup: fitted, pullKind: 'conditioning', count: 1 });
    } finally {
      this.#settling = false;
    }
  }

  #instruction(nowMs: number): string {
    const { state, bundle, live } = this.day;
    const cell = { nowMs, readings: live.readings, history: live.history(nowMs - LOOKS_BACK_MS) };
    return instruct(state, bundle.plan?.gates ?? defaultGates(bundle), cell, readyForFirstPull(bundle, state)).kind;
  }
}
