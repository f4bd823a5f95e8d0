import { onBeforeUnmount, onMounted } from 'vue';

/** Calls back when the page gets the focus again. By hand, as in `use-width.ts`: the board is drawn without the package of such helpers. */
export function useRefocus(callback: () => void): void {
  const seen = () => {
    if (document.visibilityState === 'visible') callback();
  };
  onMounted(() => {
    window.addEventListener('focus', seen);
    document.addEventListener('visibilitychange', seen);
  });
  onBeforeUnmount(() => {
    window.removeEventListener('focus', seen);
    document.removeEventListener('visibilitychange', seen);
  });
}
