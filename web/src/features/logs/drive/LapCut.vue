<script setup lang="ts">
import type { DriveFinding, LapLine, Laps } from '@gezeit/contract';
import { lineAcross } from '@gezeit/core';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref, watch } from 'vue';
import { useProgramme } from '../../../model/programme-store.js';
import NumberInput from '../../../shared/form/NumberInput.vue';
import type { DriveTrack } from './drive-map.js';

/** How a drive is cut into laps: by the logger's own counter, by a line across the track, or by times typed by hand. */
const props = defineProps<{ drive: DriveFinding; track: DriveTrack | null }>();
const programme = useProgramme();

const laps = computed<Laps>(() => programme.view!.bundle.programme.laps ?? {});
const CUT_WORDS = {
  channel: 'Cut where the logger’s lap counter counts on.',
  line: 'Cut where the line across the track is passed.',
  hand: 'Cut at the times typed by hand.',
};
const said = computed(() =>
  props.drive.cutBy === null
    ? 'Nothing tells where laps begin: put a line across the track, or type the times.'
    : props.drive.laps.length === 0
      ? `${CUT_WORDS[props.drive.cutBy]} That leaves no whole lap: it is passed less than twice.`
      : CUT_WORDS[props.drive.cutBy],
);

const change = (what: string, next: Laps) =>
  programme.edit('programme', what, (kept) => ({ ...kept, laps: next.line || Object.keys(next.atS ?? {}).length > 0 ? next : null }));

const lineAtS = ref<number | null>(null);
const refused = ref<string | null>(null);
/** The line goes across the way where the car was then. */
function putLine(index: number): void {
  const line: LapLine | null = lineAcross(props.track!.places, index);
  refused.value = line ? null : 'The car stood still there: choose a place where it moves.';
  if (line) void change('a line across the track cuts the laps', { ...laps.value, line });
}
function putLineAt(): void {
  if (lineAtS.value === null || !props.track) return;
  const at = props.drive.startS + lineAtS.value;
  const index = props.track.timeS.findIndex((time) => time >= at);
  if (index < 0) refused.value = `Type a time within the drive, 0 to ${Math.floor(props.drive.seconds)} s.`;
  else putLine(index);
}
const takeLine = () => change('the line across the track taken away', { ...laps.value, line: null });
defineExpose({ putLine });

const typed = ref('');
const own = computed(() => laps.value.atS?.[props.drive.pull] ?? []);
watch([own, () => props.drive.pull], () => (typed.value = own.value.join(', ')), { immediate: true });
const read = computed(() => {
  const parts = typed.value.split(/[;,\s]+/).filter((part) => part !== '');
  const times = parts.map(secondsOf);
  const wrong = parts.find((_, i) => times[i] === null || times[i]! > props.drive.seconds);
  if (wrong !== undefined)
    return {
      times: null,
      problem: `“${wrong}” is no time within the drive: type seconds or min:s, such as 12.5 or 1:23.4, up to ${Math.floor(props.drive.seconds)} s.`,
    };
  if (times.length === 1) return { times: null, problem: 'One time begins a lap, and none ends it: type at least two.' };
  return { times: (times as number[]).toSorted((a, b) => a - b), problem: null };
});
function secondsOf(text: string): number | null {
  const [, minutes, seconds] = /^(?:(\d+):)?(\d+(?:\.\d+)?)$/.exec(text) ?? [];
  return seconds === undefined ? null : 60 * Number(minutes ?? 0) + Number(seconds);
}
const isChanged = computed(() => read.value.times !== null && read.value.times.join() !== own.value.join());
function keepTimes(): void {
  if (!isChanged.value) return;
  const { [props.drive.pull]: _, ...others } = laps.value.atS ?? {};
  const times = read.value.times!;
  void change(`times of the laps of ${props.drive.pull}`, {
    ...laps.value,
    atS: times.length > 0 ? { ...others, [props.drive.pull]: times } : others,
  });
}
</script>

<template>
  <div class="cut small" role="group" aria-label="How laps are cut">
    <p role="status">{{ said }}</p>
    <form v-if="track" class="line" @submit.prevent="putLineAt">
      <label for="lap-line-at">Line across the track at</label>
      <NumberInput
        id="lap-line-at"
        v-model="lineAtS"
        unit="s"
        :least="0"
        label="Time of the drive at which the car is on the line"
        optional
      />
      <Button type="submit" size="small" outlined label="Put it there" :disabled="lineAtS === null" />
      <Button v-if="laps.line" type="button" size="small" text label="Take the line away" @click="takeLine" />
      <span class="muted">or click the map</span>
    </form>
    <p v-if="refused" class="problem" role="alert">{{ refused }}</p>
    <form class="line" @submit.prevent="keepTimes">
      <label for="lap-times">Laps by hand, at</label>
      <InputText
        id="lap-times"
        v-model="typed"
        size="small"
        class="times"
        autocomplete="off"
        placeholder="12.5, 1:23.4, 2:34.1"
        :invalid="read.problem !== null"
        aria-describedby="lap-times-said"
      />
      <Button type="submit" size="small" outlined label="Cut there" :disabled="!isChanged" />
      <span id="lap-times-said" :class="read.problem ? 'problem' : 'muted'">{{
        read.problem ?? 'since the first sample; empty: not by hand'
      }}</span>
    </form>
  </div>
</template>

<style scoped>
.cut p {
  margin: 0.2rem 0;
}
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.3rem 0.6rem;
  margin: 0.2rem 0;
}
.times {
  flex: 0 1 20rem;
  min-width: 0;
}
.problem {
  color: var(--brick);
}
</style>
