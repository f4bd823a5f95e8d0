<script setup lang="ts">
import type { Claim } from '@gezeit/contract';
import { AIR_PER_POWER, assumptionsFor, budgetEvidence, claimInReach, fromSi, GezeitError, type BudgetSection } from '@gezeit/core';
import Button from 'primevue/button';
import { computed, shallowRef } from 'vue';
import { api, type ApiFailure } from '../../shared/api/client.js';
import FailureNote from '../../shared/ui/FailureNote.vue';
import Term from '../../shared/ui/Term.vue';
import { useShow } from '../../shared/units/use-show.js';
import { plain } from '../../shared/units/show.js';
import { useProgramme } from '../../model/programme-store.js';
import { useCurves } from '../../model/use-curves.js';
import { digitsFor } from '../../shared/units/figure-text.js';
import { SOURCE_WHY, SOURCE_WORDS } from './section-words.js';
import { useBench } from './use-bench.js';

/** The restriction budget: losses sorted, so that effort goes where the loss is; and what could be gained at most. */
const programme = useProgramme();
useCurves();
const bench = useBench();
const show = useShow();
const unit = computed(() => show.value.units.pressure);
const reference = computed(() => bench.budgets.value.reference);
const candidate = computed(() => bench.budgets.value.candidate);
/** All losses to the decimals that the total bears to three figures. */
const digits = computed(() => digitsFor(fromSi(Math.max(reference.value?.totalPa ?? 0, candidate.value?.totalPa ?? 0, 1), unit.value), 3));
const kPa = (pa: number | null | undefined) => (pa == null ? '–' : plain(fromSi(pa, unit.value), digits.value));
const hasCandidate = computed(() => (candidate.value?.sections.length ?? 0) > 0);
const rows = computed(() => {
  const ids = bench.columns.value.map(({ id }) => id);
  const find = (id: string, which: 'reference' | 'candidate') =>
    bench.budgets.value[which]?.sections.find(({ section }) => section.id === id) ?? null;
  return ids
    .map((id) => ({
      id,
      name: bench.columns.value.find((column) => column.id === id)!.name,
      a: find(id, 'reference'),
      b: find(id, 'candidate'),
    }))
    .sort((x, y) => rank(y.a ?? y.b) - rank(x.a ?? x.b));
});
const rank = (section: BudgetSection | null) =>
  (section?.afterCompressor ? -1 : 0) + (section?.dropPa ?? 0) / 1e9 - (section?.dropPa == null ? 2 : 0);
const most = computed(() => Math.max(1, ...rows.value.flatMap(({ a, b }) => [a?.highPa ?? a?.dropPa ?? 0, b?.highPa ?? b?.dropPa ?? 0])));
const style = (which: 'reference' | 'candidate') => programme.setupById.get(bench[which].value?.id ?? '');
const percent = (value: number | null) => (value === null ? '' : `${(100 * value).toFixed(0)} %`);

/** Power of the reference that a claim in kW is a share of: from its pulls, else what the air demand is usually worth. */
const powerKW = computed(() => {
  const curve = programme.curves?.setups.find(({ setup }) => setup === bench.reference.value?.id);
  if (curve) return Math.max(...curve.powerW) / 1000;
  if (!bench.conditions.value) return null;
  const crankKW = bench.conditions.value.massFlowKgS / AIR_PER_POWER.kgSPerW / 1000;
  return crankKW / assumptionsFor(programme.view!.bundle).wheelToCrank.mean;
});
const reach = (claim: Claim) => {
  try {
    const { candidate: part, perfect } = bench.atMost.value!;
    const isOther = claim.setup != null && claim.setup !== bench.candidate.value?.id;
    if (isOther) return { inReach: null, text: `This claim is about ${claim.setup}: choose it beside the reference.` };
    return part ? claimInReach(claim, powerKW.value, part, 'part') : claimInReach(claim, powerKW.value, perfect);
  } catch (error) {
    return { inReach: null, text: error instanceof GezeitError ? error.line : '' };
  }
};
/** A share of the power is told of the measured one: until that is there of none, nor where it could not be had. */
const withoutPower = computed(() => {
  if (programme.curves) return null;
  if (programme.curvesFailure) return 'The measured power could not be had: the claims are not held against this. Reload the page.';
  return programme.curvesPending ? 'The claims are held against this as soon as the measured power is there.' : null;
});
const claims = computed(() =>
  bench.atMost.value ? (programme.view!.bundle.programme.claims ?? []).map((claim) => ({ claim, ...reach(claim) })) : [],
);
async function keep(): Promise<void> {
  const budgets = [reference.value, hasCandidate.value ? candidate.value : null].filter((budget) => budget !== null);
  const at = { engineSpeedRpm: bench.budgetRpm.value, conditions: bench.conditions.value! };
  const evidence = budgetEvidence(budgets, bench.atMost.value, at, { id: `budget-${Date.now().toString(36)}`, note: '' });
  failure.value = await programme.change((id) => api.keepEvidence(id, evidence));
}
const failure = shallowRef<ApiFailure | null>(null);
const conditionsCharge = computed(() => bench.conditions.value?.charge != null);
const pct = (value: number) => `${Math.abs(value) < 0.005 ? '0' : value.toFixed(value < 1 ? 2 : 1)} %`;
</script>

<template>
  <section aria-label="Restriction budget">
    <h2>Restriction budget at {{ Math.round(bench.budgetRpm.value) }} rpm</h2>
    <p v-if="!bench.conditions.value" class="muted">
      The air demand is not known there.
      <button type="button" class="link" @click="bench.openInstrument('air-demand')">Say how much air the engine draws.</button>
    </p>
    <template v-else>
      <p v-if="reference?.worst" class="lead">
        Most is lost in the <b>{{ reference.worst.section.name }}</b> of {{ reference.setup }}: {{ kPa(reference.worst.dropPa) }} {{ unit
        }}<template v-if="reference.worst.share !== null">, {{ percent(reference.worst.share) }} of {{ kPa(reference.totalPa) }}</template>.
        <template v-if="candidate?.worst && candidate.worst.section.name !== reference.worst.section.name"
          >In {{ candidate.setup }} it is the {{ candidate.worst.section.name }}.</template
        >
      </p>
      <div class="scroll">
        <table class="dense">
          <thead>
            <tr>
              <th>Section</th>
              <th class="bars"><span class="visually-hidden">Loss drawn</span></th>
              <th class="number">Loss, {{ unit }}</th>
              <th>From</th>
              <th class="number"><Term what="Total of this setup if the section lost nothing.">If ideal</Term></th>
            </tr>
          </thead>
          <tbody>
            <template v-for="{ id, name, a, b } in rows" :key="id">
              <tr
                v-for="(entry, i) in [a, b].slice(0, hasCandidate ? 2 : 1)"
                :key="i"
                :class="{ second: i === 1, selected: bench.sectionId.value === id }"
              >
                <td v-if="i === 0" :rowspan="hasCandidate ? 2 : 1">
                  <button type="button" class="link name" @click="bench.openSection(id)">{{ name }}</button
                  ><br v-if="a?.afterCompressor" /><span v-if="a?.afterCompressor" class="muted small">behind the compressor</span>
                </td>
                <td class="bars">
                  <svg v-if="entry?.dropPa != null" width="72" height="14" aria-hidden="true">
                    <rect
                      x="0"
                      y="3"
                      :width="(entry.dropPa / most) * 70"
                      height="8"
                      :fill="style(i === 0 ? 'reference' : 'candidate')?.colour"
                      :opacity="entry.section.source === 'geometry' ? 0.45 : 1"
                    />
                    <line
                      v-if="entry.lowPa !== null && entry.highPa !== null"
                      :x1="(entry.lowPa / most) * 70"
                      :x2="(entry.highPa / most) * 70"
                      y1="7"
                      y2="7"
                      class="whisker"
                    />
                  </svg>
                </td>
                <td class="number">
                  <template v-if="entry"
                    ><b>{{ i === 0 ? bench.reference.value?.id : bench.candidate.value?.id }}</b> {{ kPa(entry.dropPa) }}
                    <span v-if="entry.lowPa !== null" class="range">({{ kPa(entry.lowPa) }} to {{ kPa(entry.highPa) }})</span></template
                  >
                  <span v-else class="muted">none</span>
                </td>
                <td class="source">
                  <template v-if="entry"
                    ><Term
                      :what="
                        entry.missing ??
                        (entry.beyond
                          ? `${SOURCE_WHY[entry.section.source]} Carried beyond 1.2 times the measured flow.`
                          : SOURCE_WHY[entry.section.source])
                      "
                      >{{ entry.missing ? 'missing' : SOURCE_WORDS[entry.section.source] }}</Term
                    ><span v-if="entry.beyond" class="beyond">, extrapolated</span></template
                  >
                </td>
                <td class="number">{{ entry?.totalIfIdealPa == null ? '' : kPa(entry.totalIfIdealPa) }}</td>
              </tr>
            </template>
          </tbody>
          <tfoot>
            <tr v-for="budget in [reference, hasCandidate ? candidate : null].filter((entry) => entry !== null)" :key="budget!.setup">
              <td colspan="2">
                <b>{{ budget!.setup }}, together</b>
              </td>
              <td class="number">
                <b v-if="budget!.incomplete.length">incomplete</b>
                <template v-else
                  ><b>{{ kPa(budget!.totalPa) }}</b>{{ ' '
                  }}<span v-if="budget!.lowPa !== null" class="range"
                    >({{ kPa(budget!.lowPa) }} to {{ kPa(budget!.highPa) }})</span
                  ></template
                >
              </td>
              <td v-if="budget!.incomplete.length" colspan="2" class="small">missing: {{ budget!.incomplete.join(', ') }}</td>
              <td v-else colspan="2" class="muted small">
                {{ budget!.chargeSidePa > 0 ? `and ${kPa(budget!.chargeSidePa)} behind the compressor` : '' }}
              </td>
            </tr>
          </tfoot>
        </table>
      </div>
      <div v-if="bench.atMost.value" class="most" role="note" aria-label="Gain at most">
        <p v-if="bench.atMost.value.candidate && Math.abs(bench.atMost.value.candidate.mostPct) < 0.005">
          {{ candidate?.setup }} takes no loss away before the {{ conditionsCharge ? 'compressor' : 'engine' }}.
        </p>
        <p v-else-if="bench.atMost.value.candidate">
          What {{ candidate?.setup }} takes away is worth about <b>{{ pct(bench.atMost.value.candidate.likelyPct) }}</b> of power, at most
          {{ pct(bench.atMost.value.candidate.mostPct) }}.
        </p>
        <p>
          With no loss at all: about {{ pct(bench.atMost.value.perfect.likelyPct) }}, at most
          <b>{{ pct(bench.atMost.value.perfect.mostPct) }}</b>.
        </p>
        <p class="muted small">{{ bench.atMost.value.rule }}</p>
        <p v-if="withoutPower && claims.length > 0" class="muted" :aria-busy="programme.curvesPending">{{ withoutPower }}</p>
        <template v-else>
          <p v-for="{ claim, inReach, text } in claims" :key="claim.id" :class="{ out: inReach === false }">
            <b>Claim “{{ claim.text }}”:</b> {{ text }}
          </p>
        </template>
      </div>
      <Button text size="small" icon="pi pi-bookmark" label="Keep the budget as evidence" :loading="programme.busy" @click="keep" />
      <FailureNote v-if="failure" :failure="failure" />
    </template>
  </section>
</template>

<style scoped>
.lead {
  font-size: 1.08rem;
  margin: 0.15rem 0 0.4rem;
}
.link {
  text-align: left;
  font: inherit;
  color: var(--green);
  background: none;
  border: 0;
  padding: 0;
  cursor: pointer;
  text-decoration: underline dotted;
}
.name {
  color: var(--ink);
}
.second td,
tr:has(+ .second) td {
  border-bottom-color: var(--line);
}
tr:has(+ .second) td:not([rowspan]) {
  border-bottom: 0;
}
.selected td {
  background: var(--green-soft);
}
.bars {
  width: 76px;
}
.whisker {
  stroke: var(--ink);
  stroke-width: 1.5;
}
.range,
.source {
  font-size: 13px;
  white-space: nowrap;
}
.beyond {
  color: var(--brick);
}
tfoot td {
  border-bottom: 0;
}
.most {
  border-top: 1px solid var(--line);
  margin-top: 0.4rem;
  padding-top: 0.4rem;
}
.out {
  color: var(--brick);
}
</style>
