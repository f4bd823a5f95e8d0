import type { ProgrammeView } from '@gezeit/contract';
import { planReport, resolutionText } from '@gezeit/core';
import type { StepName } from './step-names.js';

/** How far a step is, and why in a few words. */
export interface StepStanding {
  state: 'nothing' | 'under way' | 'done' | 'gap';
  why: string;
}

const counted = (count: number, what: string) => (count === 1 ? `one ${what}` : `${count} ${what}s`);

/** How far each step of a programme is. */
export const STEP_STATES: Record<StepName, (view: ProgrammeView) => StepStanding> = {
  question({ gaps }) {
    const own = gaps.filter(({ step }) => step === 'question');
    return own.length === 0
      ? { state: 'done', why: 'asked, nothing open' }
      : { state: 'gap', why: own.length === 1 ? own[0]!.text : `${own.length} things open` };
  },
  bench({ bundle, evidence, gaps }) {
    const gap = gaps.find(({ step }) => step === 'bench');
    if (gap) return { state: 'gap', why: gap.text };
    const paths = bundle.setups.filter(({ path }) => path?.length).length;
    if (paths === 0 && evidence.length === 0) return { state: 'nothing', why: 'nothing measured yet' };
    return paths > 1
      ? { state: 'done', why: `${paths} setups with their path, ${counted(evidence.length, 'result')} kept` }
      : { state: 'under way', why: `${counted(evidence.length, 'result')} kept` };
  },
  plan({ bundle }) {
    if (!bundle.plan?.pulls.length) return { state: 'nothing', why: 'no day planned' };
    const { warnings, comparisons } = planReport(bundle);
    if (warnings.length > 0) return { state: 'gap', why: warnings[0]!.detail };
    return { state: 'done', why: `recognises ${resolutionText(Math.max(...comparisons.map((entry) => entry.smallestResolvablePct)))}` };
  },
  day({ bundle }) {
    const planned = bundle.plan?.pulls.length ?? 0;
    const driven = bundle.pulls.length;
    if (driven === 0) return { state: 'nothing', why: planned > 0 ? `${counted(planned, 'pull')} planned, none driven` : 'no day planned' };
    return { state: 'done', why: `${counted(driven, 'pull')} driven` };
  },
  logs({ findings }) {
    if (findings.pulls.length === 0) return { state: 'nothing', why: 'no pull yet' };
    const used = findings.pulls.filter(({ status }) => status === 'used').length;
    return used > 0
      ? { state: 'done', why: `${used} of ${findings.pulls.length} pulls used` }
      : { state: 'gap', why: 'no pull can be used' };
  },
  verdict({ findings: { comparisons, pulls } }) {
    if (pulls.length === 0) return { state: 'nothing', why: 'nothing run yet' };
    if (comparisons.length === 0) return { state: 'nothing', why: 'nothing is compared' };
    const open = comparisons.filter(({ verdict }) => verdict.power === 'not-resolved' || verdict.power === 'withheld').length;
    return open === 0 ? { state: 'done', why: 'answered' } : { state: 'gap', why: `${open} of ${comparisons.length} not answered` };
  },
  sheet({ fixed, findings }) {
    if (findings.pulls.length === 0 || findings.comparisons.length === 0) return { state: 'nothing', why: 'nothing is answered yet' };
    if (fixed.length === 0) return { state: 'under way', why: 'not fixed' };
    return fixed[0]!.changed.length > 0
      ? { state: 'gap', why: 'what was fixed last is out of date' }
      : { state: 'done', why: `fixed, ${fixed.length === 1 ? 'once' : `${fixed.length} times`}` };
  },
};
