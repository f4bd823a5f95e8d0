<script setup lang="ts">
import type { Comparison, QuestionKind } from '@gezeit/contract';
import { computed } from 'vue';
import { useShow } from '../../shared/units/use-show.js';
import { withSign } from '../../shared/units/show.js';
import { useProgramme } from '../programme/programme-store.js';
import { ANSWER_KINDS, answerWord } from './verdict-words.js';

/** Every question's own answer. */
const props = defineProps<{ comparison: Comparison }>();
const programme = useProgramme();
const show = useShow();

const rows = computed(() => {
  const questions = programme.view!.bundle.programme.questions ?? [];
  return props.comparison.answers.map((answer) => {
    const question = questions.find(({ id }) => id === answer.question);
    const kind: QuestionKind = question?.kind ?? 'power-gain';
    const convert = (value: number) => (answer.unit === 'K' ? show.value.differenceOf(value) : value);
    const unit = answer.unit === 'pct' ? '%' : answer.unit === 'K' ? show.value.differenceUnit : answer.unit;
    const digits = answer.unit === 'lambda' ? 3 : 1;
    const figure = (value: number | null) => (value === null ? '–' : withSign(convert(value), digits));
    const section = question?.section ? `, ${question.section}` : '';
    return {
      ...answer,
      kind,
      title: ANSWER_KINDS[kind] + section,
      word: answerWord(kind, answer.answer),
      figure: answer.estimate === null ? '' : `${figure(answer.estimate)} ${unit}`,
      range: answer.low === null ? '' : `(${figure(answer.low)} to ${figure(answer.high)})`,
    };
  });
});
</script>

<template>
  <section>
    <h2>Every question</h2>
    <ul class="figures">
      <li v-for="row in rows" :key="row.question" :title="row.why">
        <span class="title">{{ row.title }}</span>
        <b class="word" :class="row.answer">{{ row.word }}</b>
        <span class="figure"
          >{{ row.figure }} <span class="muted">{{ row.range }}</span></span
        >
      </li>
    </ul>
    <p v-if="comparison.smallestResolvablePct !== null" class="small muted">
      These pulls recognise a true gain of {{ comparison.smallestResolvablePct.toFixed(1) }} % on four days of five, and show “no
      difference” for limits from {{ comparison.smallestNoDifferencePct!.toFixed(1) }} %.
      <b v-if="comparison.morePulls">{{ comparison.morePulls }} further pulls in the order A B B A would resolve it.</b>
      <template v-else-if="comparison.morePullsReason">{{ comparison.morePullsReason }}.</template>
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
.word.gain {
  color: var(--green);
}
.word.loss {
  color: var(--brick);
}
</style>
