import { impossible } from '../errors.js';

const ICAO_EXPONENT = 5.25588;
const ICAO_PRESSURE_PA = 101_325;
const ICAO_LAPSE_K_PER_M = 0.0065;
const ICAO_TEMPERATURE_K = 288.15;

/** Absolute pressure, Pa, from a gauge pressure and the barometer of the same place and moment, both Pa (formula a2). */
export function absolutePressurePa(gaugePa: number, barometerPa: number): number {
  return gaugePa + barometerPa;
}

/**
 * Station pressure, Pa, from the pressure reduced to sea level, Pa, and the elevation, m (formula a5, ICAO altimeter setting).
 * Holds in the troposphere, −2 to 11 km.
 * @throws GezeitError `impossible-input` outside it.
 */
export function stationPressurePa(seaLevelPressurePa: number, elevationM: number): number {
  if (!(elevationM >= -2000 && elevationM <= 11_000)) throw impossible('elevation', 'must lie between −2000 and 11000 m', elevationM);
  const reduced = (seaLevelPressurePa / ICAO_PRESSURE_PA) ** (1 / ICAO_EXPONENT) - (ICAO_LAPSE_K_PER_M * elevationM) / ICAO_TEMPERATURE_K;
  return ICAO_PRESSURE_PA * reduced ** ICAO_EXPONENT;
}
