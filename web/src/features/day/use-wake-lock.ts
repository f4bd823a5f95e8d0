import { onBeforeUnmount, onMounted } from 'vue';

/** Keeps the screen awake while the calling component stands; taken again when the page comes back into sight. */
export function useWakeLock(): void {
  let lock: WakeLockSentinel | null = null;
  const take = async () => {
    if (document.visibilityState !== 'visible' || !('wakeLock' in navigator)) return;
    // Refused on battery saving: the cell's laptop is then set by hand.
    lock = await navigator.wakeLock.request('screen').catch(() => null);
  };
  const seen = () => void take();
  onMounted(() => {
    void take();
    document.addEventListener('visibilitychange', seen);
  });
  onBeforeUnmount(() => {
    document.removeEventListener('visibilitychange', seen);
    void lock?.release();
  });
}
