import type { BenchInputs, Setup } from '@gezeit/contract';
import { BOOST_ASSUMPTIONS, budgetConditions, gainAtMost, instrumentById, restrictionBudget, type Instrument } from '@gezeit/core';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useProgramme } from '../../model/programme-store.js';
import { useBenchInputs } from './bench-inputs-store.js';
import { pathColumns } from './path-geometry.js';

/** What the bench shows: the pair of setups, the section and the instrument, all of them in the address; and the budget of the pair. */
export function useBench() {
  const programme = useProgramme();
  const inputs = useBenchInputs();
  const route = useRoute();
  const router = useRouter();
  const bundle = computed(() => programme.view!.bundle);
  const setups = computed(() => bundle.value.setups.filter(({ archived }) => !archived));
  const inAddress = (name: string) => {
    const value = route.query[name];
    return typeof value === 'string' ? value : null;
  };
  const go = (query: Record<string, string | undefined>) => router.replace({ query: { ...route.query, ...query } });
  const byId = (id: string | null) => setups.value.find((setup) => setup.id === id) ?? null;
  const reference = computed<Setup | null>(
    () => byId(inAddress('a')) ?? setups.value.find((setup) => setup.reference) ?? setups.value[0] ?? null,
  );
  const candidate = computed<Setup | null>(
    () =>
      byId(inAddress('b')) ??
      setups.value.find((setup) => setup.id !== reference.value?.id && !setup.reference) ??
      setups.value.find((setup) => setup.id !== reference.value?.id) ??
      null,
  );
  const columns = computed(() => pathColumns(reference.value, candidate.value));
  const sectionId = computed(() => inAddress('section'));
  const column = computed(() => columns.value.find(({ id }) => id === sectionId.value) ?? null);
  const instrument = computed<Instrument | null>(() => instrumentById(inAddress('instrument') ?? ''));
  const budgetRpm = computed(() => bundle.value.bench?.budgetRpm ?? (inputs.of('air-demand')['engineSpeed'] as number | undefined) ?? 6000);
  const demandInputs = computed<BenchInputs>(() => inputs.of('air-demand'));
  const conditions = computed(() => budgetConditions(demandInputs.value, bundle.value.vehicle.aspiration, budgetRpm.value));
  const budgetOf = (setup: Setup | null) =>
    setup && conditions.value ? restrictionBudget(setup, conditions.value, programme.view!.findings) : null;
  const budgets = computed(() => ({ reference: budgetOf(reference.value), candidate: budgetOf(candidate.value) }));
  /** What the gain at held boost rests on, as it stands on the instrument Compressor. */
  const assumed = computed(() => {
    const { efficiency, cooler } = inputs.of('compressor');
    const share = (value: unknown, otherwise: number) => (typeof value === 'number' && value > 0 && value < 1 ? value : otherwise);
    return {
      compressorEfficiency: share(efficiency, BOOST_ASSUMPTIONS.compressorEfficiency),
      coolerEffectiveness: share(cooler, BOOST_ASSUMPTIONS.coolerEffectiveness),
    };
  });
  const atMost = computed(() => {
    const { reference: from, candidate: to } = budgets.value;
    if (!from || !conditions.value || from.totalPa === 0) return null;
    return gainAtMost(from, to && to.sections.length > 0 ? to : null, conditions.value, assumed.value);
  });
  return {
    setups,
    reference,
    candidate,
    columns,
    sectionId,
    column,
    instrument,
    budgetRpm,
    conditions,
    budgets,
    atMost,
    choosePair: (a: string, b: string) => go({ a, b }),
    openSection: (id: string | null) => go({ section: id ?? undefined, instrument: undefined }),
    openInstrument: (id: string | null) => go({ instrument: id ?? undefined }),
    /** Ends both: back to the plain bench. */
    close: () => go({ instrument: undefined, section: undefined }),
  };
}
