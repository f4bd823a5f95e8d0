/** This share of the steps of a curve may fall: a smoothed speed stands still for a row. */
const FALLING_SHARE = 0.02;

/** Whether a table's engine speed rises through it, or falls through it, with about one value a speed: a curve, no recording. */
export function isMonotonousCurve(speedRpm: Float64Array): boolean {
  const known = speedRpm.filter(Number.isFinite);
  if (known.length < 2) return false;
  let [rises, falls] = [0, 0];
  for (let i = 1; i < known.length; i += 1) {
    if (known[i]! > known[i - 1]!) rises += 1;
    else if (known[i]! < known[i - 1]!) falls += 1;
  }
  const steps = known.length - 1;
  return Math.min(rises, falls) <= FALLING_SHARE * steps && Math.max(rises, falls) >= 0.9 * steps;
}
