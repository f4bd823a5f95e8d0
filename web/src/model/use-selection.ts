import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useProgramme } from './programme-store.js';

/** The selected pull and candidate; they stand in the address, so that a link opens the same view and every chart follows. */
export function useSelection() {
  const route = useRoute();
  const router = useRouter();
  const programme = useProgramme();

  const query = (name: string) => (typeof route.query[name] === 'string' ? route.query[name] : null);
  const set = (name: string, value: string | null) => void router.replace({ query: { ...route.query, [name]: value ?? undefined } });

  const pull = computed<string | null>({
    get: () => (programme.pullIds.includes(query('pull') ?? '') ? query('pull') : null),
    set: (id) => set('pull', id),
  });
  const candidate = computed<string | null>({
    get: () => {
      const known = programme.comparisons.map((comparison) => comparison.candidate);
      const asked = query('candidate');
      return asked && known.includes(asked) ? asked : (known[0] ?? null);
    },
    set: (id) => set('candidate', id),
  });
  const comparison = computed(() => programme.comparisons.find((entry) => entry.candidate === candidate.value) ?? null);

  /** Steps along the pulls; from nothing, to the first or the last. */
  function step(by: 1 | -1): void {
    const ids = programme.pullIds;
    if (ids.length === 0) return;
    const at = pull.value ? ids.indexOf(pull.value) : by > 0 ? -1 : ids.length;
    pull.value = ids[Math.min(ids.length - 1, Math.max(0, at + by))]!;
  }

  return { pull, candidate, comparison, step };
}
