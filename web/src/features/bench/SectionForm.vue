<script setup lang="ts">
import type { PathSection, SectionGeometry, Setup } from '@gezeit/contract';
import {
  benchParts,
  checkInputs,
  GEOMETRY_FIELDS,
  instrumentById,
  lawOfGeometry,
  LOSS_ASSUMPTIONS,
  lossFromBench,
  sectionLoss,
  GezeitError,
} from '@gezeit/core';
import Checkbox from 'primevue/checkbox';
import { computed, ref } from 'vue';
import ChoiceInput from '../../shared/form/ChoiceInput.vue';
import FieldRow from '../../shared/form/FieldRow.vue';
import NumberInput from '../../shared/form/NumberInput.vue';
import TextEdit from '../../shared/form/TextEdit.vue';
import { useProgramme } from '../../model/programme-store.js';
import { useBenchInputs } from './bench-inputs-store.js';
import SectionFindings from './SectionFindings.vue';
import SectionPurposes from './SectionPurposes.vue';
import { EDGE_WORDS, GEOMETRY_WORDS, SOURCE_WHY, SOURCE_WORDS, type GeometryNumber } from './section-words.js';
import { usePathEdit } from './use-path-edit.js';

/** A section of one setup. */
const props = defineProps<{ setup: Setup; section: PathSection }>();
const programme = useProgramme();
const inputs = useBenchInputs();
const { patchSection } = usePathEdit();
const patch = (what: string, change: (now: PathSection) => Partial<PathSection>) =>
  void patchSection(props.setup.id, props.section.id, `${props.section.name}, ${what}`, change);

const numberFields = computed(() =>
  GEOMETRY_FIELDS[props.section.kind].filter((field): field is GeometryNumber => field in GEOMETRY_WORDS),
);
const has = (field: keyof SectionGeometry) => GEOMETRY_FIELDS[props.section.kind].includes(field);
const draft = ref<Record<string, number | null>>({});
const valueOf = (field: GeometryNumber) => {
  const value = props.section.geometry[field] as number | null | undefined;
  return value == null ? null : value * GEOMETRY_WORDS[field].factor;
};
const problemOf = (field: GeometryNumber) => {
  const value = draft.value[field];
  if (value == null) return null;
  if (field === 'lossCoefficient' ? value < 0 : !(value > 0)) return 'It must be above zero.';
  return field === 'areaCm2' && value > 0.5 ? 'No duct of a car is that large: check the unit.' : null;
};
/** What the estimate takes where nothing is said: visible, and replaced by what is typed. */
function placeholderOf(field: GeometryNumber): string {
  if (field === 'mediaResistancePaSM') return `${LOSS_ASSUMPTIONS.mediaResistancePaSM} assumed`;
  if (field === 'bendAngleDeg') return '90 assumed';
  if (field !== 'lossCoefficient') return 'not said';
  const law = lawOfGeometry(props.section.kind, { ...props.section.geometry, lossCoefficient: null });
  const area = props.section.geometry.areaCm2;
  return 'missing' in law || !area ? 'not said' : `${(2 * law.inertialPerM4 * (area * 1e-4) ** 2).toFixed(2)} estimated`;
}
function setGeometry(field: GeometryNumber, value: number | null): void {
  if (problemOf(field)) return;
  const own = value === null ? null : Number((value / GEOMETRY_WORDS[field].factor).toPrecision(8));
  patch(GEOMETRY_WORDS[field].label.toLowerCase(), (now) => ({ geometry: { ...now.geometry, [field]: own } }));
}

// Where the loss comes from.
const loss = computed(() => sectionLoss(props.section, props.setup.id, programme.view!.findings));
const missing = computed(() => ('missing' in loss.value ? loss.value.missing : null));
const sheet = computed(() => {
  const instrument = instrumentById('flow-bench')!;
  const { values, problems } = checkInputs(instrument.fields, inputs.of('flow-bench'));
  if (problems.length > 0) return [];
  try {
    return benchParts(values);
  } catch (error) {
    if (error instanceof GezeitError) return [];
    throw error;
  }
});
const sheetItems = computed(() => Object.fromEntries(sheet.value.map(({ item }) => [item, item])));
function takeOver(item: string): void {
  const part = sheet.value.find((entry) => entry.item === item);
  if (!part) return;
  const evidence = programme.view!.evidence.filter(({ instrument }) => instrument === 'flow-bench').at(-1)?.id ?? null;
  patch(`loss of ${item} from the flow bench`, () => ({ source: 'bench', bench: lossFromBench(part, evidence) }));
}
const loggedSections = computed(() =>
  programme.view!.findings.restriction.filter(({ setup }) => setup === props.setup.id).map(({ section }) => section),
);
const logged = computed(() => Object.fromEntries(loggedSections.value.map((section) => [section, section])));
const typedDrop = ref<number | null>(props.section.car?.dropKPa == null ? null : props.section.car.dropKPa * 1000);
const typedFlow = ref<number | null>(props.section.car?.atFlowKgS ?? null);
function setCar(): void {
  if (!(typedDrop.value! > 0) || !(typedFlow.value! > 0)) return;
  patch('drop in the car', (now) => ({
    source: 'car',
    car: { ...now.car, dropKPa: typedDrop.value! / 1000, atFlowKgS: typedFlow.value! },
  }));
}
</script>

<template>
  <div class="form">
    <FieldRow label="Name" why="As you call it; a logged section of this name is taken from the pulls.">
      <TextEdit
        :model-value="section.name"
        :label="`Name of the section in ${setup.id}`"
        @commit="$event && patch('name', () => ({ name: $event }))"
      />
    </FieldRow>
    <FieldRow v-for="field in numberFields" :key="field" :label="GEOMETRY_WORDS[field].label" :why="GEOMETRY_WORDS[field].why">
      <NumberInput
        :model-value="valueOf(field)"
        :unit="GEOMETRY_WORDS[field].unit"
        :label="`${GEOMETRY_WORDS[field].label} in ${setup.id}`"
        :problem="problemOf(field)"
        optional
        :placeholder="placeholderOf(field)"
        width="8rem"
        @update:model-value="draft[field] = $event"
        @commit="setGeometry(field, $event)"
      />
    </FieldRow>
    <FieldRow v-if="has('edge')" label="Edge" why="A sharp edge loses half of the dynamic pressure, a bell mouth a twentieth.">
      <ChoiceInput
        :model-value="section.geometry.edge"
        :choices="EDGE_WORDS"
        :label="`Edge in ${setup.id}`"
        placeholder="sharp"
        @update:model-value="patch('edge', (now) => ({ geometry: { ...now.geometry, edge: $event as SectionGeometry['edge'] } }))"
      />
    </FieldRow>
    <FieldRow v-if="has('corrugated')" label="Corrugated" why="A corrugated wall rubs some four times as much as a smooth one.">
      <Checkbox
        :model-value="section.geometry.corrugated ?? false"
        binary
        :aria-label="`Corrugated in ${setup.id}`"
        @update:model-value="patch('corrugated', (now) => ({ geometry: { ...now.geometry, corrugated: $event } }))"
      />
    </FieldRow>
    <FieldRow label="Loss from" :why="SOURCE_WHY[section.source]">
      <ChoiceInput
        :model-value="section.source"
        :choices="SOURCE_WORDS"
        :label="`Loss of ${section.name} in ${setup.id} comes from`"
        @update:model-value="patch('source of the loss', () => ({ source: $event as PathSection['source'] }))"
      />
      <span v-if="missing" class="missing">missing: {{ missing }}</span>
    </FieldRow>
    <template v-if="section.source === 'bench'">
      <FieldRow label="Take over" why="A part of the flow-bench sheet becomes the loss of this section, with its interval.">
        <ChoiceInput
          v-if="sheet.length"
          :model-value="null"
          :choices="sheetItems"
          :label="`Part of the sheet for ${section.name} in ${setup.id}`"
          placeholder="part of the sheet…"
          @update:model-value="takeOver"
        />
        <span v-else class="muted">The flow-bench sheet holds no part yet.</span>
      </FieldRow>
      <p v-if="section.bench" class="muted small">
        Effective area {{ section.bench.inertialPerM4 > 0 ? (1e4 / Math.sqrt(2 * section.bench.inertialPerM4)).toFixed(1) : '–' }} cm² at
        high flow{{ section.bench.halfWidthPct == null ? '' : `, drop ± ${section.bench.halfWidthPct.toFixed(1)} %`
        }}{{ section.bench.evidence ? `; evidence ${section.bench.evidence}` : '' }}.
      </p>
    </template>
    <template v-if="section.source === 'car'">
      <FieldRow v-if="loggedSections.length" label="Logged as" why="Pressure drop that the pulls logged under this name.">
        <ChoiceInput
          :model-value="section.car?.section ?? section.name"
          :choices="logged"
          :label="`Logged section of ${section.name} in ${setup.id}`"
          @update:model-value="patch('logged section', (now) => ({ car: { ...now.car, section: $event } }))"
        />
      </FieldRow>
      <template v-else>
        <FieldRow label="Drop" why="Read in a pull, at the air mass flow below.">
          <NumberInput v-model="typedDrop" unit="kPa" :label="`Drop in the car, ${setup.id}`" optional @commit="setCar" />
        </FieldRow>
        <FieldRow label="at" why="Air mass flow of that reading.">
          <NumberInput v-model="typedFlow" unit="g/s" :label="`Flow of that drop, ${setup.id}`" optional @commit="setCar" />
        </FieldRow>
      </template>
    </template>
    <SectionFindings :setup="setup" :section="section" />
    <SectionPurposes :setup="setup" :section="section" />
  </div>
</template>

<style scoped>
.form :deep(.field-row) {
  grid-template-columns: 7.5rem minmax(0, 1fr);
}
.form :deep(h3) {
  font-size: 0.95rem;
  margin: 0.6rem 0 0.2rem;
}
.missing {
  color: var(--brick);
  font-size: 13px;
}
</style>
