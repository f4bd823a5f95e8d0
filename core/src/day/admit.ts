import type { Bundle, ChecklistName, DayHappening } from '@gezeit/contract';
import { conflict } from '../errors.js';
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

/**
 * Whether something may happen now; the server and the screen ask the same.
 * @throws GezeitError with the next step where it may not.
 */
export function admit(bundle: Bundle, state: DayState, what: DayHappening): void {
  if (what.kind === 'begun') {
    if (state.day !== null && state.endedMs === null)
      throw conflict('day-running', 'A day is under way already.', 'Go on with it, or end it first.');
    if (what.pulls.length === 0)
      throw conflict('nothing-planned', 'No pull is planned.', 'Plan the order first; single pulls can be added on the day.');
    return;
  }
  if (state.day === null) throw conflict('no-day', 'No day has begun.', 'Begin the day first.');
  if (
    state.endedMs !== null &&
    !['taken-back', 'note', 'file-taken', 'files-matched', 'pull-amended', 'said', 'pull-started'].includes(what.kind)
  )
    throw conflict('day-ended', 'The day has ended.', 'Undo its end, or begin another day.');
  // What was made on the day may not have reached the programme yet.
  const setups = new Set([...bundle.setups, ...state.made].map(({ id }) => id));
  const unknownSetup = (id: string) => {
    if (!setups.has(id)) throw conflict('no-such-setup', `There is no setup ${id}.`, 'Choose one of the list, or make it first.');
  };
  switch (what.kind) {
    case 'pull-started':
      unknownSetup(what.setup);
      if (state.pulls.some(({ id }) => id === what.pull))
        throw conflict(
          'pull-known',
          `Pull ${what.pull} is recorded already.`,
          'Look at the strip: it may have been started in another window.',
        );
      if (state.running && what.cause !== 'file') throw conflict('pull-running', `Pull ${state.running.id} is under way.`, 'End it first.');
      if (state.away && what.cause !== 'file')
        throw conflict('off-rollers', 'The car is off the rollers.', 'Bring it back on the rollers first.');
      if (state.swapping && what.cause === 'key') throw conflict('swapping', 'The car is being swapped.', 'Finish the swap first.');
      if (what.cause === 'key' && !readyForFirstPull(bundle, state))
        throw conflict('not-checked', 'The safety items before the day are not all ticked.', 'Go through the list “Before the day” first.');
      if (what.cause === 'key' && state.stop)
        throw conflict('stopped', `Stop: ${state.stop.text}.`, 'Find the reason and acknowledge it first.');
      return;
    case 'pull-ended':
      if (state.running?.id !== what.pull)
        throw conflict('no-pull-running', 'No such pull is under way.', 'It may have been ended in another window.');
      return;
    case 'pull-amended':
      if (what.setup) unknownSetup(what.setup);
      if (!state.pulls.some(({ id }) => id === what.pull))
        throw conflict('no-such-pull', `There is no pull ${what.pull} today.`, 'Choose one of the strip.');
      return;
    case 'swap-started':
      unknownSetup(what.to);
      if (state.running) throw conflict('pull-running', `Pull ${state.running.id} is under way.`, 'End it first.');
      if (oneWayFrom(bundle, state.fitted, what.to) && !what.confirmed)
        throw conflict('confirm-last', `There is no way back to ${state.fitted} today.`, `Confirm that ${state.fitted} is finished.`);
      refuseOpen(bundle, state, 'beforeSwap');
      return;
    case 'swap-ended': {
      if (!state.swapping) throw conflict('no-swap', 'No swap is under way.', 'It may have been finished in another window.');
      refuseOpen(bundle, state, 'afterSwap');
      return;
    }
    case 'ended': {
      if (state.running) throw conflict('pull-running', `Pull ${state.running.id} is under way.`, 'End it first.');
      const open = openItems(bundle, state, 'atEnd');
      if (open.length > 0 && !what.reason?.trim())
        throw conflict(
          'not-put-back',
          `Still open: ${open.map(({ text }) => text).join('; ')}.`,
          'Tick them, or say why the day closes with them open.',
        );
      return;
    }
    case 'setup-changed':
      if (setups.has(what.setup.id))
        throw conflict('setup-known', `There is a setup ${what.setup.id} already.`, 'Give the changed state another letter.');
      return;
    case 'inserted':
      return unknownSetup(what.setup);
    case 'skipped':
      if (!state.remaining.some(({ place }) => place === what.place))
        throw conflict('no-such-step', 'That step is not ahead any more.', 'It was driven or skipped meanwhile.');
      return;
    case 'rollers':
      if (state.running) throw conflict('pull-running', `Pull ${state.running.id} is under way.`, 'End it first.');
      if (what.on === (state.away === null))
        throw conflict('rollers-known', `The car is ${what.on ? 'on' : 'off'} the rollers already.`, 'It was said in another window.');
      return;
    case 'taken-back':
      if (!state.undoable.some(({ id }) => id === what.event))
        throw conflict('not-undoable', 'That can be taken back no more.', 'A pull was driven with it, or it was taken back meanwhile.');
      return;
    default:
  }
}

/** Refuses while what safety asks of a swap is not ticked. */
function refuseOpen(bundle: WithCell, state: DayState, list: 'beforeSwap' | 'afterSwap'): void {
  const open = openItems(bundle, state, list, true);
  if (open.length > 0)
    throw conflict('swap-not-checked', `Not ticked: ${open.map(({ text }) => text).join('; ')}.`, 'Check it on the car, then tick it.');
}
