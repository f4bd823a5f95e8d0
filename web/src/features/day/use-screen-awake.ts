import { useWakeLock } from '@vueuse/core';
import { onBeforeUnmount, onMounted } from 'vue';

/** Keeps the screen awake while the calling component stands; taken again when the page comes back into sight. */
export function useScreenAwake(): void {
  const { request, release } = useWakeLock();
  // Refused on battery saving: the cell's laptop is then set by hand.
  onMounted(() => void request('screen').catch(() => undefined));
  onBeforeUnmount(() => void release());
}
