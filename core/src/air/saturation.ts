import { impossible } from '../errors.js';

/** Celsius zero, K. */
export const CELSIUS_ZERO_K = 273.15;

/**
 * Saturation pressure of water vapour over liquid water, Pa, at a temperature in °C (formula b1, Hyland–Wexler,
 * ASHRAE Handbook Fundamentals). Used below 0 °C too: weather humidity is by convention over water.
 * @throws GezeitError `impossible-input` at or below 0 K.
 * @example saturationPressurePa(20) // 2338.8
 */
export function saturationPressurePa(temperatureC: number): number {
  const t = kelvin(temperatureC);
  return Math.exp(
    -5.8002206e3 / t + 1.3914993 - 4.8640239e-2 * t + 4.1764768e-5 * t ** 2 - 1.4452093e-8 * t ** 3 + 6.5459673 * Math.log(t),
  );
}

/**
 * Saturation pressure over ice, Pa, at −100…0 °C (formula b2, Hyland–Wexler). Only for frost points.
 * @throws GezeitError `impossible-input` at or below 0 K.
 */
export function saturationPressureOverIcePa(temperatureC: number): number {
  const t = kelvin(temperatureC);
  return Math.exp(
    -5.6745359e3 / t +
      6.3925247 -
      9.677843e-3 * t +
      6.2215701e-7 * t ** 2 +
      2.0747825e-9 * t ** 3 -
      9.484024e-13 * t ** 4 +
      4.1635019 * Math.log(t),
  );
}

/** Kelvin from °C. @throws GezeitError `impossible-input` at or below 0 K. */
export function kelvin(temperatureC: number): number {
  const t = temperatureC + CELSIUS_ZERO_K;
  if (!(t > 0)) throw impossible('temperature', 'must lie above absolute zero', temperatureC);
  return t;
}

const DEW_POINT_BRACKET_C = { low: -60, high: 180 };

/**
 * Dew point over water, °C, of a vapour pressure in Pa: the numeric inverse of b1 (formula b8).
 * Null where there is no vapour or the dew point lies outside −60…180 °C.
 */
export function dewPointC(vapourPressurePa: number): number | null {
  if (!(vapourPressurePa > 0)) return null;
  const target = Math.log(vapourPressurePa);
  let { low, high } = DEW_POINT_BRACKET_C;
  if (target < Math.log(saturationPressurePa(low)) || target > Math.log(saturationPressurePa(high))) return null;
  while (high - low > 1e-10) {
    const middle = (low + high) / 2;
    if (Math.log(saturationPressurePa(middle)) < target) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
