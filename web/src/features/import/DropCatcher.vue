<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { droppedFiles } from './dropped-files.js';
import { openProgramme } from './open-programme.js';

/** Takes what is dropped anywhere on the page: a bundle, or the exports of a day. */
const router = useRouter();
const over = ref(false);
let depth = 0;

const carriesFiles = (event: DragEvent) => event.dataTransfer?.types.includes('Files') ?? false;

function onEnter(event: DragEvent): void {
  if (!carriesFiles(event)) return;
  depth += 1;
  over.value = true;
}
function onLeave(): void {
  depth = Math.max(0, depth - 1);
  if (depth === 0) over.value = false;
}
function onOver(event: DragEvent): void {
  if (carriesFiles(event)) event.preventDefault();
}
async function onDrop(event: DragEvent): Promise<void> {
  if (!event.dataTransfer || !carriesFiles(event)) return;
  event.preventDefault();
  depth = 0;
  over.value = false;
  // The files first: a drop is forgotten once its moment has passed.
  const files = await droppedFiles(event.dataTransfer);
  const { takeFiles } = await import('./take-files.js');
  await takeFiles(files, router);
}

const listeners = { dragenter: onEnter, dragleave: onLeave, dragover: onOver, drop: onDrop };
onMounted(() => Object.entries(listeners).forEach(([name, listener]) => window.addEventListener(name, listener as EventListener)));
onBeforeUnmount(() => Object.entries(listeners).forEach(([name, listener]) => window.removeEventListener(name, listener as EventListener)));
</script>

<template>
  <div v-if="over" class="drop" aria-hidden="true">
    Let go: a bundle opens, exports are sorted{{ openProgramme(router) ? ' into this programme' : '' }}
  </div>
</template>

<style scoped>
.drop {
  position: fixed;
  inset: 1rem;
  z-index: 2000;
  display: grid;
  place-items: center;
  border: 3px dashed var(--green);
  background: color-mix(in srgb, var(--ground) 88%, transparent);
  font-size: 1.6rem;
  font-weight: 650;
  pointer-events: none;
}
</style>
