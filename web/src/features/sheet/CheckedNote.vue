<script setup lang="ts">
import type { CheckedAgain } from '@gezeit/contract';

/** What came of computing a fixed state again. */
defineProps<{ checked: CheckedAgain }>();
</script>

<template>
  <div class="checked" role="status">
    <p v-if="checked.differing.length === 0">
      <b>The same again:</b> every estimate and answer to six figures{{
        checked.sameInputs ? ', from the same inputs' : ', although inputs have changed'
      }}.
    </p>
    <template v-else>
      <p>
        <b>{{ checked.differing.length }} figures differ</b>{{ checked.sameInputs ? '' : ': it was computed from what its inputs are now'
        }}{{ checked.sameMethod ? '' : ', by another method' }}.
      </p>
      <table class="dense">
        <thead>
          <tr>
            <th>Where</th>
            <th>Fixed</th>
            <th>Now</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in checked.differing" :key="row.where">
            <td>{{ row.where }}</td>
            <td>{{ row.fixed }}</td>
            <td>{{ row.now }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped>
.checked {
  margin-bottom: 0.6rem;
}
@media print {
  .checked {
    display: none;
  }
}
</style>
