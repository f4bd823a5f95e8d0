import type { Aspiration, BoostControl } from '@gezeit/contract';

/** A section of the inlet: its effective area, and the share of its loss at rated flow that is laminar (filters). */
export interface InletSection {
  name: string;
  areaM2: number;
  laminarShare: number;
  /** From this engine speed on it has another area: a flap, a second mouth. */
  opens?: { atRpm: number; areaM2: number };
}

/** A charge cooler as one mass between charge and cooling medium. */
export interface Cooler {
  heatCapacityJPerK: number;
  /** Charge-to-core effectiveness, 0…1. */
  chargeShare: number;
  /** Core to cold side, W/K, with the fan (or pump) as in use. */
  coldConductanceWPerK: number;
  areaM2: number;
  /** A coolant circuit with its own mass and radiator; null for air-to-air. */
  circuit: { heatCapacityJPerK: number; radiatorWPerK: number } | null;
}

/** Everything of the engine that does not change with the part under test. */
export interface Engine {
  aspiration: Aspiration;
  boostControl: BoostControl;
  displacementM3: number;
  compressionRatio: number;
  /** Volumetric efficiency against manifold density: best value, its speed, and how fast it falls off. */
  breathing: { best: number; rpm: number; widthRpm: number };
  /** Wanted manifold pressure, Pa absolute (turbo), and the speed at which the turbine can just make it. */
  boost: { targetPa: number; spoolRpm: number; compressorEfficiency: number; turbineEfficiency: number } | null;
  throttleAreaM2: number;
  exhaustAreaM2: number;
  lambda: number;
  /** Spark for best torque and the knock-limited spark at 45 °C charge and the engine's usual pressure, ° before top dead centre. */
  bestSparkDeg: number;
  knockSparkDeg: number;
  drivelineEfficiency: number;
  startRpm: number;
  stopRpm: number;
  /** Equivalent inertia at the engine's speed, kg m². */
  inertiaKgM2: number;
  /** Roller speed per engine speed, m/s per rpm. */
  rollerMPerSPerRpm: number;
  /** What holds a car back on the road; none on rollers. */
  roadLoad?: { dragAreaM2: number; rollingN: number };
}

/** What a setup consists of, as far as physics cares. */
export interface PartSet {
  inlet: InletSection[];
  /** Heat that the inlet air takes up from the box's walls, W/K, and the share of it drawn from the bay. */
  boxConductanceWPerK: number;
  bayShare: number;
  cooler: Cooler | null;
  /** Tract tuning: a bump in breathing; gain as a fraction. */
  tuning: { gain: number; rpm: number; widthRpm: number } | null;
  /** Tune: factor on the boost target, and spark offset, °. */
  tune: { boostFactor: number; sparkDeg: number };
}

export interface Weather {
  temperatureC: number;
  pressurePa: number;
  relativeHumidity: number;
}

/** Heat and what the engine control has learned; changes all day long. Temperatures °C. */
export interface CarState {
  bayC: number;
  boxC: number;
  coreC: number;
  circuitC: number;
  coolantC: number;
  oilC: number;
  /** Intake air sensor's own temperature, °C. */
  sensorC: number;
  /** Spark held back until the engine control has learned this car again, ° (0 when learned). */
  learnedRetardDeg: number;
}

/** A warm, settled car that stood a while. */
export function settledState(weather: Weather): CarState {
  const t = weather.temperatureC;
  return { bayC: t + 18, boxC: t + 9, coreC: t + 6, circuitC: t + 5, coolantC: 88, oilC: 88, sensorC: t + 10, learnedRetardDeg: 0 };
}
