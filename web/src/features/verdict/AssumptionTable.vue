<script setup lang="ts">
import { ASSUMPTION_RANGES, type AssumptionKey, type Comparison } from '@gezeit/contract';
import { keptAssumption, shownAssumption, signed } from '@gezeit/core';
import Button from 'primevue/button';
import { computed, useTemplateRef } from 'vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import { useProgramme } from '../../model/programme-store.js';
import { useAllChoicesNear } from './use-all-choices.js';

/** Every assumption and threshold behind the verdict; what can be changed is a field, and the whole programme follows at once. */
const programme = useProgramme();
const props = defineProps<{ comparison: Comparison }>();
// What each assumption does is tried with the other choices.
useAllChoicesNear(useTemplateRef<HTMLElement>('table'));
const rows = computed(() => programme.view!.assumptions);
/** What each does to this answer when it is moved; empty until it has been tried. */
const effects = computed(() => {
  const own = programme.choices?.comparisons.find(
    ({ reference, candidate }) => reference === props.comparison.reference && candidate === props.comparison.candidate,
  );
  return new Map((own?.effects ?? []).map((effect) => [effect.key, effect]));
});
function effectText(keys: readonly AssumptionKey[]): string {
  return keys
    .flatMap((key) => {
      const effect = effects.value.get(key);
      return effect ? [`${effect.by === 'sd' ? 'one s.d. more' : 'half as much again'}: ${signed(effect.movesPct, 2)} %`] : [];
    })
    .join('; ');
}
const changed = computed(() => rows.value.flatMap(({ fields }) => fields).filter(({ value, usual }) => value !== usual));
const end = (key: AssumptionKey, which: 0 | 1) => shownAssumption(key, ASSUMPTION_RANGES[key][which]);

function set(key: AssumptionKey, label: string, shown: number | null): void {
  if (shown === null) return;
  const value = keptAssumption(key, shown);
  void programme.edit('assumptions', `${label.toLowerCase()} ${shown}`, (now) => ({ ...now, [key]: value }));
}
function reset(keys: AssumptionKey[], name: string): void {
  void programme.edit('assumptions', `${name} as usual`, (now) => {
    const left = Object.fromEntries(Object.entries(now ?? {}).filter(([key]) => !keys.includes(key as AssumptionKey)));
    return Object.keys(left).length > 0 ? left : null;
  });
}
/** Whether a field is the uncertainty of the one before it. */
const isSpread = (fields: readonly { key: string }[], i: number) => i > 0 && fields[i]!.key === `${fields[i - 1]!.key}Sd`;
</script>

<template>
  <p v-if="changed.length > 0" class="small">
    <b>{{ changed.length }} changed by hand.</b>
    <Button
      text
      size="small"
      label="All as usual"
      @click="
        reset(
          changed.map(({ key }) => key),
          'all assumptions',
        )
      "
    />
  </p>
  <p class="small muted">Beside each, once it has been tried: by how much this answer moves when it is moved.</p>
  <div class="scroll" tabindex="0" role="region" aria-label="Assumptions and thresholds">
    <table ref="table" class="dense small">
      <tbody>
        <tr v-for="entry in rows" :key="entry.name">
          <td>{{ entry.name }}</td>
          <td v-if="entry.fields.length === 0" class="figures value">{{ entry.value }}</td>
          <td v-else class="figures">
            <div class="fields">
              <template v-for="(field, i) in entry.fields" :key="field.key">
                <span v-if="isSpread(entry.fields, i)" aria-hidden="true">±</span>
                <span v-else-if="entry.fields.length > 2" class="muted each" aria-hidden="true">{{ field.label }}</span>
                <span v-else-if="i > 0" aria-hidden="true">,</span>
                <NumberInput
                  :model-value="field.value"
                  :unit="field.unit"
                  :difference="field.unit === 'K'"
                  :label="field.label"
                  :least="end(field.key, 0)"
                  :most="end(field.key, 1)"
                  width="4.6rem"
                  @commit="set(field.key, field.label, $event)"
                />
              </template>
              <span class="muted">{{ entry.per }}</span>
              <Button
                v-if="entry.fields.some(({ value, usual }) => value !== usual)"
                text
                size="small"
                label="as usual"
                :aria-label="`${entry.name} as usual: ${entry.fields.map(({ usual }) => usual).join(' ± ')}`"
                @click="
                  reset(
                    entry.fields.map(({ key }) => key),
                    entry.name,
                  )
                "
              />
            </div>
          </td>
          <td class="muted">
            {{ entry.what }}
            <span v-if="effectText(entry.fields.map(({ key }) => key))" class="figures effect">{{
              effectText(entry.fields.map(({ key }) => key))
            }}</span>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.value {
  white-space: nowrap;
}
.effect {
  color: var(--ink);
}
.each {
  flex-basis: 100%;
}
.fields {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0.1rem 0.35rem;
}
</style>
