const TEMPERATURE_OVER_LAPSE_M = 288.15 / 0.0065;
const SEA_LEVEL_PRESSURE_PA = 101_325;
const SEA_LEVEL_DENSITY = 1.225;
const EXPONENT = 9.80665 / (287.05287 * 0.0065);

/** Pressure altitude, geopotential m, of a pressure in Pa (formula b7, ICAO troposphere). */
export function pressureAltitudeM(pressurePa: number): number {
  return TEMPERATURE_OVER_LAPSE_M * (1 - (pressurePa / SEA_LEVEL_PRESSURE_PA) ** (1 / EXPONENT));
}

/** Density altitude, geopotential m, of a moist density in kg/m³ (formula b7). A figure for talk, never a correction. */
export function densityAltitudeM(density: number): number {
  return TEMPERATURE_OVER_LAPSE_M * (1 - (density / SEA_LEVEL_DENSITY) ** (1 / (EXPONENT - 1)));
}
