import type { LogView, Quantity } from '@gezeit/contract';
import { shallowRef, watch, type Ref } from 'vue';
import { ApiFailure } from '../../../shared/api/client.js';
import { fetchTraces } from '../../../shared/api/traces.js';
import { trackOf, type DriveTrack } from './drive-map.js';

/** A track is drawn by so many stretches, each with its lowest and highest sample. */
const TRACK_POINTS = 3000;

/** Where a drive went, by its log; null without positions. */
export function useDriveTrack(log: Ref<LogView | null>) {
  const track = shallowRef<DriveTrack | null>(null);
  const failure = shallowRef<ApiFailure | null>(null);
  let fetching: AbortController | null = null;
  watch(
    () => log.value?.columns[0]?.id,
    async () => {
      fetching?.abort();
      track.value = null;
      const own = log.value;
      const column = (quantity: Quantity) => own?.columns.find((entry) => entry.quantity === quantity)?.id ?? null;
      const [latitude, longitude, air] = (['latitude', 'longitude', 'intakeAirTemperature'] as const).map(column);
      if (!own || !latitude || !longitude) return;
      const { signal } = (fetching = new AbortController());
      try {
        const wanted = [latitude, longitude, ...(air ? [air] : [])];
        const traces = await fetchTraces(own.id, wanted, TRACK_POINTS, signal);
        track.value = trackOf(traces.get(latitude)!, traces.get(longitude)!, air ? (traces.get(air) ?? null) : null);
        failure.value = null;
      } catch (error) {
        if (signal.aborted) return;
        failure.value = ApiFailure.of(error, 'Where it went could not be read.', 'Reload the page.', '', 'unreadable');
      }
    },
    { immediate: true },
  );
  return { track, failure };
}
