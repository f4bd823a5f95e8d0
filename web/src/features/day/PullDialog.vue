<script setup lang="ts">
import { gateTargetText, gateUnitText, gateValueText } from '@gezeit/core';
import { computed, ref, watch } from 'vue';
import Button from 'primevue/button';
import { api } from '../../shared/api/client.js';
import { PULL_KINDS } from '../../shared/pull-kinds.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import { useAmendment } from '../../model/amendment-store.js';
import { useExclusion } from '../../model/exclusion-store.js';
import CellDialog from './CellDialog.vue';
import { useDay } from './day-store.js';
import { useShow } from '../../shared/units/use-show.js';

/** One pull: what was stamped on it, and what can still be said of it. */
const props = defineProps<{ pull: string | null; clock: (ms: number) => string }>();
const day = useDay();
const exclusion = useExclusion();
const amendment = useAmendment();
const show = useShow();
const entry = computed(() => day.state.pulls.find(({ id }) => id === props.pull) ?? null);
const setups = computed(() =>
  Object.fromEntries(day.setups.filter(({ setup }) => !setup.archived).map(({ setup }) => [setup.id, `${setup.id} ${setup.name}`])),
);
const serve = ref<string | null>(null);
const serveSetup = ref<string>('');
const others = computed(() =>
  Object.fromEntries((day.view?.others ?? []).filter(({ sameCar }) => sameCar).map(({ id, title }) => [id, title])),
);
const otherSetups = ref<Record<string, string>>({});
watch(serve, async (id) => {
  otherSetups.value = {};
  serveSetup.value = '';
  if (!id) return;
  const other = await api.programme(id).catch(() => null);
  otherSetups.value = Object.fromEntries((other?.bundle.setups ?? []).map((setup) => [setup.id, `${setup.id} ${setup.name}`]));
});
const served = ref('');
async function serveToo(): Promise<void> {
  if (!serve.value || !serveSetup.value || !props.pull) return;
  const done = await day.ask((id) => api.servePull(id, props.pull!, { programmeId: serve.value!, setup: serveSetup.value }));
  if (done) served.value = others.value[serve.value] ?? '';
}
const amend = (change: { pullKind?: 'measured'; setup?: string; aborted?: boolean }) =>
  props.pull && day.act({ kind: 'pull-amended', pull: props.pull, ...change });
function correct(): void {
  day.dialog = null;
  if (props.pull) amendment.ask(props.pull);
}
function leaveOut(): void {
  day.dialog = null;
  if (props.pull) exclusion.ask(props.pull);
}
</script>

<template>
  <CellDialog name="pull" :header="`Pull ${pull ?? ''}`">
    <template v-if="entry">
      <p>
        Begun {{ clock(entry.startedMs) }} by {{ { key: 'key', stream: 'what the devices streamed', file: 'its file' }[entry.begun.cause]
        }}{{ entry.begun.mapVersion ? `, tune ${entry.begun.mapVersion}` : ''
        }}{{ entry.begun.anyway ? `, although not ready: ${entry.begun.anyway}` : '' }}.
      </p>
      <div class="fields">
        <span>Setup</span>
        <ChoiceInput
          :model-value="entry.setup"
          :choices="setups"
          label="Setup of this pull"
          @update:model-value="amend({ setup: $event })"
        />
        <span>Kind</span>
        <ChoiceInput
          :model-value="entry.kind"
          :choices="PULL_KINDS"
          label="Kind of this pull"
          @update:model-value="amend({ pullKind: $event as 'measured' })"
        />
        <template v-for="gate in day.gates" :key="gate.id">
          <span>{{ gate.label }}</span>
          <span
            ><template v-if="entry.begun.stamp[gate.id] == null">not read</template
            ><template v-else
              ><b>{{ gateValueText({ gate, value: entry.begun.stamp[gate.id]! }, show.words) }}</b>
              {{ gateUnitText(gate, show.words) }}</template
            >, asked {{ gateTargetText(gate, show.words) }}</span
          >
        </template>
      </div>
      <div v-if="Object.keys(others).length > 0" class="serve">
        <span>Serves another programme on this car too</span>
        <ChoiceInput v-model="serve" :choices="others" label="Programme that it serves too" />
        <ChoiceInput v-if="Object.keys(otherSetups).length > 0" v-model="serveSetup" :choices="otherSetups" label="Setup there" />
        <Button v-if="serveSetup" outlined label="It serves that too" @click="serveToo" />
        <span v-if="served" role="status">Now a pull of “{{ served }}” too.</span>
      </div>
    </template>
    <template #actions>
      <Button text label="Close" @click="day.dialog = null" />
      <Button outlined label="Leave out, or take back" @click="leaveOut" />
      <Button v-if="entry?.endedMs != null" outlined label="Correct" @click="correct" />
      <Button outlined label="Type figures" @click="day.dialog = 'figures'" />
      <Button
        v-if="entry"
        outlined
        :label="entry.aborted ? 'It was not aborted' : 'It was aborted'"
        @click="amend({ aborted: !entry.aborted })"
      />
    </template>
  </CellDialog>
</template>

<style scoped>
.fields,
.serve {
  display: grid;
  grid-template-columns: 13rem 1fr;
  gap: 0.4rem 0.8rem;
  align-items: baseline;
  margin-top: 0.6rem;
}
</style>
