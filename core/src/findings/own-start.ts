import type { PlanGate, Setup } from '@gezeit/contract';
import { shiftableGate } from '../day/gates.js';
import { mean } from '../judge/series.js';
import type { AnalysedPull } from './analysed-pull.js';
import { isOrderConfounded } from './confounds.js';

/** When a difference in start temperature can be the part's own doing. */
export const OWN_START_RULES = { restShare: 0.2, restMin: 1, coolantK: 3 };

const SHIFTABLE = /(intake|inlet|charge|iat|box|core)/i;

/** Null where the part's own start can be judged, else what was missing. */
export function ownStartMissing(pulls: AnalysedPull[], reference: Setup, candidate: Setup, gates: readonly PlanGate[] = []): string | null {
  const own = (setup: Setup) => pulls.filter((entry) => entry.used && entry.pull.setup === setup.id);
  const [a, b] = [own(reference), own(candidate)];
  if (a.length === 0 || b.length === 0) return 'One of the setups has no used pull.';
  const gate = [reference, candidate].map((setup) => String(setup.state.gate ?? '')).find((text) => SHIFTABLE.test(text));
  const held = gate ?? shiftableGate(gates)?.label;
  if (held) return `The gate "${held}" holds a temperature that the part can shift.`;
  const rests = (entries: AnalysedPull[]) => entries.map(({ place }) => place.restH).filter((rest) => rest !== null);
  const [restA, restB] = [mean(rests(a)) * 60, mean(rests(b)) * 60];
  const allowed = Math.max(OWN_START_RULES.restShare * Math.max(restA, restB), OWN_START_RULES.restMin);
  if (!(Math.abs(restA - restB) <= allowed)) {
    return `The rests before the pulls differ: ${restA.toFixed(1)} min with ${reference.id}, ${restB.toFixed(1)} min with ${candidate.id}.`;
  }
  const coolant = (entries: AnalysedPull[]) => entries.map(({ start }) => start.coolantC);
  const [coolA, coolB] = [coolant(a), coolant(b)];
  if ([...coolA, ...coolB].some((value) => value === null)) return 'Coolant at the start is not known for every pull.';
  const apart = Math.abs(mean(coolA as number[]) - mean(coolB as number[]));
  if (apart > OWN_START_RULES.coolantK) return `Coolant at the start differs by ${apart.toFixed(1)} K.`;
  const hours = (entries: AnalysedPull[]) => entries.map(({ place }) => place.timeH);
  if (isOrderConfounded(hours(a), hours(b))) return 'Every pull of one setup came before every pull of the other.';
  return null;
}
