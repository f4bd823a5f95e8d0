<script setup lang="ts">
import { fromSi, numberText, UNITS, type UnitName } from '@gezeit/core';
import type { ChannelMapping, ReadColumn } from '@gezeit/contract';
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import { computed, ref } from 'vue';
import NumberInput from '../shared/form/NumberInput.vue';

/** A calibration that was found wrong afterwards: a factor and an offset on one column, on some days only where dates are given. */
const props = defineProps<{ column: ReadColumn; mapping: ChannelMapping | null }>();
const emit = defineEmits<{ decide: [entry: Partial<ChannelMapping>]; close: [] }>();

const visible = ref(true);
const factor = ref<number | null>(props.mapping?.factor ?? 1);
const offset = ref<number | null>(props.mapping?.offset ?? 0);
const from = ref(props.mapping?.from ?? '');
const to = ref(props.mapping?.to ?? '');

const unit = computed(() => (props.column.unit !== null && props.column.unit in UNITS ? (props.column.unit as UnitName) : null));
const unitText = computed(() => (unit.value === null || unit.value === '–' ? '' : ` ${unit.value}`));
const isBackwards = computed(() => from.value !== '' && to.value !== '' && to.value < from.value);
const isGood = computed(() => factor.value !== null && offset.value !== null && factor.value !== 0 && !isBackwards.value);
/** What was typed and not understood changes nothing, and there is nothing to put right then. */
const isChanged = computed(
  () =>
    factor.value !== (props.mapping?.factor ?? 1) ||
    offset.value !== (props.mapping?.offset ?? 0) ||
    from.value !== (props.mapping?.from ?? '') ||
    to.value !== (props.mapping?.to ?? ''),
);
/** As the file is read now, and as it would be: both in the unit in which it is written. */
const preview = computed(() => {
  if (!isGood.value) return null;
  const shown = ([props.column.low, props.column.middle, props.column.high] as const).map((value) =>
    value === null ? null : unit.value === null ? value : fromSi(value, unit.value),
  );
  if (shown.some((value) => value === null)) return null;
  const now = { factor: props.mapping?.factor ?? 1, offset: props.mapping?.offset ?? 0 };
  const put = (value: number) => ((value - now.offset) / now.factor) * factor.value! + offset.value!;
  const text = (values: number[]) => values.map((value) => numberText(value, '–').replace('-', '−')).join(' · ');
  return `Least, middle, greatest: ${text(shown as number[])} become ${text((shown as number[]).map(put))}${unitText.value}.`;
});

function keep(): void {
  if (!isGood.value || !isChanged.value) return;
  emit('decide', { factor: factor.value, offset: offset.value, from: from.value || null, to: to.value || null });
  visible.value = false;
}
function asRead(): void {
  emit('decide', { factor: null, offset: null, from: null, to: null });
  visible.value = false;
}
</script>

<template>
  <Dialog
    v-model:visible="visible"
    modal
    :header="`Put the calibration right: ${column.header}`"
    :style="{ width: '34rem' }"
    @after-hide="emit('close')"
  >
    <form class="fields" @submit.prevent="keep">
      <label for="calibration-factor">Times</label>
      <NumberInput id="calibration-factor" v-model="factor" unit="–" label="Factor" autofocus />
      <label for="calibration-offset">Then plus{{ unitText ? `,${unitText}` : '' }}</label>
      <NumberInput id="calibration-offset" v-model="offset" unit="–" label="Offset" />
      <label for="calibration-from">From the day</label>
      <input id="calibration-from" v-model="from" type="date" :max="to || undefined" />
      <label for="calibration-to">Until the day</label>
      <input id="calibration-to" v-model="to" type="date" :min="from || undefined" :aria-invalid="isBackwards" />
      <p v-if="isBackwards" class="problem" role="alert">The last day lies before the first: change one of them.</p>
      <p v-else-if="preview" role="status" class="small">{{ preview }}</p>
      <p class="small muted">
        Without dates it counts always. A file counts by the day of its first pull. The file itself stays as it is; every pull, answer and
        sheet that used it says so.
      </p>
      <div class="actions">
        <Button v-if="mapping?.factor != null || mapping?.offset != null" type="button" text label="As it was read" @click="asRead" />
        <Button type="button" text label="Cancel" @click="visible = false" />
        <Button type="submit" label="Put right" :disabled="!isGood || !isChanged" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 0.4rem 0.8rem;
  align-items: center;
}
.fields p,
.actions {
  grid-column: 1 / -1;
  margin: 0;
}
.fields input[type='date'] {
  justify-self: start;
  font: inherit;
  background: var(--surface);
  color: var(--ink);
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 0.15rem 0.4rem;
}
.problem {
  color: var(--brick);
}
.actions {
  display: flex;
  justify-content: flex-end;
  gap: 0.5rem;
}
</style>
