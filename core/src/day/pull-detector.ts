/** One sample of what tells a pull: s on any clock, % and rpm; NaN where it was not sent. */
export interface DetectorSample {
  timeS: number;
  throttlePct: number;
  pedalPct: number;
  engineSpeedRpm: number;
}

export type Detected = { kind: 'started' | 'ended'; timeS: number };

/** By what a stream shows a pull. Assumptions. */
export const DETECTOR_RULES = {
  openPct: 90,
  closedPct: 60,
  /** Full throttle for so long, with engine speed rising by so much, is a pull. */
  openForS: 0.4,
  leastRiseRpm: 120,
  /** Closed for so long ends it: the engine control closes the throttle for less. */
  closedForS: 0.5,
};

/** Finds pulls in a stream by engine speed and throttle (or pedal, where it is sent), sample by sample. */
export class PullDetector {
  #openSince: { timeS: number; rpm: number } | null = null;
  #closedSince: number | null = null;
  #running = false;

  get running(): boolean {
    return this.#running;
  }

  /** Takes a sample; says when a pull began or ended, at the moment at which the throttle moved. */
  take({ timeS, throttlePct, pedalPct, engineSpeedRpm }: DetectorSample): Detected | null {
    const { openPct, closedPct, openForS, leastRiseRpm, closedForS } = DETECTOR_RULES;
    const open = Number.isFinite(pedalPct) ? pedalPct : throttlePct;
    if (!Number.isFinite(open) || !Number.isFinite(engineSpeedRpm)) return null;
    if (!this.#running) {
      if (open < openPct) {
        this.#openSince = null;
        return null;
      }
      this.#openSince ??= { timeS, rpm: engineSpeedRpm };
      if (timeS - this.#openSince.timeS < openForS || engineSpeedRpm - this.#openSince.rpm < leastRiseRpm) return null;
      this.#running = true;
      this.#closedSince = null;
      return { kind: 'started', timeS: this.#openSince.timeS };
    }
    if (open >= closedPct) {
      this.#closedSince = null;
      return null;
    }
    this.#closedSince ??= timeS;
    if (timeS - this.#closedSince < closedForS) return null;
    this.#running = false;
    this.#openSince = null;
    return { kind: 'ended', timeS: this.#closedSince };
  }
}
