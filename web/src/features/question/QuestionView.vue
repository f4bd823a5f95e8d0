<script setup lang="ts">
import type { Question } from '@gezeit/contract';
import { referenceFor, stateConfounds } from '@gezeit/core';
import { computed } from 'vue';
import SetupMark from '../../shared/ui/SetupMark.vue';
import Term from '../../shared/ui/Term.vue';
import { useShow } from '../../shared/units/use-show.js';
import { useProgramme } from '../programme/programme-store.js';
import { attributeRows } from './setup-rows.js';

/** What the programme asks, on which car and in which cell, and what the setups differ in. */
const programme = useProgramme();
const show = useShow();
const bundle = computed(() => programme.view!.bundle);
const asked = computed(() => bundle.value.programme);
const cells = computed(() => bundle.value.cells ?? (bundle.value.cell ? [bundle.value.cell] : []));
const pressure = (kPa: number) => `${show.value.pressure(kPa, 3)} ${show.value.units.pressure}`;
const rows = computed(() => attributeRows(bundle.value.setups, pressure));
const clouds = computed(() =>
  bundle.value.setups
    .filter(({ reference }) => !reference)
    .flatMap((candidate) => {
      const reference = referenceFor(bundle.value, candidate);
      return reference
        ? stateConfounds(reference, candidate).confounds.map((confound) => ({
            ...confound,
            candidate: candidate.id,
            reference: reference.id,
          }))
        : [];
    }),
);

const METRICS = {
  meanPower: 'mean power over the band',
  peakPower: 'peak power in the band',
  meanTorque: 'mean torque over the band',
  peakTorque: 'peak torque in the band',
};
const CORRECTIONS = {
  SAE_J1349: 'SAE J1349',
  STD_J607: 'STD (SAE J607)',
  DIN_70020: 'DIN 70020',
  ISO_1585: 'ISO 1585',
  NONE: 'none: uncorrected',
};
const KINDS: Record<Question['kind'], string> = {
  'power-gain': 'Is there a gain in power?',
  'power-no-loss': 'Does it lose nothing?',
  'package-gain': 'Does the package, part and tune together, gain?',
  'cooler-charge': 'Is the charge cooler?',
  'less-restriction': 'Is there less restriction?',
  'no-fault-codes': 'Are there no fault codes?',
  'meter-unchanged': 'Does the air meter read as before?',
  'mixture-within': 'Does the mixture stay within limits?',
  'coolant-no-hotter': 'Does the coolant get no hotter?',
  'not-louder': 'Is it no louder?',
};
const CONTROL = {
  absolute: 'holds an absolute pressure',
  gauge: 'holds a gauge pressure',
  mechanical: 'mechanical: pressure follows the engine',
  none: 'none',
};
const ASPIRATION = { na: 'naturally aspirated', turbo: 'turbo', supercharged: 'supercharged' };
const startText = ({ kind, start }: Question) => (!kind.startsWith('power') ? '–' : start === 'own' ? 'the part’s own' : 'the same');
const unitText = (unit: string | null | undefined) => ({ pct: '%', K: 'K', kPa: 'kPa', lambda: 'lambda', dB: 'dB' })[unit ?? 'pct'] ?? unit;

const car = computed(() => {
  const { vehicle } = bundle.value;
  return [
    ['Car', vehicle.name],
    ['Aspiration', ASPIRATION[vehicle.aspiration]],
    ['Displacement', vehicle.displacementL ? `${vehicle.displacementL} L, ${vehicle.cylinders ?? '?'} cylinders` : null],
    ['Boost control', vehicle.boostControl ? CONTROL[vehicle.boostControl] : null],
    ['Fuel', vehicle.fuel],
    ['Highest engine speed', vehicle.maxRpm ? `${vehicle.maxRpm} rpm` : null],
    [
      'Gearbox',
      vehicle.gearRatios
        ? `${vehicle.gearbox ?? ''} ${vehicle.gearRatios.join(' · ')}, final drive ${vehicle.finalDrive ?? 'not said'}`
        : null,
    ],
    ['Mass', vehicle.massKg ? `${vehicle.massKg} kg` : null],
  ].filter((entry): entry is [string, string] => Boolean(entry[1]));
});
</script>

<template>
  <div class="page">
    <header class="lead">
      <h1>{{ asked.question || 'No question is written down.' }}</h1>
      <p class="muted">
        Asked of the <b>{{ METRICS[asked.metric] }}</b>, {{ asked.bandRpm[0] }} to {{ asked.bandRpm[1] }} rpm. Less than
        <b>{{ asked.smallestGainPct }} %</b>{{ ' ' }}
        <Term what="Below this nobody would care: the verdict is measured against it, in both directions.">would not matter</Term>. Weather
        correction: <b>{{ CORRECTIONS[asked.correction] }}</b>.
      </p>
    </header>
    <div class="columns">
      <section>
        <h2>Questions, each with its own limit</h2>
        <table class="dense">
          <thead>
            <tr>
              <th>Question</th>
              <th class="number">Smallest that matters</th>
              <th>Start</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="question in asked.questions ?? []" :key="question.id">
              <td>
                {{ KINDS[question.kind] }} <span v-if="question.section" class="muted">({{ question.section }})</span>
              </td>
              <td class="number">{{ question.smallest ?? '–' }} {{ unitText(question.unit) }}</td>
              <td class="start">{{ startText(question) }}</td>
            </tr>
            <tr v-if="!asked.questions?.length">
              <td>{{ KINDS['power-gain'] }}</td>
              <td class="number">{{ asked.smallestGainPct }} %</td>
              <td class="start">the same</td>
            </tr>
          </tbody>
        </table>
        <template v-if="asked.claims?.length">
          <h2 class="next">Claims to be checked</h2>
          <ul class="claims">
            <li v-for="claim in asked.claims" :key="claim.id">
              <b>{{ claim.text }}</b>
              <span class="muted"
                >{{ claim.by }}<template v-if="claim.powerAt">, at the {{ claim.powerAt }}</template></span
              >
            </li>
          </ul>
        </template>
      </section>
      <section>
        <h2>Car</h2>
        <dl>
          <template v-for="[label, value] in car" :key="label"
            ><dt>{{ label }}</dt>
            <dd>{{ value }}</dd></template
          >
        </dl>
      </section>
      <section>
        <h2>{{ cells.length > 1 ? 'Cells' : 'Cell' }}</h2>
        <dl v-for="cell in cells" :key="cell.name">
          <dt>Name</dt>
          <dd>{{ cell.name }}</dd>
          <dt>Kind</dt>
          <dd>{{ cell.kind ?? 'not said' }}, power at the {{ cell.powerAt }}</dd>
          <dt><Term what="Standard deviation of one pull against the next with nothing changed.">Repeatability</Term></dt>
          <dd>{{ cell.repeatabilityPct ? `${cell.repeatabilityPct} %` : 'not known' }}</dd>
        </dl>
        <h2 class="next">What will cloud the verdict</h2>
        <ul v-if="clouds.length" class="claims">
          <li v-for="cloud in clouds" :key="cloud.candidate + cloud.code">
            <b>{{ cloud.candidate }} against {{ cloud.reference }}:</b> {{ cloud.detail }}.{{ ' ' }}
            <span v-if="cloud.withholds.length" class="withholds">No verdict on {{ cloud.withholds.join(' and ') }} can be given.</span>
            <span v-else class="muted">It is said beside the verdict.</span>
          </li>
        </ul>
        <p v-else class="muted">The setups differ in nothing but the part under test, as far as it is written down.</p>
      </section>
    </div>
    <section class="setups">
      <h2>Setups side by side</h2>
      <div class="scroll" tabindex="0" role="region" aria-label="Setups side by side">
        <table class="dense">
          <thead>
            <tr>
              <th>Attribute</th>
              <th v-for="{ setup, colour, dash } in programme.setups" :key="setup.id">
                <SetupMark :letter="setup.id" :colour="colour" :dash="dash" :name="setup.name" /><span v-if="setup.reference" class="tag"
                  >reference</span
                ><span v-if="setup.bound" class="tag">bound, never for sale</span>
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in rows" :key="row.label" :class="{ differs: row.differs }">
              <td class="label">
                {{ row.label }}<span v-if="row.differs" class="tag">differs</span
                ><span v-else-if="row.unknown" class="tag">not said for all</span>
              </td>
              <td v-for="(value, index) in row.values" :key="index" :class="{ muted: value === 'not said' }">{{ value }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
  </div>
</template>

<style scoped>
.lead {
  max-width: 62rem;
  margin-bottom: 1.1rem;
}
h1 {
  font-size: 1.55rem;
  line-height: 1.25;
  margin-bottom: 0.35rem;
}
.columns {
  display: grid;
  grid-template-columns: 1.25fr 1.1fr 0.9fr;
  gap: 2.2rem;
  padding: 0.9rem 0 1.2rem;
  border-top: 1px solid var(--line);
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 0.2rem 0.9rem;
  margin-top: 0.3rem;
}
dt {
  color: var(--muted);
}
.next {
  margin-top: 1.1rem;
}
.claims {
  padding-left: 1.1rem;
  margin-top: 0.3rem;
}
.setups {
  border-top: 1px solid var(--line);
  padding-top: 0.9rem;
}
.scroll {
  overflow-x: auto;
  margin-top: 0.4rem;
}
.label {
  color: var(--muted);
  white-space: nowrap;
}
.differs td {
  background: var(--green-soft);
  color: var(--ink);
}
.differs .label {
  font-weight: 600;
}
.tag {
  margin-left: 0.5rem;
  padding: 0 0.35rem;
  border: 1px solid currentColor;
  border-radius: 2px;
  font-size: 13px;
  font-weight: 500;
}
.start {
  white-space: nowrap;
}
.withholds {
  color: var(--brick);
  font-weight: 600;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: 1fr;
    gap: 1rem;
  }
}
</style>
