import { studentQuantile } from '../numeric/distributions.js';

/** How a temperature falls back after a pull: its time constant, s, with a 95 % interval, and where it ends, K above ambient. */
export interface Recovery {
  tauS: number;
  lowS: number;
  highS: number;
  endAboveAmbientK: number;
}

/** What of a record tells a recovery: so long, so many readings, so large a fall, and time constants that are tried. Assumptions. */
const RECOVERY_RULES = { leastS: 60, leastReadings: 12, leastFallK: 2, tauS: [6, 4000] as const, steps: 120, widest: 4 };

/**
 * One exponential through the temperatures after a pull, by least squares over its end, its height and its time constant; the interval by the
 * profile of the residuals (Seber and Wild, *Nonlinear Regression*), with as many readings as are independent of their neighbours. Two masses
 * make it an approximation (formula i7): what they leave over widens it. Null where the record is too short to tell.
 * @param timeS since the end of the pull, ascending. @param aboveAmbientK at those times.
 */
export function recoveryOf(timeS: readonly number[], aboveAmbientK: readonly number[]): Recovery | null {
  const { leastS, leastReadings, leastFallK, tauS, steps, widest } = RECOVERY_RULES;
  const n = timeS.length;
  if (n < leastReadings || timeS[n - 1]! - timeS[0]! < leastS) return null;
  const through = (tau: number) =>
    straightThrough(
      timeS.map((at) => Math.exp(-at / tau)),
      aboveAmbientK,
    );
  const tried = Array.from({ length: steps + 1 }, (_, i) => tauS[0] * (tauS[1] / tauS[0]) ** (i / steps));
  const left = tried.map((tau) => through(tau).left);
  const at = left.reduce((best, value, i) => (value < left[best]! ? i : best), 0);
  if (at === 0 || at === steps) return null;
  const tau = lowest((value) => through(value).left, tried[at - 1]!, tried[at + 1]!);
  const best = through(tau);
  const fall = best.slope * (Math.exp(-timeS[0]! / tau) - Math.exp(-timeS[n - 1]! / tau));
  if (!(fall >= leastFallK)) return null;
  const residuals = timeS.map((time, i) => aboveAmbientK[i]! - best.intercept - best.slope * Math.exp(-time / tau));
  const free = independent(residuals) - 3;
  if (free < 1) return null;
  const allowed = best.left * (1 + studentQuantile(free) ** 2 / free);
  const outside = (way: -1 | 1) => {
    for (let i = at + way; i >= 0 && i <= steps; i += way) if (left[i]! > allowed) return tried[i]!;
    return null;
  };
  const [below, above] = [outside(-1), outside(1)];
  if (below === null || above === null) return null;
  const isWithin = (value: number) => through(value).left <= allowed;
  const [lowS, highS] = [border(isWithin, tau, below), border(isWithin, tau, above)];
  return highS > widest * lowS ? null : { tauS: tau, lowS, highS, endAboveAmbientK: best.intercept };
}

/** Place of the least value between two, by the golden section. */
function lowest(of: (value: number) => number, from: number, to: number): number {
  const golden = (Math.sqrt(5) - 1) / 2;
  let [low, high] = [from, to];
  for (let i = 0; i < 40; i += 1) {
    const [a, b] = [high - golden * (high - low), low + golden * (high - low)];
    if (of(a) < of(b)) high = b;
    else low = a;
  }
  return (low + high) / 2;
}

/** Where a test that holds at one place ceases to, on the way to one where it does not. */
function border(holds: (value: number) => boolean, inside: number, outside: number): number {
  let [good, bad] = [inside, outside];
  for (let i = 0; i < 30; i += 1) {
    const middle = (good + bad) / 2;
    if (holds(middle)) good = middle;
    else bad = middle;
  }
  return good;
}

function straightThrough(x: readonly number[], y: readonly number[]): { intercept: number; slope: number; left: number } {
  const n = x.length;
  const meanOf = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / n;
  const [mx, my] = [meanOf(x), meanOf(y)];
  const sxx = x.reduce((sum, value) => sum + (value - mx) ** 2, 0);
  const slope = x.reduce((sum, value, i) => sum + (value - mx) * (y[i]! - my), 0) / sxx;
  const intercept = my - slope * mx;
  return { intercept, slope, left: y.reduce((sum, value, i) => sum + (value - intercept - slope * x[i]!) ** 2, 0) };
}

/** How many of some residuals are independent, by how far each repeats the one before. */
function independent(residuals: readonly number[]): number {
  const own = residuals.reduce((sum, value) => sum + value ** 2, 0);
  const next = residuals.slice(1).reduce((sum, value, i) => sum + value * residuals[i]!, 0);
  const repeat = own > 0 ? Math.min(0.98, Math.max(0, next / own)) : 0;
  return Math.max(1, (residuals.length * (1 - repeat)) / (1 + repeat));
}
