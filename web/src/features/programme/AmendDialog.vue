<script setup lang="ts">
import type { Amendment, Pull, PullKind } from '@gezeit/contract';
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue';
import type { ApiFailure } from '../../shared/api/client.js';
import { PULL_KINDS } from '../../shared/pull-kinds.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import { focusFirst } from '../../shared/ui/focus-first.js';
import FailureNote from '../../shared/ui/FailureNote.vue';
import { refusedField } from '../../shared/form/refused-field.js';
import { useAmendment } from '../../model/amendment-store.js';
import FigureFields from '../../parts/FigureFields.vue';
import { figureForm, isEmptyForm, openInForm, typedFigures } from '../../parts/figure-form.js';
import WeatherFields from '../../parts/WeatherFields.vue';
import { typedWeather, weatherForm } from '../../parts/weather-form.js';
import { useProgramme } from '../../model/programme-store.js';

/** Corrects weather, setup, kind or figures of a driven pull, with the reason; who and why stay with the pull. */
const amendment = useAmendment();
const programme = useProgramme();
const asked = shallowRef<Pull | null>(null);
const weather = ref(weatherForm(null));
const setup = ref('');
const kind = ref<PullKind>('measured');
const isAborted = ref(false);
const form = ref(figureForm(null));
const why = ref('');
const fields = useTemplateRef<HTMLElement>('fields');
const failure = shallowRef<ApiFailure | null>(null);
const setups = computed(() => Object.fromEntries(programme.setups.map(({ setup: { id, name } }) => [id, `${id} ${name}`])));
/** Figures are typed where no log gives them. */
const isTyped = computed(() => asked.value !== null && (asked.value.typed != null || asked.value.logs.length === 0));

watch(
  () => amendment.pull,
  (id) => {
    const pull = programme.stored?.bundle.pulls.find((entry) => entry.id === id);
    if (!pull) return;
    asked.value = pull;
    weather.value = weatherForm(pull.ambient);
    setup.value = pull.setup;
    kind.value = pull.kind;
    isAborted.value = pull.aborted ?? false;
    form.value = figureForm(pull.typed);
    why.value = '';
    failure.value = null;
  },
);

const differs = (a: unknown, b: unknown) => JSON.stringify(a) !== JSON.stringify(b);

/** What was changed; what stands as it was is not sent. */
const change = computed((): Omit<Amendment, 'why'> => {
  const pull = asked.value;
  if (!pull) return {};
  return {
    ...(differs(weather.value, weatherForm(pull.ambient)) ? { weather: typedWeather(weather.value) } : {}),
    ...(setup.value === pull.setup ? {} : { setup: setup.value }),
    ...(kind.value === pull.kind ? {} : { pullKind: kind.value }),
    ...(isAborted.value === (pull.aborted ?? false) ? {} : { aborted: isAborted.value }),
    ...(differs(form.value, figureForm(pull.typed)) ? { typed: typedFigures(form.value, pull.typed?.photo ?? null) } : {}),
  };
});
const open = computed(() => {
  if (Object.keys(change.value).length === 0) return 'Nothing is changed yet.';
  if (change.value.typed && (openInForm(form.value) || isEmptyForm(form.value))) return openInForm(form.value);
  return why.value.trim() === '' ? 'Say why it is corrected.' : null;
});

async function keep(): Promise<void> {
  if (!amendment.pull || open.value || refusedField()) return;
  failure.value = await programme.amend(amendment.pull, { ...change.value, why: why.value.trim() });
  if (!failure.value) amendment.pull = null;
}
</script>

<template>
  <Dialog
    :visible="amendment.pull !== null"
    modal
    :header="`Correct pull ${asked?.id ?? ''}`"
    :style="{ width: '40rem' }"
    :breakpoints="{ '700px': '96vw' }"
    @show="focusFirst(fields)"
    @update:visible="!$event && (amendment.pull = null)"
  >
    <form ref="fields" class="amend" @submit.prevent="keep">
      <div class="fields">
        <WeatherFields v-model="weather" />
        <span>Setup</span>
        <ChoiceInput v-model="setup" :choices="setups" label="Setup of this pull" />
        <span>Kind</span>
        <ChoiceInput :model-value="kind" :choices="PULL_KINDS" label="Kind of this pull" @update:model-value="kind = $event as PullKind" />
        <span>Aborted</span>
        <ChoiceInput
          :model-value="isAborted ? 'yes' : 'no'"
          :choices="{ no: 'no', yes: 'yes: kept, not counted' }"
          label="Whether it was aborted"
          @update:model-value="isAborted = $event === 'yes'"
        />
      </div>
      <FigureFields v-if="isTyped" v-model="form" />
      <div class="fields">
        <label for="amend-why">Why</label>
        <InputText id="amend-why" v-model="why" maxlength="300" autocomplete="off" placeholder="as the cell’s sheet has it" />
      </div>
      <p class="muted">Who corrected it and why stays with the pull and is told beside the answers. Its log files are never changed.</p>
      <p v-if="open" role="status">{{ open }}</p>
      <FailureNote v-if="failure" :failure="failure" />
      <div class="actions">
        <Button type="button" text label="Close" @click="amendment.pull = null" />
        <Button type="submit" label="Correct it" :disabled="open !== null" :loading="programme.busy" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.amend {
  display: grid;
  gap: 0.5rem;
}
.fields {
  display: grid;
  grid-template-columns: 13rem 1fr;
  gap: 0.4rem 0.8rem;
  align-items: baseline;
}
.fields :deep(label.field) {
  display: contents;
}
.actions {
  display: flex;
  justify-content: flex-end;
  gap: 0.5rem;
}
@media (max-width: 700px) {
  .fields {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
