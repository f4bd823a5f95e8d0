<script setup lang="ts">
import { METHOD_VERSION, type ClaimFinding, type FixedEntry, type SheetSource } from '@gezeit/contract';
import { isPowerWithheld, sheetOf, withWords, zoneOf } from '@gezeit/core';
import { computed } from 'vue';
import { CLAIM_STATES, claimMeasuredText } from '../../parts/claim-measured.js';
import { splitRows } from '../../parts/split-rows.js';
import IntervalScale from '../../shared/charts/IntervalScale.vue';
import { useShow } from '../../shared/units/use-show.js';
import SheetCurve from './SheetCurve.vue';
import SheetTide from './SheetTide.vue';

/** The validation sheet of one comparison, as it prints: from fixed findings, or marked as not fixed. */
const props = defineProps<{ source: SheetSource; candidate: string; fixed: FixedEntry | null }>();
const show = useShow();
const OWN_STATES = { beyond: 'Beyond the data', unchecked: 'Not checked' };

const findings = computed(() => withWords(props.source.findings, show.value.words));
const comparison = computed(() => findings.value.comparisons.find((entry) => entry.candidate === props.candidate)!);
const sheet = computed(() => sheetOf({ ...props.source, findings: findings.value }, comparison.value, show.value.words));
const difference = computed(
  () =>
    props.source.curves.differences.find(
      (entry) => entry.reference === comparison.value.reference && entry.candidate === comparison.value.candidate,
    ) ?? null,
);
const timeZone = computed(() => zoneOf(props.source.bundle));
const isWithheld = computed(() => isPowerWithheld(comparison.value));
/** What is withheld shows no figure that could be read as an answer. */
const measured = (finding: ClaimFinding) => (finding.state === 'withheld' ? '' : claimMeasuredText(finding, show.value));
const rows = computed(() => splitRows(comparison.value));
const smallest = computed(() => props.source.bundle.programme.smallestGainPct);
const day = (instant: string) =>
  new Intl.DateTimeFormat('en-GB', {
    day: 'numeric',
    month: 'long',
    year: 'numeric',
    hour: 'numeric',
    minute: '2-digit',
    timeZone: timeZone.value ?? undefined,
  }).format(new Date(instant));
const curvesAreThere = computed(() => props.source.curves.setups.length > 0);
const leads = computed(() => sheet.value.answers[0] ?? null);
const others = computed(() => sheet.value.answers.slice(1));
</script>

<template>
  <article class="paper figures" aria-label="Validation sheet">
    <header>
      <div>
        <p class="kind">Validation sheet</p>
        <h1>{{ sheet.title }}</h1>
      </div>
      <p class="state" :class="{ open: !fixed || fixed.changed.length > 0 }">
        <template v-if="fixed">
          Fixed {{ day(fixed.at) }} by {{ fixed.by }}: {{ fixed.why }}
          <b v-if="fixed.changed.length > 0"><br />Out of date: {{ fixed.changed.length }} of its inputs changed since.</b>
        </template>
        <b v-else>Not fixed: figures as they are now.</b>
      </p>
    </header>
    <p class="question">{{ sheet.question }}</p>
    <p class="pair">
      <b>{{ sheet.candidate.id }} {{ sheet.candidate.name }}</b> against <b>{{ sheet.reference.id }} {{ sheet.reference.name }}</b>
    </p>
    <section v-if="leads" class="lead">
      <p class="answer">{{ leads.sentence }}</p>
      <p v-for="text in leads.behind" :key="text">{{ text }}</p>
    </section>
    <section v-if="others.length > 0">
      <h2>Every other question</h2>
      <dl>
        <template v-for="entry in others" :key="entry.question">
          <dt>{{ entry.question }}</dt>
          <dd><b>{{ entry.word }}</b>. {{ entry.sentence }}</dd>
        </template>
      </dl>
    </section>
    <section v-if="curvesAreThere" class="whole">
      <h2>Over engine speed</h2>
      <p v-if="isWithheld" class="small">The verdict on power is withheld: this was measured all the same, and is no answer.</p>
      <SheetCurve
        :curves="source.curves"
        :difference="difference"
        :reference="comparison.reference"
        :candidate="comparison.candidate"
        :band-rpm="comparison.bandUsedRpm"
        :smallest-pct="smallest"
      />
    </section>
    <section>
      <h2>What was tested</h2>
      <dl>
        <template v-for="row in sheet.tested" :key="row.label + row.text">
          <dt>{{ row.label }}</dt>
          <dd>{{ row.text }}</dd>
        </template>
        <template v-for="entry in sheet.parts" :key="entry.setup.id">
          <dt>{{ entry.setup.id }} {{ entry.setup.name }}</dt>
          <dd>{{ entry.lines.length > 0 ? entry.lines.join('; ') : 'its parts are not named' }}</dd>
        </template>
        <dt>Order</dt>
        <dd>{{ sheet.order }} <span class="small">(small: conditioning; in brackets: left out)</span></dd>
        <template v-for="row in sheet.leftOut" :key="row.label">
          <dt>Pull {{ row.label }}</dt>
          <dd>{{ row.text }}</dd>
        </template>
      </dl>
      <SheetTide v-if="source.tide.pulls.length > 0" :tide="source.tide" :time-zone="timeZone" />
    </section>
    <section v-if="rows.length > 0" class="whole">
      <h2>What the difference is made of</h2>
      <p v-if="isWithheld" class="small">The verdict on power is withheld: no figure here may be claimed.</p>
      <IntervalScale :rows="rows" :smallest="smallest" unit="%" :width="700" :label-width="170" :text-width="170" />
    </section>
    <section>
      <h2>What may be said</h2>
      <ul v-if="sheet.mayBeSaid.length > 0">
        <li v-for="statement in sheet.mayBeSaid" :key="statement.full"><b>{{ statement.short }}.</b> {{ statement.full }}</li>
      </ul>
      <p v-else>Nothing: no question was answered in a way that may be said.</p>
    </section>
    <section v-if="sheet.atTheEngine">
      <h2>At the engine: an estimate, not measured</h2>
      <p>{{ sheet.atTheEngine }}</p>
    </section>
    <section v-if="sheet.ownWords.length > 0">
      <h2>In our own words</h2>
      <ul>
        <li v-for="entry in sheet.ownWords" :key="entry.claim">
          <b v-if="entry.state !== 'supported'" class="beyond">{{ OWN_STATES[entry.state] }}</b> “{{ entry.text }}” {{ entry.why }}
          <span v-if="entry.by" class="small">({{ entry.by }})</span>
        </li>
      </ul>
    </section>
    <section v-if="sheet.claims.length > 0">
      <h2>Claims from outside, beside the measurement</h2>
      <ul>
        <li v-for="{ text, by, finding } in sheet.claims" :key="finding.claim">
          “{{ text }}”<template v-if="by"> ({{ by }})</template>: <b>{{ CLAIM_STATES[finding.state] }}</b
          ><template v-if="measured(finding)">; measured {{ measured(finding) }}</template>. {{ finding.why }}
        </li>
      </ul>
    </section>
    <section>
      <h2>What may not be said</h2>
      <ul>
        <li v-for="text in sheet.mayNotBeSaid" :key="text">{{ text }}</li>
      </ul>
    </section>
    <section v-if="sheet.clouds.length > 0">
      <h2>What clouds it</h2>
      <ul>
        <li v-for="text in sheet.clouds" :key="text">{{ text }}</li>
      </ul>
    </section>
    <section v-if="sheet.limits.length > 0">
      <h2>Limits, what is open, and what was changed after the results</h2>
      <ul>
        <li v-for="text in sheet.limits" :key="text">{{ text }}</li>
      </ul>
    </section>
    <footer>
      <p class="sign">Signed<span /> Date<span /></p>
      <p class="small">
        Gezeit, method {{ METHOD_VERSION }}. Intervals are 95 %.
        <template v-if="fixed">Digest of the fixed finding (SHA-256): {{ fixed.digest }}</template>
        <template v-else>Not fixed: another look may give other figures.</template>
      </p>
    </footer>
  </article>
</template>

<style scoped src="./paper.css"></style>
<style scoped>
.paper {
  --ink: #111;
  --muted: #444;
  --line: #ccc;
  --neutral: #777;
  --ground: #fff;
  --surface: #fff;
  --green: #0d6b57;
  --green-soft: #e2e2e2;
  --neutral-soft: #e6e6e6;
  font-size: 14px;
  line-height: 1.4;
}
header {
  display: flex;
  justify-content: space-between;
  gap: 2rem;
  border-bottom: 2px solid #111;
}
header > * {
  min-width: 0;
}
.kind,
.small,
.state {
  font-size: 13px;
}
.state {
  max-width: 22rem;
  text-align: right;
  align-self: start;
  flex-shrink: 0;
}
.state.open {
  border: 2px solid #111;
  padding: 0.2rem 0.6rem;
  margin-bottom: 0.3rem;
}
h1 {
  font-size: 1.5rem;
  margin: 0 0 0.3rem;
}
h2 {
  font-size: 1rem;
  margin: 1rem 0 0.2rem;
}
.question {
  font-style: italic;
  margin: 0.5rem 0 0.2rem;
}
.answer {
  font-size: 1.2rem;
  font-weight: 650;
  margin: 0.4rem 0 0.2rem;
}
dl {
  display: grid;
  grid-template-columns: 10rem minmax(0, 1fr);
  gap: 0.1rem 1rem;
  margin: 0;
}
dt {
  font-weight: 600;
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
ul {
  margin: 0;
  padding-left: 1.1rem;
}
li,
dd,
.whole,
figure {
  break-inside: avoid;
}
p {
  margin: 0.15rem 0;
  orphans: 3;
  widows: 3;
}
.sign {
  display: flex;
  align-items: flex-end;
  gap: 0.6rem;
  margin: 2.2rem 0 0.6rem;
}
.sign span {
  flex: 1;
  border-bottom: 1px solid #111;
  margin-right: 1.4rem;
}
footer {
  break-inside: avoid;
}
.small {
  overflow-wrap: anywhere;
}
.paper :deep(.interval-scale) {
  max-width: 100%;
  height: auto;
  color: #111;
}
@media (max-width: 700px) {
  .paper {
    padding: 1rem;
  }
  header {
    flex-wrap: wrap;
  }
  dl {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
