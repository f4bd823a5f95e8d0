import type { Affected, Bundle, Setup } from '@gezeit/contract';
import { MATCHED_KEYS, STATE_RULES } from '../judge/confound-rules.js';
import { said } from '../said.js';
import type { Cloud } from './cloud.js';

/** What an earlier application called a state, in today's word. */
const OLD_STATE_WORDS: Record<string, string> = { 'first fit': 'fresh', 'first-fit': 'fresh', new: 'fresh', learned: 'settled' };

/** A state as it is compared: numbers and texts alike, in today's words; null where nobody says it. */
function stateOf({ state }: Setup, key: string): string | null {
  const value = state[key] ?? null;
  if (value === null || String(value).trim() === '') return null;
  const text = String(value).trim();
  return key === 'learned' ? (OLD_STATE_WORDS[text.toLowerCase()] ?? text) : text;
}

/** Whether both setups state a key, and alike. */
export function statedAlike(reference: Setup, candidate: Setup, key: string): boolean {
  const [a, b] = [stateOf(reference, key), stateOf(candidate, key)];
  return a !== null && a === b;
}

/** What the two setups' stated attributes differ in, and the keys that only one of them states. */
export function stateClouds(reference: Setup, candidate: Setup): { clouds: Cloud[]; unknown: string[] } {
  const clouds: Cloud[] = [];
  const unknown: string[] = [];
  for (const { code, keys, affects, withholds, what, ask } of STATE_RULES) {
    const changes: { from: string; to: string }[] = [];
    for (const key of keys) {
      const [from, to] = [stateOf(reference, key), stateOf(candidate, key)];
      if (from === null && to === null) continue;
      if (from === null || to === null) unknown.push(key);
      else if (from !== to) changes.push({ from, to });
    }
    if (changes.length > 0) clouds.push({ code, said: said('state-changed', { what, changes, ask: ask ?? null }), affects, withholds });
  }
  return { clouds: [...clouds, ...sensorClouds(reference, candidate), ...partClouds(reference, candidate)], unknown };
}

const TEMPERATURE_SENSOR = /temperature/i;

function sensorClouds(reference: Setup, candidate: Setup): Cloud[] {
  const quantities = movedSensors(reference, candidate);
  if (quantities.length === 0) return [];
  const affects: Affected[] = [];
  if (quantities.some((key) => TEMPERATURE_SENSOR.test(key))) affects.push('temperature');
  if (quantities.some((key) => !TEMPERATURE_SENSOR.test(key))) affects.push('restriction');
  return [{ code: 'sensor-moved', said: said('sensor-moved', { quantities }), affects, withholds: affects }];
}

/** Quantities whose sensor sits in another place in the two setups. */
export function movedSensors(reference: Setup, candidate: Setup): string[] {
  const [before, after] = [reference.sensorPlaces ?? {}, candidate.sensorPlaces ?? {}];
  return Object.keys(before).filter((key) => after[key] !== undefined && after[key] !== before[key]);
}

function partClouds(reference: Setup, candidate: Setup): Cloud[] {
  const removed = reference.parts.filter((part) => !candidate.parts.includes(part));
  const added = candidate.parts.filter((part) => !reference.parts.includes(part));
  if (removed.length <= 1 && added.length <= 1) return [];
  return [
    {
      code: 'several-parts-changed',
      said: said('several-parts', { removed, added }),
      affects: ['power', 'temperature', 'restriction'],
      withholds: [],
    },
  ];
}

/** The reference whose state equals a candidate's where both state it; else the first reference. */
export function referenceFor(bundle: Bundle, candidate: Setup): Setup | null {
  const references = bundle.setups.filter((setup) => setup.reference && setup.id !== candidate.id);
  const equal = references.find((reference) =>
    MATCHED_KEYS.every((key) => {
      const [a, b] = [stateOf(reference, key), stateOf(candidate, key)];
      return a === null || b === null || a === b;
    }),
  );
  return equal ?? references[0] ?? null;
}

/** Every candidate with its reference, then the pairs that the programme asks for; archived setups are left alone. */
export function comparedPairs(bundle: Bundle): [Setup, Setup][] {
  const candidates = bundle.setups.filter(({ reference, archived }) => !reference && !archived);
  const pairs: [Setup, Setup][] = candidates.flatMap((candidate) => {
    const reference = referenceFor(bundle, candidate);
    return reference ? [[reference, candidate]] : [];
  });
  const byId = new Map(bundle.setups.map((setup) => [setup.id, setup]));
  for (const [reference, candidate] of bundle.programme.comparisons ?? []) {
    if (!pairs.some(([a, b]) => a.id === reference && b.id === candidate)) pairs.push([byId.get(reference)!, byId.get(candidate)!]);
  }
  return pairs;
}
