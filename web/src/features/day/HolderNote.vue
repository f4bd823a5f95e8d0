<script setup lang="ts">
import Button from 'primevue/button';
import { computed } from 'vue';
import { useAccess } from '../../shared/access-store.js';
import { api } from '../../shared/api/client.js';
import { useDay } from './day-store.js';

/** Who acts on the day: said where it is another browser than this one, and where it was handed over. */
const props = defineProps<{ clock: (ms: number) => string }>();
const day = useDay();
const access = useAccess();

const PLACES = { machine: 'at the machine in the cell', network: 'over the network' };
const holder = computed(() => day.view?.holder ?? null);
const handedOver = computed(() => {
  const { value } = holder;
  return value?.before ? `${value.by} has taken this day over from ${value.before} at ${props.clock(value.sinceMs)}` : null;
});
const take = () => day.ask((id) => api.holdDay(id));
</script>

<template>
  <p v-if="day.heldElsewhere" class="holder" role="status">
    <span>
      <b>{{ handedOver ?? `${day.heldElsewhere.by} holds this day` }}</b>
      {{ PLACES[day.heldElsewhere.from] }}: here it can be followed, and not acted on.
    </span>
    <Button v-if="!access.readsAlone" size="small" outlined label="Take the day over" @click="take()" />
    <span class="muted">Speak to whoever stands in the cell first. Nobody is to be near the car when a pull is called.</span>
  </p>
  <p v-else-if="handedOver" class="holder own" role="status">{{ handedOver }}: you act on it here.</p>
</template>

<style scoped>
.holder {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.3rem 1rem;
  font-size: 18px;
  color: var(--amber);
}
.holder.own {
  color: var(--muted);
  font-size: 16px;
}
</style>
