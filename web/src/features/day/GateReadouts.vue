<script setup lang="ts">
import { gateTargetText, gateUnitText, gateValueText, roadSpeedText, trendText } from '@gezeit/core';
import type { GateStanding, GateView } from '@gezeit/core';
import { useShow } from '../../shared/units/use-show.js';

/** The gates as large read-outs: value, what is asked for, how fast it moves, and where it stands in words. */
defineProps<{ gates: readonly GateView[]; held: ReadonlySet<string> }>();
const show = useShow();
const WORDS: Record<GateStanding, string> = { met: 'met', waiting: 'not yet', passed: 'passed', unknown: 'no reading' };
const lineOf = (view: GateView) =>
  [
    gateTargetText(view.gate, show.value.words) + (view.gate.must ? '' : ', wished'),
    WORDS[view.standing],
    trendText(view, show.value.words),
    roadSpeedText(view),
    source(view),
  ]
    .filter(Boolean)
    .join(' · ');
const source = (view: GateView) => (view.source === 'typed' ? 'typed' : null);
</script>

<template>
  <ul class="gates" aria-label="Gates">
    <li
      v-for="view in gates"
      :key="view.gate.id"
      :class="[view.standing, { held: held.has(view.gate.id) && (view.gate.must || view.gate.id === 'rest') }]"
      :data-gate="view.gate.id"
    >
      <span class="label">{{ view.gate.label }}</span>
      <span class="value">{{ gateValueText(view, show.words) }}<span class="unit">{{ gateUnitText(view.gate, show.words) }}</span></span>
      <span class="how" :title="lineOf(view)">{{ lineOf(view) }}</span>
    </li>
  </ul>
</template>

<style scoped>
.gates {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(10.5rem, 1fr));
  gap: 0.4rem 1rem;
}
li {
  display: grid;
  border-top: 5px solid var(--line);
  padding-top: 0.2rem;
  line-height: 1.15;
  min-width: 0;
}
li.met {
  border-color: var(--green);
}
li.waiting.held,
li.passed.held,
li.unknown.held {
  border-color: var(--amber);
}
.label,
.how {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.label {
  font-size: 14px;
}
.value {
  font-size: 44px;
  font-weight: 700;
  font-variant-numeric: tabular-nums;
  line-height: 1;
}
.unit {
  font-size: 18px;
  font-weight: 500;
  margin-left: 0.25rem;
}
.how {
  color: var(--muted);
  font-size: 14px;
}
@media (max-width: 900px) {
  .gates {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
