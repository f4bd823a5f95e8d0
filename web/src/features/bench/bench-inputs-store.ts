import type { BenchInput, BenchInputs, Bundle } from '@gezeit/contract';
import { budgetConditions, INSTRUMENTS } from '@gezeit/core';
import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import { useProgramme } from '../../model/programme-store.js';

/** How long typing must rest before the inputs are stored, ms. */
const REST_MS = 700;

/** Fields that take the engine's air demand where nothing else is said. */
const DEMAND_FIELDS: Record<string, string> = {
  opening: 'demand',
  filter: 'demand',
  cooler: 'flow',
  condensation: 'flow',
  'water-circuit': 'chargeFlow',
  'core-recovery': 'flow',
  'power-level': 'otherFlow',
};

/** Instruments that ask what drives the compressor: the car says it. */
const HAS_DRIVE = ['compressor', 'charge-volume'];

/** Inputs of every instrument: what is typed counts at once, and is stored a moment after. */
export const useBenchInputs = defineStore('bench-inputs', () => {
  const programme = useProgramme();
  /** What is typed and not stored yet, by instrument. */
  const pending = ref<Record<string, BenchInputs>>({});
  let pause: ReturnType<typeof setTimeout> | undefined;
  const stored = computed<Record<string, BenchInputs>>(() => programme.view?.bundle.bench?.inputs ?? {});

  programme.beforeLeaving(store);
  watch(pending, (now) => (programme.typing = Object.keys(now).length > 0), { flush: 'sync' });
  // Another programme: what was typed in the one before is stored there already.
  watch(
    () => programme.view?.id,
    () => {
      clearTimeout(pause);
      pending.value = {};
    },
  );

  /** What an instrument holds before anything is typed: what the car and the air demand say. */
  function known(id: string): BenchInputs {
    const bundle = programme.view?.bundle;
    if (!bundle) return {};
    if (id === 'air-demand') return demandOfCar(bundle);
    if (HAS_DRIVE.includes(id)) return { drive: bundle.vehicle.aspiration === 'supercharged' ? 'crankshaft' : 'turbine' };
    const field = DEMAND_FIELDS[id];
    if (!field) return {};
    const demand = budgetConditions(of('air-demand'), bundle.vehicle.aspiration, bundle.bench?.budgetRpm ?? 6000);
    return demand ? { [field]: demand.massFlowKgS } : {};
  }

  /** Everything that an instrument is read with. */
  function of(id: string): BenchInputs {
    return { ...known(id), ...stored.value[id], ...pending.value[id] };
  }

  function set(id: string, change: Record<string, BenchInput>): void {
    pending.value = { ...pending.value, [id]: { ...pending.value[id], ...change } };
    clearTimeout(pause);
    pause = setTimeout(() => void store(), REST_MS);
  }

  /** Stores what is pending now. */
  async function store(): Promise<void> {
    clearTimeout(pause);
    const changes = JSON.parse(JSON.stringify(pending.value)) as Record<string, BenchInputs>;
    if (Object.keys(changes).length === 0) return;
    const titles = INSTRUMENTS.filter(({ id }) => id in changes).map(({ title }) => title);
    const done = await programme.edit('bench', `bench: ${titles.join(', ')}`, (now) => {
      const inputs = { ...now?.inputs };
      for (const [id, change] of Object.entries(changes)) inputs[id] = { ...inputs[id], ...change };
      return { ...now, inputs };
    });
    if (!done) return;
    // What was typed meanwhile stays pending.
    pending.value = Object.fromEntries(
      Object.entries(pending.value).filter(([id, now]) => JSON.stringify(now) !== JSON.stringify(changes[id])),
    );
  }

  return { of, set, store, stored, pending };
});

function demandOfCar({ vehicle }: Bundle): BenchInputs {
  const boosted = vehicle.aspiration !== 'na';
  return {
    ...(vehicle.displacementL ? { displacement: vehicle.displacementL / 1000 } : {}),
    strokes: String(vehicle.strokes ?? 4),
    ...(boosted ? { manifoldPressure: 180_000, manifoldTemperature: 45 } : {}),
    ...(vehicle.maxRpm ? { engineSpeed: Math.round((vehicle.maxRpm * 0.9) / 100) * 100 } : {}),
  };
}
