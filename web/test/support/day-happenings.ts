import type { DayHappening } from '@gezeit/contract';

/** A pull of A that starts by the key. */
export const pull = (id: string): DayHappening => ({
  kind: 'pull-started',
  pull: id,
  setup: 'A',
  mapVersion: 'map 4',
  pullKind: 'measured',
  place: null,
  stamp: { coolant: 88, oil: 95 },
  weather: null,
  start: { coolantC: 88, intakeAirC: 30, oilC: 95 },
  anyway: null,
  cause: 'key',
});
/** And ends. */
export const ended = (id: string): DayHappening => ({ kind: 'pull-ended', pull: id, aborted: false, cause: 'key' });
