<script setup lang="ts">
import type { PartDetail, PartHistory, Setup } from '@gezeit/contract';
import { onMounted, shallowRef } from 'vue';
import { api } from '../../shared/api/client.js';
import FieldSet from '../../shared/form/FieldSet.vue';
import type { FormField } from '../../shared/form/form-fields.js';
import { STAGE_WORDS } from '../../shared/question-words.js';

/** Revision, material and specimen of each part of a setup, with the line of its revisions and where the specimen has been. */
const props = defineProps<{ setup: Setup }>();
const emit = defineEmits<{ change: [change: (now: Setup) => PartDetail[]] }>();
const known = shallowRef<PartHistory[]>([]);
onMounted(async () => (known.value = (await api.parts().catch(() => ({ parts: [] }))).parts));

const detailOf = (part: string): PartDetail => props.setup.partDetails?.find((entry) => entry.part === part) ?? { part };
function patch(part: string, change: Partial<PartDetail>): void {
  emit('change', (now) => {
    const details = (now.partDetails ?? []).filter((entry) => now.parts.includes(entry.part));
    const own = details.find((entry) => entry.part === part) ?? { part };
    return [...details.filter((entry) => entry.part !== part), { ...own, ...change }];
  });
}
/** The table that these fields stand in draws no frame round a text: what is empty must be seen as well. */
const NOT_SAID = 'not said';
const fieldsOf = (part: string): FormField[] => [
  {
    kind: 'text',
    placeholder: NOT_SAID,
    name: 'line',
    label: 'Line',
    aria: `Line of ${part}`,
    why: 'Name that its revisions share, such as “sealed box”.',
  },
  {
    kind: 'text',
    placeholder: NOT_SAID,
    name: 'revision',
    label: 'Revision',
    aria: `Revision of ${part}`,
    why: 'Number or letter of this revision.',
  },
  {
    kind: 'text',
    placeholder: NOT_SAID,
    name: 'follows',
    label: 'Follows',
    aria: `Revision that ${part} follows`,
    why: 'The revision before it: printed prototype to production is one line.',
  },
  {
    kind: 'choice',
    name: 'stage',
    label: 'Stage',
    aria: `Stage of ${part}`,
    why: 'A printed part and its production sister are validated each for itself.',
    choices: STAGE_WORDS,
  },
  {
    kind: 'text',
    placeholder: NOT_SAID,
    name: 'material',
    label: 'Material',
    aria: `Material of ${part}`,
    why: 'It soaks heat, creeps and resonates in its own way.',
  },
  {
    kind: 'text',
    placeholder: NOT_SAID,
    name: 'serial',
    label: 'Serial',
    aria: `Serial of ${part}`,
    why: 'Which specimen: years later the same one can be found.',
  },
];
const lineOf = (part: string) => known.value.find(({ line }) => line === (detailOf(part).line ?? part));
const specimenOf = (part: string) =>
  lineOf(part)
    ?.revisions.find((revision) => revision.part === part)
    ?.specimens.find(({ serial }) => serial === (detailOf(part).serial ?? null));
</script>

<template>
  <div v-for="part in setup.parts" :key="part" class="part">
    <b>{{ part }}</b>
    <FieldSet :fields="fieldsOf(part)" :values="detailOf(part)" @set="(name, value) => patch(part, { [name]: value })" />
    <p v-if="(lineOf(part)?.revisions.length ?? 0) > 0" class="small muted">
      Line:
      <template v-for="(revision, i) in lineOf(part)!.revisions" :key="revision.part + revision.revision">
        <template v-if="i > 0"> → </template>{{ revision.revision ?? revision.part
        }}{{ revision.stage ? ` (${STAGE_WORDS[revision.stage as keyof typeof STAGE_WORDS] ?? revision.stage})` : '' }}
      </template>
    </p>
    <p v-if="specimenOf(part)" class="small muted">
      This specimen: {{ specimenOf(part)!.cars.join(', ') }}; {{ specimenOf(part)!.pulls }} pulls{{
        specimenOf(part)!.distanceKm === null ? '' : `; ${specimenOf(part)!.distanceKm} km`
      }}; in {{ specimenOf(part)!.programmes.length }} {{ specimenOf(part)!.programmes.length === 1 ? 'programme' : 'programmes' }}.
    </p>
  </div>
</template>

<style scoped>
.part {
  padding: 0.3rem 0 0.3rem 0.6rem;
  border-left: 2px solid var(--line);
  margin: 0.3rem 0;
}
.part :deep(.field-row) {
  grid-template-columns: 5rem minmax(0, 1fr);
}
</style>
