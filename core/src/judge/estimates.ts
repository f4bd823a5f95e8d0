import type { Assumptions, NoiseBelief, PlainAssumptions, StoryName } from './assumptions.js';
import { fitMixture, type Fit, type Mixture, type WeightedStory } from './fit.js';
import { learningFade } from './learning-fade.js';
import { centred, type PullSeries } from './series.js';
import { storyModel, type Term } from './story-covariance.js';
import { DayWitnesses } from './witnesses.js';

/** The four numbers of one story. */
export interface FourEstimates {
  asRun: Fit;
  levelled: Fit;
  ownStart: Fit;
  sameAir: Fit;
}

const STORIES: StoryName[] = ['day', 'swap', 'none'];

/** Another value of the same pulls (a point of the curve), and another belief about its noise. */
export interface Instead {
  value?: number[];
  noise?: NoiseBelief;
}

/**
 * One day's pulls, ready to be judged. What does not depend on the value that is judged is computed once.
 * Boost is held where something controls the manifold pressure, absolute or gauge.
 */
export class JudgedDay {
  readonly #witnesses: DayWitnesses;
  readonly #stories = new Map<Exclude<keyof FourEstimates, 'asRun'>, WeightedStory[]>();

  constructor(
    readonly series: PullSeries,
    readonly assumptions: Assumptions,
    readonly boostHeld: boolean,
  ) {
    this.#witnesses = new DayWitnesses(series, assumptions);
  }

  /** The plain difference of means, with the noise averaged over. */
  asRun(): Mixture {
    const n = this.series.setup.length;
    const nothing = { mean: new Float64Array(n), covariance: null, logEvidence: 0, parts: [] };
    return fitMixture(this.series, [{ name: 'none', weight: 1, model: nothing }], {
      noise: this.assumptions.noise,
      setupEffectSd: null,
      badPull: null,
    });
  }

  /** From the same start: heat state, drift, learning and oil taken out. */
  levelled(instead: Instead = {}): Mixture {
    const { series, assumptions } = this;
    const terms = () => [...term('heatState', series.startIntakeK, assumptions.startTemperature), ...this.#oil()];
    return this.#power('levelled', terms, this.boostHeld, instead);
  }

  /** As levelled, but a start temperature that the part itself brings about stays the part's. */
  ownStart(instead: Instead = {}): Mixture {
    return this.#power('ownStart', () => this.#oil(), this.boostHeld, instead);
  }

  /** Also at the same charge temperature in the pull and, where it is held, the same manifold pressure. */
  sameAir(): Mixture {
    const { series, assumptions, boostHeld } = this;
    const { sameAir } = assumptions;
    const terms = () => [
      ...this.#oil(),
      // What is left of the start belongs to the charge: the two are one temperature, seen twice.
      ...term('chargeTemperature', series.startIntakeK, sameAir.startTemperature),
      ...term('chargeTemperature', series.chargeK?.map(Math.log) ?? null, sameAir.chargeTemperature),
      ...(boostHeld ? term('manifoldPressure', series.logManifold, sameAir.manifoldPressure) : []),
    ];
    return this.#power('sameAir', terms, false, {});
  }

  #oil(): Term[] {
    return term('oil', this.series.oilK, this.assumptions.oilTemperature);
  }

  #power(of: Exclude<keyof FourEstimates, 'asRun'>, terms: () => Term[], withPressure: boolean, { value, noise }: Instead): Mixture {
    const { series, assumptions } = this;
    const stories = this.#stories.get(of) ?? this.#storiesOf(terms(), withPressure);
    this.#stories.set(of, stories);
    return fitMixture(value ? { ...series, value } : series, stories, noise ? { ...assumptions, noise } : assumptions);
  }

  #storiesOf(terms: Term[], withPressure: boolean): WeightedStory[] {
    const { series, assumptions } = this;
    return STORIES.map((name) => {
      const { weight, loss } = assumptions.stories[name];
      const fade = learningFade(series, name, assumptions.learningPulls);
      const model = {
        terms,
        driftPerHour: assumptions.driftPerHour,
        walkPerRootHour: assumptions.walkPerRootHour,
        dayToDay: assumptions.dayToDay,
        learning: { loss, fade, perDegree: assumptions.ignition.mean },
      };
      return { name, weight, model: storyModel(series, model, this.#witnesses.of(name, withPressure)) };
    });
  }
}

/**
 * All four estimates of a day's pulls.
 * @param boostHeld whether something holds the manifold pressure (absolute or gauge control).
 */
export function fourEstimates(series: PullSeries, assumptions: Assumptions, boostHeld: boolean): FourEstimates {
  const day = new JudgedDay(series, assumptions, boostHeld);
  return { asRun: day.asRun().fit, levelled: day.levelled().fit, ownStart: day.ownStart().fit, sameAir: day.sameAir().fit };
}

/** The plain difference of means, with the noise averaged over. */
export const fitAsRun = (series: PullSeries, assumptions: Assumptions): Fit => new JudgedDay(series, assumptions, false).asRun().fit;

/** From the same start: heat state, drift, learning and oil taken out. */
export const fitLevelled = (series: PullSeries, assumptions: Assumptions, boostHeld: boolean): Fit =>
  new JudgedDay(series, assumptions, boostHeld).levelled().fit;

/** The same fit for a temperature in K or the logarithm of a pressure drop: one story, no witnesses, no bad pulls. */
export function fitPlain(series: PullSeries, assumptions: PlainAssumptions): Fit {
  const model = {
    terms: assumptions.startTemperature ? term('heatState', series.startIntakeK, assumptions.startTemperature) : [],
    driftPerHour: assumptions.driftPerHour,
    walkPerRootHour: assumptions.walkPerRootHour,
    dayToDay: assumptions.dayToDay,
    learning: null,
  };
  const story: WeightedStory = { name: 'none', weight: 1, model: storyModel(series, model, null) };
  return fitMixture(series, [story], { noise: assumptions.noise, setupEffectSd: assumptions.setupEffectSd, badPull: null }).fit;
}

function term(cause: Term['cause'], values: readonly number[] | null, coefficient: Term['coefficient']): Term[] {
  return values ? [{ cause, column: centred(values), coefficient }] : [];
}
