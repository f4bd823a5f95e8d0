<script setup lang="ts">
import { questionKindSchema, type Metric, type Question, type QuestionKind } from '@gezeit/contract';
import { evidenceFor, proposedQuestion } from '@gezeit/core';
import Button from 'primevue/button';
import { computed, ref } from 'vue';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import Term from '../../shared/ui/Term.vue';
import TextEdit from '../../shared/form/TextEdit.vue';
import { useProgramme } from '../../model/programme-store.js';
import ResponseTerms from './ResponseTerms.vue';
import EvidenceField from '../../parts/EvidenceField.vue';
import { KIND_WHY, KIND_WORDS, METRIC_WORDS, QUESTION_UNITS } from '../../shared/question-words.js';

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
/** The first free id among the questions as they stand when the change is made: another may have been added a moment before. */
function freeId(list: readonly Question[]): string {
  const taken = new Set(list.map(({ id }) => id));
  let number = 1;
  while (taken.has(`q${number}`)) number += 1;
  return `q${number}`;
}
function add(kind: QuestionKind): void {
  edit(`asked: ${KIND_WORDS[kind]}`, (list) => [...list, proposedQuestion(freeId(list), kind, parts.value)]);
  adding.value = null;
}
/** A question's own band; both ends as the programme's is none of its own. */
function setBand(question: Question, end: 0 | 1, value: number | null): void {
  const next = (question.bandRpm ?? asked.value.bandRpm).with(end, value ?? asked.value.bandRpm[end]) as [number, number];
  if (next[0] >= next[1]) return;
  const isOwn = next[0] !== asked.value.bandRpm[0] || next[1] !== asked.value.bandRpm[1];
  patch(question.id, 'band of a question', { bandRpm: isOwn ? next : null });
}
const METRICS = { programme: 'as the programme', ...METRIC_WORDS };
const candidates = computed(() => programme.view!.bundle.setups.filter(({ reference, archived }) => !reference && !archived));
const HAS_EVIDENCE: readonly QuestionKind[] = ['no-fault-codes', 'not-louder', 'coolant-no-hotter'];
/** Kinds that are answered over a band of engine speed. */
const hasBand = ({ kind }: Question) => kind !== 'no-fault-codes' && kind !== 'not-louder';
const patch = (id: string, what: string, change: Partial<Question>) =>
  edit(what, (list) => list.map((question) => (question.id === id ? { ...question, ...change } : question)));
const smallest = ref<Record<string, number | null>>({});
const UNIT_OF = { pct: '%', K: 'K', kPa: 'kPa', lambda: 'λ', dB: '–', s: 's', rpm: 'rpm' } as const;
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
              <ResponseTerms
                v-if="question.kind === 'quicker-response' || question.kind === 'fades-less'"
                :question="question"
                :boosted="programme.view!.bundle.vehicle.aspiration !== 'na'"
                :band-rpm="question.bandRpm ?? asked.bandRpm"
                @patch="(what, change) => patch(question.id, what, change)"
              />
              <details v-if="hasBand(question)" class="own" :open="question.metric != null || question.bandRpm != null">
                <summary>{{ question.metric != null || question.bandRpm != null ? 'its own terms' : 'terms as the programme' }}</summary>
                <ChoiceInput
                  v-if="isPower(question)"
                  :model-value="question.metric ?? 'programme'"
                  :choices="METRICS"
                  :label="`What ${KIND_WORDS[question.kind]} compares`"
                  @update:model-value="
                    patch(question.id, 'metric of a question', { metric: $event === 'programme' ? null : ($event as Metric) })
                  "
                />
                <span class="band">
                  <NumberInput
                    :model-value="question.bandRpm?.[0] ?? asked.bandRpm[0]"
                    unit="rpm"
                    :label="`Band of ${KIND_WORDS[question.kind]} from`"
                    width="4.6rem"
                    @commit="setBand(question, 0, $event)"
                  />
                  to
                  <NumberInput
                    :model-value="question.bandRpm?.[1] ?? asked.bandRpm[1]"
                    unit="rpm"
                    :label="`Band of ${KIND_WORDS[question.kind]} to`"
                    width="4.6rem"
                    @commit="setBand(question, 1, $event)"
                  />
                </span>
              </details>
              <template v-if="HAS_EVIDENCE.includes(question.kind)">
                <p v-for="setup in candidates" :key="setup.id" class="found">
                  <b v-if="candidates.length > 1">{{ setup.id }}</b>
                  <span v-if="evidenceFor(question, setup.id)">found: {{ evidenceFor(question, setup.id)!.value }}</span>
                  <EvidenceField :question="question" :candidate="setup.id" />
                </p>
              </template>
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
.own summary {
  cursor: pointer;
  color: var(--muted);
  font-size: 13px;
}
.own .band,
.found {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0.4rem;
  margin: 0.15rem 0 0;
}
td:first-child {
  min-width: 15rem;
}
table {
  margin-bottom: 0.4rem;
}
</style>
