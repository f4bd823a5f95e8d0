<script setup lang="ts">
import type { RehearsalCount } from '@gezeit/core/rehearse';
import Button from 'primevue/button';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import FieldRow from '../../shared/form/FieldRow.vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import WorkProgress from '../../shared/ui/WorkProgress.vue';
import { useProgramme } from '../../model/programme-store.js';
import type { RehearseAnswer, RehearseQuestion } from './rehearse.worker.js';
import { usePlan } from '../../model/plan-store.js';

/** Simulates this very plan again and again, through the real judgement: what it would say, and what the habit would claim. */
const programme = useProgramme();
const plan = usePlan();
const truePct = ref<number | null>(null);
const days = ref<number | null>(1000);
const counts = shallowRef<{ withGain: RehearsalCount; without: RehearsalCount } | null>(null);
const refused = ref<string | null>(null);
const running = ref(false);
const asked = ref({ truePct: 0, days: 0 });
let worker: Worker | null = null;

const comparison = computed(() => plan.report.comparisons[0] ?? null);
watch(
  () => comparison.value?.smallestResolvablePct,
  (resolvable) => {
    if (truePct.value === null && resolvable) truePct.value = Number(resolvable.toFixed(1));
  },
  { immediate: true },
);
// Another plan, or another belief about the day: what was rehearsed no longer holds.
watch(
  () => JSON.stringify([plan.plan.pulls, plan.bundle.assumptions, plan.bundle.cell ?? plan.bundle.cells]),
  () => {
    stop();
    counts.value = null;
  },
);

function start(): void {
  stop();
  refused.value = null;
  counts.value = null;
  asked.value = { truePct: truePct.value!, days: Math.round(days.value!) };
  running.value = true;
  worker = new Worker(new URL('./rehearse.worker.ts', import.meta.url), { type: 'module' });
  worker.onmessage = ({ data }: MessageEvent<RehearseAnswer>) => {
    if (data.kind === 'refused') refused.value = data.message;
    else counts.value = { withGain: data.withGain, without: data.without };
    if (data.kind !== 'progress') stop();
  };
  worker.onerror = () => {
    refused.value = 'The rehearsal broke off. Try again; if it happens again, report it.';
    stop();
  };
  worker.postMessage({
    bundle: JSON.parse(JSON.stringify(plan.bundle)) as RehearseQuestion['bundle'],
    ...asked.value,
  } satisfies RehearseQuestion);
}
function stop(): void {
  worker?.terminate();
  worker = null;
  running.value = false;
}
onBeforeUnmount(stop);

const done = computed(() => (counts.value ? counts.value.withGain.days + counts.value.without.days : 0));
const share = (count: number, of: number) => (of === 0 ? '–' : `${Math.round((100 * count) / of)} %`);
/** Standard error of a share, in per cent. */
const error = (count: number, of: number) =>
  of === 0 ? '' : `± ${(100 * Math.sqrt((Math.max(count / of, 1 / of) * (1 - Math.min(count / of, 1 - 1 / of))) / of)).toFixed(0)}`;
const rows = computed(() => {
  if (!counts.value) return [];
  const { withGain, without } = counts.value;
  const row = (label: string, pick: (count: RehearsalCount) => number) => ({ label, with: pick(withGain), without: pick(without) });
  return [
    row('says gain', ({ verdicts }) => verdicts.gain),
    row('says no difference that matters', ({ verdicts }) => verdicts['no-difference']),
    row('not resolved', ({ verdicts }) => verdicts['not-resolved']),
    row('says loss', ({ verdicts }) => verdicts.loss),
    row('withheld', ({ verdicts }) => verdicts.withheld),
    row('its interval holds the truth', ({ held }) => held),
    row(`best pull against best pull claims ${programme.view!.bundle.programme.smallestGainPct} % or more`, ({ bestClaims }) => bestClaims),
  ];
});
const problem = computed(() => {
  if (!comparison.value) return 'Plan measured pulls of the reference and of another setup first.';
  if (truePct.value === null || Math.abs(truePct.value) > 30) return 'State a true gain of at most 30 %.';
  return !days.value || days.value < 2 || days.value > 5000 ? 'Rehearse 2 to 5000 days.' : null;
});
</script>

<template>
  <section aria-label="Rehearse">
    <h2>Rehearse</h2>
    <FieldRow
      label="A true gain of"
      why="Half of the rehearsed days have a part of this gain, half a part that does nothing: with heat, learning, drift, weather and one mishap in twenty pulls."
    >
      <NumberInput v-model="truePct" unit="%" label="True gain" width="4rem" />
      <NumberInput v-model="days" unit="–" label="Days to rehearse" width="4.5rem" /><span>days</span>
    </FieldRow>
    <p v-if="problem" class="muted">{{ problem }}</p>
    <Button
      v-if="!running"
      size="small"
      outlined
      icon="pi pi-play"
      label="Rehearse this plan"
      :disabled="problem !== null"
      @click="start"
    />
    <WorkProgress v-else :share="done / asked.days" label="Rehearsing" @stop="stop" />
    <p v-if="refused" role="alert">{{ refused }}</p>
    <div v-if="counts" class="scroll" aria-live="off">
      <table class="dense">
        <thead>
          <tr>
            <th>Of {{ done }} days</th>
            <th class="number">True gain {{ asked.truePct }} %</th>
            <th class="number">No effect</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.label">
            <td>{{ row.label }}</td>
            <td class="number">
              <b>{{ share(row.with, counts.withGain.days) }}</b> <span class="muted">{{ error(row.with, counts.withGain.days) }}</span>
            </td>
            <td class="number">
              <b>{{ share(row.without, counts.without.days) }}</b> <span class="muted">{{ error(row.without, counts.without.days) }}</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
td:first-child {
  white-space: normal;
}
</style>
