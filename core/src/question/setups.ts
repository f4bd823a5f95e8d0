import type { Setup } from '@gezeit/contract';

/** First letter of the alphabet that no setup has; then AA, AB… */
export function nextSetupId(setups: readonly Pick<Setup, 'id'>[]): string {
  const taken = new Set(setups.map(({ id }) => id));
  for (let i = 0; ; i++) {
    const letter = String.fromCharCode(65 + (i % 26));
    const id = i < 26 ? letter : `${String.fromCharCode(64 + Math.floor(i / 26))}${letter}`;
    if (!taken.has(id)) return id;
  }
}

/** A copy of a setup under a new letter: no longer the reference, with a path of its own. */
export function duplicateSetup(setups: readonly Setup[], setup: Setup, name = `${setup.name}, copy`): Setup {
  return { ...structuredClone(setup), id: nextSetupId(setups), name, reference: false, archived: false };
}

/** Setups between a reference and a candidate of which several parts differ: each takes one of the candidate's parts. */
export function intermediateSetups(setups: readonly Setup[], reference: Setup, candidate: Setup): Setup[] {
  const removed = reference.parts.filter((part) => !candidate.parts.includes(part));
  const added = candidate.parts.filter((part) => !reference.parts.includes(part));
  if (added.length < 2) return [];
  return added.flatMap((part, i) => {
    const replaced = removed[i];
    const parts = replaced === undefined ? [...reference.parts, part] : reference.parts.map((own) => (own === replaced ? part : own));
    const same = (other: Setup) => other.parts.length === parts.length && parts.every((own) => other.parts.includes(own));
    if (setups.some((other) => !other.archived && same(other))) return [];
    const details = [...(reference.partDetails ?? []), ...(candidate.partDetails ?? [])].filter((detail) => parts.includes(detail.part));
    return [{ ...duplicateSetup(setups, reference, `${reference.name} with ${part}`), parts, partDetails: details }];
  });
}

/** State keys whose every value in use needs a reference of its own. */
const FACTOR_KEYS = ['bonnet', 'fan', 'learned'] as const;

/** References that are missing: one for each state of bonnet, fan and learned that a candidate is in and no reference is. */
export function missingReferences(setups: readonly Setup[]): Setup[] {
  const inUse = setups.filter(({ archived }) => !archived);
  const references = inUse.filter(({ reference }) => reference);
  const [first] = references;
  if (!first) return [];
  const missing: Setup[] = [];
  for (const candidate of inUse.filter(({ reference }) => !reference)) {
    const covered = [...references, ...missing].some((reference) =>
      FACTOR_KEYS.every(
        (key) =>
          (candidate.state[key] ?? null) === null || String(reference.state[key] ?? candidate.state[key]) === String(candidate.state[key]),
      ),
    );
    if (covered) continue;
    const state = { ...first.state };
    for (const key of FACTOR_KEYS) if (candidate.state[key] !== undefined) state[key] = candidate.state[key];
    const differing = FACTOR_KEYS.filter((key) => String(state[key]) !== String(first.state[key])).map((key) => `${key} ${state[key]}`);
    missing.push({ ...duplicateSetup([...setups, ...missing], first, `${first.name}, ${differing.join(', ')}`), state, reference: true });
  }
  return missing;
}

/** What running a bound asks for; shown wherever one is marked. */
export const BOUND_WARNINGS = [
  'Debris: nothing holds back what the engine draws in. Sweep the cell, fit a coarse screen, keep it short.',
  'Metering: without box or lid the air meter sees another flow and reads wrong.',
  'Lean mixture: watch lambda and knock, and stop at the limits set before the first pull.',
  'Never for sale: it only says how much there is to gain upstream of here.',
] as const;
