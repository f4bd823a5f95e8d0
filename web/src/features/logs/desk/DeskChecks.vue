<script setup lang="ts">
import type { PullDetail } from '@gezeit/contract';
import { FLAG_WORDS, sentence } from '@gezeit/core';
import Button from 'primevue/button';
import { computed } from 'vue';
import { useExclusion } from '../../../model/exclusion-store.js';
import { useProgramme } from '../../../model/programme-store.js';
import { useDesk } from './desk-store.js';

/** What the checks found on the pulls that lie on the desk: in a sentence, with what it touches, and where it is seen. */
const desk = useDesk();
const programme = useProgramme();
const exclusion = useExclusion();

/** So much is shown on either side of what was found, s. */
const BESIDE_S = 1;
const TOUCHED = { power: 'power', temperature: 'temperatures', restriction: 'restriction' };

type Flag = PullDetail['flags'][number];
const found = computed(() =>
  desk.ids.flatMap((id) => (programme.view!.pulls.find((pull) => pull.id === id)?.flags ?? []).map((flag) => ({ id, flag }))),
);
const statusOf = (id: string) => programme.view!.findings.pulls.find((pull) => pull.id === id)?.status;
const touched = ({ touches }: Flag) => touches.map((what) => TOUCHED[what]).join(', ');

/** Draws the channels on which it is seen, and that stretch of them. */
function look({ where }: Flag): void {
  desk.axis = 'time';
  desk.less = null;
  const keys = where.flatMap(({ channel }) => desk.channelKeys(channel));
  desk.chosen = [...new Set([...desk.drawnKeys, ...keys])];
  // The axis is changed first, and with it what is seen of it.
  requestAnimationFrame(() => {
    desk.span = [Math.min(...where.map(({ fromS }) => fromS)) - BESIDE_S, Math.max(...where.map(({ toS }) => toS)) + BESIDE_S];
  });
}
</script>

<template>
  <ul v-if="found.length > 0" class="checks" aria-label="What the checks found">
    <li v-for="{ id, flag } in found" :key="`${id} ${flag.flag}`">
      <span class="pull">{{ id }}</span>
      <span>
        <b>{{ sentence(FLAG_WORDS[flag.flag]) }}:</b> {{ flag.detail }}. <span class="muted">Touches {{ touched(flag) }}.</span>
        <template v-if="flag.leavesOut"> It leaves the pull out.</template>
        <template v-else-if="flag.suggestsLeavingOut && statusOf(id) === 'used'"> Look at it, then decide.</template>
      </span>
      <span class="acts">
        <Button
          v-if="flag.where.length > 0"
          text
          size="small"
          label="Look"
          :aria-label="`Look at ${FLAG_WORDS[flag.flag]} on pull ${id}`"
          @click="look(flag)"
        />
        <Button
          v-if="flag.suggestsLeavingOut && statusOf(id) === 'used'"
          text
          size="small"
          label="Leave out"
          :aria-label="`Leave pull ${id} out for ${FLAG_WORDS[flag.flag]}`"
          @click="exclusion.ask(id, FLAG_WORDS[flag.flag])"
        />
      </span>
    </li>
  </ul>
</template>

<style scoped>
.checks {
  list-style: none;
  margin: 0.4rem 0 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 2.6rem minmax(0, 1fr) auto;
  align-items: baseline;
  gap: 0.5rem;
  padding: 0.15rem 0;
  border-top: 1px solid var(--line);
}
.pull {
  font-weight: 650;
}
.acts {
  white-space: nowrap;
}
.acts :deep(button) {
  padding: 0 0.3rem;
}
</style>
