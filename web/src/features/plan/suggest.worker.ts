import type { Bundle } from '@gezeit/contract';
import { assumptionsFor, oneWaySwaps, PLAN_TIMES, suggestOrder, swapMinutes, type Suggestion, type SuggestionResult } from '@gezeit/core';

export interface SuggestQuestion {
  bundle: Bundle;
  setups: string[];
  mostPulls: number;
  mostHours: number;
  mostSwaps: number;
}
export type SuggestAnswer = { kind: 'progress'; share: number; best: Suggestion | null } | { kind: 'done'; result: SuggestionResult };

self.onmessage = ({ data }: MessageEvent<SuggestQuestion>) => {
  const { bundle, setups } = data;
  const plan = bundle.plan ?? { pulls: [] };
  const assumptions = assumptionsFor(bundle);
  const result = suggestOrder(
    {
      setups,
      mostPulls: data.mostPulls,
      mostHours: data.mostHours,
      mostSwaps: data.mostSwaps,
      restMin: plan.restMin ?? PLAN_TIMES.restMin,
      swapMin: (from, to) => swapMinutes(plan, setups[from]!, setups[to]!),
      oneWay: oneWaySwaps(plan),
      conditioning: 1,
      assumptions,
      noise: assumptions.noise,
    },
    (share, best) => {
      self.postMessage({ kind: 'progress', share, best } satisfies SuggestAnswer);
      return true;
    },
  );
  self.postMessage({ kind: 'done', result } satisfies SuggestAnswer);
};
