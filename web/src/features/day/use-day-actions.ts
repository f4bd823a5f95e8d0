import type { DayHappening } from '@gezeit/contract';
import { oneWayFrom, openItems, pullStart } from '@gezeit/core';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { provideShortcuts } from '../../shared/shortcuts.js';
import { useProgramme } from '../../model/programme-store.js';
import { useDay, type DayDialog } from './day-store.js';
import type { DayClock } from './use-day-clock.js';

/** Where another thing is to be done first, a pull can be driven all the same, with the reason. */
const PULLED_ANYWAY: readonly string[] = ['wait', 'settle', 'swap', 'finish'];

/** What can be done on Day, by key and by button alike; `selected` is the pull that is looked at, `select` another one. */
export function useDayActions(clock: DayClock, selected: () => string | null, select: (pull: string) => void) {
  const day = useDay();
  const programme = useProgramme();
  const router = useRouter();
  const confirming = ref(false);
  const running = computed(() => day.state.day !== null && day.state.endedMs === null);
  const open = (dialog: DayDialog) => (day.dialog = dialog);
  const goTo = (name: string) => void router.push({ name, params: { id: programme.view!.id } });

  const begin = () => void day.act({ kind: 'begun', day: clock.dayName(), pulls: day.bundle.plan?.pulls ?? [], fitted: null });

  function startPull(anyway: string | null): void {
    void day.act(pullStart(day.state, day.bundle, day.cell, day.instruction, anyway, 'key')).then((done) => done && open(null));
  }
  function togglePull(): void {
    const pull = day.state.running;
    if (pull) void day.act({ kind: 'pull-ended', pull: pull.id, aborted: false, cause: 'key' });
    else if (day.instruction.kind === 'pull') startPull(null);
    else if (PULLED_ANYWAY.includes(day.instruction.kind)) open('anyway');
  }
  function abort(): void {
    const pull = day.state.running;
    const last = day.state.pulls.at(-1);
    if (pull) void day.act({ kind: 'pull-ended', pull: pull.id, aborted: true, reason: 'aborted', cause: 'key' });
    else if (last) void day.act({ kind: 'pull-amended', pull: last.id, aborted: true });
  }
  function swap(): void {
    if (day.state.swapping) {
      open('swap');
      return;
    }
    const to = day.instruction.step?.setup;
    if (!to || to === day.state.fitted) return;
    if (oneWayFrom(day.bundle, day.state.fitted, to) && !confirming.value) {
      confirming.value = true;
      return;
    }
    // What safety asks before the hands go in comes first.
    if (openItems(day.bundle, day.state, 'beforeSwap', true).length > 0) {
      open('before-swap');
      return;
    }
    beginSwap();
  }
  function beginSwap(): void {
    const to = day.instruction.step?.setup;
    if (!to || to === day.state.fitted) return;
    const happening: DayHappening = { kind: 'swap-started', to, confirmed: confirming.value };
    void day.act(happening).then((done) => {
      if (!done) return;
      confirming.value = false;
      day.dialog = null;
    });
  }
  /** Off the rollers for another car, or back on. */
  const rollers = () => void day.act({ kind: 'rollers', on: day.state.away !== null, other: null });
  function repeat(): void {
    const last = day.state.pulls.at(-1);
    if (last) void day.act({ kind: 'inserted', setup: last.setup, pullKind: last.kind, count: 1 });
  }
  /** A rest that was overrun begins anew with a conditioning pull. */
  function settle(): void {
    if (day.state.fitted) void day.act({ kind: 'inserted', setup: day.state.fitted, pullKind: 'conditioning', count: 1 });
  }
  function skip(): void {
    const step = day.state.remaining[0];
    if (step) void day.act({ kind: 'skipped', place: step.place });
  }
  function undo(): void {
    const last = day.state.undoable.at(-1);
    if (last) void day.act({ kind: 'taken-back', event: last.id });
  }
  function look(by: 1 | -1): void {
    const ids = day.state.pulls.map(({ id }) => id);
    const at = ids.indexOf(selected() ?? '');
    if (ids.length > 0) select(ids[Math.max(0, Math.min(ids.length - 1, at + by))]!);
  }

  /** The one action of the moment. */
  const primary = computed<{ label: string; key: string; run: () => void } | null>(() => {
    switch (day.instruction.kind) {
      case 'plan':
        return { label: 'Open Plan', key: 'Enter', run: () => goTo('plan') };
      case 'begin':
        return { label: 'Begin the day', key: 'Enter', run: begin };
      case 'ended':
        return { label: 'See the verdict', key: 'Enter', run: () => goTo('verdict') };
      case 'stop':
        return { label: 'Acknowledge the stop', key: 'Enter', run: () => void day.act({ kind: 'stop-acknowledged' }) };
      case 'away':
        return { label: 'Back on the rollers', key: 'Enter', run: rollers };
      case 'check':
        return { label: 'Go through the list', key: 'Enter', run: () => open('checks') };
      case 'driving':
        return { label: 'End this pull', key: 'p', run: togglePull };
      case 'swap':
        return { label: confirming.value ? `${day.state.fitted} is finished: swap` : 'The swap begins', key: 's', run: swap };
      case 'swapping':
        return { label: 'Swap done…', key: 's', run: swap };
      case 'settle':
        return { label: 'Insert a conditioning pull', key: 'Enter', run: settle };
      case 'pull':
        return { label: 'The pull starts', key: 'p', run: togglePull };
      case 'finish':
        return { label: 'Put back, end the day…', key: 'e', run: () => open('end') };
      default:
        return null;
    }
  });

  /** What a key does now, in the words of the palette; null where it does nothing, and its button is off. */
  const offers = computed((): Record<string, string | null> => {
    const { state, instruction } = day;
    const last = state.pulls.at(-1);
    const step = state.remaining[0];
    const driven = selected();
    const looksOnly = ['plan', 'ended'].includes(instruction.kind);
    // Where another window holds the day it is followed, and looked at.
    const isHere = day.heldElsewhere === null;
    const acts = running.value && isHere;
    const main = primary.value;
    const may = (can: unknown, words: string) => (acts && can ? words : null);
    const all = {
      Enter: main?.key === 'Enter' && (isHere || looksOnly) ? main.label : null,
      p: may(state.running || ['pull', ...PULLED_ANYWAY].includes(instruction.kind), 'Pull anyway…'),
      a: state.running ? may(true, 'Abort this pull') : may(last && !last.aborted, `Pull ${last?.id} was aborted`),
      s: state.swapping ? may(true, 'Swap done…') : may(instruction.step && instruction.step.setup !== state.fitted, 'The swap begins'),
      r: may(last, `Repeat pull ${last?.id}`),
      k: may(step, `Skip the next pull, ${step?.setup}`),
      i: may(true, 'Insert a pull'),
      h: may(true, 'Stop, with the reason'),
      n: may(true, 'Note'),
      c: may(true, 'Something changed'),
      t: may(true, 'Type readings'),
      '0': may(true, 'Zero of the pressure channels'),
      o: driven && `Open pull ${driven}`,
      u: may(!state.running, state.away ? 'Back on the rollers' : 'Off the rollers for another car'),
      f: 'Files',
      d: 'Devices',
      l: may(true, 'List before the day'),
      e: may(true, 'End the day'),
      z: isHere && state.undoable.length > 0 ? 'Take the last thing back' : null,
    };
    // The action of the moment is called what its button is called: a swap without a way back above all.
    const isOffered = main !== null && all[main.key as keyof typeof all] !== null;
    return isOffered ? { ...all, [main.key]: main.label } : all;
  });
  const key = (name: string, what: string, run: () => void) => ({ keys: [name], what, command: () => offers.value[name]!, run });
  const opens = (name: string, what: string, dialog: DayDialog) => key(name, what, () => open(dialog));
  provideShortcuts([
    key('Enter', 'do what the screen says', () => primary.value!.run()),
    key('p', 'the pull starts, or ends', togglePull),
    key('a', 'aborted: lift or knock; kept, not counted', abort),
    key('s', 'the swap begins, or is done', swap),
    key('r', 'repeat the last pull', repeat),
    key('k', 'skip the next pull', skip),
    opens('i', 'insert a pull', 'insert'),
    opens('h', 'stop, with the reason', 'stop'),
    opens('n', 'note', 'note'),
    opens('c', 'something changed', 'changed'),
    opens('t', 'type readings', 'readings'),
    opens('0', 'zero of the pressure channels', 'zero'),
    opens('o', 'open the selected pull', 'pull'),
    key('u', 'off the rollers for another car, or back on', rollers),
    opens('f', 'files', 'files'),
    opens('d', 'devices', 'devices'),
    opens('l', 'list before the day', 'checks'),
    opens('e', 'end the day', 'end'),
    key('z', 'take the last thing back', undo),
    { keys: [',', '←'], what: 'the pull before', run: () => look(-1) },
    { keys: ['.', '→'], what: 'the next pull', run: () => look(1) },
  ]);

  return { running, primary, offers, open, begin, beginSwap, startPull, abort, repeat, skip, undo, rollers };
}

/** What the buttons of Day call. */
export type DayActions = ReturnType<typeof useDayActions>;
