import { defaultStops, passedStop, passedText, PLAIN_FORMATTER } from '@gezeit/core';
import type { OngoingDay } from './ongoing-day.js';

/** Limits must be passed so many samples long. */
const STOP_SAMPLES = 3;
const NOTHING_PASSED = { criterion: '', samples: 0, silent: '' };

/** Holds what the cell shows against the stop criteria, and raises a stop where one is passed. */
export class LimitWatch {
  #passed = NOTHING_PASSED;

  constructor(readonly day: OngoingDay) {}

  take(atMs: number, fullLoad: boolean): void {
    const { state, bundle, live } = this.day;
    if (state.day === null || state.endedMs !== null || state.stop) return;
    const targetKPa = bundle.setups.find(({ id }) => id === state.fitted)?.state.boostTargetKPa;
    const found = passedStop(
      bundle.plan?.stops ?? defaultStops(bundle),
      live.readings,
      fullLoad,
      typeof targetKPa === 'number' ? targetKPa * 1000 : null,
    );
    if (!found) {
      this.#passed = NOTHING_PASSED;
      return;
    }
    // What was acknowledged is not raised again until it has been within its limit.
    const { criterion, samples, silent } = this.#passed;
    if (found.criterion === silent) return;
    this.#passed = { silent, criterion: found.criterion, samples: found.criterion === criterion ? samples + 1 : 1 };
    if (this.#passed.samples < STOP_SAMPLES) return;
    this.#passed.silent = found.criterion;
    void this.day.happen(
      { kind: 'stop-raised', criterion: found.criterion, text: passedText(found.passed, PLAIN_FORMATTER), passed: found.passed },
      atMs,
    );
  }
}
