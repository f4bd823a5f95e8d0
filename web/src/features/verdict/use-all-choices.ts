import { onBeforeUnmount, watch, type Ref } from 'vue';
import { useProgramme } from '../../model/programme-store.js';

/** So far from being seen a place is near. */
const NEAR_PX = 400;

/** Has all other choices tried while a place that shows them is in sight or near it: hundreds of fits, of which nobody who is above sees anything. */
export function useAllChoicesNear(place: Readonly<Ref<HTMLElement | null>>): void {
  const { nearAllChoices } = useProgramme();
  let near = false;
  const tell = (now: boolean) => {
    if (near !== now) nearAllChoices(now);
    near = now;
  };
  const sight = new IntersectionObserver((seen) => tell(seen.at(-1)!.isIntersecting), { rootMargin: `${NEAR_PX}px` });
  watch(place, (now, before) => {
    if (before) sight.unobserve(before);
    if (now) sight.observe(now);
    else tell(false);
  });
  onBeforeUnmount(() => {
    sight.disconnect();
    tell(false);
  });
}
