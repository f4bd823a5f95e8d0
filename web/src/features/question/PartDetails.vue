<script setup lang="ts">
import type { PartDetail, PartHistory, Setup } from '@gezeit/contract';
import { onMounted, shallowRef } from 'vue';
import { api } from '../../shared/api/client.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import FieldRow from '../../shared/form/FieldRow.vue';
import TextEdit from '../../shared/form/TextEdit.vue';
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
const lineOf = (part: string) => known.value.find(({ line }) => line === (detailOf(part).line ?? part));
const specimenOf = (part: string) =>
  lineOf(part)
    ?.revisions.find((revision) => revision.part === part)
    ?.specimens.find(({ serial }) => serial === (detailOf(part).serial ?? null));
</script>

<template>
  <div v-for="part in setup.parts" :key="part" class="part">
    <b>{{ part }}</b>
    <FieldRow label="Line" why="Name that its revisions share, such as “sealed box”.">
      <TextEdit :model-value="detailOf(part).line" :label="`Line of ${part}`" @commit="patch(part, { line: $event || null })" />
    </FieldRow>
    <FieldRow label="Revision" why="Number or letter of this revision.">
      <TextEdit :model-value="detailOf(part).revision" :label="`Revision of ${part}`" @commit="patch(part, { revision: $event || null })" />
    </FieldRow>
    <FieldRow label="Follows" why="The revision before it: printed prototype to production is one line.">
      <TextEdit
        :model-value="detailOf(part).follows"
        :label="`Revision that ${part} follows`"
        @commit="patch(part, { follows: $event || null })"
      />
    </FieldRow>
    <FieldRow label="Stage" why="A printed part and its production sister are validated each for itself.">
      <ChoiceInput
        :model-value="detailOf(part).stage"
        :choices="STAGE_WORDS"
        :label="`Stage of ${part}`"
        @update:model-value="patch(part, { stage: $event as PartDetail['stage'] })"
      />
    </FieldRow>
    <FieldRow label="Material" why="It soaks heat, creeps and resonates in its own way.">
      <TextEdit :model-value="detailOf(part).material" :label="`Material of ${part}`" @commit="patch(part, { material: $event || null })" />
    </FieldRow>
    <FieldRow label="Serial" why="Which specimen: years later the same one can be found.">
      <TextEdit :model-value="detailOf(part).serial" :label="`Serial of ${part}`" @commit="patch(part, { serial: $event || null })" />
    </FieldRow>
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
