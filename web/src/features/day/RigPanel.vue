<script setup lang="ts">
import { RIG_MISHAPS, type RigCommand } from '@gezeit/contract';
import Button from 'primevue/button';
import { computed, ref } from 'vue';
import { api, ApiFailure } from '../../shared/api/client.js';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import { withSign } from '../../shared/units/show.js';
import { useProgramme } from '../../model/programme-store.js';
import { useDay } from './day-store.js';

/** The simulated rig's own panel: its clock, driver and mishaps, and at the end what its parts truly do. */
const day = useDay();
const programme = useProgramme();
const truth = ref('');
const rig = computed(() => day.rig);
const SPEEDS = { '1': 'real time', '10': '10 times', '60': '60 times' };
const WORDS: Record<(typeof RIG_MISHAPS)[number] | 'none', string> = {
  none: 'no mishap',
  slip: 'slip on the roller',
  'late-lift': 'lift too early',
  spike: 'spike in the power',
  'throttle-closed': 'throttle closed by the ECU',
  soft: 'soft boost',
};
const DOING = { idle: 'idles', off: 'engine off', pull: 'pulls' };
const tell = (command: RigCommand) => day.ask((id) => api.rig(id, command));
async function reveal(): Promise<void> {
  try {
    const { pairs } = await api.rigTruth(programme.view!.id);
    truth.value =
      pairs.length === 0
        ? 'Not both setups of a comparison have run.'
        : pairs
            .map(({ reference, candidate, levelledPct }) => `${candidate} against ${reference}: ${withSign(levelledPct, 2)} %`)
            .join('; ');
  } catch (error) {
    truth.value = error instanceof ApiFailure ? error.message : 'It cannot be read.';
  }
}
</script>

<template>
  <section v-if="rig" class="rig" aria-label="Simulated rig">
    <b>Simulated rig</b><span class="muted">{{ DOING[rig.doing] }}, {{ rig.fitted }} fitted, {{ rig.pulls }} pulls</span>
    <ChoiceInput
      :model-value="String(rig.speed)"
      :choices="SPEEDS"
      label="Speed of the rig"
      @update:model-value="tell({ do: 'speed', speed: Number($event) })"
    />
    <label
      ><input type="checkbox" :checked="rig.follows" @change="tell({ do: 'follow', follows: !rig!.follows })" /> driver follows the
      screen</label
    >
    <ChoiceInput
      :model-value="rig.nextMishap ?? 'none'"
      :choices="WORDS"
      label="Mishap of the next pull"
      @update:model-value="tell({ do: 'mishap', mishap: $event === 'none' ? null : ($event as 'slip') })"
    />
    <Button
      v-if="!rig.follows"
      outlined
      size="small"
      label="Driver: floor it"
      :disabled="rig.doing !== 'idle'"
      @click="tell({ do: 'pull' })"
    />
    <Button text size="small" label="What do its parts truly do?" @click="reveal" />
    <span v-if="truth" role="status">{{ truth }}</span>
  </section>
</template>

<style scoped>
.rig {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem 0.9rem;
  align-items: center;
  flex: 1;
  border-left: 1px dashed var(--line);
  padding-left: 0.8rem;
}
</style>
