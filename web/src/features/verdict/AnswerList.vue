<script setup lang="ts">
import type { Comparison } from '@gezeit/contract';
import { answerWord, QUESTION_LABELS, resolutionText } from '@gezeit/core';
import { computed } from 'vue';
import { useShow } from '../../shared/units/use-show.js';
import { answerFigure } from '../../shared/answer-figure.js';
import { useProgramme } from '../../model/programme-store.js';
import EvidenceField from '../../parts/EvidenceField.vue';

/** Every question's own answer, with the sentence behind it. */
const props = defineProps<{ comparison: Comparison }>();
const programme = useProgramme();
const show = useShow();

const rows = computed(() => {
  const questions = programme.view!.bundle.programme.questions ?? [];
  const bound = programme.setupById.get(props.comparison.candidate)?.setup.bound === true;
  return props.comparison.answers.map((answer) => {
    const question = questions.find(({ id }) => id === answer.question) ?? null;
    return {
      ...answer,
      asked: question,
      title: QUESTION_LABELS[answer.kind] + (question?.section ? `, ${question.section}` : ''),
      word: answerWord(answer.kind, answer.answer, bound),
      ...answerFigure(answer, show.value),
    };
  });
});
</script>

<template>
  <section>
    <h2>Every question</h2>
    <ul class="figures">
      <li v-for="row in rows" :key="row.question">
        <span class="title">{{ row.title }}</span>
        <b class="word" :class="row.answer">{{ row.word }}</b>
        <span v-if="row.figure" class="figure">{{ row.figure }} <span class="muted">{{ row.range }}</span></span>
        <details class="figure small">
          <summary>why</summary>
          <p>{{ row.why }}</p>
        </details>
        <EvidenceField
          v-if="row.asked && (row.of === 'evidence' || (row.estimate === null && row.kind === 'coolant-no-hotter'))"
          class="figure"
          :question="row.asked"
          :candidate="comparison.candidate"
        />
      </li>
    </ul>
    <p v-if="comparison.smallestResolvablePct !== null" class="small muted">
      These pulls recognise a true gain of {{ resolutionText(comparison.smallestResolvablePct) }} on four days of five, and show “no
      difference” for limits from {{ resolutionText(comparison.smallestNoDifferencePct!) }}.
      <b v-if="comparison.morePulls">{{ comparison.morePulls }} further pulls in the order A B B A would resolve it.</b>
      <template v-else-if="comparison.morePullsReason">{{ comparison.morePullsReason }}</template>
    </p>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 0.2rem 0 0.4rem;
}
li {
  display: grid;
  grid-template-columns: 1fr auto;
  column-gap: 0.8rem;
  padding: 0.3rem 0;
  border-bottom: 1px solid var(--line);
}
.figure {
  grid-column: 1 / -1;
}
details p {
  margin: 0.2rem 0 0;
}
summary {
  cursor: pointer;
  color: var(--muted);
}
.word.gain {
  color: var(--green);
}
.word.loss {
  color: var(--brick);
}
</style>
