import type { ChecklistName, DayHappening } from '@gezeit/contract';
import { checkedOf, checklist, scheduled, withConditioning } from '@gezeit/core';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { afterEach, describe, expect, it } from 'vitest';
import { computed, ref } from 'vue';
import DayBar from '../src/features/day/DayBar.vue';
import { useDay } from '../src/features/day/day-store.js';
import { useDayActions } from '../src/features/day/use-day-actions.js';
import { useProgramme } from '../src/model/programme-store.js';
import { useShortcuts } from '../src/shared/shortcuts.js';
import { ended, pull } from './support/day-happenings.js';
import { put } from './support/mounting.js';
import { direct, LiveEnd, newProgramme, page } from './support/page.js';

// A key, its button and what the palette calls it: whatever the day is at, all three say the same.

page();
let wrapper: VueWrapper | null = null;
afterEach(async () => {
  useDay().close();
  await flushPromises();
  wrapper?.unmount();
  wrapper = null;
});

const PLAN = scheduled({ pulls: withConditioning(['A', 'B', 'B', 'A']) });
/** Keys that only look: those of the pulls' strip do so without a name in the palette. */
const LOOKS = ['o', 'f', 'd'];

/** Day's bar with its keys, on a programme whose day has not begun. */
async function bar(title: string) {
  const id = await newProgramme(title);
  await useProgramme().open(id);
  const day = useDay();
  day.open(id);
  const chosen = ref<string | null>(null);
  const tell = async (holder: object | null = null) => {
    const view = (await direct('GET', `/api/programmes/${id}/day`)) as { holder: object | null };
    LiveEnd.last!.tell({ type: 'view', view: { ...view, readings: [], holder: holder ?? view.holder } });
    await flushPromises();
  };
  await tell();
  wrapper = put({
    components: { DayBar },
    setup: () => ({
      actions: useDayActions(
        { dayName: () => '2026-06-11' } as never,
        () => computed(() => chosen.value ?? day.state.pulls.at(-1)?.id ?? null).value,
        (pull) => (chosen.value = pull),
      ),
    }),
    template: '<DayBar :actions="actions" />',
  });
  await flushPromises();
  const act = async (...happenings: DayHappening[]) => {
    await day.act(...happenings);
    expect(day.failure?.message).toBeUndefined();
    await flushPromises();
  };
  const begin = () => act({ kind: 'begun', day: '2026-06-11', pulls: PLAN.pulls, fitted: 'A' });
  const tick = (list: ChecklistName) =>
    act({
      kind: 'checked',
      list,
      of: checkedOf(day.state, list),
      items: checklist(day.bundle, list).map(({ id: item }) => item),
      done: true,
    });
  return { day, act, begin, tick, tell };
}

const press = async (key: string): Promise<void> => {
  document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
  await flushPromises();
};
/** What the palette offers of the screen, by key. */
const offered = (): Record<string, string> =>
  Object.fromEntries(
    useShortcuts().effective.flatMap(({ keys, command }) => (command?.(keys[0]!) ? [[keys[0]!, command(keys[0]!)!]] : [])),
  );
const dead = (): string[] => useShortcuts().effective.flatMap(({ keys, command }) => (command?.(keys[0]!) === null ? keys : []));

/** Every button that names a key is on where the palette offers what the key does, and off where not. */
function buttonsAgree(): void {
  const offers = offered();
  const buttons = [...document.querySelectorAll<HTMLButtonElement>('button[aria-keyshortcuts]')];
  expect(buttons.length).toBeGreaterThan(1);
  const main = document.querySelector<HTMLButtonElement>('button.primary');
  if (main && !main.disabled) expect(offers[main.getAttribute('aria-keyshortcuts')!]).toBe(main.textContent.trim());
  expect(buttons.map((entry) => [entry.getAttribute('aria-keyshortcuts'), !entry.disabled])).toEqual(
    buttons.map((entry) => [entry.getAttribute('aria-keyshortcuts'), entry.getAttribute('aria-keyshortcuts')! in offers]),
  );
}

/** Keys that are offered for nothing leave no trace. */
async function deadKeysDoNothing(): Promise<void> {
  const day = useDay();
  const before = day.events.length;
  for (const key of dead()) {
    await press(key);
    expect([key, day.dialog, day.failure, day.events.length]).toEqual([key, null, null, before]);
  }
}

describe('the keys of Day', () => {
  it('agree with the buttons and the palette from before the day to after it', async () => {
    const { day, act, begin, tick } = await bar('Keys of a day');
    const seen: Record<string, string> = {};
    const look = async (state: string) => {
      await flushPromises();
      seen[state] = Object.keys(offered()).toSorted().join(' ');
      buttonsAgree();
      await deadKeysDoNothing();
    };
    await look('nothing planned or begun');
    await begin();
    await look('begun');
    await tick('beforeDay');
    await look('ready');
    await act(pull('p01'));
    await look('driving');
    expect(offered()).toMatchObject({ p: 'End this pull', a: 'Abort this pull', o: 'Open pull p01' });
    await press('p');
    await expect.poll(() => day.state.running).toBeNull();
    await look('driven');
    expect(offered()).toMatchObject({ r: 'Repeat pull p01', a: 'Pull p01 was aborted' });
    await press('a');
    await expect.poll(() => day.state.pulls.at(-1)!.aborted).toBe(true);
    await look('aborted');
    await act({ kind: 'rollers', on: false, other: null });
    await look('away');
    expect(offered()).toMatchObject({ Enter: 'Back on the rollers', u: 'Back on the rollers' });
    await press('u');
    await expect.poll(() => day.state.away).toBeNull();
    await tick('beforeSwap');
    await act({ kind: 'swap-started', to: 'B', confirmed: true });
    await look('swapping');
    expect(offered()).toMatchObject({ s: 'Swap done…' });
    while (day.state.undoable.length > 0) {
      const left = day.state.undoable.length;
      await press('z');
      await expect.poll(() => day.state.undoable.length).toBeLessThan(left);
    }
    await look('all taken back');
    expect(seen).toEqual({
      'nothing planned or begun': 'Enter d f',
      begun: '0 Enter c d e f h i k l n t u',
      ready: '0 c d e f h i k l n p t u z',
      driving: '0 a c d e f h i k l n o p r t z',
      driven: '0 a c d e f h i k l n o p r t u z',
      aborted: '0 c d e f h i k l n o p r t u z',
      away: '0 Enter c d e f h i k l n o r t u z',
      swapping: '0 c d e f h i k l n o r s t u z',
      'all taken back': '0 a c d e f h i k l n o p r t u',
    });
  });

  it('say when the day has ended what is left to do', async () => {
    const { act, begin, tick } = await bar('Keys after a day');
    await begin();
    await tick('beforeDay');
    await act(pull('p01'), ended('p01'), { kind: 'ended', reason: 'rain', open: [] });
    buttonsAgree();
    await deadKeysDoNothing();
    expect(Object.keys(offered()).toSorted()).toEqual(['Enter', 'd', 'f', 'o', 'z']);
    expect(offered()['Enter']).toBe('See the verdict');
  });

  it('only look while another window holds the day: nothing is typed that would be refused', async () => {
    const { day, act, begin, tick, tell } = await bar('Keys of a follower');
    await begin();
    await tick('beforeDay');
    await act(pull('p01'), ended('p01'));
    await tell({ seat: 'another', by: 'KM Kim Muster', from: 'network', sinceMs: 0, before: null });
    expect(Object.keys(offered()).toSorted()).toEqual([...LOOKS].toSorted());
    buttonsAgree();
    await deadKeysDoNothing();
    // And what a dialog that was open already sends is refused with what to do.
    expect(await day.act({ kind: 'note', text: 'from upstairs', files: [] })).toBe(false);
    expect(day.failure!.nextStep).toBe('Take it over first.');
    for (const key of LOOKS) {
      await press(key);
      expect(day.dialog, key).not.toBeNull();
      day.dialog = null;
    }
  });
});
