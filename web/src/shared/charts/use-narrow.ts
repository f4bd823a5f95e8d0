import { useMediaQuery } from '@vueuse/core';
import type { Ref } from 'vue';

/** Whether a chart has no room for long words beside its curves: in a narrow window. */
export const useNarrow = (): Ref<boolean> => useMediaQuery('(max-width: 620px)');
