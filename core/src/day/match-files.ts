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

export interface FileMatch {
  file: string;
  /** Null for a file that holds no pull of this day. */
  pull: string | null;
}

/** Files of a device against the pulls of the day. */
export interface FileMatching {
  matches: FileMatch[];
  /** Device clock minus the day's clock, s; null where nothing was matched. */
  offsetS: number | null;
  /** Pulls that have no file although later ones have. */
  missing: string[];
  /** Why somebody must be asked; null where the matching is certain. */
  ask: string | null;
}

/** How gaps between pulls are compared. Assumptions. */
const MATCH_RULES = {
  /** A file may be this far from its pull once the constant offset is taken out, s. */
  toleranceS: 25,
  /** A clock that is off by less than this needs no comment, s. */
  sameClockS: 90,
  /**
   * Another offset must explain this many files fewer to be no rival: of a clock that is right, of one that is wrong (evenly spaced pulls
   * fit nearly as well one place further), and of one that is wrong where the other would have it right.
   */
  rivalFewer: { right: 1, wrong: 2, wrongAgainstRight: 3 },
  /** A wrong clock is believed from so many files on, as long as more are to come. */
  wrongClockFiles: 4,
};

interface Sweep {
  file: string;
  atS: number;
}

/**
 * Matches files to pulls by order and by the gaps between them, with one constant offset of the device's clock: the clock itself may be an
 * hour or a day wrong. A count that does not match is never shifted over silently: it is asked about.
 * @param final whether all files are there (a memory stick at the end of the day); else pulls behind the last file still wait for theirs.
 */
export function matchFiles(files: readonly DeviceFile[], pulls: readonly DrivenMoment[], final: boolean): FileMatching {
  const sweeps = files
    .flatMap(({ file, madeAtMs, lengthS, sweepsAtS }): Sweep[] => {
      const beganS = madeAtMs / 1000 - lengthS;
      return (sweepsAtS.length > 0 ? sweepsAtS : []).map((at) => ({ file, atS: beganS + at }));
    })
    .sort((a, b) => a.atS - b.atS);
  const driven = [...pulls].sort((a, b) => a.startedMs - b.startedMs).map(({ id, startedMs }) => ({ id, atS: startedMs / 1000 }));
  const without = files.filter(({ sweepsAtS }) => sweepsAtS.length === 0).map(({ file }): FileMatch => ({ file, pull: null }));
  if (sweeps.length === 0 || driven.length === 0)
    return {
      matches: [...without, ...sweeps.map(({ file }) => ({ file, pull: null }))],
      offsetS: null,
      missing: [],
      ask: sweeps.length > 0 ? 'The files hold pulls, but no pull is recorded today.' : null,
    };
  const tried = candidates(sweeps, driven);
  const best = tried[0]!;
  const rival = tried.find((other) => rivals(best, other));
  const matches = sweeps.map(({ file }, i): FileMatch => ({ file, pull: best.pulls[i] ?? null }));
  const matched = new Set(matches.flatMap(({ pull }) => (pull === null ? [] : [pull])));
  const lastMatched = driven.findLastIndex(({ id }) => matched.has(id));
  const missing = driven.filter(({ id }, i) => !matched.has(id) && (final || i < lastMatched)).map(({ id }) => id);
  return {
    matches: [...matches, ...without],
    offsetS: best.offsetS,
    missing,
    ask: question(best, rival !== undefined, matches, missing, driven.length, final),
  };
}

const isRight = ({ offsetS }: Tried) => Math.abs(offsetS) <= MATCH_RULES.sameClockS;

function rivals(best: Tried, other: Tried): boolean {
  const { right, wrong, wrongAgainstRight } = MATCH_RULES.rivalFewer;
  const fewer = isRight(best) ? right : isRight(other) ? wrongAgainstRight : wrong;
  return Math.abs(other.offsetS - best.offsetS) > 2 * MATCH_RULES.toleranceS && other.count > best.count - fewer;
}

interface Tried {
  offsetS: number;
  count: number;
  spreadS: number;
  pulls: (string | null)[];
}

/** Every offset that puts one sweep on one pull, best first; refined to the median of what it matches. */
function candidates(sweeps: readonly Sweep[], driven: readonly { id: string; atS: number }[]): Tried[] {
  const offsets = sweeps.flatMap(({ atS }) => driven.map((pull) => atS - pull.atS));
  const tried = offsets.map((offset) => {
    const rough = pairUp(sweeps, driven, offset);
    return pairUp(sweeps, driven, rough.offsetS);
  });
  // Of offsets that explain as many files equally well, a clock that is nearly right is the likelier one.
  return tried.sort(
    (a, b) => b.count - a.count || Math.round(a.spreadS) - Math.round(b.spreadS) || Math.abs(a.offsetS) - Math.abs(b.offsetS),
  );
}

function pairUp(sweeps: readonly Sweep[], driven: readonly { id: string; atS: number }[], offsetS: number): Tried {
  const pulls: (string | null)[] = [];
  const differences: number[] = [];
  let next = 0;
  for (const { atS } of sweeps) {
    const at = atS - offsetS;
    while (next < driven.length && driven[next]!.atS < at - MATCH_RULES.toleranceS) next += 1;
    const pull = driven[next];
    if (pull && Math.abs(pull.atS - at) <= MATCH_RULES.toleranceS) {
      pulls.push(pull.id);
      differences.push(atS - pull.atS);
      next += 1;
    } else pulls.push(null);
  }
  const sorted = [...differences].sort((a, b) => a - b);
  const middle = sorted[sorted.length >> 1] ?? offsetS;
  const spreadS = differences.reduce((sum, difference) => sum + Math.abs(difference - middle), 0) / Math.max(1, differences.length);
  return { offsetS: middle, count: differences.length, spreadS, pulls };
}

function question(
  best: Tried,
  rival: boolean,
  matches: readonly FileMatch[],
  missing: readonly string[],
  pulls: number,
  final: boolean,
): string | null {
  const extra = matches.filter(({ pull }) => pull === null).length;
  if (rival) return `${matches.length} pulls in the files, ${pulls} recorded: the gaps between them fit in more than one way.`;
  if (missing.length > 0 && extra > 0)
    return `${matches.length} pulls in the files, ${pulls} recorded: ${missing.join(', ')} without a file, ${extra} in files that nobody recorded.`;
  if (missing.length > 0)
    return `${matches.length} pulls in the files, ${pulls} recorded: by the gaps it is ${missing.join(', ')} that has no file.`;
  if (extra > 0) return `${extra === 1 ? 'One pull in the files was' : `${extra} pulls in the files were`} never recorded.`;
  if (!final && best.count < MATCH_RULES.wrongClockFiles && Math.abs(best.offsetS) > MATCH_RULES.sameClockS)
    return best.count === 1
      ? 'One file, and its clock is off: is it this pull?'
      : `${best.count} files, and their clock is off: are they these pulls?`;
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

/** Files that came after a matching, against its offset: the pull of each, or null where none lies there. */
export function matchMore(
  files: readonly DeviceFile[],
  pulls: readonly DrivenMoment[],
  known: readonly FileMatch[],
  offsetS: number,
): FileMatch[] {
  const taken = new Set(known.map(({ pull }) => pull));
  const free = pulls.filter(({ id }) => !taken.has(id)).map(({ id, startedMs }) => ({ id, atS: startedMs / 1000 }));
  return files.flatMap(({ file, madeAtMs, lengthS, sweepsAtS }) => {
    const found = pairUp(
      sweepsAtS.map((at) => ({ file, atS: madeAtMs / 1000 - lengthS + at })),
      free,
      offsetS,
    );
    return found.pulls.length === 0 ? [{ file, pull: null }] : found.pulls.map((pull): FileMatch => ({ file, pull }));
  });
}
