<script setup lang="ts">
import { questionKindSchema, type Question, type QuestionKind } from '@gezeit/contract';
import { proposedQuestion } from '@gezeit/core';
import Button from 'primevue/button';
import { computed, ref } from 'vue';
import ChoiceInput from '../../shared/ui/ChoiceInput.vue';
import NumberInput from '../../shared/ui/NumberInput.vue';
import Term from '../../shared/ui/Term.vue';
import TextEdit from '../../shared/ui/TextEdit.vue';
import { useProgramme } from '../programme/programme-store.js';
import { KIND_WHY, KIND_WORDS, QUESTION_UNITS } from './question-words.js';

/** What is asked, each with its own limit and evidence; any of them together. */
const programme = useProgramme();
const asked = computed(() => programme.view!.bundle.programme);
const questions = computed<Question[]>(() => asked.value.questions ?? []);
const parts = computed(() => programme.view!.bundle.setups.filter(({ reference }) => !reference).flatMap((setup) => setup.parts));
const adding = ref<QuestionKind | null>(null);
const unasked = computed(() =>
  Object.fromEntries(
    questionKindSchema.options
      .filter((kind) => kind === 'less-restriction' || !questions.value.some((question) => question.kind === kind))
      .map((kind) => [kind, KIND_WORDS[kind]]),
  ),
);
const isPower = ({ kind }: Question) => kind === 'power-gain' || kind === 'power-no-loss' || kind === 'package-gain';

function edit(what: string, change: (questions: Question[]) => Question[]): void {
  void programme.edit('programme', what, (now) => ({ ...now, questions: change(now.questions ?? []) }));
}
function add(kind: QuestionKind): void {
  const taken = new Set(questions.value.map(({ id }) => id));
  let number = 1;
  while (taken.has(`q${number}`)) number += 1;
  edit(`asked: ${KIND_WORDS[kind]}`, (list) => [...list, proposedQuestion(`q${number}`, kind, parts.value)]);
  adding.value = null;
}
const patch = (id: string, what: string, change: Partial<Question>) =>
  edit(what, (list) => list.map((question) => (question.id === id ? { ...question, ...change } : question)));
const smallest = ref<Record<string, number | null>>({});
const UNIT_OF = { pct: '%', K: 'K', kPa: 'kPa', lambda: 'λ', dB: 'dB' } as const;
/** Limits are stored in the unit that they name. */
const inSi = ({ smallest: value, unit }: Question) => (value == null ? null : unit === 'kPa' ? value * 1000 : value);
const fromSi = (question: Question, value: number) => (question.unit === 'kPa' ? value / 1000 : value);
const START = { same: 'the same start', own: 'the start that the part brings about' };
</script>

<template>
  <div>
    <h2>Questions, each with its own limit</h2>
    <div class="scroll">
      <table class="dense">
        <thead>
          <tr>
            <th>Question</th>
            <th class="number">Limit</th>
            <th>From</th>
            <th><span class="visually-hidden">Remove</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="question in questions" :key="question.id">
            <td>
              <Term :what="KIND_WHY[question.kind]">{{ KIND_WORDS[question.kind] }}</Term>
              <span v-if="question.afterwards" class="tag">afterwards</span>
              <TextEdit
                v-if="question.kind === 'less-restriction'"
                :model-value="question.section"
                label="Section that is asked about"
                placeholder="section, such as filter"
                @commit="patch(question.id, 'section of a question', { section: $event || null })"
              />
            </td>
            <td class="number">
              <NumberInput
                v-if="question.kind !== 'no-fault-codes'"
                :model-value="inSi(question)"
                :unit="UNIT_OF[question.unit ?? 'pct']"
                :difference="question.unit === 'K'"
                :label="`Limit of ${KIND_WORDS[question.kind]}`"
                :problem="(smallest[question.id] ?? 1) > 0 ? null : 'It must be above zero.'"
                width="4.2rem"
                @update:model-value="smallest[question.id] = $event"
                @commit="
                  $event &&
                  $event > 0 &&
                  patch(question.id, 'limit changed', { smallest: fromSi(question, $event), unit: question.unit ?? 'pct' })
                "
              />
              <span v-else class="muted">none at all</span>
            </td>
            <td>
              <ChoiceInput
                v-if="isPower(question)"
                :model-value="question.start ?? 'same'"
                :choices="START"
                :label="`Start of ${KIND_WORDS[question.kind]}`"
                @update:model-value="patch(question.id, 'start changed', { start: $event as 'same' | 'own' })"
              />
            </td>
            <td>
              <Button
                text
                size="small"
                icon="pi pi-times"
                :aria-label="`Remove ${KIND_WORDS[question.kind]}`"
                @click="edit(`question removed: ${KIND_WORDS[question.kind]}`, (list) => list.filter(({ id }) => id !== question.id))"
              />
            </td>
          </tr>
          <tr v-if="questions.length === 0">
            <td>{{ KIND_WORDS['power-gain'] }}</td>
            <td class="number">{{ asked.smallestGainPct }} {{ QUESTION_UNITS.pct }}</td>
            <td class="muted">the same start</td>
            <td />
          </tr>
        </tbody>
      </table>
    </div>
    <ChoiceInput
      :model-value="adding"
      :choices="unasked"
      label="Ask something more"
      placeholder="ask something more…"
      @update:model-value="add($event as QuestionKind)"
    />
  </div>
</template>

<style scoped>
.tag {
  margin-left: 0.4rem;
  padding: 0 0.3rem;
  border: 1px solid currentColor;
  border-radius: 2px;
  font-size: 13px;
}
td:first-child {
  min-width: 15rem;
}
table {
  margin-bottom: 0.4rem;
}
</style>
