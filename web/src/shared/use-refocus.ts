import { onBeforeUnmount, onMounted } from 'vue';

/** Calls back when the page gets the focus again. */
export function useRefocus(callback: () => void): void {
  const listener = () => {
    if (document.visibilityState === 'visible') callback();
  };
  onMounted(() => {
    window.addEventListener('focus', listener);
    document.addEventListener('visibilitychange', listener);
  });
  onBeforeUnmount(() => {
    window.removeEventListener('focus', listener);
    document.removeEventListener('visibilitychange', listener);
  });
}
