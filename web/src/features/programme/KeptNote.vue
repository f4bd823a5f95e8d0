<script setup lang="ts">
import Button from 'primevue/button';
import { computed, shallowRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { api, ApiFailure } from '../../shared/api/client.js';
import { usePerson } from '../../shared/person-store.js';
import FailureNote from '../../shared/ui/FailureNote.vue';

/** Just kept from dropped files: it can be taken back, and sorted again. */
const route = useRoute();
const router = useRouter();
const person = usePerson();
const failure = shallowRef<ApiFailure | null>(null);
const staged = computed(() => (typeof route.query['sorted'] === 'string' ? route.query['sorted'] : null));

const done = () => router.replace({ query: { ...route.query, sorted: undefined } });
async function takeBack(): Promise<void> {
  const id = staged.value;
  if (!id || !(await person.ensure())) return;
  try {
    await api.takeStagedBack(id);
    await router.push({ name: 'sort', params: { id } });
  } catch (error) {
    failure.value = ApiFailure.of(error, 'It could not be taken back.', 'Try again.');
  }
}
</script>

<template>
  <div v-if="staged" class="kept" role="status">
    <span>{{
      route.name === 'verdict'
        ? 'Kept from the files that you dropped. What is still open (question, limit, car, cell) stands in Question.'
        : 'The files were added.'
    }}</span>
    <Button size="small" outlined label="Take back and sort again" @click="takeBack()" />
    <Button size="small" text label="Good" @click="done()" />
    <FailureNote v-if="failure" :failure="failure" />
  </div>
</template>

<style scoped>
.kept {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem;
  padding: 0.4rem 1.4rem;
  border-bottom: 1px solid var(--line);
  background: var(--green-soft);
}
</style>
