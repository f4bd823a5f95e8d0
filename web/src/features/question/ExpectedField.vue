<script setup lang="ts">
import { computed } from 'vue';
import { useProgramme } from '../../model/programme-store.js';
import FieldRow from '../../shared/form/FieldRow.vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import { usePerson } from '../../shared/person-store.js';
import { useAsked } from './use-asked.js';

/** What is expected, stored before anything is run. */
const programme = useProgramme();
const person = usePerson();
const { asked, set } = useAsked();
const expected = computed(() => asked.value.expected ?? null);
const hasResults = computed(() => programme.view!.findings.pulls.some(({ status }) => status === 'used'));
function setExpected(side: 'lowPct' | 'highPct', value: number | null): void {
  set('expected range stored', (now) => {
    if (value === null) return { expected: null };
    const next = { ...(now.expected ?? { lowPct: value, highPct: value }), [side]: value };
    if (side === 'lowPct') next.highPct = Math.max(next.highPct, value);
    else next.lowPct = Math.min(next.lowPct, value);
    return { expected: { ...next, by: person.stamp, at: new Date().toISOString() } };
  });
}
</script>

<template>
  <FieldRow
    label="Expected"
    :why="
      hasResults
        ? 'Stored before the day; results have been seen, so it cannot be stored any more.'
        : 'What you expect, stored before anything is run: a surprise either way is worth a second look.'
    "
  >
    <template #default="{ describedBy }">
      <template v-if="!hasResults">
        <NumberInput
          :model-value="expected?.lowPct ?? null"
          unit="%"
          label="Expected from"
          width="4.5rem"
          optional
          :described-by="describedBy"
          @commit="setExpected('lowPct', $event)"
        />
        <span>to</span>
        <NumberInput
          :model-value="expected?.highPct ?? null"
          unit="%"
          label="Expected to"
          width="4.5rem"
          optional
          :described-by="describedBy"
          @commit="setExpected('highPct', $event)"
        />
      </template>
      <span v-else-if="expected">{{ expected.lowPct }} to {{ expected.highPct }}&nbsp;% ({{ expected.by }}, before the day)</span>
      <span v-else class="muted">nothing was stored before the day</span>
    </template>
  </FieldRow>
</template>
