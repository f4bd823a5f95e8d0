import type { Assumptions, PlainAssumptions, StoryName } from './assumptions.js';
import { fitMixture, type Fit, type WeightedStory } from './fit.js';
import { centred, type PullSeries } from './series.js';
import { storyModel, type ModelTerms, type Term } from './story-covariance.js';
import { Matrix } from 'ml-matrix';

/** The four numbers of one story. */
export interface FourEstimates {
  asRun: Fit;
  levelled: Fit;
  ownStart: Fit;
  sameAir: Fit;
}

const STORIES: StoryName[] = ['day', 'swap', 'none'];

/**
 * All four estimates of a day's pulls.
 * @param boostHeld whether something holds the manifold pressure (absolute or gauge control).
 */
export function fourEstimates(series: PullSeries, assumptions: Assumptions, boostHeld: boolean): FourEstimates {
  return {
    asRun: fitAsRun(series, assumptions),
    levelled: fitLevelled(series, assumptions, boostHeld),
    ownStart: fitOwnStart(series, assumptions, boostHeld),
    sameAir: fitSameAir(series, assumptions, boostHeld),
  };
}

/** The plain difference of means, with the noise averaged over. */
export function fitAsRun(series: PullSeries, assumptions: Assumptions): Fit {
  const n = series.setup.length;
  const nothing = { mean: new Float64Array(n), covariance: Matrix.zeros(n, n), logEvidence: 0 };
  return fitMixture(series, [{ name: 'none', weight: 1, model: nothing }], {
    noise: assumptions.noise,
    setupEffectSd: null,
    badPull: null,
  });
}

/** From the same start: heat state, drift, learning and oil taken out. */
export function fitLevelled(series: PullSeries, assumptions: Assumptions, boostHeld: boolean): Fit {
  const terms = [...term(series.startIntakeK, assumptions.startTemperature), ...term(series.oilK, assumptions.oilTemperature)];
  return fitPower(series, assumptions, terms, boostHeld);
}

/** As levelled, but a start temperature that the part itself brings about stays the part's. */
export function fitOwnStart(series: PullSeries, assumptions: Assumptions, boostHeld: boolean): Fit {
  return fitPower(series, assumptions, term(series.oilK, assumptions.oilTemperature), boostHeld);
}

/** Also at the same charge temperature in the pull and, where it is held, the same manifold pressure. */
function fitSameAir(series: PullSeries, assumptions: Assumptions, boostHeld: boolean): Fit {
  const { sameAir } = assumptions;
  const logCharge = series.chargeK?.map(Math.log) ?? null;
  const terms = [
    ...term(series.oilK, assumptions.oilTemperature),
    ...term(series.startIntakeK, sameAir.startTemperature),
    ...term(logCharge, sameAir.chargeTemperature),
    ...(boostHeld ? term(series.logManifold, sameAir.manifoldPressure) : []),
  ];
  return fitPower(series, assumptions, terms, false);
}

/** E = exp(−k/…) per pull: what is still missing of a learning loss. */
export function learningFade(series: PullSeries, story: StoryName, learningPulls: number): Float64Array {
  const count = story === 'swap' ? series.pullsSinceSwap : series.pullsBefore;
  return Float64Array.from(count, (k) => Math.exp(-k / learningPulls));
}

function fitPower(series: PullSeries, assumptions: Assumptions, terms: Term[], pressureWitness: boolean): Fit {
  const stories: WeightedStory[] = STORIES.map((name) => {
    const model: ModelTerms = {
      terms,
      driftPerHour: assumptions.driftPerHour,
      walkPerRootHour: assumptions.walkPerRootHour,
      dayToDay: assumptions.dayToDay,
      learning: { loss: assumptions.stories[name].loss, fade: learningFade(series, name, assumptions.learningPulls) },
      ignitionWitness: true,
      pressureWitness,
    };
    return { name, weight: assumptions.stories[name].weight, model: storyModel(series, assumptions, model) };
  });
  return fitMixture(series, stories, assumptions);
}

/** The same fit for a temperature in K or the logarithm of a pressure drop: one story, no witnesses, no bad pulls. */
export function fitPlain(series: PullSeries, assumptions: PlainAssumptions, powerAssumptions: Assumptions): Fit {
  const model: ModelTerms = {
    terms: assumptions.startTemperature ? term(series.startIntakeK, assumptions.startTemperature) : [],
    driftPerHour: assumptions.driftPerHour,
    walkPerRootHour: assumptions.walkPerRootHour,
    dayToDay: assumptions.dayToDay,
    learning: null,
    ignitionWitness: false,
    pressureWitness: false,
  };
  const story: WeightedStory = { name: 'none', weight: 1, model: storyModel(series, powerAssumptions, model) };
  return fitMixture(series, [story], { noise: assumptions.noise, setupEffectSd: assumptions.setupEffectSd, badPull: null });
}

function term(values: readonly number[] | null, coefficient: Term['coefficient']): Term[] {
  return values ? [{ column: centred(values), coefficient }] : [];
}
