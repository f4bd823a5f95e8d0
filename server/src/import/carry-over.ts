import type { Bundle, LogReference, Pull } from '@gezeit/contract';
import type { AddedSince } from './added-files.js';

/** A bundle with the digest of each of its logs. */
export interface BundleAndLogs {
  bundle: Bundle;
  logs: ReadonlyMap<string, string>;
}

/** Which fields of a pull each correction has set. */
const AMENDED_FIELDS: Readonly<Record<string, keyof Pull>> = {
  weather: 'ambient',
  setup: 'setup',
  kind: 'kind',
  aborted: 'aborted',
  figures: 'typed',
};

/** A changed bundle with what was decided about the version before. */
export interface CarriedOver {
  bundle: Bundle;
  notes: string[];
  /** Files of the version before that are brought along. */
  files: string[];
}

/**
 * What was decided by hand about an earlier version, brought to a changed bundle where it still means the same: pulls left out or forced in,
 * corrections, logs aligned by hand, files that were added since, columns, assumptions. What the bundle says itself stands. What cannot be
 * carried over is told.
 */
export function carryOver(next: BundleAndLogs, earlier: BundleAndLogs, added: AddedSince): CarriedOver {
  const notes: string[] = [];
  const before = new Map(earlier.bundle.pulls.map((pull) => [pull.id, pull]));
  const setups = new Set(next.bundle.setups.map(({ id }) => id));
  const carried: string[] = [];
  const pulls = next.bundle.pulls.map((pull) => {
    const old = before.get(pull.id);
    if (!old || !decidedByHand(old, pull)) return pull;
    if (!sameLogs(pull, next.logs, old, earlier.logs) || (old.amended?.length && !setups.has(old.setup))) {
      notes.push(
        `What was decided by hand about ${pull.id} (${handWords(old)}) is not carried over: its logs or setups have changed. Decide again in Logs.`,
      );
      return pull;
    }
    carried.push(pull.id);
    return withDecisions(pull, old);
  });
  if (carried.length > 0) notes.unshift(`Carried over from the version before: what was decided by hand about ${carried.join(', ')}.`);
  const withFiles = withAdded({ ...next, bundle: { ...next.bundle, pulls } }, earlier, added, notes);
  return { ...withFiles, bundle: { ...withFiles.bundle, ...sharedDecisions(next.bundle, earlier.bundle, notes) }, notes };
}

/** Files that were added to pulls since the bundle had come, and the pulls that came with them. */
function withAdded(next: BundleAndLogs, earlier: BundleAndLogs, added: AddedSince, notes: string[]): Omit<CarriedOver, 'notes'> {
  const has = new Set(next.logs.values());
  const isAdded = ({ file }: LogReference) => added.digests.has(earlier.logs.get(file)!) && !has.has(earlier.logs.get(file)!);
  const files = new Set<string>();
  const lost = new Set<string>();
  const old = new Map(earlier.bundle.pulls.map((pull) => [pull.id, pull]));
  const bring = (logs: readonly LogReference[], can: boolean): LogReference[] =>
    logs.filter((log) => {
      const isBrought = can && !next.logs.has(log.file);
      (isBrought ? files : lost).add(log.file);
      return isBrought;
    });
  const pulls = next.bundle.pulls.map((pull): Pull => {
    const before = old.get(pull.id);
    const own = before?.logs.filter(isAdded) ?? [];
    if (!before || own.length === 0) return pull;
    // Their clocks are known against the pull's first log.
    const [first] = pull.logs;
    const isSame = first !== undefined && next.logs.get(first.file) === earlier.logs.get(before.logs[0]!.file);
    return { ...pull, logs: [...pull.logs, ...bring(own, isSame)] };
  });
  const known = new Set(pulls.map(({ id }) => id));
  const came = earlier.bundle.pulls.filter(
    ({ id, logs }) => added.pulls.has(id) && !known.has(id) && logs.length > 0 && logs.every(isAdded),
  );
  for (const pull of came) pulls.push({ ...pull, logs: bring(pull.logs, true) });
  const setups = new Set(next.bundle.setups.map(({ id }) => id));
  const more = earlier.bundle.setups.filter(({ id }) => !setups.has(id) && came.some(({ setup }) => setup === id));
  if (files.size > 0) notes.push(`Carried over from the version before, to which they had been added: ${[...files].join(', ')}.`);
  if (lost.size > 0)
    notes.push(`${[...lost].join(', ')}: was added to the version before and is not in this bundle. Drop it on the programme again.`);
  return { bundle: { ...next.bundle, setups: [...next.bundle.setups, ...more], pulls }, files: [...files] };
}

/** Whether a hand has decided something about a pull that the new bundle does not say. */
function decidedByHand(old: Pull, next: Pull): boolean {
  const left = old.excluded != null && next.excluded == null;
  const amended = (old.amended?.length ?? 0) > 0 && (next.amended?.length ?? 0) === 0;
  return left || amended || old.logs.some(({ how }) => how === 'hand');
}

function handWords({ excluded, amended, logs }: Pull): string {
  return [
    ...(excluded === false ? ['used in spite of the rules'] : excluded != null ? [`left out: ${excluded}`] : []),
    ...(amended ?? []).map(({ what }) => `${what} corrected`),
    ...(logs.some(({ how }) => how === 'hand') ? ['a log aligned by hand'] : []),
  ].join(', ');
}

const digestsOf = ({ logs }: Pull, digests: ReadonlyMap<string, string>) => logs.map(({ file }) => digests.get(file)!).sort();

function sameLogs(next: Pull, nextLogs: ReadonlyMap<string, string>, old: Pull, oldLogs: ReadonlyMap<string, string>): boolean {
  const [now, before] = [new Set(digestsOf(next, nextLogs)), digestsOf(old, oldLogs)];
  // A log more does not change what was seen in the others.
  return before.every((digest) => now.has(digest)) || digestsOf(next, nextLogs).every((digest) => before.includes(digest));
}

function withDecisions(next: Pull, old: Pull): Pull {
  const amended = next.amended?.length
    ? {}
    : Object.fromEntries((old.amended ?? []).map(({ what }) => [AMENDED_FIELDS[what], old[AMENDED_FIELDS[what]!]]));
  return {
    ...next,
    ...amended,
    ...(old.amended?.length && !next.amended?.length ? { amended: old.amended } : {}),
    ...(old.excluded != null && next.excluded == null ? { excluded: old.excluded } : {}),
    logs: next.logs.map((log): LogReference => {
      const moved = old.logs.find(({ file, how }) => file === log.file && how === 'hand');
      return moved && log.how !== 'hand' ? { ...log, offsetS: moved.offsetS, how: 'hand', withinS: null, asRead: moved.asRead } : log;
    }),
  };
}

/** Columns and assumptions that the new bundle says nothing of. */
function sharedDecisions(next: Bundle, old: Bundle, notes: string[]): Partial<Bundle> {
  const missing = Object.entries(old.channels ?? {}).filter(([key]) => !(key in (next.channels ?? {})));
  if (missing.length > 0)
    notes.push(`What was decided about columns of ${missing.map(([key]) => key.replace(/^file:/, '')).join(', ')} is carried over.`);
  const assumptions = next.assumptions == null && old.assumptions != null;
  if (assumptions) notes.push('The changed assumptions are carried over.');
  return {
    ...(missing.length > 0 ? { channels: { ...Object.fromEntries(missing), ...next.channels } } : {}),
    ...(assumptions ? { assumptions: old.assumptions } : {}),
  };
}
