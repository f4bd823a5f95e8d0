import type { Bundle, ChoiceChange, Correction, Metric } from '@gezeit/contract';
import type { PowerTerms } from '../compare/terms.js';
import type { Assumptions } from '../judge/assumptions.js';
import type { PullSeries } from '../judge/series.js';

/** What the choices are made of: the terms that were chosen, and the pulls that were compared. */
export interface ChosenTerms {
  bundle: Bundle;
  terms: PowerTerms;
  assumptions: Assumptions;
  /** Used pulls of the two setups. */
  pulls: readonly string[];
  series: Pick<PullSeries, 'startIntakeK' | 'oilK'>;
}

const CORRECTIONS: readonly Correction[] = ['NONE', 'SAE_J1349', 'STD_J607', 'DIN_70020', 'ISO_1585'];
const METRICS: readonly Metric[] = ['meanPower', 'peakPower', 'meanTorque', 'peakTorque'];
/** By how much an edge of the band is moved, rpm: the nearest are on the short list. */
const EDGE_STEPS_RPM = [-400, -200, 200, 400];
const NEAR_EDGE_RPM = 200;
/** Exponents of power on ambient temperature that are met (formula j2). */
const TEMPERATURE_EXPONENTS = [0.5, 0.6, 0.7, 1];
const SMOOTHING_RPM = [100, 400];

/** Each thing that could have been chosen otherwise, by itself. */
export function singleChoices(chosen: ChosenTerms): ChoiceChange[] {
  const { bundle, terms, pulls, series } = chosen;
  return [
    ...corrections(bundle),
    ...(bundle.programme.correction === 'NONE' && bundle.vehicle.aspiration !== 'na'
      ? []
      : TEMPERATURE_EXPONENTS.map((to): ChoiceChange => ({ what: 'temperatureExponent', to }))),
    ...METRICS.filter((metric) => metric !== terms.metric).map((to): ChoiceChange => ({ what: 'metric', to })),
    ...(terms.metric.startsWith('peak') ? SMOOTHING_RPM.map((to): ChoiceChange => ({ what: 'smoothing', to })) : []),
    ...edges(terms),
    ...pulls.map((to): ChoiceChange => ({ what: 'pull', to })),
    { what: 'drift', to: 0 },
    { what: 'learning', to: 0 },
    ...(series.startIntakeK && terms.start === 'same' ? startBeliefs(chosen.assumptions) : []),
    ...(series.oilK ? [{ what: 'oil', to: 0 } as const] : []),
  ];
}

/** The short list from which the second sentence comes (method of section 2): one assumption to its end, or away. */
export function shortChoices(chosen: ChosenTerms): ChoiceChange[] {
  const { terms, bundle } = chosen;
  const near = (change: ChoiceChange) => {
    if (change.what === 'bandLow') return Math.abs(change.to - terms.bandRpm[0]) <= NEAR_EDGE_RPM;
    if (change.what === 'bandHigh') return Math.abs(change.to - terms.bandRpm[1]) <= NEAR_EDGE_RPM;
    if (change.what === 'correction') return change.to === (bundle.programme.correction === 'NONE' ? 'SAE_J1349' : 'NONE');
    return ['pull', 'drift', 'learning', 'powerPerKelvin'].includes(change.what);
  };
  return singleChoices(chosen).filter(near);
}

/** Choices taken together: every correction over a band with moved edges, under each belief. */
export function jointChoices(chosen: ChosenTerms): ChoiceChange[][] {
  const { bundle, terms, series } = chosen;
  const beliefs: ChoiceChange[] = [
    { what: 'drift', to: 0 },
    { what: 'learning', to: 0 },
    ...(series.startIntakeK && terms.start === 'same' ? [{ what: 'powerPerKelvin', to: 0 } as const] : []),
    ...(series.oilK ? [{ what: 'oil', to: 0 } as const] : []),
  ];
  const axes = [
    corrections(bundle),
    edges(terms).filter(({ what, to }) => what === 'bandLow' && Math.abs(Number(to) - terms.bandRpm[0]) <= NEAR_EDGE_RPM),
    edges(terms).filter(({ what, to }) => what === 'bandHigh' && Math.abs(Number(to) - terms.bandRpm[1]) <= NEAR_EDGE_RPM),
    beliefs,
  ];
  const all = axes.reduce<ChoiceChange[][]>((sets, axis) => sets.flatMap((set) => [set, ...axis.map((change) => [...set, change])]), [[]]);
  return all.filter((set) => set.length > 1);
}

function corrections({ programme, vehicle }: Bundle): ChoiceChange[] {
  const boosted = vehicle.aspiration !== 'na' && vehicle.boostControl != null && vehicle.boostControl !== 'none';
  return [
    ...CORRECTIONS.filter((to) => to !== programme.correction).map((to): ChoiceChange => ({ what: 'correction', to })),
    ...(boosted ? [{ what: 'correction', to: 'C9' } as const] : []),
  ];
}

function edges({ bandRpm: [low, high] }: PowerTerms): ChoiceChange[] {
  const least = NEAR_EDGE_RPM * 2;
  return EDGE_STEPS_RPM.flatMap((step): ChoiceChange[] => [
    ...(high - (low + step) >= least ? [{ what: 'bandLow', to: low + step } as const] : []),
    ...(high + step - low >= least ? [{ what: 'bandHigh', to: high + step } as const] : []),
  ]);
}

function startBeliefs({ startTemperature: { mean, sd } }: Assumptions): ChoiceChange[] {
  return [0, mean - 2 * sd, mean + 2 * sd].map((to) => ({ what: 'powerPerKelvin', to }));
}
