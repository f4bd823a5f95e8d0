import type { LiveHistory, LiveReading, LiveTrace, Quantity } from '@gezeit/contract';
import type { DeviceSample } from './device.js';

/** Quantities of which the course is kept, for gates and their ready moment. */
const WITH_HISTORY: readonly string[] = [
  'coolantTemperature',
  'oilTemperature',
  'intakeAirTemperature',
  'inletTemperature',
  'compressorOutTemperature',
  'coolerOutTemperature',
  'coolantInTemperature',
  'coolantOutTemperature',
  'coolingAirTemperature',
  'ambientTemperature',
];
/** Quantities that are drawn while a pull is under way. */
const TRACED: readonly string[] = [
  'power',
  'intakeAirTemperature',
  'inletTemperature',
  'manifoldPressure',
  'inletPressure',
  'lambda',
  'ignitionAdvance',
];
/** A device that sends more slowly holds its value so long in a trace, ms. */
const TRACE_HOLDS_MS = 1500;
/** Every second of the last three quarters of an hour is kept; before that one reading in so long, of the whole day. */
const CLOSE_MS = 45 * 60_000;
const FAR_STEP_MS = 15_000;
const DAY_MS = 16 * 3_600_000;
const THIN_EACH = 120;
const HISTORY_STEP_MS = 1000;
const THINNED_AFTER_MS = 10 * 60_000;
const THINNED_EACH = 5;
const CLOCK_SET_BACK_MS = 60_000;
const MOST_TRACE_POINTS = 1200;

/** The newest readings of all devices, the course of the slow ones, and the trace of the pull under way. */
export class LiveChannels {
  readonly #readings = new Map<string, { value: number; atMs: number }>();
  readonly #history = new Map<string, { atMs: number[]; value: number[] }>();
  #trace: LiveTrace = { pull: null, engineSpeedRpm: [], channels: {} };
  #traceChanged = false;
  /** Every sample since a little before the pull, for a stream that is kept as its log. */
  #kept: DeviceSample[] = [];

  take(samples: readonly DeviceSample[], inPull: boolean): void {
    for (const sample of samples) {
      for (const [key, value] of sample.values) {
        this.#readings.set(key, { value, atMs: sample.atMs });
        if (WITH_HISTORY.includes(key)) this.#remember(key, sample.atMs, value);
      }
      if (inPull) this.#draw(sample);
      this.#kept.push(sample);
    }
    const last = this.#kept.at(-1);
    if (last && this.#kept.length > 400 && !inPull) {
      const from = this.#kept.findIndex(({ atMs }) => atMs > last.atMs - 12_000);
      this.#kept = this.#kept.slice(Math.max(0, from));
    }
  }

  beginTrace(pull: string): void {
    this.#trace = { pull, engineSpeedRpm: [], channels: {} };
    this.#traceChanged = true;
  }

  /** Samples of the pull that just closed, with what came shortly before. */
  samplesSince(fromMs: number): DeviceSample[] {
    return this.#kept.filter(({ atMs }) => atMs >= fromMs);
  }

  get readings(): LiveReading[] {
    return [...this.#readings]
      .filter(([key]) => !key.includes('/'))
      .map(([key, { value, atMs }]) => ({ quantity: key as Quantity, value, atMs }));
  }

  /** Every channel's newest value, pressure drops of sections included. */
  get channels(): ReadonlyMap<string, { value: number; atMs: number }> {
    return this.#readings;
  }

  history(sinceMs = -Infinity): LiveHistory {
    return Object.fromEntries(
      [...this.#history].map(([key, { atMs, value }]) => {
        const from = atMs.findIndex((at) => at > sinceMs);
        return [key, from < 0 ? { atMs: [], value: [] } : { atMs: atMs.slice(from), value: value.slice(from) }];
      }),
    );
  }

  /** The whole course, thinned where it is older than ten minutes: for a window that opens. */
  get course(): LiveHistory {
    return Object.fromEntries(
      [...this.#history].map(([key, { atMs, value }]) => {
        const recent = (atMs.at(-1) ?? 0) - THINNED_AFTER_MS;
        const kept = atMs.flatMap((at, i) => (at >= recent || i % THINNED_EACH === 0 ? [i] : []));
        return [key, { atMs: kept.map((i) => atMs[i]!), value: kept.map((i) => value[i]!) }];
      }),
    );
  }

  get hasCourse(): boolean {
    return this.#history.size > 0;
  }

  /** Goes on from what was kept before the server was stopped. */
  restore(course: LiveHistory, trace: LiveTrace): void {
    for (const [key, series] of Object.entries(course)) this.#history.set(key, series);
    this.#trace = trace;
  }

  get trace(): LiveTrace {
    return this.#trace;
  }

  /** The trace where it grew since it was last asked for. */
  changedTrace(): LiveTrace | null {
    const changed = this.#traceChanged ? this.#trace : null;
    this.#traceChanged = false;
    return changed;
  }

  #remember(key: string, atMs: number, value: number): void {
    const series = this.#history.get(key) ?? { atMs: [], value: [] };
    this.#history.set(key, series);
    const last = series.atMs.at(-1) ?? -Infinity;
    // A clock that was set back: what it showed behind this moment never was.
    if (atMs < last - CLOCK_SET_BACK_MS) series.atMs.length = series.value.length = 1 + series.atMs.findLastIndex((at) => at < atMs);
    else if (atMs - last < HISTORY_STEP_MS) return;
    series.atMs.push(Math.round(atMs));
    series.value.push(Number(value.toFixed(2)));
    if (series.atMs.length % THIN_EACH === 0) this.#history.set(key, thinned(series, atMs));
  }

  /** Drawn against engine speed: what comes from another device is its newest value. */
  #draw({ atMs, values }: DeviceSample): void {
    const speed = values.get('engineSpeed');
    const { engineSpeedRpm, channels } = this.#trace;
    if (speed === undefined || engineSpeedRpm.length >= MOST_TRACE_POINTS) return;
    for (const quantity of TRACED) {
      const newest = this.#readings.get(quantity);
      if (!newest) continue;
      const series = (channels[quantity] ??= engineSpeedRpm.map(() => null));
      series.push(Math.abs(atMs - newest.atMs) <= TRACE_HOLDS_MS ? newest.value : null);
    }
    engineSpeedRpm.push(speed);
    this.#traceChanged = true;
  }
}

/** A course without what is older than a day, and with fewer readings where it is long past. */
function thinned({ atMs, value }: { atMs: number[]; value: number[] }, nowMs: number): { atMs: number[]; value: number[] } {
  let lastMs = -Infinity;
  const kept = [...atMs.keys()].filter((i) => {
    const at = atMs[i]!;
    if (at < nowMs - DAY_MS || (at < nowMs - CLOSE_MS && at - lastMs < FAR_STEP_MS)) return false;
    lastMs = at;
    return true;
  });
  return { atMs: kept.map((i) => atMs[i]!), value: kept.map((i) => value[i]!) };
}
