import type { Programme } from '@gezeit/contract';
import { computed } from 'vue';
import { useProgramme } from '../../model/programme-store.js';

/** What the programme asks, and how it is changed; a field that was changed or confirmed is open no longer. */
export function useAsked() {
  const programme = useProgramme();
  const asked = computed(() => programme.view!.bundle.programme);
  const vehicle = computed(() => programme.view!.bundle.vehicle);
  const open = (field: string) => (asked.value.unanswered ?? []).includes(field);
  function set(what: string, change: Partial<Programme> | ((now: Programme) => Partial<Programme>), ...answered: string[]): void {
    void programme.edit('programme', what, (now) => ({
      ...now,
      ...(typeof change === 'function' ? change(now) : change),
      unanswered: (now.unanswered ?? []).filter((field) => !answered.includes(field)),
    }));
  }
  const confirm = (field: string) => set(`${field} confirmed`, {}, field);
  return { asked, vehicle, open, set, confirm };
}
