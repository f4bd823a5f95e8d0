<script setup lang="ts">
import { nextSteps, reasonOf, titleOf } from '@gezeit/core';
import { computed } from 'vue';
import { useShow } from '../../shared/units/use-show.js';
import { useDay } from './day-store.js';

/** The one thing to do now, why, and the three steps after it. */
const props = defineProps<{ planned: number; clock: (ms: number) => string }>();
const day = useDay();
const show = useShow();

const TONES: Record<string, string> = { stop: 'stop', wait: 'wait', settle: 'wait', check: 'wait', away: 'wait' };
const instruction = computed(() => day.instruction);
/** A pull without weather cannot be corrected: told before it is driven, where typing it is a matter of seconds. */
const lacksWeather = computed(() => day.lacksWeatherYet && ['pull', 'check', 'wait', 'swap'].includes(instruction.value.kind));
const tone = computed(() => TONES[instruction.value.kind] ?? (lacksWeather.value ? 'wait' : 'act'));
const title = computed(() => titleOf(instruction.value, day.state.running?.id ?? null));
const reason = computed(() => reasonOf(instruction.value, day.state, show.value.words, props.clock, day.secondMs, props.planned));
const then = computed(() => nextSteps(instruction.value, day.shown.remaining, day.shown.swapping?.to ?? day.shown.fitted, 3));
const setupOf = (id: string) => day.setupById.get(id);
</script>

<template>
  <section class="now" :class="tone" aria-label="What to do now">
    <div class="say">
      <p class="title" :data-instruction="instruction.kind" role="status">{{ title }}</p>
      <p class="reason">{{ reason }}</p>
      <p v-if="lacksWeather" class="weather" role="status">
        Weather is not known, and the correction needs it: <button type="button" @click="day.dialog = 'readings'">type it (t)</button>.
      </p>
    </div>
    <div class="then" aria-label="Then">
      <span class="muted">Then</span>
      <p v-for="(entry, i) in then" :key="i">
        <span class="step"> {{ entry.text }} <b :style="{ color: setupOf(entry.setup)?.colour }">{{ entry.setup }}</b> </span>
        {{ ' ' }}
        <span class="name" :title="setupOf(entry.setup)?.setup.name">
          {{ setupOf(entry.setup)?.setup.name }}
        </span>
      </p>
      <p v-if="then.length === 0" class="muted">{{ day.state.day ? 'nothing more is planned' : '' }}</p>
    </div>
  </section>
</template>

<style scoped>
.now {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(16rem, 25.5rem);
  gap: 1.4rem;
}
.title {
  font-size: 120px;
  /* Set high, so that the descenders of its words stand free of the line below. */
  line-height: 0.92;
  padding-bottom: 0.12em;
  font-weight: 750;
  letter-spacing: -0.02em;
  white-space: nowrap;
  color: var(--green);
  font-variant-numeric: tabular-nums;
}
.wait .title {
  color: var(--amber);
}
.stop .title {
  color: var(--brick);
}
.reason {
  font-size: 32px;
  line-height: 1.15;
}
.weather {
  font-size: 22px;
  color: var(--amber);
}
.weather button {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0;
  text-decoration: underline;
  cursor: pointer;
}
.then {
  border-left: 1px solid var(--line);
  padding-left: 1.2rem;
  font-size: 28px;
  line-height: 1.25;
}
.then .muted {
  font-size: 16px;
}
/* What to do and with which setup is read from afar; its name, which may be long, beside it on up to two lines. */
.then p {
  display: flex;
  align-items: center;
  gap: 0.4em;
}
.step {
  white-space: nowrap;
}
.name {
  font-size: 0.6em;
  line-height: 1.05;
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  overflow: hidden;
}
@media (max-width: 1000px) {
  .now {
    grid-template-columns: minmax(0, 1fr);
  }
  .title {
    font-size: clamp(56px, 13vw, 124px);
    white-space: normal;
  }
  .reason {
    font-size: clamp(20px, 3.4vw, 32px);
  }
}
@media (min-width: 1700px) {
  .now {
    grid-template-columns: minmax(0, 1fr) 40rem;
  }
  .title {
    font-size: 190px;
  }
  .reason {
    font-size: 44px;
  }
  .then {
    font-size: 40px;
  }
}
</style>
