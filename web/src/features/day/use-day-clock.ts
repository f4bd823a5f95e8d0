import { zoneOf } from '@gezeit/core';
import { computed } from 'vue';
import { useProgramme } from '../../model/programme-store.js';
import { useDay } from './day-store.js';

/** The day's clock in the cell's own time zone, and the name that a day gets. */
export function useDayClock() {
  const day = useDay();
  const programme = useProgramme();
  const zone = computed(() => zoneOf(programme.view!.bundle) ?? undefined);
  const format = computed(
    () => new Intl.DateTimeFormat('en-GB', { hour: 'numeric', minute: '2-digit', hourCycle: 'h23', timeZone: zone.value }),
  );

  /** The date in the cell's own zone, with a number where that day has been before. */
  function dayName(): string {
    const date = new Intl.DateTimeFormat('sv-SE', { timeZone: zone.value, dateStyle: 'short' }).format(day.nowMs);
    const known = new Set(programme.view!.bundle.pulls.map((pull) => pull.day ?? pull.startedAt.slice(0, 10)));
    let name = date;
    for (let i = 2; known.has(name); i++) name = `${date} (${i})`;
    return name;
  }

  return { text: (ms: number) => format.value.format(ms), dayName };
}

export type DayClock = ReturnType<typeof useDayClock>;
