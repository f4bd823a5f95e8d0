<script setup lang="ts">
import Button from 'primevue/button';

/** A chart with its title and the two ways of saving it. */
defineProps<{
  /** Identifies the chart on the page and names its files. */
  name: string;
  title: string;
  /** One line under the title: what is drawn, in which unit. */
  subtitle?: string;
}>();
const emit = defineEmits<{ saveSvg: []; saveCsv: [] }>();
</script>

<template>
  <figure class="chart-frame" :data-chart="name" :aria-label="title">
    <figcaption>
      <span class="title">{{ title }}</span>
      <span v-if="subtitle" class="subtitle">{{ subtitle }}</span>
      <span class="spacer" />
      <slot name="tools" />
      <Button class="save" text size="small" label="SVG" :aria-label="`Save ${title} as SVG`" @click="emit('saveSvg')" />
      <Button class="save" text size="small" label="CSV" :aria-label="`Save the data of ${title} as CSV`" @click="emit('saveCsv')" />
    </figcaption>
    <slot />
  </figure>
</template>

<style scoped>
.chart-frame {
  margin: 0;
  min-width: 0;
}
figcaption {
  display: flex;
  align-items: baseline;
  gap: 0.6rem;
  min-height: 1.7rem;
}
.title {
  font-weight: 650;
  white-space: nowrap;
}
.subtitle {
  color: var(--muted);
  font-size: 13px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.spacer {
  flex: 1;
}
@media (max-width: 700px) {
  figcaption {
    flex-wrap: wrap;
  }
}
.save {
  flex: none;
  padding: 0 0.35rem;
  font-size: 13px;
}
</style>
