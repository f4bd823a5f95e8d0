import type { BoardEntry } from '@gezeit/contract';
import { computed, onUnmounted, ref, watch, type Ref } from 'vue';

/** So many are drawn at first, and so many more whenever the end of them is reached. */
const STEP = 40;

/** What is looked for among the programmes of the board, and how much of it is drawn; `end` stands after what is drawn. */
export function useSought(all: Ref<BoardEntry[] | null>, end: Readonly<Ref<HTMLElement | null>>) {
  const sought = ref('');
  const outOfDateOnly = ref(false);
  const showArchived = ref(false);
  const found = computed(() => {
    const words = sought.value.toLowerCase().split(/\s+/);
    return (
      all.value?.filter(({ archived, fixed, title, question, vehicle, cell }) => {
        const text = `${title} ${question} ${vehicle} ${cell}`.toLowerCase();
        return (
          (showArchived.value || !archived) && (!outOfDateOnly.value || fixed.outOfDate > 0) && words.every((word) => text.includes(word))
        );
      }) ?? null
    );
  });

  const drawnCount = ref(STEP);
  watch([sought, outOfDateOnly, showArchived], () => (drawnCount.value = STEP));
  const drawn = computed(() => found.value?.slice(0, drawnCount.value) ?? null);
  const hiddenCount = computed(() => (found.value?.length ?? 0) - (drawn.value?.length ?? 0));
  const nextCount = computed(() => Math.min(STEP, hiddenCount.value));
  const drawMore = () => (drawnCount.value += STEP);

  const atEnd = new IntersectionObserver(([seen]) => seen!.isIntersecting && drawMore(), { rootMargin: '400px' });
  // Observed anew after each step: where the end is still in sight, it is told again.
  watch(
    [end, drawnCount],
    ([element]) => {
      atEnd.disconnect();
      if (element) atEnd.observe(element);
    },
    { flush: 'post' },
  );
  onUnmounted(() => atEnd.disconnect());

  return { sought, outOfDateOnly, showArchived, found, drawn, hiddenCount, nextCount, drawMore };
}
