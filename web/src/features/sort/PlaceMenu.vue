<script setup lang="ts">
import Menu from 'primevue/menu';
import { computed, ref, useTemplateRef } from 'vue';
import type { StagedPull } from '../../model/staged-pulls.js';
import type { Sweep } from './sweeps.js';

/** Says of which pull a sweep of a file is: one menu for every place where a file stands. */
const props = defineProps<{ pulls: readonly StagedPull[]; places: Readonly<Record<string, string>> }>();
const emit = defineEmits<{ place: [sweep: Sweep, target: string | null] }>();
const menu = useTemplateRef<InstanceType<typeof Menu>>('menu');
const asked = ref<Sweep | null>(null);

const items = computed(() => {
  const sweep = asked.value;
  if (!sweep) return [];
  const put = (label: string, target: string | null) => ({ label, command: () => emit('place', sweep, target) });
  return [
    ...(sweep.key in props.places ? [put('As it was found', null)] : []),
    put('It is of no pull', 'none'),
    put('It is a pull of its own', 'own'),
    ...props.pulls
      .filter(({ members }) => !members.some(({ file }) => file === sweep.file))
      .map((pull) => put(`It is of ${pull.id}${pull.stands ? '' : `, setup ${pull.setup}`}`, pull.key)),
  ];
});

defineExpose({
  ask(event: Event, sweep: Sweep) {
    asked.value = sweep;
    menu.value!.toggle(event);
  },
});
</script>

<template>
  <Menu ref="menu" :model="items" popup :pt="{ list: { class: 'place-list' } }" />
</template>

<style>
.place-list {
  max-height: 22rem;
  overflow-y: auto;
}
</style>
