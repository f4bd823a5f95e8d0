import type { Day, DayTemperatures, LiveHistory } from '@gezeit/contract';
import type { EntityManager } from 'typeorm';
import { changeBody } from '../store/parts.js';

/** One reading in so long is kept with the programme, ms. */
const STEP_MS = 20_000;

/** What the devices streamed of a day's temperatures, thinned; null where they streamed none. */
function temperaturesOf(course: LiveHistory): DayTemperatures | null {
  const [intakeAir, coolant, ambient] = [course['intakeAirTemperature'], course['coolantTemperature'], course['ambientTemperature']];
  const slots = new Set([intakeAir, coolant].flatMap((series) => (series?.atMs ?? []).map((at) => Math.floor(at / STEP_MS))));
  if (slots.size === 0) return null;
  const order = [...slots].sort((a, b) => a - b);
  const valuesOf = (series: LiveHistory[string] | undefined) => {
    const bySlot = new Map(series?.atMs.map((at, i) => [Math.floor(at / STEP_MS), series.value[i]!]));
    return order.map((slot) => bySlot.get(slot) ?? null);
  };
  return {
    atMs: order.map((slot) => slot * STEP_MS),
    intakeAirC: valuesOf(intakeAir),
    coolantC: valuesOf(coolant),
    ambientC: valuesOf(ambient),
  };
}

/** Keeps a day's temperatures with its programme, so that every tide shows them: the cell's own memory is lost with the day. */
export async function keepTemperatures(manager: EntityManager, programmeId: string, day: string, course: LiveHistory): Promise<void> {
  const temperatures = temperaturesOf(course);
  if (!temperatures) return;
  await changeBody(manager, programmeId, ({ rest }) => {
    const days = (rest['days'] ?? []) as Day[];
    const known = days.find((entry) => entry.day === day);
    rest['days'] = known
      ? days.map((entry) => (entry === known ? { ...entry, temperatures } : entry))
      : [...days, { day, odometerKm: null, temperatures }];
  });
}
