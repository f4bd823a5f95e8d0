<script setup lang="ts">
import Button from 'primevue/button';
import ProgressBar from 'primevue/progressbar';

/** How far long work is, 0 to 1, with the way to stop it. */
defineProps<{ share: number; label: string }>();
const emit = defineEmits<{ stop: [] }>();
</script>

<template>
  <div class="running">
    <ProgressBar :value="Math.round(100 * Math.min(1, share))" :aria-label="label" class="bar" :show-value="false" />
    <Button size="small" text label="Stop" @click="emit('stop')" />
  </div>
</template>

<style scoped>
.running {
  display: flex;
  align-items: center;
  gap: 0.6rem;
}
.bar {
  height: 8px;
  flex: 1;
}
</style>
