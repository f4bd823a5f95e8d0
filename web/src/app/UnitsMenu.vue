<script setup lang="ts">
import Button from 'primevue/button';
import Popover from 'primevue/popover';
import SelectButton from 'primevue/selectbutton';
import { useTemplateRef } from 'vue';
import { UNIT_CHOICES, useUnits, type UnitKind } from '../shared/units/units-store.js';

/** The units switch: what is chosen holds everywhere at once. */
const units = useUnits();
const popover = useTemplateRef<InstanceType<typeof Popover>>('popover');
const kinds = Object.keys(UNIT_CHOICES) as UnitKind[];
const names: Record<UnitKind, string> = { power: 'Power', torque: 'Torque', temperature: 'Temperature', pressure: 'Pressure' };

function choose(kind: UnitKind, unit: string | null): void {
  if (unit !== null) units.chosen = { ...units.chosen, [kind]: unit };
}
</script>

<template>
  <Button
    text
    size="small"
    :label="units.summary"
    :aria-label="`Units: ${units.summary}. Change`"
    aria-haspopup="dialog"
    @click="popover?.toggle($event)"
  />
  <Popover ref="popover" aria-label="Units">
    <div class="units">
      <div v-for="kind in kinds" :key="kind" class="kind">
        <span :id="`unit-${kind}`">{{ names[kind] }}</span>
        <SelectButton
          :model-value="units.chosen[kind]"
          :options="[...UNIT_CHOICES[kind]]"
          :allow-empty="false"
          size="small"
          :aria-labelledby="`unit-${kind}`"
          @update:model-value="choose(kind, $event)"
        />
      </div>
    </div>
  </Popover>
</template>

<style scoped>
.units {
  display: grid;
  gap: 0.6rem;
}
.kind {
  display: grid;
  grid-template-columns: 7rem auto;
  align-items: center;
}
</style>
