import type { Bundle, ChecklistName, DayHappening } from '@gezeit/contract';
import { checklist } from '../plan/checklists.js';
import { checkKey, type DayState } from './day-state.js';

type WithCell = Pick<Bundle, 'plan' | 'cell' | 'cells'>;

/** What a checklist is for at this point of the day: the coming swap, the coming pull, or the day itself. */
export function checkedOf(state: DayState, list: ChecklistName): string {
  if (list === 'afterSwap' || list === 'beforeSwap')
    return `swap-${state.swaps.length + (state.swapping || list === 'beforeSwap' ? 1 : 0)}`;
  if (list === 'beforePull') return `pull-${state.pulls.length + 1}`;
  return state.day ?? 'day';
}

/** Items of a checklist that are neither ticked nor left open with a reason; only those of safety where asked. */
export function openItems(
  bundle: WithCell,
  state: DayState,
  list: ChecklistName,
  safetyOnly = false,
): { id: string; text: string; safety: boolean }[] {
  const ticked = state.checks.get(checkKey(list, checkedOf(state, list)));
  return checklist(bundle, list).filter(({ id, safety }) => (safety || !safetyOnly) && !(ticked?.get(id)?.done || ticked?.get(id)?.reason));
}

/** Items of a list that are not done, a reason given or not, with that reason. */
export function leftUndone(bundle: WithCell, state: DayState, list: ChecklistName): string[] {
  const ticked = state.checks.get(checkKey(list, checkedOf(state, list)));
  return checklist(bundle, list).flatMap(({ id, text }) => {
    const mark = ticked?.get(id);
    return mark?.done ? [] : [mark?.reason ? `${text} (${mark.reason})` : text];
  });
}

/** Whether what safety asks before the first pull of the day is ticked. */
export function readyForFirstPull(bundle: WithCell, state: DayState): boolean {
  return state.pulls.length > 0 || openItems(bundle, state, 'beforeDay', true).length === 0;
}

/** Swaps of the plan that cannot be gone back over today, from what is fitted. */
export function oneWayFrom(bundle: Pick<Bundle, 'plan'>, from: string | null, to: string): boolean {
  return bundle.plan?.swaps?.some((swap) => swap.from === from && swap.to === to && swap.back) ?? false;
}

/** Why something may not happen now on a day, by its code; the words are in `words/day-refusals.ts`. */
export interface DayRefusals {
  'day-running': object;
  'nothing-planned': object;
  'no-day': object;
  'day-ended': object;
  'no-such-setup': { setup: string };
  'setup-known': { setup: string };
  'pull-known': { pull: string };
  'pull-running': { pull: string };
  'no-such-pull': { pull: string };
  'no-pull-running': object;
  'off-rollers': object;
  swapping: object;
  'no-swap': object;
  'not-checked': object;
  /** What somebody saw or heard, in their words. */
  stopped: { text: string };
  'confirm-last': { fitted: string | null };
  'swap-not-checked': { items: string[] };
  'not-put-back': { items: string[] };
  'no-such-step': object;
  'rollers-known': { on: boolean };
  'not-undoable': object;
}
export type DayRefusal = { [C in keyof DayRefusals]: { code: C } & DayRefusals[C] }[keyof DayRefusals];

/** What may still come after the day has ended. */
const AFTER_THE_END: readonly DayHappening['kind'][] = [
  'taken-back',
  'note',
  'file-taken',
  'files-matched',
  'pull-amended',
  'said',
  'pull-started',
];

/** Why something may not happen now, or null where it may; the server and the screen ask the same. */
export function dayRefusal(bundle: Bundle, state: DayState, what: DayHappening): DayRefusal | null {
  if (what.kind === 'begun') {
    if (state.day !== null && state.endedMs === null) return { code: 'day-running' };
    return what.pulls.length === 0 ? { code: 'nothing-planned' } : null;
  }
  if (state.day === null) return { code: 'no-day' };
  if (state.endedMs !== null && !AFTER_THE_END.includes(what.kind)) return { code: 'day-ended' };
  // What was made on the day may not have reached the programme yet.
  const isKnown = (id: string) => [...bundle.setups, ...state.made].some((setup) => setup.id === id);
  const unknownSetup = (setup: string): DayRefusal | null => (isKnown(setup) ? null : { code: 'no-such-setup', setup });
  const running = (): DayRefusal | null => (state.running ? { code: 'pull-running', pull: state.running.id } : null);
  switch (what.kind) {
    case 'pull-started':
      return unknownSetup(what.setup) ?? pullRefusal(bundle, state, what);
    case 'pull-ended':
      return state.running?.id === what.pull ? null : { code: 'no-pull-running' };
    case 'pull-amended':
      if (what.setup && !isKnown(what.setup)) return unknownSetup(what.setup);
      return state.pulls.some(({ id }) => id === what.pull) ? null : { code: 'no-such-pull', pull: what.pull };
    case 'swap-started':
      if (oneWayFrom(bundle, state.fitted, what.to) && !what.confirmed)
        return unknownSetup(what.to) ?? running() ?? { code: 'confirm-last', fitted: state.fitted };
      return unknownSetup(what.to) ?? running() ?? swapUnchecked(bundle, state, 'beforeSwap');
    case 'swap-ended':
      return state.swapping ? swapUnchecked(bundle, state, 'afterSwap') : { code: 'no-swap' };
    case 'ended': {
      const open = openItems(bundle, state, 'atEnd');
      const isLeft = open.length > 0 && !what.reason?.trim();
      return running() ?? (isLeft ? { code: 'not-put-back', items: open.map(({ text }) => text) } : null);
    }
    case 'setup-changed':
      return isKnown(what.setup.id) ? { code: 'setup-known', setup: what.setup.id } : null;
    case 'inserted':
      return unknownSetup(what.setup);
    case 'skipped':
      return state.remaining.some(({ place }) => place === what.place) ? null : { code: 'no-such-step' };
    case 'rollers':
      return running() ?? (what.on === (state.away === null) ? { code: 'rollers-known', on: what.on } : null);
    case 'taken-back':
      return state.undoable.some(({ id }) => id === what.event) ? null : { code: 'not-undoable' };
    default:
      return null;
  }
}

/** A pull that a file tells of was driven: only what was pressed, or came by a stream, can be refused for how things stand. */
function pullRefusal(
  bundle: WithCell,
  state: DayState,
  { pull, cause }: Extract<DayHappening, { kind: 'pull-started' }>,
): DayRefusal | null {
  if (state.pulls.some(({ id }) => id === pull)) return { code: 'pull-known', pull };
  if (cause === 'file') return null;
  if (state.running) return { code: 'pull-running', pull: state.running.id };
  if (state.away) return { code: 'off-rollers' };
  if (cause !== 'key') return null;
  if (state.swapping) return { code: 'swapping' };
  if (!readyForFirstPull(bundle, state)) return { code: 'not-checked' };
  return state.stop ? { code: 'stopped', text: state.stop.text } : null;
}

/** Refuses while what safety asks of a swap is not ticked. */
function swapUnchecked(bundle: WithCell, state: DayState, list: 'beforeSwap' | 'afterSwap'): DayRefusal | null {
  const open = openItems(bundle, state, list, true);
  return open.length > 0 ? { code: 'swap-not-checked', items: open.map(({ text }) => text) } : null;
}
