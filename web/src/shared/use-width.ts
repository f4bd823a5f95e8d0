import { onBeforeUnmount, ref, watch, type Ref } from 'vue';

/** The width of a box as it is laid out, px, never under a least one; what it is before it is laid out is given. */
export function useWidth(box: Readonly<Ref<HTMLElement | null>>, least = 270, before = 1200): Ref<number> {
  const width = ref(before);
  const observer = new ResizeObserver(([entry]) => (width.value = Math.max(least, entry!.contentRect.width)));
  watch(
    box,
    (element, earlier) => {
      if (earlier) observer.unobserve(earlier);
      if (element) observer.observe(element);
    },
    { immediate: true, flush: 'post' },
  );
  onBeforeUnmount(() => observer.disconnect());
  return width;
}
