import type { ProgrammeView } from '@gezeit/contract';
import type { StepName } from './step-names.js';

/** What comes next where nothing has been driven yet, or nothing can be compared. */
export interface Next {
  title: string;
  text: string;
  step: StepName;
  link: string;
}

const DRIVEN_NOTHING = 'Nothing is driven yet.';

/** What comes before there is a log to read; null where a pull is there. */
export function beforeLogs({ bundle, tide }: ProgrammeView): Next | null {
  if (tide.pulls.length > 0) return null;
  const planned = bundle.plan?.pulls.length ?? 0;
  if (planned > 0)
    return {
      title: DRIVEN_NOTHING,
      text: planned === 1 ? 'One pull is planned.' : `${planned} pulls are planned.`,
      step: 'day',
      link: 'To the day',
    };
  return {
    title: DRIVEN_NOTHING,
    text: 'The order of the pulls comes first: it decides what can be told apart.',
    step: 'plan',
    link: 'Make the plan',
  };
}

/** What comes before there is a verdict; null where there is something to compare. */
export function beforeVerdict(view: ProgrammeView): Next | null {
  const { bundle, findings } = view;
  if (findings.comparisons.length === 0 && bundle.setups.length < 2)
    return {
      title: 'Nothing to compare yet.',
      text: 'A verdict needs a setup that is marked as the reference, another setup, and pulls of both.',
      step: 'question',
      link: 'Name the setups',
    };
  const next = beforeLogs(view);
  if (next) return next;
  if (findings.comparisons.length > 0 && findings.pulls.some(({ status }) => status === 'used')) return null;
  const isMeasured = bundle.pulls.some(({ kind }) => kind === 'measured');
  return isMeasured
    ? { title: 'Nothing to compare yet.', text: 'No pull counts. Each one says why on Logs.', step: 'logs', link: 'Why no pull counts' }
    : { title: 'Nothing to compare yet.', text: 'No pull is a measured one yet.', step: 'day', link: 'To the day' };
}
