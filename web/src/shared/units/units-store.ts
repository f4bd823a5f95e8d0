import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import { z } from '@gezeit/contract';
import type { UnitName } from '@gezeit/core';

/** What the switch offers, by kind of quantity; the first is used until something else is chosen. */
export const UNIT_CHOICES = {
  power: ['kW', 'hp', 'PS'],
  torque: ['N·m', 'lb·ft'],
  temperature: ['°C', '°F'],
  pressure: ['kPa', 'psi', 'bar', 'inH2O'],
} as const satisfies Record<string, readonly UnitName[]>;
export type UnitKind = keyof typeof UNIT_CHOICES;

const storedSchema = z.object({
  power: z.enum(UNIT_CHOICES.power),
  torque: z.enum(UNIT_CHOICES.torque),
  temperature: z.enum(UNIT_CHOICES.temperature),
  pressure: z.enum(UNIT_CHOICES.pressure),
});
export type ChosenUnits = z.infer<typeof storedSchema>;

const KEY = 'gezeit.units';
const DEFAULTS: ChosenUnits = { power: 'kW', torque: 'N·m', temperature: '°C', pressure: 'kPa' };

function stored(): ChosenUnits {
  try {
    return storedSchema.parse(JSON.parse(localStorage.getItem(KEY) ?? 'null'));
  } catch {
    return { ...DEFAULTS };
  }
}

/** The units in which everything is shown, everywhere at once; kept on this machine, and followed by its other tabs. */
export const useUnits = defineStore('units', () => {
  const chosen = ref<ChosenUnits>(stored());
  watch(chosen, (value) => localStorage.setItem(KEY, JSON.stringify(value)), { deep: true });
  window.addEventListener('storage', (event) => {
    if (event.key === KEY) chosen.value = stored();
  });
  const summary = computed(() => Object.values(chosen.value).join(' · '));
  return { chosen, summary };
});
