import type { Bundle, Curves, Evidence, Findings } from '@gezeit/contract';
import {
  analyseMeasured,
  choicesOfMeasured,
  curvesOf,
  judgeOf,
  measuredFrom,
  measurePulls,
  PLAIN_FORMATTER,
  tideOf,
  withLeaning,
  withWords,
  type LogTable,
} from '../src/index.js';
import { tablesOf, type SimulatedBundle, type Truth } from '../src/simulate/index.js';
import { calibrationDay, EFFECTS } from '../../bench/population.js';
import { buildDemo, DEMO_PROGRAMMES } from '../../demo/programmes.js';

/** Whatever is made of it is made once and the same for everybody: only a copy may be changed. */
function frozen<T>(value: T): T {
  if (typeof value !== 'object' || value === null || ArrayBuffer.isView(value) || value instanceof Map || Object.isFrozen(value))
    return value;
  Object.freeze(value);
  for (const part of Object.values(value)) frozen(part);
  return value;
}

const once = <T>(make: () => T): (() => T) => {
  let made: { value: T } | null = null;
  return () => (made ??= { value: make() }).value;
};

const inputsOf = (bundle: Bundle) => [bundle.channels ?? null, bundle.pulls.map((pull) => measuredFrom(bundle, pull))];

/** A day that many tests look at: driven, measured, judged and drawn once for all of them, when it is first asked for. */
export class KnownDay {
  readonly #made: () => { simulated: SimulatedBundle; truth?: Truth };
  readonly #tables = once(() => tablesOf(this.#made().simulated));
  readonly #measured = once(() => measurePulls(this.bundle, this.tables));
  readonly #analysis = once(() => analyseMeasured(this.bundle, this.measured));
  readonly #leaning = once(() => {
    const choices = choicesOfMeasured(this.bundle, this.measured, 'short');
    return withWords(withLeaning(this.findings, { choices, differences: this.curves.differences }), PLAIN_FORMATTER);
  });
  readonly #judge = once(() => judgeOf(this.bundle, this.measured));
  readonly #curves = once(() => curvesOf(this.judge));

  constructor(
    readonly name: string,
    make: () => { simulated: SimulatedBundle; truth?: Truth },
  ) {
    this.#made = once(make);
  }

  get bundle(): Bundle {
    return frozen(this.#made().simulated.bundle);
  }
  /** What is true of it, where it is of the calibration population. */
  get truth(): Truth {
    const { truth } = this.#made();
    if (!truth) throw new Error(`of ${this.name} the truth is not kept`);
    return truth;
  }
  get tables(): Map<string, LogTable> {
    return this.#tables();
  }
  get measured(): ReturnType<typeof measurePulls> {
    return this.#measured();
  }
  get findings(): Findings {
    return this.#analysis().findings;
  }
  /** The same with what each answer rests on. */
  get leaning(): Findings {
    return this.#leaning();
  }
  get tide(): ReturnType<typeof tideOf> {
    return tideOf(this.#analysis().pulls);
  }
  get judge(): ReturnType<typeof judgeOf> {
    return this.#judge();
  }
  get curves(): Curves {
    return this.#curves();
  }
  /** What is found of a copy that was changed: pulls are measured anew only where what they are measured from was changed. */
  changed(change: (copy: Bundle) => void, evidence: readonly Evidence[] = []): ReturnType<typeof analyseMeasured> {
    const copy = structuredClone(this.bundle);
    change(copy);
    const isMeasured = JSON.stringify(inputsOf(copy)) === JSON.stringify(inputsOf(this.bundle));
    return analyseMeasured(copy, isMeasured ? this.measured : measurePulls(copy, this.tables), evidence);
  }
  toString(): string {
    return this.name;
  }
}

export const DEMO_DAYS: readonly KnownDay[] = DEMO_PROGRAMMES.map(
  (programme) => new KnownDay(programme.folder, () => ({ simulated: buildDemo(programme).simulated })),
);

/** The demo's day in a folder. */
export function demoDay(folder: string): KnownDay {
  const day = DEMO_DAYS.find(({ name }) => name === folder);
  if (!day) throw new Error(`the demo has no ${folder}`);
  return day;
}

/** Those of the demo whose power is compared: without it there is nothing of it on the airfield. */
export const POWER_DAYS = DEMO_PROGRAMMES.filter(({ spec }) => !spec.road).map(({ folder }) => demoDay(folder));

/** Twenty days of the calibration population, a third without an effect, of flow, of heat. */
export const POPULATION_DAYS: readonly KnownDay[] = Array.from(
  { length: 20 },
  (_, i) => new KnownDay(`day ${i + 1}`, () => calibrationDay(9100 + i, EFFECTS[i % EFFECTS.length]!)),
);
