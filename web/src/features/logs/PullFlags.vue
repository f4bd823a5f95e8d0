<script setup lang="ts">
import { FLAG_WORDS } from '@gezeit/core';
import Term from '../../shared/ui/Term.vue';
import type { PullSays } from './pull-says.js';

/** What is said of a pull: its flags, why it is left out, what was corrected, and what was done about it. */
defineProps<{ says: PullSays }>();
</script>

<template>
  <div class="flags">
    <span v-if="says.kind" class="muted">{{ says.kind }}</span>
    <span v-for="why in says.why" :key="why" class="flag leaves-out">left out: {{ why }}</span>
    <span v-if="says.byHand" class="flag leaves-out">left out: {{ says.byHand }}</span>
    <span v-if="says.forced" class="flag">used in spite of the rules</span>
    <Term
      v-for="flag in says.flags"
      :key="flag.flag"
      class="flag"
      :class="{ 'leaves-out': flag.leavesOut }"
      :what="flag.suggestsLeavingOut ? `${flag.detail}. Look at it on the traces, then decide.` : flag.detail"
      >{{ flag.leavesOut ? 'left out: ' : '' }}{{ FLAG_WORDS[flag.flag] }}</Term
    >
    <Term v-if="says.amended" class="flag" :what="says.amended">corrected</Term>
    <span v-for="warning in says.warnings" :key="warning" class="flag warning">{{ warning }}</span>
    <Term v-if="says.history.length > 0" class="flag" :what="says.history.join('; ')">history</Term>
    <Term
      v-if="(says.badChance ?? 0) >= 0.5"
      class="flag"
      what="The judgement finds this pull out of line with the others; it is already weighed down: do not delete it."
      >probably bad ({{ Math.round(100 * says.badChance!) }}&nbsp;%)</Term
    >
  </div>
</template>

<style scoped>
.flags {
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 0.7rem;
}
.leaves-out {
  font-weight: 600;
}
</style>
