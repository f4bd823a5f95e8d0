<script setup lang="ts">
import type { Staged } from '@gezeit/contract';
import { computed, shallowRef } from 'vue';
import TextEdit from '../../shared/form/TextEdit.vue';
import { useStaged } from '../../model/staged-store.js';
import WeatherFields from '../../parts/WeatherFields.vue';
import { typedWeather, weatherForm, type WeatherForm } from '../../parts/weather-form.js';

/** What the files do not say of the programme that they become, or do: its name, its setups, the day, the air. */
const props = defineProps<{ staged: Staged }>();
const store = useStaged();
const decisions = computed(() => props.staged.decisions);
const into = computed(() => props.staged.into);
const fresh = computed(() => store.pulls.filter(({ stands }) => !stands));
const asksStart = computed(() => store.pulls.some(({ startedAt, stands }) => startedAt === null && !stands));
const weather = computed(() => decisions.value.weather ?? props.staged.hints?.weather ?? null);
function rename(index: number, name: string): void {
  const setups = decisions.value.setups.map((setup, i) => (i === index ? { ...setup, name: name || setup.id } : setup));
  void store.decide({ setups });
}
/** The air while it is typed; what stands is what was decided, or what the files say. */
const typed = shallowRef<WeatherForm | null>(null);
const air = computed({ get: () => typed.value ?? weatherForm(weather.value), set: (form) => (typed.value = form) });
/** Something of it is typed, and not what a correction needs. */
const lacksAir = computed(() => {
  const { temperatureC, pressurePa, humidityPct } = typed.value ?? weatherForm(null);
  return (temperatureC === null || pressurePa === null) && [temperatureC, pressurePa, humidityPct].some((value) => value !== null);
});
/** Without temperature and pressure nothing is corrected: what the files say counts again. */
async function keepAir(): Promise<void> {
  const mine = typed.value;
  const { temperatureC, pressureKPa, relativeHumidityPct } = typedWeather(air.value);
  const next = temperatureC === null || pressureKPa === null ? null : { temperatureC, pressureKPa, relativeHumidityPct };
  // What changes nothing is no decision: it would have to be undone as one.
  if (JSON.stringify(next) !== JSON.stringify(decisions.value.weather)) await store.decide({ weather: next });
  if (typed.value === mine && !lacksAir.value) typed.value = null;
}
</script>

<template>
  <section class="about" aria-label="The programme">
    <label v-if="!into" class="field"
      ><span>Programme</span
      ><TextEdit :model-value="decisions.title" label="Name of the programme" @commit="store.decide({ title: $event || 'Dropped files' })"
    /></label>
    <label v-for="(setup, index) in decisions.setups" :key="setup.id" class="field"
      ><span>Setup {{ setup.id }}{{ index === 0 && !into ? ', the reference' : '' }}</span
      ><template v-if="into?.setups.some(({ id: known }) => known === setup.id)">{{ setup.name }}</template
      ><TextEdit v-else :model-value="setup.name" :label="`Name of setup ${setup.id}`" @commit="rename(index, $event)"
    /></label>
    <div v-if="asksStart" class="row">
      <label class="field"
        ><span>Day</span
        ><input
          type="date"
          :value="decisions.day ?? ''"
          aria-label="Day of the pulls"
          @change="store.decide({ day: ($event.target as HTMLInputElement).value || null })"
      /></label>
      <label class="field"
        ><span>First pull at</span
        ><input
          type="time"
          :value="decisions.firstAt ?? ''"
          aria-label="Time of the first pull"
          @change="store.decide({ firstAt: ($event.target as HTMLInputElement).value || null })"
      /></label>
    </div>
    <h3 v-if="fresh.length > 0">
      Weather
      <span class="muted small">{{
        lacksAir
          ? 'temperature and pressure: neither counts alone'
          : decisions.weather
            ? 'as typed'
            : weather
              ? 'as the files say'
              : 'no file tells: type it once'
      }}</span>
    </h3>
    <div v-if="fresh.length > 0" class="row">
      <WeatherFields v-model="air" @commit="keepAir" />
    </div>
  </section>
</template>

<style scoped>
h3 {
  font-size: 15px;
  margin-top: 0.6rem;
}
.about :deep(label.field) {
  display: block;
  margin-bottom: 0.4rem;
}
.about :deep(label.field > span:first-child) {
  display: block;
  font-size: 13px;
  color: var(--muted);
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0 0.7rem;
}
.row :deep(label.field) {
  flex: 1 1 8.4rem;
  min-width: 0;
}
input[type='date'],
input[type='time'] {
  font: inherit;
  width: 100%;
  background: var(--surface);
  color: var(--ink);
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 0.25rem 0.4rem;
}
</style>
