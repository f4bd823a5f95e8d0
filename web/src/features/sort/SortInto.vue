<script setup lang="ts">
import type { Standing } from '@gezeit/contract';
import { computed, onMounted, ref } from 'vue';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import { api } from '../../shared/api/client.js';

/** Where the files go: a programme of their own, or one that stands. */
const props = defineProps<{ into: Standing | null }>();
const emit = defineEmits<{ direct: [programmeId: string | null] }>();
const NEW = 'new';
const known = ref<Record<string, string>>({});

onMounted(async () => {
  const board = await api.board().catch(() => null);
  known.value = Object.fromEntries(board?.programmes.filter(({ archived }) => !archived).map(({ id, title }) => [id, title]) ?? []);
});
const choices = computed(() => ({
  [NEW]: 'a new programme',
  ...(props.into ? { [props.into.programmeId]: props.into.title } : {}),
  ...known.value,
}));
</script>

<template>
  <div class="into">
    <span>These files go into</span>
    <ChoiceInput
      :model-value="into?.programmeId ?? NEW"
      :choices="choices"
      label="Where the files go"
      @update:model-value="emit('direct', $event === NEW ? null : $event)"
    />
  </div>
</template>

<style scoped>
.into {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem;
}
</style>
