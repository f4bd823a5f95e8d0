import type { DayMatch } from '@gezeit/contract';
import { bringTogether, CLOCK_RULES } from '../reading/clock-matching.js';

/** A file of one device: when its own clock says it was made (its end), and its length, s. */
export interface DeviceFile {
  file: string;
  madeAtMs: number;
  lengthS: number;
  /** Moments of the sweeps in it, s from its first sample; most files hold one. */
  sweepsAtS: readonly number[];
}

/** A pull as it was recorded. */
export interface DrivenMoment {
  id: string;
  startedMs: number;
}

/** Files of a device against the pulls of the day. */
export interface FileMatching {
  matches: DayMatch[];
  /** Device clock minus the day's clock, s; null where nothing was matched. */
  offsetS: number | null;
  /** Pulls that have no file although later ones have. */
  missing: string[];
  /** Why somebody must be asked; null where the matching is certain. */
  ask: string | null;
}

/** A clock that is off by less than this needs no comment, s; assumption. */
const SAME_CLOCK_S = 90;

interface Sweep {
  file: string;
  /** Its place among the sweeps of its file. */
  sweep: number;
  atS: number;
}

const sweepsOf = (files: readonly DeviceFile[], offsetS: number): Sweep[] =>
  files
    .flatMap(({ file, madeAtMs, lengthS, sweepsAtS }) =>
      sweepsAtS.map((at, sweep) => ({ file, sweep, atS: madeAtMs / 1000 - lengthS + at - offsetS })),
    )
    .sort((a, b) => a.atS - b.atS);

const inOrder = (pulls: readonly DrivenMoment[]) => [...pulls].sort((a, b) => a.startedMs - b.startedMs);

/** By order and gaps alone: the numbers in names count from anywhere. */
const together = (sweeps: readonly Sweep[], driven: readonly DrivenMoment[]) =>
  bringTogether(
    driven.map(({ startedMs }) => startedMs / 1000),
    sweeps.map(({ atS }) => atS),
    true,
    driven.map(() => sweeps.map(() => 0)),
  );

/**
 * Matches files to pulls by order and by the gaps between them, with one constant offset of the device's clock: the clock itself may be an
 * hour or a day wrong. What is not sure, and a count that does not match, is asked about, as it is where loose files are sorted.
 * @param final whether all files are there (a memory stick at the end of the day); else pulls behind the last file still wait for theirs.
 */
export function matchFiles(files: readonly DeviceFile[], pulls: readonly DrivenMoment[], final: boolean): FileMatching {
  const sweeps = sweepsOf(files, 0);
  const driven = inOrder(pulls);
  const without = files.filter(({ sweepsAtS }) => sweepsAtS.length === 0).map(({ file }): DayMatch => ({ file, pull: null }));
  if (sweeps.length === 0 || driven.length === 0)
    return {
      matches: [...without, ...sweeps.map(({ file, sweep }) => ({ file, sweep, pull: null }))],
      offsetS: null,
      missing: [],
      ask: sweeps.length > 0 ? 'The files hold pulls, but no pull is recorded today.' : null,
    };
  const { likely, offsetS, rival } = together(sweeps, driven);
  const taken = new Set<number>();
  const matches = sweeps.map(({ file, sweep }, i): DayMatch => {
    const { best, any } = likely[i]!;
    if (any < CLOCK_RULES.alone || taken.has(best)) return { file, sweep, pull: null };
    taken.add(best);
    return { file, sweep, pull: driven[best]!.id };
  });
  // Nobody looks at what is matched by itself: what might be one place further is asked about.
  const unsure = rival || likely.some(({ sure, any }) => any >= CLOCK_RULES.alone && sure < CLOCK_RULES.sureEnough);
  const lastMatched = driven.findLastIndex((_, i) => taken.has(i));
  const missing = driven.filter((_, i) => !taken.has(i) && (final || i < lastMatched)).map(({ id }) => id);
  return { matches: [...matches, ...without], offsetS, missing, ask: question(matches, offsetS, unsure, missing, driven.length) };
}

function question(
  matches: readonly DayMatch[],
  offsetS: number | null,
  unsure: boolean,
  missing: readonly string[],
  pulls: number,
): string | null {
  const extra = matches.filter(({ pull }) => pull === null).length;
  const isOff = offsetS !== null && Math.abs(offsetS) > SAME_CLOCK_S;
  if (unsure && isOff && extra === 0 && missing.length === 0)
    return matches.length === 1
      ? 'One file, and its clock is off: is it this pull?'
      : `${matches.length} files, and their clock is off: are they these pulls?`;
  if (unsure) return `${matches.length} pulls in the files, ${pulls} recorded: the gaps between them fit in more than one way.`;
  if (missing.length > 0 && extra > 0)
    return `${matches.length} pulls in the files, ${pulls} recorded: ${missing.join(', ')} without a file, ${extra} in files that nobody recorded.`;
  if (missing.length > 0)
    return `${matches.length} pulls in the files, ${pulls} recorded: by the gaps it is ${missing.join(', ')} that has no file.`;
  if (extra > 0) return `${extra === 1 ? 'One pull in the files was' : `${extra} pulls in the files were`} never recorded.`;
  return null;
}

/** A clock's error in words: "1 h 0 min behind, and the date is a day early". */
export function offsetText(offsetS: number): string {
  const size = Math.abs(offsetS);
  if (size < 2) return 'the clocks agree';
  const days = Math.round(size / 86_400);
  const rest = size - days * 86_400;
  const parts: string[] = [];
  if (days > 0) parts.push(`${days} ${days === 1 ? 'day' : 'days'}`);
  const [hours, minutes, seconds] = [
    Math.floor(Math.abs(rest) / 3600),
    Math.floor((Math.abs(rest) % 3600) / 60),
    Math.round(Math.abs(rest) % 60),
  ];
  const clock = [hours > 0 ? `${hours} h` : '', minutes > 0 ? `${minutes} min` : '', hours === 0 && seconds > 0 ? `${seconds} s` : '']
    .filter(Boolean)
    .join(' ');
  if (clock) parts.push(days > 0 ? `${rest < 0 ? 'less' : 'and'} ${clock}` : clock);
  return `its clock is ${parts.join(' ')} ${offsetS > 0 ? 'ahead' : 'behind'}`;
}

/** Files that came after a matching, against its offset: the pull of each sweep, or null where none lies there for sure. */
export function matchMore(
  files: readonly DeviceFile[],
  pulls: readonly DrivenMoment[],
  known: readonly DayMatch[],
  offsetS: number,
): DayMatch[] {
  const have = new Set(known.map(({ pull }) => pull));
  const free = inOrder(pulls.filter(({ id }) => !have.has(id)));
  const sweeps = sweepsOf(files, offsetS);
  const { likely } = together(sweeps, free);
  const without = files.filter(({ sweepsAtS }) => sweepsAtS.length === 0).map(({ file }): DayMatch => ({ file, pull: null }));
  return [
    ...sweeps.map(({ file, sweep }, i): DayMatch => ({
      file,
      sweep,
      pull: likely[i]!.sure >= CLOCK_RULES.sureEnough ? free[likely[i]!.best]!.id : null,
    })),
    ...without,
  ];
}
