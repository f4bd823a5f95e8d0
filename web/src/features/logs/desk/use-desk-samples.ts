import { known, seriesBetween, type DeskChannel, type Series } from '@gezeit/core';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { ApiFailure } from '../../../shared/api/client.js';
import { fetchTraces, type TraceSamples } from '../../../shared/api/traces.js';
import { AROUND_S, useDesk, type DeskPull } from './desk-store.js';

/** Stretches into which what is seen is reduced, each with its lowest and highest sample; more over speed, where nothing is fetched anew. */
const SEEN_POINTS = 1400;
const WHOLE_PULL_POINTS = 6000;
/** As much again on either side is fetched, so that a small step has something to show at once. */
const MARGIN = 0.5;
const REST_MS = 12;
const KEPT_ANSWERS = 160;

/** Samples by pull and channel, from full throttle on, s. */
export type DeskSamples = ReadonlyMap<string, Series>;
export const sampleKey = (pull: string, channel: string) => `${pull}\n${channel}`;

interface Wanted {
  pull: DeskPull;
  logId: string;
  startS: number;
  channels: { key: string; column: string }[];
}

const answers = new Map<string, Promise<Map<string, TraceSamples>>>();

/** What the desk draws, fetched in the resolution of what is seen, and anew where one looks closer. */
export function useDeskSamples() {
  const desk = useDesk();
  const samples = shallowRef<DeskSamples>(new Map());
  const failure = shallowRef<ApiFailure | null>(null);
  const loading = ref(false);
  let fetching: AbortController | null = null;
  let resting: ReturnType<typeof setTimeout> | null = null;

  /** Every channel that something on the desk is made of. */
  const neededKeys = computed(() => {
    const names = new Set(desk.drawnFormulas.flatMap(({ formula }) => formula?.names ?? []));
    const ofFormulas = desk.formulaChannels.filter(({ name }) => names.has(name)).map(({ key }) => key);
    const speed =
      desk.axis === 'engineSpeed' ? desk.channels.filter(({ quantity }) => quantity === 'engineSpeed').map(({ key }) => key) : [];
    const other = desk.axis === 'channel' && desk.against ? [desk.against] : [];
    return [...new Set([...desk.drawnKeys, ...ofFormulas, ...speed, ...other])];
  });
  const wanted = computed(() =>
    desk.pulls.flatMap((pull) =>
      wantedOf(
        pull,
        neededKeys.value.map((key) => desk.channelByKey.get(key)).filter((channel) => channel !== undefined),
      ),
    ),
  );
  /** What is seen over time, s from full throttle; null for all of a log. Over anything else it is each pull's own full throttle. */
  const seen = computed<[number, number] | null>(() => {
    if (desk.axis !== 'time') return null;
    const longest = Math.max(...desk.pulls.map(({ lastsS }) => lastsS ?? -Infinity));
    if (!desk.span) return Number.isFinite(longest) ? [-AROUND_S, longest + AROUND_S] : null;
    const width = desk.span[1] - desk.span[0];
    return [desk.span[0] - MARGIN * width, desk.span[1] + MARGIN * width];
  });

  async function fetchAll(): Promise<void> {
    fetching?.abort();
    const controller = (fetching = new AbortController());
    loading.value = true;
    failure.value = null;
    const points = desk.axis === 'time' ? SEEN_POINTS : WHOLE_PULL_POINTS;
    try {
      const fetched = await Promise.all(wanted.value.map((one) => samplesOf(one, stretchOf(one, seen.value), points, edges())));
      if (!controller.signal.aborted) samples.value = new Map(fetched.flat());
    } catch (error) {
      if (!controller.signal.aborted) failure.value = ApiFailure.of(error, 'The traces could not be read.', 'Reload the page.');
    } finally {
      if (fetching === controller) loading.value = false;
    }
  }

  watch(
    [wanted, seen],
    (_, before) => {
      if (resting) clearTimeout(resting);
      // The first picture at once; of some steps in a row, the last.
      resting = setTimeout(() => void fetchAll(), before[0] === undefined ? 0 : REST_MS);
    },
    { immediate: true },
  );
  onBeforeUnmount(() => {
    fetching?.abort();
    if (resting) clearTimeout(resting);
  });

  const edges = () => (desk.axis === 'time' ? 'beyond' : 'within');
  function stretchOf({ pull: { lastsS } }: Wanted, overTime: [number, number] | null): [number, number] | null {
    if (desk.axis === 'time') return overTime;
    return lastsS === null ? null : [0, lastsS];
  }

  /** Every sample of what is seen, as it was logged: what a table of the data is made of. */
  async function whole(between: [number, number] | null): Promise<DeskSamples> {
    return new Map((await Promise.all(wanted.value.map((one) => samplesOf(one, stretchOf(one, between), 'whole', edges())))).flat());
  }

  return { samples, failure, loading, whole };
}

function wantedOf(pull: DeskPull, channels: DeskChannel[]): Wanted[] {
  return pull.logs.flatMap((log) => {
    const own = channels.flatMap(({ key, columns }) => {
      const column = columns.get(log.id);
      return column ? [{ key, column }] : [];
    });
    return own.length > 0 ? [{ pull, logId: log.id, startS: pull.startOn(log), channels: own }] : [];
  });
}

async function samplesOf(
  { pull, logId, startS, channels }: Wanted,
  seen: [number, number] | null,
  points: number | 'whole',
  /** A line over time leaves the picture where it does; full throttle over speed ends where it ends. */
  edges: 'within' | 'beyond',
): Promise<[string, Series][]> {
  const span: [number, number] | null = seen && [startS + seen[0], startS + seen[1]];
  const columns = channels.map(({ column }) => column);
  const traces = await answerOf(logId, columns, points, span);
  return channels.map(({ key, column }) => {
    const { timeS, values } = traces.get(column)!;
    const series = known({ at: timeS.map((at) => at - startS), values });
    return [sampleKey(pull.id, key), edges === 'within' && seen ? seriesBetween(series, seen[0], seen[1]) : series];
  });
}

/** What was asked for lately is not asked for again: going back is at once. */
function answerOf(
  logId: string,
  columns: string[],
  points: number | 'whole',
  span: [number, number] | null,
): Promise<Map<string, TraceSamples>> {
  const key = JSON.stringify([logId, columns, points, span]);
  const known = answers.get(key);
  if (known) return known;
  const asked = fetchTraces(logId, columns, points, new AbortController().signal, span);
  answers.set(key, asked);
  asked.catch(() => answers.delete(key));
  const [oldest] = answers.keys();
  if (answers.size > KEPT_ANSWERS) answers.delete(oldest!);
  return asked;
}
