import type { Vehicle } from '@gezeit/contract';
import type { Cooler, Engine, PartSet } from './car.js';

/** A 1.5-litre turbo engine in an estate car. */
export const TURBO_ESTATE: Engine = {
  aspiration: 'turbo',
  boostControl: 'absolute',
  displacementM3: 1.5e-3,
  compressionRatio: 10.2,
  breathing: { best: 0.95, rpm: 4600, widthRpm: 6400 },
  boost: { targetPa: 205_000, spoolRpm: 2300, compressorEfficiency: 0.71, turbineEfficiency: 0.62 },
  throttleAreaM2: 2.6e-3,
  exhaustAreaM2: 3.4e-3,
  lambda: 0.87,
  bestSparkDeg: 24,
  knockSparkDeg: 15,
  drivelineEfficiency: 0.86,
  startRpm: 2000,
  stopRpm: 6750,
  inertiaKgM2: 4.6,
  rollerMPerSPerRpm: 0.0074,
};

/** A 2.2-litre naturally aspirated engine in a pick-up. */
export const NATURAL_PICKUP: Engine = {
  ...TURBO_ESTATE,
  aspiration: 'na',
  boostControl: 'none',
  displacementM3: 2.2e-3,
  compressionRatio: 11,
  breathing: { best: 0.97, rpm: 4800, widthRpm: 6200 },
  boost: null,
  throttleAreaM2: 2.2e-3,
  exhaustAreaM2: 3.2e-3,
  lambda: 0.88,
  bestSparkDeg: 27,
  knockSparkDeg: 22.5,
  inertiaKgM2: 4,
  startRpm: 2000,
  stopRpm: 6900,
};

export const AIR_COOLER: Cooler = { heatCapacityJPerK: 5200, chargeShare: 0.78, coldConductanceWPerK: 260, areaM2: 2.2e-3, circuit: null };

export const STOCK_TURBO: PartSet = {
  inlet: [
    { name: 'duct', areaM2: 2.4e-3, laminarShare: 0 },
    { name: 'filter', areaM2: 2.6e-3, laminarShare: 0.45 },
    { name: 'hose', areaM2: 2.7e-3, laminarShare: 0 },
  ],
  boxConductanceWPerK: 9,
  bayShare: 0.12,
  cooler: AIR_COOLER,
  tuning: null,
  tune: { boostFactor: 1, sparkDeg: 0 },
};

export const STOCK_NATURAL: PartSet = {
  ...STOCK_TURBO,
  inlet: [
    { name: 'duct', areaM2: 2.7e-3, laminarShare: 0 },
    { name: 'filter', areaM2: 3e-3, laminarShare: 0.45 },
  ],
  cooler: null,
  tuning: { gain: 0.012, rpm: 5200, widthRpm: 700 },
};

/** An engine of a car's kind and size: areas and inertia go with its displacement, the sweep ends below its redline. */
export function engineLike({
  aspiration,
  boostControl,
  displacementL,
  maxRpm,
}: Pick<Vehicle, 'aspiration' | 'boostControl' | 'displacementL' | 'maxRpm'>): Engine {
  const base = aspiration === 'na' ? NATURAL_PICKUP : TURBO_ESTATE;
  const displacementM3 = displacementL ? displacementL / 1000 : base.displacementM3;
  const scale = displacementM3 / base.displacementM3;
  const stopRpm = maxRpm ? 0.985 * maxRpm : base.stopRpm;
  return {
    ...base,
    aspiration,
    boostControl: boostControl ?? base.boostControl,
    displacementM3,
    throttleAreaM2: base.throttleAreaM2 * scale,
    exhaustAreaM2: base.exhaustAreaM2 * scale,
    inertiaKgM2: base.inertiaKgM2 * scale,
    breathing: {
      ...base.breathing,
      rpm: (base.breathing.rpm * stopRpm) / base.stopRpm,
      widthRpm: (base.breathing.widthRpm * stopRpm) / base.stopRpm,
    },
    stopRpm,
  };
}

/** Stock parts of a car's kind and size. */
export function stockLike({ aspiration, displacementL }: Pick<Vehicle, 'aspiration' | 'displacementL'>): PartSet {
  const [base, engine] = aspiration === 'na' ? [STOCK_NATURAL, NATURAL_PICKUP] : [STOCK_TURBO, TURBO_ESTATE];
  const scale = displacementL ? displacementL / 1000 / engine.displacementM3 : 1;
  const cooler = base.cooler && {
    ...base.cooler,
    areaM2: base.cooler.areaM2 * scale,
    heatCapacityJPerK: base.cooler.heatCapacityJPerK * scale,
    coldConductanceWPerK: base.cooler.coldConductanceWPerK * scale,
  };
  return { ...base, cooler, inlet: base.inlet.map((section) => ({ ...section, areaM2: section.areaM2 * scale })) };
}
