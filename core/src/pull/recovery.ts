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
  const tried = Array.from({ length: steps + 1 }, (_, i) => {
    const tau = tauS[0] * (tauS[1] / tauS[0]) ** (i / steps);
    return {
      tau,
      ...straightThrough(
        timeS.map((at) => Math.exp(-at / tau)),
        aboveAmbientK,
      ),
    };
  });
  const best = tried.reduce((a, b) => (b.left < a.left ? b : a));
  const fall = best.slope * (Math.exp(-timeS[0]! / best.tau) - Math.exp(-timeS[n - 1]! / best.tau));
  if (!(fall >= leastFallK)) return null;
  const residuals = timeS.map((at, i) => aboveAmbientK[i]! - best.intercept - best.slope * Math.exp(-at / best.tau));
  const free = independent(residuals) - 3;
  if (free < 1) return null;
  const allowed = best.left * (1 + studentQuantile(free) ** 2 / free);
  const within = tried.filter(({ left }) => left <= allowed).map(({ tau }) => tau);
  const [lowS, highS] = [Math.min(...within), Math.max(...within)];
  if (highS >= tauS[1] || lowS <= tauS[0] || highS > widest * lowS) return null;
  return { tauS: best.tau, lowS, highS, endAboveAmbientK: best.intercept };
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
