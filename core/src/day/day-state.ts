import type { ChecklistName, DayEvent, DayHappening, PassedLimit, PlanPull, PullKind, Setup } from '@gezeit/contract';

/** A pull that is still to be driven, or was. Its place names it: planned ones count from 0, inserted ones go on behind the last. */
export interface DayStep {
  place: number;
  setup: string;
  kind: PullKind;
  restMin: number | null;
  inserted: boolean;
}

/** What happens on a day, by its kind. */
export type Happening<K extends DayHappening['kind']> = Extract<DayHappening, { kind: K }>;

/** A pull of the day, driven or under way. */
export interface DayPull {
  id: string;
  setup: string;
  kind: PullKind;
  place: number | null;
  startedMs: number;
  endedMs: number | null;
  aborted: boolean;
  begun: Happening<'pull-started'>;
  typed: Happening<'pull-amended'>['typed'] | null;
}

interface DayNote {
  event: string;
  atMs: number;
  by: string;
  text: string;
  files: string[];
  pull: string | null;
}

/** What the day says after a pull, per comparison. */
interface DaySaid {
  atMs: number;
  pull: string;
  comparisons: Happening<'said'>['comparisons'];
}

/** Where a day stands: computed from what happened, and from nothing else. */
export interface DayState {
  day: string | null;
  begunMs: number | null;
  endedMs: number | null;
  endReason: string | null;
  planned: PlanPull[];
  /** All steps in the order in which they are to be driven, with those that are done or skipped. */
  steps: DayStep[];
  skipped: Set<number>;
  /** Steps that are neither driven, under way nor skipped. */
  remaining: DayStep[];
  fitted: string | null;
  /** Setups that changes out of plan have made on this day. */
  made: Setup[];
  swapping: { to: string; sinceMs: number } | null;
  swaps: { to: string; atMs: number; ecuReset: boolean }[];
  pulls: DayPull[];
  running: DayPull | null;
  /** What was corrected of driven pulls with a reason. */
  amendments: { pull: string; what: string; why: string; by: string; atMs: number }[];
  stop: { criterion: string; text: string; passed: PassedLimit | null; atMs: number } | null;
  /** Off the rollers, for whichever other car; null while it stands on them. */
  away: { sinceMs: number; other: string | null } | null;
  absences: { fromMs: number; toMs: number | null }[];
  /** Items ticked, by list and what the list was for; an item may carry why it was left open. */
  checks: Map<string, Map<string, { done: boolean; reason: string | null }>>;
  typedReadings: Map<string, { value: number | null; atMs: number }>;
  weather: { value: Happening<'weather'>['weather']; atMs: number } | null;
  zeros: { atMs: number; channels: Record<string, number> }[];
  notes: DayNote[];
  said: DaySaid[];
  files: (Happening<'file-taken'> & { atMs: number })[];
  matches: Map<string, Happening<'files-matched'>>;
  /** What can be taken back, oldest first. */
  undoable: DayEvent[];
}

/** A file that is exported this long after its car has left the rollers is still its own, ms. Assumption. */
const EXPORT_TAKES_MS = 120_000;

/** Whether a file that was made at a moment is another car's: this one was off the rollers. */
export function wasAway({ absences }: Pick<DayState, 'absences'>, madeAtMs: number): boolean {
  return absences.some(({ fromMs, toMs }) => madeAtMs > fromMs + EXPORT_TAKES_MS && (toMs === null || madeAtMs < toMs));
}

/** The pull before a moment, of any kind; null for none. */
export function lastPull({ pulls }: Pick<DayState, 'pulls'>): DayPull | null {
  return pulls.at(-1) ?? null;
}

/** Names the ticks of a checklist and what it was for. */
export const checkKey = (list: ChecklistName, of: string) => `${list}/${of}`;
