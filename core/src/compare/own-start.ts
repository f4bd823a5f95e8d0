import type { PlanGate, Setup } from '@gezeit/contract';
import { wordsOf } from '../channels/name-evidence.js';
import { shiftableGate } from '../channels/gate-quantity.js';
import { said, type AnySaid } from '../said.js';
import type { AnalysedPull } from './analysed-pull.js';
import { isOrderConfounded } from './order.js';
import { mean } from '../numeric/means.js';

/** When a difference in start temperature can be the part's own doing. */
export const OWN_START_RULES = { restShare: 0.2, restMin: 1, coolantK: 3 };

/** Words of places whose temperature a part of the intake can shift by itself. */
const SHIFTED_PLACES = new Set(['intake', 'inlet', 'charge', 'iat', 'airbox', 'core', 'snorkel', 'manifold', 'plenum', 'intercooler']);

/** Whether a gate in words holds a temperature that the part can shift; a gearbox is no airbox. */
export function holdsShiftable(gate: string): boolean {
  const words = wordsOf(gate);
  return words.some((word, i) => SHIFTED_PLACES.has(word) || (word === 'box' && words[i - 1] !== 'gear'));
}

/** Null where the part's own start can be judged from some pulls, else what was missing. */
export function ownStartMissing(
  pulls: readonly AnalysedPull[],
  reference: Setup,
  candidate: Setup,
  gates: readonly PlanGate[] = [],
): AnySaid | null {
  const own = (setup: Setup) => pulls.filter((entry) => entry.used && entry.pull.setup === setup.id);
  const [a, b] = [own(reference), own(candidate)];
  const missing = [...(a.length === 0 ? [reference.name] : []), ...(b.length === 0 ? [candidate.name] : [])];
  if (missing.length > 0) return said('no-used-pull', { setups: missing });
  const gate = [reference, candidate].map((setup) => String(setup.state['gate'] ?? '')).find(holdsShiftable);
  const held = gate ?? shiftableGate(gates)?.label;
  if (held) return said('shiftable-gate', { gate: held });
  const rests = (entries: AnalysedPull[]) => entries.map(({ place }) => place.restH).filter((rest) => rest !== null);
  const [referenceMin, candidateMin] = [mean(rests(a)) * 60, mean(rests(b)) * 60];
  const allowed = Math.max(OWN_START_RULES.restShare * Math.max(referenceMin, candidateMin), OWN_START_RULES.restMin);
  if (!(Math.abs(referenceMin - candidateMin) <= allowed))
    return said('rests-differ', { reference: reference.id, candidate: candidate.id, referenceMin, candidateMin });
  const coolant = (entries: AnalysedPull[]) => entries.map(({ start }) => start.coolantC);
  const [coolA, coolB] = [coolant(a), coolant(b)];
  if ([...coolA, ...coolB].some((value) => value === null)) return said('coolant-unknown', {});
  const apartK = Math.abs(mean(coolA as number[]) - mean(coolB as number[]));
  if (apartK > OWN_START_RULES.coolantK) return said('coolant-differs', { apartK });
  const hours = (entries: AnalysedPull[]) => entries.map(({ place }) => place.timeH);
  return isOrderConfounded(hours(a), hours(b)) ? said('setups-not-mixed', {}) : null;
}
