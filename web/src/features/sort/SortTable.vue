<script setup lang="ts">
import { HOW_WORDS } from '@gezeit/core';
import { STAGED_KINDS, STANDING_FOLDER, type Reading, type StagedKind } from '@gezeit/contract';
import { computed } from 'vue';
import { useShow } from '../../shared/units/use-show.js';
import type { StagedPull } from '../../model/staged-pulls.js';
import { clock } from './strip-geometry.js';
import { shortName, sweepOf, type Sweep } from './sweeps.js';

/** Every pull that was found: when, over which speeds, its peak, its files, and what it is. */
const props = defineProps<{
  pulls: readonly StagedPull[];
  reading: Reading;
  setups: readonly { id: string; name: string }[];
  selected: readonly string[];
  timeZone: string;
}>();
const emit = defineEmits<{
  select: [keys: string[]];
  paint: [keys: string[], change: { setup?: string; kind?: StagedKind }];
  ask: [event: Event, sweep: Sweep];
}>();
const show = useShow();

const KIND_WORDS: Record<StagedKind, string> = {
  measured: 'measured',
  conditioning: 'conditioning',
  aborted: 'aborted',
  drive: 'a drive, all of its file',
  'left-out': 'no pull: leave out',
};
const spanOf = computed(() => {
  const files = new Map(props.reading.files.map((file) => [file.file, file]));
  return (pull: StagedPull) => {
    for (const member of pull.members) {
      const sweep = files.get(member.file)?.sweeps.find(({ startS }) => member.startS !== null && Math.abs(startS - member.startS) < 0.01);
      if (sweep?.fromRpm != null) return sweep;
    }
    return null;
  };
});
const isGearKnown = computed(() => props.pulls.some((pull) => spanOf.value(pull)?.gear != null));
const startOf = (pull: StagedPull) =>
  pull.startedAt !== null
    ? clock(Date.parse(/(Z|[+-]\d\d:\d\d)$/.test(pull.startedAt) ? pull.startedAt : `${pull.startedAt}Z`), props.timeZone)
    : pull.timeKnown
      ? `+${Math.round(pull.atS / 60)} min`
      : '–';
function offsetWords(member: StagedPull['members'][number]): string {
  const within = member.withinS === null ? '' : `, ± ${(1000 * member.withinS).toFixed(0)} ms`;
  return `${HOW_WORDS[member.how]}${member.how === 'first' ? '' : within}`;
}
const isKnown = ({ file }: StagedPull['members'][number]) => file.startsWith(STANDING_FOLDER);
const isNew = (pull: StagedPull, member: StagedPull['members'][number]) => pull.stands && !isKnown(member);
const isUnsure = ({ how, withinS }: StagedPull['members'][number]) =>
  how === 'assumed' || how === 'order' || how === 'clock' || (withinS ?? 0) > 0.15;
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Pulls found in the files">
    <table class="dense figures">
      <thead>
        <tr>
          <th>Pull</th>
          <th>At</th>
          <th class="number">rpm</th>
          <th v-if="isGearKnown" class="number">Gear</th>
          <th class="number">Peak, {{ show.units.power }}</th>
          <th>Setup</th>
          <th>It is</th>
          <th>Files</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="pull in pulls"
          :key="pull.key"
          :data-row="pull.id"
          :class="{ selected: selected.includes(pull.key) }"
          @click="emit('select', [pull.key])"
        >
          <td>
            <b>{{ pull.id }}</b>
          </td>
          <td>{{ startOf(pull) }}</td>
          <td class="number">{{ spanOf(pull) ? `${spanOf(pull)!.fromRpm}–${spanOf(pull)!.toRpm}` : '–' }}</td>
          <td v-if="isGearKnown" class="number">{{ spanOf(pull)?.gear ?? '–' }}</td>
          <td class="number">{{ pull.peak ? show.power(pull.peak.powerW / 1000) : '–' }}</td>
          <td v-if="pull.stands">{{ pull.setup }}</td>
          <td v-else>
            <select
              :value="pull.setup"
              :aria-label="`Setup of ${pull.id}`"
              @change="emit('paint', [pull.key], { setup: ($event.target as HTMLSelectElement).value })"
            >
              <option v-for="setup in setups" :key="setup.id" :value="setup.id">{{ setup.id }}</option>
            </select>
          </td>
          <td v-if="pull.stands" class="muted">{{ KIND_WORDS[pull.kind] }}, in the programme</td>
          <td v-else>
            <select
              :value="pull.kind"
              :aria-label="`Kind of ${pull.id}`"
              @change="emit('paint', [pull.key], { kind: ($event.target as HTMLSelectElement).value as StagedKind })"
            >
              <option v-for="kind in STAGED_KINDS" :key="kind" :value="kind">{{ KIND_WORDS[kind] }}</option>
            </select>
          </td>
          <td class="files">
            <button
              v-for="member in pull.members"
              :key="`${member.file}${member.recording}${member.startS}`"
              type="button"
              :title="`${offsetWords(member)}; click to put it elsewhere`"
              :class="{ unsure: isUnsure(member), known: isKnown(member) }"
              :aria-label="`${shortName(member.file)} of ${pull.id}: put it elsewhere`"
              @click.stop="emit('ask', $event, sweepOf(member, reading.files))"
            >
              {{ isNew(pull, member) ? '+ ' : '' }}{{ shortName(member.file)
              }}<template v-if="isUnsure(member)"> ({{ offsetWords(member) }})</template>
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.selected {
  background: var(--green-soft);
}
tbody tr {
  cursor: pointer;
}
.files {
  font-size: 13px;
}
.files button {
  font: inherit;
  color: inherit;
  text-align: left;
  background: none;
  border: 0;
  border-bottom: 1px dotted var(--line);
  padding: 0;
  margin-right: 0.7rem;
  cursor: pointer;
}
.files button.known {
  color: var(--muted);
}
.files button:hover {
  border-bottom-color: var(--green);
}
.files button.unsure {
  color: var(--amber-ink, var(--amber));
}
/* What stands beyond the edge of a narrow window takes no height within it. */
@media (max-width: 900px) {
  .files {
    white-space: nowrap;
  }
}
select {
  font: inherit;
  background: var(--surface);
  color: var(--ink);
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 0.1rem 0.2rem;
}
</style>
