import type { Bundle, Pull } from '@gezeit/contract';
import { byStart } from './sweep-assignment.js';

/** A pull's place in its day. */
export interface PlaceInDay {
  day: string;
  /** Hours since the first pull of the whole record. */
  timeH: number;
  /** Pulls of any kind before this one since the start of the day or a known reset. */
  pullsBefore: number;
  /** The same since the last swap. */
  pullsSinceSwap: number;
  /** Time since the last pull of any kind on that day, h; null for the day's first. */
  restH: number | null;
  swapBefore: boolean;
}

/** A gap longer than this starts a new day where the pulls do not name one, h. */
const NEW_DAY_GAP_H = 6;

/** Places of all pulls in their days, in order of time. */
export function dayOrder(pulls: Pull[]): Map<string, PlaceInDay> {
  const places = new Map<string, PlaceInDay>();
  const ordered = [...pulls].sort(byStart);
  const first = ordered[0];
  if (!first) return places;
  let last: { pull: Pull; place: PlaceInDay } | null = null;
  let dayNumber = 0;
  for (const pull of ordered) {
    const timeH = (Date.parse(pull.startedAt) - Date.parse(first.startedAt)) / 3_600_000;
    const gapH: number = last ? timeH - last.place.timeH : 0;
    const newDay: boolean = !last || (pull.day && last.pull.day ? pull.day !== last.pull.day : gapH > NEW_DAY_GAP_H);
    if (newDay) dayNumber += 1;
    const swapBefore: boolean = !newDay && last!.pull.setup !== pull.setup;
    const restart: boolean = newDay || pull.ecuReset === true;
    const place: PlaceInDay = {
      day: pull.day ?? `day ${dayNumber}`,
      timeH,
      pullsBefore: restart ? 0 : last!.place.pullsBefore + 1,
      pullsSinceSwap: restart || swapBefore ? 0 : last!.place.pullsSinceSwap + 1,
      restH: newDay ? null : gapH,
      swapBefore,
    };
    places.set(pull.id, place);
    last = { pull, place };
  }
  return places;
}

/** What is known of resets: none, one somewhere, or one after every swap of the record. */
export function knownResets({ pulls }: Bundle, places: ReadonlyMap<string, PlaceInDay>): 'none' | 'day' | 'swap' {
  if (!pulls.some(({ ecuReset }) => ecuReset)) return 'none';
  const swaps = pulls.filter(({ id }) => places.get(id)!.swapBefore);
  return swaps.length > 0 && swaps.every(({ ecuReset }) => ecuReset) ? 'swap' : 'day';
}
