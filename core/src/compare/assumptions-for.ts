import type { Bundle } from '@gezeit/contract';
import { putChanged } from '../judge/assumption-fields.js';
import { defaultAssumptions, noiseFromRepeatability, type Assumptions } from '../judge/assumptions.js';
import { dayOrder, knownResets } from '../pull/day-order.js';

const KNOWN_RESET_WEIGHT = 0.8;

/** The assumptions of a bundle: the usual ones, and what was changed of them by hand. */
export function assumptionsFor(bundle: Bundle): Assumptions {
  return putChanged(usualAssumptions(bundle), bundle.assumptions);
}

/** Defaults by engine, the cell's stated repeatability and drift, and what is known of resets. */
export function usualAssumptions(bundle: Bundle): Assumptions {
  const assumptions = defaultAssumptions(bundle.vehicle.aspiration);
  const cell = bundle.cell ?? bundle.cells?.[0];
  if (cell?.repeatabilityPct) assumptions.noise = noiseFromRepeatability(cell.repeatabilityPct / 100);
  if (cell?.driftPctPerHour) assumptions.driftPerHour = cell.driftPctPerHour / 100;
  const resets = knownResets(bundle, dayOrder(bundle.pulls));
  if (resets === 'none') return assumptions;
  const rest = 1 - assumptions.stories[resets].weight;
  for (const [name, story] of Object.entries(assumptions.stories)) {
    story.weight = name === resets ? KNOWN_RESET_WEIGHT : (story.weight / rest) * (1 - KNOWN_RESET_WEIGHT);
  }
  return assumptions;
}
