import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import type { UnitName } from '@gezeit/core';

/** What the switch offers, by kind of quantity; the first is used until something else is chosen. */
export const UNIT_CHOICES = {
  power: ['kW', 'hp', 'PS'],
  torque: ['N·m', 'lb·ft'],
  temperature: ['°C', '°F'],
  pressure: ['kPa', 'psi', 'bar', 'inH2O'],
} as const satisfies Record<string, readonly UnitName[]>;
export type UnitKind = keyof typeof UNIT_CHOICES;

export type ChosenUnits = { [K in UnitKind]: (typeof UNIT_CHOICES)[K][number] };

const KEY = 'gezeit.units';
const DEFAULTS: ChosenUnits = { power: 'kW', torque: 'N·m', temperature: '°C', pressure: 'kPa' };

/** What was chosen on this machine; where one of the choices is no longer offered, the usual units. */
function stored(): ChosenUnits {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? 'null') as Record<string, unknown>;
    const isOffered = ([kind, choices]: [string, readonly UnitName[]]) => choices.includes(kept[kind] as UnitName);
    if (!Object.entries(UNIT_CHOICES).every(isOffered)) return { ...DEFAULTS };
    const { power, torque, temperature, pressure } = kept as ChosenUnits;
    return { power, torque, temperature, pressure };
  } catch {
    return { ...DEFAULTS };
  }
}

/** The units in which everything is shown, everywhere at once; kept on this machine, and followed by its other tabs. */
export const useUnits = defineStore('units', () => {
  const chosen = ref<ChosenUnits>(stored());
  /** What is kept, as this page knows it: only what was chosen here is written. A page that wrote back what it has followed would undo, in the other, what came after. */
  let known = JSON.stringify(chosen.value);
  watch(
    chosen,
    (value) => {
      const text = JSON.stringify(value);
      if (text === known) return;
      known = text;
      localStorage.setItem(KEY, text);
    },
    { deep: true },
  );
  window.addEventListener('storage', (event) => {
    if (event.key !== KEY) return;
    const followed = stored();
    known = JSON.stringify(followed);
    chosen.value = followed;
  });
  const summary = computed(() => Object.values(chosen.value).join(' · '));
  return { chosen, summary };
});
