<script setup lang="ts">
import type { BoardAnswer, BoardEntry } from '@gezeit/contract';
import { answerWord, QUESTION_LABELS, resolutionText } from '@gezeit/core';
import Button from 'primevue/button';
import { answerFigure } from '../../shared/answer-figure.js';
import Term from '../../shared/ui/Term.vue';
import { useShow } from '../../shared/units/use-show.js';

/** The figures of a programme's answers on the board, now and before. */
defineProps<{ entry: BoardEntry }>();
const emit = defineEmits<{ bringBack: [] }>();
const show = useShow();
const figureOf = (answer: BoardAnswer) => answerFigure(answer, show.value);
/** What was asked, where a programme asks several things or of several setups. */
const asked = (entry: BoardEntry, { kind, candidate }: BoardAnswer) =>
  [kind ? QUESTION_LABELS[kind] : 'then', new Set(entry.answers.map((other) => other.candidate)).size > 1 ? candidate : '']
    .filter(Boolean)
    .join(' ');
const wordOf = (answer: BoardAnswer) => answerWord(answer.kind ?? 'power-gain', answer.answer, answer.bound);
</script>

<template>
  <div>
    <p v-if="entry.problem" class="problem">{{ entry.problem }}</p>
    <p
      v-for="answer in entry.pullsDriven > 0 ? entry.answers : []"
      :key="`${answer.candidate} ${answer.kind}`"
      class="answer"
      :class="answer.bound ? 'bound' : answer.answer"
    >
      <span class="asked" :title="asked(entry, answer)">{{ asked(entry, answer) }}</span>
      <span class="figure">{{ figureOf(answer).figure || '–' }} <span class="range">{{ figureOf(answer).range }}</span></span>
      <span class="word"><Term :what="answer.why">{{ wordOf(answer) }}</Term></span>
    </p>
    <p v-if="entry.archived" class="answer">
      <Button text size="small" label="Bring back" :aria-label="`Bring back ${entry.title}`" @click="emit('bringBack')" />
    </p>
    <p v-for="answer in entry.earlierAnswers" :key="`then ${answer.candidate}`" class="muted earlier">
      then: {{ figureOf(answer).figure || '–' }} {{ figureOf(answer).range }}, {{ wordOf(answer) }}
    </p>
    <p v-if="entry.plannedResolvablePct !== null" class="muted">
      planned: could recognise {{ resolutionText(entry.plannedResolvablePct) }}
    </p>
    <p v-else-if="entry.judging && entry.answers.length === 0" class="muted">being judged…</p>
    <p v-else-if="entry.pullsDriven === 0 && !entry.earlierAnswers.length && !entry.problem" class="muted">nothing run yet</p>
    <p v-else-if="entry.answers.length === 0 && !entry.problem" class="muted">nothing compared yet</p>
  </div>
</template>

<style scoped>
.earlier {
  height: 24px;
}
.answer {
  display: flex;
  gap: 0.8rem;
  height: 30px;
  align-items: center;
  justify-content: space-between;
}
.asked {
  color: var(--muted);
  flex: 1 1 auto;
  min-width: 0;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.word {
  flex: none;
  white-space: nowrap;
  min-width: 4.4rem;
}
.figure {
  flex: none;
  font-weight: 650;
  white-space: nowrap;
}
.withheld .figure,
.not-resolved .figure {
  font-weight: 400;
  color: var(--muted);
}
.range {
  font-weight: 400;
}
.word {
  text-align: right;
}
.answer.gain .word {
  color: var(--green);
}
.answer.loss .word {
  color: var(--brick);
}
.problem {
  color: var(--brick);
}
:deep(.explanation) {
  right: 0;
  left: auto;
}
@media (max-width: 900px) {
  .answer {
    flex-wrap: wrap;
    height: auto;
    gap: 0 0.8rem;
  }
  .word {
    margin-left: auto;
  }
}
</style>
