import { QUANTITY_UNITS, deskChannels, readFormula, type DeskChannel, type Formula, type FormulaChannel } from '@gezeit/core';
import type { LogView, Quantity, TraceFormula, TraceView } from '@gezeit/contract';
import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import { useProgramme } from '../../../model/programme-store.js';
import { useSelection } from '../../../model/use-selection.js';
import { windowOn } from './pull-window.js';
import { checkedAs } from './check-marks.js';

/** A pull as it lies on the desk. */
export interface DeskPull {
  id: string;
  setup: string;
  logs: LogView[];
  /** How long its full throttle lasts, s; null where none was found: it is drawn on its log's own clock. */
  lastsS: number | null;
  /** Where its full throttle begins on the clock of a log, s. */
  startOn(log: LogView): number;
}

/** What is drawn before anything is chosen, if it was logged. */
const FIRST_SHOWN: readonly Quantity[] = [
  'engineSpeed',
  'power',
  'throttle',
  'boostPressure',
  'manifoldPressure',
  'intakeAirTemperature',
  'pressureDrop',
  'coolerOutTemperature',
];
const FIRST_COUNT = 4;
/** What is shown around a pull's full throttle, s. */
export const AROUND_S = 2;

/** What lies on the desk: pulls, channels and formulas, against what they are drawn, and the stretch that is looked at. */
export const useDesk = defineStore('trace-desk', () => {
  const programme = useProgramme();
  const selection = useSelection();
  const beside = ref<string[]>([]);
  const chosen = ref<string[] | null>(null);
  const formulas = ref<TraceFormula[]>([]);
  const axis = ref<TraceView['axis']>('time');
  const against = ref<string | null>(null);
  const less = ref<string | null>(null);
  /** On the axis that is drawn: s from full throttle, rpm, or the other channel as shown; null shows all of it. */
  const span = ref<[number, number] | null>(null);

  const ids = computed(() => {
    const known = programme.pullIds;
    const first = selection.pull.value ?? known[0];
    return first === undefined ? [] : [first, ...beside.value.filter((id) => id !== first && known.includes(id))];
  });
  const pulls = computed<DeskPull[]>(() => ids.value.map(deskPull));
  const channels = computed<DeskChannel[]>(() => deskChannels([...new Set(pulls.value.flatMap(({ logs }) => logs))]));
  const channelByKey = computed(() => new Map(channels.value.map((channel) => [channel.key, channel])));
  /** Channels of the desk that hold what a check calls by its quantity and section. */
  const channelKeys = (channel: string) => channels.value.filter((own) => checkedAs(own) === channel).map(({ key }) => key);
  const formulaChannels = computed<(FormulaChannel & { key: string })[]>(() =>
    channels.value.map(({ key, formulaName, quantity }) => ({
      key,
      name: formulaName,
      dimension: quantity === null ? 'factor' : QUANTITY_UNITS[quantity].dimension,
    })),
  );
  const drawnKeys = computed(() => (chosen.value ?? firstKeys()).filter((key) => channelByKey.value.has(key)));
  const drawnFormulas = computed(() => formulas.value.map((formula) => ({ ...formula, ...read(formula) })));

  function deskPull(id: string): DeskPull {
    const view = programme.view!;
    const finding = view.findings.pulls.find((entry) => entry.id === id);
    const detail = view.pulls.find((entry) => entry.id === id);
    const logs = view.logs.filter((log) => log.pulls.includes(id));
    const isKnown = finding?.startS != null && finding.endS != null;
    return {
      id,
      setup: finding?.setup ?? '',
      logs,
      lastsS: isKnown ? finding.endS! - finding.startS! : null,
      startOn: (log) => windowOn(log, finding, detail)?.[0] ?? 0,
    };
  }

  function firstKeys(): string[] {
    const known = FIRST_SHOWN.flatMap((quantity) => channels.value.find((channel) => channel.quantity === quantity)?.key ?? []);
    return (known.length > 0 ? known : channels.value.map(({ key }) => key)).slice(0, FIRST_COUNT);
  }

  /** A formula with what is wrong with it; channels that another day has and this one has not are such a thing. */
  function read({ text }: TraceFormula): { formula: Formula | null; problem: string | null } {
    try {
      return { formula: readFormula(text, formulaChannels.value), problem: null };
    } catch (error) {
      return { formula: null, problem: error instanceof Error ? error.message : 'It cannot be read.' };
    }
  }

  const asView = (name: string): TraceView => ({
    name,
    pulls: beside.value,
    channels: drawnKeys.value,
    formulas: formulas.value,
    axis: axis.value,
    against: against.value,
    less: less.value,
  });

  function show(view: TraceView): void {
    beside.value = view.pulls;
    chosen.value = view.channels;
    formulas.value = view.formulas;
    axis.value = view.axis;
    against.value = view.against;
    less.value = view.less;
    span.value = null;
  }

  // Another axis, another pull: what was looked at closely is not there any more.
  watch([axis, against, () => selection.pull.value], () => (span.value = null));
  watch(
    () => programme.stored?.id,
    (id, before) => {
      if (!before || id === before) return;
      beside.value = [];
      chosen.value = null;
      formulas.value = [];
      axis.value = 'time';
      against.value = null;
      less.value = null;
      span.value = null;
    },
  );

  return {
    beside,
    chosen,
    formulas,
    axis,
    against,
    less,
    span,
    ids,
    pulls,
    channels,
    channelByKey,
    channelKeys,
    formulaChannels,
    drawnKeys,
    drawnFormulas,
    read,
    asView,
    show,
  };
});
