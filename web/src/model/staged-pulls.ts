import {
  decidedOf,
  FIRST_SETUPS,
  recordingOfPull,
  stagedKey,
  type ReadPull,
  type Staged,
  type StagedDecisions,
  type StagedKind,
} from '@gezeit/contract';

/** One pull of dropped files as it is decided about. */
export interface StagedPull extends ReadPull {
  key: string;
  setup: string;
  kind: StagedKind;
  /** Seconds from the first pull; by order where nothing tells. */
  atS: number;
  timeKnown: boolean;
  peak: { powerW: number; rpm: number | null } | null;
  /** It is in the programme already: files can come to it, and nothing else of it is decided here. */
  stands: boolean;
}

/** Pulls that nothing tells the time of stand so far apart, s. */
const APART_S = 300;

/** The pulls that were found in dropped files, each with what is decided about it; none while they are being read. */
export function stagedPulls({ reading, hints, into, decisions }: Staged): StagedPull[] {
  if (!reading || !hints) return [];
  const known = reading.pulls.map(({ startedAt }) =>
    startedAt === null ? null : Date.parse(/(Z|[+-]\d\d:\d\d)$/.test(startedAt) ? startedAt : `${startedAt}Z`),
  );
  const first = known[0] ?? 0;
  const standing = new Map(into?.pulls.map((pull) => [pull.id, pull]));
  return reading.pulls.map((pull, i) => {
    const key = stagedKey(pull);
    const stands = standing.get(pull.id);
    const decided = stands ?? decidedOf(pull, decisions.pulls);
    const afterS = hints.afterS?.[key] ?? null;
    const ms = known[i] ?? null;
    return {
      ...pull,
      key,
      setup: decided?.setup ?? decisions.setups[0]!.id,
      kind: decided?.kind ?? 'measured',
      atS: ms !== null ? (ms - first) / 1000 : (afterS ?? i * APART_S),
      timeKnown: ms !== null || afterS !== null,
      peak: hints.peaks[key] ?? null,
      stands: stands !== undefined,
    };
  });
}

/** What a decision about the pulls of these keys is about: the sweeps of one recording are one drive, or none of them is. */
export function painted(pulls: readonly StagedPull[], keys: readonly string[], kind: StagedKind | undefined): StagedPull[] {
  const open = pulls.filter(({ stands }) => !stands);
  const asked = open.filter(({ key }) => keys.includes(key));
  if (kind === undefined) return asked;
  const whole = asked.filter((pull) => (kind === 'drive') !== (pull.kind === 'drive')).map(recordingOfPull);
  return open.filter(
    (pull) => asked.includes(pull) || (whole.includes(recordingOfPull(pull)) && (kind === 'drive' || pull.kind === 'drive')),
  );
}

/** A pause so much longer than the usual one is a swap. */
const SWAP_PAUSE = 1.8;

/** Setups proposed from the pauses: the first two in turn, block by block. */
function proposedSetups(pulls: readonly { atS: number; timeKnown: boolean }[], setups: readonly string[]): string[] {
  const gaps = pulls.slice(1).map(({ atS }, i) => atS - pulls[i]!.atS);
  const usual = [...gaps].sort((a, b) => a - b)[Math.floor((gaps.length - 1) / 2)] ?? 0;
  let block = 0;
  return pulls.map(({ timeKnown }, i) => {
    if (i > 0 && timeKnown && usual > 0 && gaps[i - 1]! > SWAP_PAUSE * usual) block += 1;
    return setups[block % Math.min(2, setups.length)]!;
  });
}

/** What is proposed about pulls that nobody has decided about, and by what. */
export interface Proposal extends Pick<StagedDecisions, 'setups' | 'pulls'> {
  by: 'names' | 'pauses';
}

/** By the names of the files, where they tell of setups and the programme is new; else by the pauses between the pulls. */
export function proposalOf({ hints, into, decisions }: Staged, fresh: readonly StagedPull[]): Proposal {
  const named = into === null ? hints?.named : null;
  if (!named) {
    const letters = proposedSetups(
      fresh,
      decisions.setups.map(({ id }) => id),
    );
    return { by: 'pauses', setups: decisions.setups, pulls: decided(fresh, (i) => ({ setup: letters[i]!, kind: 'measured' })) };
  }
  const setups = named.names.map((name, i) => {
    const said = decisions.setups[i];
    // A name that somebody has given stays.
    const isGiven = said !== undefined && said.name !== FIRST_SETUPS[i]?.name;
    return { id: String.fromCharCode(65 + i), name: (isGiven ? said.name : name) ?? FIRST_SETUPS[0]!.name };
  });
  setups.push(...decisions.setups.slice(Math.max(setups.length, FIRST_SETUPS.length)));
  const told = fresh.map(({ key }) => named.pulls[key]);
  /** Whoever warms up does it with what is driven next; what has no name is what was driven before. */
  const near = (i: number) => {
    const [behind, before] = [told.slice(i), told.slice(0, i).toReversed()];
    const [first, then] = told[i]?.isConditioning ? [behind, before] : [before, behind];
    return [...first, ...then].find((entry) => entry?.setup != null)?.setup ?? 0;
  };
  return {
    by: 'names',
    setups,
    pulls: decided(fresh, (i) => ({
      setup: setups[told[i]?.setup ?? near(i)]!.id,
      kind: told[i]?.isConditioning ? 'conditioning' : 'measured',
    })),
  };
}

const decided = (pulls: readonly StagedPull[], of: (i: number) => Proposal['pulls'][string]) =>
  Object.fromEntries(pulls.map(({ key }, i) => [key, of(i)]));
