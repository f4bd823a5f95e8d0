<script setup lang="ts">
import { computed, watch } from 'vue';
import SetupMark from '../../shared/ui/SetupMark.vue';
import NextStep from '../../parts/NextStep.vue';
import { beforeVerdict } from '../../model/next-step.js';
import { useProgramme } from '../../model/programme-store.js';
import { useCurves } from '../../model/use-curves.js';
import { useSelection } from '../../model/use-selection.js';
import TideStrip from '../../parts/tide/TideStrip.vue';
import AnswerList from './AnswerList.vue';
import ClaimPanel from './ClaimPanel.vue';
import CloudList from './CloudList.vue';
import EarlierAnswers from '../../parts/EarlierAnswers.vue';
import ChoicesPanel from './ChoicesPanel.vue';
import CurvePanel from './CurvePanel.vue';
import EstimatePanel from './EstimatePanel.vue';
import LevellingPanel from './LevellingPanel.vue';
import PullCard from './PullCard.vue';
import ReasoningPanel from './ReasoningPanel.vue';
import SplitPanel from './SplitPanel.vue';
import TakenNote from './TakenNote.vue';
import WitnessPanel from './WitnessPanel.vue';
import { headlineOf, isPowerWithheld, maskedSentence, zoneOf } from '@gezeit/core';
import { useShow } from '../../shared/units/use-show.js';

/** The answer: the sentence leads, then the estimates, the day, the curves, every question, and what clouds it. */
const programme = useProgramme();
useCurves();
const selection = useSelection();
const view = computed(() => programme.view!);
const next = computed(() => beforeVerdict(view.value));
const smallest = computed(() => view.value.bundle.programme.smallestGainPct);
const timeZone = computed(() => zoneOf(view.value.bundle));
const comparison = computed(() => selection.comparison.value);
const reference = computed(() => programme.setupById.get(comparison.value?.reference ?? ''));
const candidate = computed(() => programme.setupById.get(comparison.value?.candidate ?? ''));
const show = useShow();
/** The first question asked leads. */
const leading = computed(() => comparison.value?.answers[0] ?? null);
const lead = computed(() =>
  comparison.value
    ? headlineOf(leading.value ?? { answer: comparison.value.verdict.power, said: comparison.value.verdict.said }, show.value.words)
    : null,
);
/** Mean start of the candidate's used pulls against the reference's, K. */
const startApartK = computed(() => {
  const mean = (setup: string) => {
    const starts = view.value.findings.pulls
      .filter((pull) => pull.status === 'used' && pull.setup === setup)
      .map(({ startIntakeAirC }) => startIntakeAirC);
    return starts.length > 0 && starts.every((start) => start !== null)
      ? starts.reduce((sum, start) => sum + start!, 0) / starts.length
      : null;
  };
  if (!comparison.value) return null;
  const [a, b] = [mean(comparison.value.reference), mean(comparison.value.candidate)];
  return a === null || b === null ? null : b - a;
});
const masked = computed(() => {
  if (!comparison.value) return null;
  return maskedSentence(comparison.value, smallest.value, startApartK.value, show.value.words);
});
/** What an answer about power rests on comes after its first sentence; one that is withheld rests on nothing. */
const isBeingTried = computed(() => {
  const { of = 'levelled' } = leading.value ?? {};
  const isAboutPower = of === 'levelled' || of === 'ownStart';
  const isTried = programme.choices !== null || programme.choicesFailure !== null;
  return !isTried && isAboutPower && comparison.value?.levelled != null && !isPowerWithheld(comparison.value);
});
const answerNow = computed(() => (lead.value ? `${lead.value.before}${lead.value.figure}${lead.value.after}` : ''));
watch(
  () => programme.stored?.findings,
  () => void programme.fetchChoices(),
  { immediate: true },
);
/** Curves that could be drawn; while they are judged, their place is kept. A day of typed figures has none. */
const hasCurves = computed(() => !programme.curves || programme.curves.setups.length > 0);
const counts = computed(() => {
  // Laps and long runs are no pulls.
  const pulls = view.value.bundle.pulls.filter(({ kind }) => kind !== 'drive');
  const measured = pulls.filter(({ kind }) => kind === 'measured').length;
  const used = view.value.findings.pulls.filter(({ status }) => status === 'used').length;
  const out = measured - used;
  return `${used} of ${pulls.length} pulls counted, ${pulls.length - measured} conditioning${out > 0 ? `, ${out} left out` : ''}.`;
});
</script>

<template>
  <div v-if="!next && comparison && candidate && reference && lead" class="page" :class="{ earlier: programme.judging }">
    <div class="top">
      <div class="sentence" :aria-busy="programme.judging">
        <div class="pair">
          <template v-if="programme.comparisons.length > 1">
            <button
              v-for="entry in programme.comparisons"
              :key="entry.candidate"
              type="button"
              :aria-pressed="entry.candidate === comparison.candidate"
              @click="selection.candidate.value = entry.candidate"
            >
              <SetupMark
                :letter="entry.candidate"
                :colour="programme.setupById.get(entry.candidate)!.colour"
                :dash="programme.setupById.get(entry.candidate)!.dash"
                :name="programme.setupById.get(entry.candidate)!.setup.name"
              />
            </button>
          </template>
          <SetupMark v-else :letter="candidate.setup.id" :colour="candidate.colour" :dash="candidate.dash" :name="candidate.setup.name" />
          <span class="muted">against</span>
          <SetupMark :letter="reference.setup.id" :colour="reference.colour" :dash="reference.dash" :name="reference.setup.name" />
        </div>
        <h1>{{ lead.before }}<span v-if="lead.figure" class="figures whole" :class="lead.tone">{{ lead.figure }}</span>{{ lead.after }}</h1>
        <p v-for="text in lead.second" :key="text" class="second">{{ text }}</p>
        <p v-if="isBeingTried" class="small muted">What it rests on is being tried…</p>
        <TakenNote :candidate="comparison.candidate" :now="answerNow" />
        <p v-if="masked" class="masked">{{ masked }}</p>
        <p class="why" role="status">{{ programme.judging ? 'Being judged anew: this is the answer from before.' : counts }}</p>
        <p v-for="note in comparison.notes" :key="note" class="small muted">{{ note }}</p>
      </div>
      <EstimatePanel
        v-if="comparison.levelled"
        :comparison="comparison"
        :smallest="smallest"
        :correction="view.bundle.programme.correction"
      />
    </div>
    <TideStrip class="tide" :tide="view.tide" :time-zone="timeZone" />
    <div class="desk">
      <div class="main">
        <LevellingPanel v-if="comparison.levelling" class="levelling" :comparison="comparison" />
        <CurvePanel v-if="hasCurves" :comparison="comparison" />
        <ChoicesPanel v-if="comparison.levelled" :comparison="comparison" :answer="answerNow" />
      </div>
      <div class="side">
        <PullCard v-if="selection.pull.value" />
        <AnswerList :comparison="comparison" />
        <SplitPanel v-if="comparison.contributions.length" :comparison="comparison" :smallest="smallest" />
        <WitnessPanel v-if="comparison.levelled" :comparison="comparison" />
        <ClaimPanel />
        <EarlierAnswers v-if="view.bundle.programme.revalidates" />
        <CloudList :comparison="comparison" />
        <ReasoningPanel :comparison="comparison" />
      </div>
    </div>
  </div>
  <div v-else class="page">
    <EarlierAnswers v-if="view.bundle.programme.revalidates" />
    <h1 class="visually-hidden">Verdict</h1>
    <NextStep v-if="next" v-bind="next" />
    <template v-else>
      <h2>Nothing to compare yet.</h2>
      <p v-for="warning in view.findings.warnings" :key="warning">{{ warning }}</p>
    </template>
  </div>
</template>

<style scoped>
.top {
  display: grid;
  grid-template-columns: minmax(0, 1.25fr) minmax(27rem, 0.9fr);
  gap: 1.6rem;
  align-items: start;
}
.pair {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem 0.8rem;
}
.pair button {
  font: inherit;
  padding: 0.1rem 0.5rem;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: none;
  cursor: pointer;
}
.pair button[aria-pressed='true'] {
  border-color: var(--green);
  background: var(--green-soft);
}
h1 {
  font-size: 1.85rem;
  line-height: 1.2;
  margin: 0.3rem 0 0.35rem;
  text-wrap: balance;
}
@media (min-width: 600px) {
  h1 .whole {
    white-space: nowrap;
  }
}
.second {
  max-width: 52rem;
}
h1 .gain {
  color: var(--green);
}
h1 .loss {
  color: var(--brick);
}
.masked {
  max-width: 46rem;
  font-size: 1.05rem;
}
.earlier h1,
.earlier .second,
.earlier .masked,
.earlier .levelling,
.earlier .side,
.earlier .top :deep(.chart-frame svg) {
  opacity: 0.45;
}
.why {
  color: var(--muted);
  max-width: 52rem;
}
.tide {
  border-top: 1px solid var(--line);
  border-bottom: 1px solid var(--line);
  margin-top: 0.6rem;
  padding-top: 0.35rem;
}
.desk {
  display: grid;
  grid-template-columns: minmax(0, 1.3fr) minmax(21rem, 0.9fr);
  gap: 1.8rem;
  margin-top: 0.6rem;
}
.main,
.side {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 1rem;
  align-content: start;
  min-width: 0;
}
@media (max-width: 1000px) {
  .top,
  .desk {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
