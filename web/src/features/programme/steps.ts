import type { ProgrammeView } from '@gezeit/contract';
import type { Component } from 'vue';

export type StepState = 'nothing' | 'under way' | 'done' | 'gap';

/** A step of a programme, in the order of the work. */
export interface ProgrammeStep {
  name: 'question' | 'logs' | 'verdict';
  title: string;
  component: () => Promise<Component>;
  state(view: ProgrammeView): { state: StepState; why: string };
}

export const PROGRAMME_STEPS: ProgrammeStep[] = [
  {
    name: 'question',
    title: 'Question',
    component: () => import('../question/QuestionView.vue'),
    state({ bundle }) {
      const reference = bundle.setups.some((setup) => setup.reference);
      return reference ? { state: 'done', why: 'asked, with a reference' } : { state: 'gap', why: 'no setup is the reference' };
    },
  },
  {
    name: 'logs',
    title: 'Logs',
    component: () => import('../logs/LogsView.vue'),
    state({ findings }) {
      if (findings.pulls.length === 0) return { state: 'nothing', why: 'no pull yet' };
      const used = findings.pulls.filter(({ status }) => status === 'used').length;
      return used > 0
        ? { state: 'done', why: `${used} of ${findings.pulls.length} pulls used` }
        : { state: 'gap', why: 'no pull can be used' };
    },
  },
  {
    name: 'verdict',
    title: 'Verdict',
    component: () => import('../verdict/VerdictView.vue'),
    state({ findings: { comparisons } }) {
      if (comparisons.length === 0) return { state: 'nothing', why: 'nothing is compared' };
      const open = comparisons.filter(({ verdict }) => verdict.power === 'not-resolved' || verdict.power === 'withheld').length;
      return open === 0 ? { state: 'done', why: 'answered' } : { state: 'gap', why: `${open} of ${comparisons.length} not answered` };
    },
  },
];
