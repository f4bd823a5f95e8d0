import type { Bundle, DayEvent } from '@gezeit/contract';
import {
  dayResolution,
  dayState,
  defaultGates,
  defaultStops,
  instruct,
  lacksWeather,
  CHECKS,
  pullChecks,
  readyForFirstPull,
  type CellNow,
  type DayState,
  type PullCheck,
  type PullOfDay,
} from '@gezeit/core';
import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import { setupStyle } from '../../shared/charts/setup-colours.js';
import { useTheme } from '../../shared/charts/theme-store.js';
import { useProgramme, type DrawnSetup } from '../../model/programme-store.js';
import { useDayLine } from '../../model/day-line.js';

/** What is open over the screen. */
export type DayDialog =
  | 'checks'
  | 'before-swap'
  | 'swap'
  | 'anyway'
  | 'note'
  | 'changed'
  | 'readings'
  | 'figures'
  | 'pull'
  | 'zero'
  | 'files'
  | 'devices'
  | 'insert'
  | 'stop'
  | 'end'
  | null;

/**
 * The day as this window knows it: what the server holds, what it has not taken yet, and what the devices show. Everything that is done is
 * shown at once and kept in the browser until the server has it, so that a lost connection or a reload loses nothing.
 */
export const useDay = defineStore('day', () => {
  const programme = useProgramme();
  const themes = useTheme();
  const line = useDayLine({
    bundle: () => bundle.value,
    reread: () => programme.reread(),
    askWhetherChanged: () => void programme.followOthers(),
  });
  const { events, readings, history, nowMs, failure } = line;
  const dialog = ref<DayDialog>(null);

  /** The programme as the day has changed it: a setup made while nothing answers is there at once. */
  const bundle = computed<Bundle>(() => {
    const { bundle: held } = programme.view!;
    const made = state.value.made.filter(({ id }) => !held.setups.some((setup) => setup.id === id));
    return made.length > 0 ? { ...held, setups: [...held.setups, ...made] } : held;
  });
  const setups = computed<DrawnSetup[]>(() => bundle.value.setups.map((setup, index) => ({ setup, ...setupStyle(index, themes.theme) })));
  const setupById = computed(() => new Map(setups.value.map((entry) => [entry.setup.id, entry])));
  const minute = computed(() => Math.floor(nowMs.value / 60_000));
  /** The clock by whole seconds: gates and the instruction are worked out again when a reading came or a second has passed. */
  const secondMs = computed(() => Math.floor(nowMs.value / 1000) * 1000);
  const state = computed<DayState>(() => dayState(events.value));
  const gates = computed(() => bundle.value.plan?.gates ?? defaultGates(bundle.value));
  const stops = computed(() => bundle.value.plan?.stops ?? defaultStops(bundle.value));
  const cell = computed<CellNow>(() => ({ nowMs: secondMs.value, readings: readings.value, history: history.value }));
  /** The day as it would begin now, until it has begun: what the strip and the next steps show. */
  const shown = computed<DayState>(() => {
    const pulls = bundle.value.plan?.pulls ?? [];
    if (state.value.day !== null || pulls.length === 0) return state.value;
    const begun: DayEvent = {
      id: 'not-begun',
      at: new Date(minute.value * 60_000).toISOString(),
      by: '',
      what: { kind: 'begun', day: 'ahead', pulls, fitted: null },
    };
    return dayState([begun]);
  });
  const instruction = computed(() => {
    const planned = state.value.day === null ? { ...state.value, planned: bundle.value.plan?.pulls ?? [] } : state.value;
    return instruct(planned, gates.value, cell.value, readyForFirstPull(bundle.value, state.value));
  });
  /** Before the first pull: the correction needs weather, and none is known yet. */
  const lacksWeatherYet = computed(
    () => state.value.day !== null && state.value.pulls.length === 0 && lacksWeather(bundle.value, state.value, cell.value),
  );
  /** Pulls that a rule or a person leaves out; one whose file has not come yet is not. */
  const leftOut = computed(
    () =>
      new Map(
        (programme.view?.findings.pulls ?? [])
          .filter(({ status, reasons }) => status === 'excluded' && reasons[0] !== 'no-logs')
          .map(({ id, reasons }) => [id, reasons]),
      ),
  );
  /**
   * What was looked at when a pull closed; none while its file has not come. A flag that would leave a pull out is bad here also where it is
   * the only one of its setup: now it can still be repeated.
   */
  function checksOf(id: string | null): PullCheck[] {
    const detail = programme.view?.pulls.find((entry) => entry.id === id);
    const logs = (programme.view?.logs ?? []).filter(({ pulls }) => pulls.includes(id ?? ''));
    if (!detail || logs.length === 0) return [];
    const logged = logs.flatMap(({ columns }) => columns.flatMap(({ quantity }) => quantity ?? []));
    const flags = detail.flags.map((entry) => ({ ...entry, leavesOut: CHECKS[entry.flag].leavesOut }));
    return pullChecks(flags, logged, detail.ambientC !== null);
  }
  /** What is known of a pull of the day by now; null where there is none of that name. */
  function pullOfDay(id: string | null): PullOfDay | null {
    const pull = state.value.pulls.find((entry) => entry.id === id);
    if (!pull) return null;
    return {
      id: pull.id,
      kind: pull.kind,
      isUnderWay: state.value.running?.id === pull.id,
      aborted: pull.aborted,
      typed: Boolean(pull.typed),
      checks: checksOf(id),
      leftOut: leftOut.value.get(pull.id) ?? [],
    };
  }
  const resolution = computed(() =>
    dayResolution(bundle.value, state.value, minute.value * 60_000, (id) => {
      const finding = programme.view?.findings.pulls.find((entry) => entry.id === id);
      // What is not read yet counts until something says otherwise.
      return !finding || finding.status === 'used' || finding.reasons.every((reason) => reason === 'no-logs');
    }),
  );

  watch(dialog, () => (failure.value = null));

  function close(): void {
    line.close();
    dialog.value = null;
  }

  return {
    ...line,
    open: (id: string) => {
      close();
      line.open(id);
    },
    close,
    dialog,
    secondMs,
    bundle,
    setups,
    setupById,
    state,
    shown,
    gates,
    stops,
    cell,
    instruction,
    leftOut,
    lacksWeatherYet,
    pullOfDay,
    resolution,
  };
});
