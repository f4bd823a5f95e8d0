import { useEventListener } from '@vueuse/core';

/** Calls back when the page gets the focus again. */
export function useRefocus(callback: () => void): void {
  const seen = () => {
    if (document.visibilityState === 'visible') callback();
  };
  useEventListener(window, 'focus', seen);
  useEventListener(document, 'visibilitychange', seen);
}
