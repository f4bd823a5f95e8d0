<script setup lang="ts">
import { useId } from 'vue';

/**
 * A field with its label. Why it matters stands at the foot of the window while the field has the focus: there it moves nothing, so that a
 * click never misses what it was meant for.
 */
defineProps<{
  label: string;
  why: string;
  /** Still holds a default. */
  open?: boolean;
  /** In a dialog the reason always stands below its field. */
  always?: boolean;
}>();
const id = useId();
</script>

<template>
  <div class="field-row" :class="{ always }">
    <span class="label"
      >{{ label
      }}<span v-if="open" class="open" title="Still holds a default: confirm or change it"
        ><span aria-hidden="true" />not confirmed</span
      ></span
    >
    <div class="control"><slot :described-by="id" /></div>
    <p :id="id" class="why"><b>{{ label }}.</b> {{ why }}</p>
  </div>
</template>

<style scoped>
.field-row {
  display: grid;
  grid-template-columns: 9.5rem minmax(0, 1fr);
  gap: 0.1rem 0.8rem;
  align-items: baseline;
  padding: 0.14rem 0;
}
.label {
  color: var(--muted);
}
.open {
  display: flex;
  align-items: center;
  gap: 0.3rem;
  font-size: 13px;
  color: var(--ink);
  white-space: nowrap;
}
.open span {
  width: 8px;
  height: 8px;
  border: 2px solid currentColor;
  transform: rotate(45deg);
  border-radius: 1px;
}
.control {
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem 0.6rem;
  align-items: baseline;
  min-width: 0;
}
.control > :deep(*) {
  max-width: 100%;
}
.why {
  display: none;
  position: fixed;
  z-index: 20;
  left: 0;
  right: 0;
  bottom: 0;
  padding: 0.45rem 1.4rem 0.55rem;
  background: var(--ink);
  color: var(--ground);
}
.field-row:focus-within .why {
  display: block;
}
.always .why,
.always:focus-within .why {
  display: block;
  position: static;
  grid-column: 2;
  padding: 0;
  background: none;
  color: var(--muted);
  font-size: 13px;
}
.always .why b {
  display: none;
}
@media (max-width: 600px) {
  .field-row {
    grid-template-columns: 1fr;
  }
}
</style>
