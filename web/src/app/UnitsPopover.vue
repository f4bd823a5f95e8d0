<script setup lang="ts">
import Popover from 'primevue/popover';
import SelectButton from 'primevue/selectbutton';
import { onMounted, useTemplateRef } from 'vue';
import { UNIT_CHOICES, useUnits, type UnitKind } from '../shared/units/units-store.js';

/** What the units switch offers, over the button that opened it. */
const props = defineProps<{ opener: HTMLElement }>();
const units = useUnits();
const popover = useTemplateRef<InstanceType<typeof Popover>>('popover');
const kinds = Object.keys(UNIT_CHOICES) as UnitKind[];
const names: Record<UnitKind, string> = { power: 'Power', torque: 'Torque', temperature: 'Temperature', pressure: 'Pressure' };
const toggle = () => popover.value?.toggle({ currentTarget: props.opener } as unknown as Event);

function choose(kind: UnitKind, unit: string | null): void {
  if (unit !== null) units.chosen = { ...units.chosen, [kind]: unit };
}
onMounted(toggle);
defineExpose({ toggle });
</script>

<template>
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
