<script setup lang="ts">
import Button from 'primevue/button';
import { defineAsyncComponent, ref, useTemplateRef } from 'vue';
import { useUnits } from '../shared/units/units-store.js';
import type UnitsPopoverType from './UnitsPopover.vue';

/** The units switch: what is chosen holds everywhere at once. */
const UnitsPopover = defineAsyncComponent(() => import('./UnitsPopover.vue'));
const units = useUnits();
const popover = useTemplateRef<InstanceType<typeof UnitsPopoverType>>('popover');
const opener = ref<HTMLElement | null>(null);

/** The first press fetches what it opens, which opens itself. */
function onPress({ currentTarget }: Event): void {
  if (opener.value) popover.value?.toggle();
  else opener.value = currentTarget as HTMLElement;
}
</script>

<template>
  <Button
    text
    size="small"
    :label="units.summary"
    :aria-label="`Units: ${units.summary}. Change`"
    aria-haspopup="dialog"
    @click="onPress"
  />
  <UnitsPopover v-if="opener" ref="popover" :opener="opener" />
</template>
