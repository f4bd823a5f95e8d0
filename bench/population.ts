import type { Aspiration, Setup } from '@gezeit/contract';
import {
  bundleOfDay,
  driveDay,
  dynoDevice,
  ecuDevice,
  Random,
  scheduleOf,
  truthOf,
  type DaySpec,
  type DrivenPull,
  type PartSet,
  type SimulatedBundle,
  type Truth,
  NATURAL_PICKUP,
  STOCK_NATURAL,
  STOCK_TURBO,
  TURBO_ESTATE,
} from '@gezeit/core/simulate';

/** Orders of the calibration population. */
export const ORDERS = ['AB', 'AABB', 'ABBA', 'AAABBB', 'ABBAAB', 'ABBABAAB', 'AABBCC', 'AABBCCAA', 'ABBCCA'];
export const EFFECTS = ['none', 'flow', 'heat'] as const;
export type EffectKind = (typeof EFFECTS)[number];

export interface CalibrationDay {
  seed: number;
  order: string;
  aspiration: Aspiration;
  effect: EffectKind;
  spec: DaySpec;
  driven: DrivenPull[];
  simulated: SimulatedBundle;
  truth: Truth;
}

const BANDS = { na: [4000, 6600], turbo: [4400, 6600], supercharged: [4400, 6600] } as const;

/** One day of the population, fully determined by its seed: nothing is chosen after the result is seen. */
export function calibrationDay(seed: number, effect: EffectKind): CalibrationDay {
  const random = new Random(seed * 7919 + 17);
  const aspiration: Aspiration = random.chance(0.5) ? 'turbo' : 'na';
  const order = random.pick(ORDERS);
  const stock = aspiration === 'turbo' ? STOCK_TURBO : STOCK_NATURAL;
  const setups: Record<string, PartSet> = { A: stock };
  for (const letter of [...new Set(order)].slice(1)) setups[letter] = changedPart(stock, effect, random);
  const resetAtSwap = random.chance(0.1);
  const resetAtStart = random.chance(0.35);
  const conditioning = random.chance(0.5);
  const schedule = scheduleOf(
    order,
    () => random.between(4, 6.5),
    () => random.between(10, 35),
    conditioning,
  );
  schedule[0]!.ecuReset = resetAtStart;
  schedule.forEach((pull, i) => {
    if (i > 0 && pull.setup !== schedule[i - 1]!.setup && resetAtSwap) pull.ecuReset = true;
  });
  return dayOf({
    seed,
    order,
    aspiration,
    effect,
    setups,
    schedule,
    scatter: {
      runToRun: Math.exp(random.between(Math.log(0.003), Math.log(0.009))),
      boostWander: 0.0025,
      driftPerHour: 0.008,
      walkAtSwap: 0.002,
      weatherPerHour: { temperatureK: 1.2, pressurePa: 60, humidity: 0.02 },
    },
    oilColdK: null,
    random,
  });
}

/** A day with its setups, schedule and scatter chosen: driven, logged, and with its truth. */
export function dayOf(chosen: {
  seed: number;
  order: string;
  aspiration: Aspiration;
  effect: EffectKind;
  setups: Record<string, PartSet>;
  schedule: DaySpec['schedule'];
  scatter: DaySpec['scatter'];
  /** null: drawn after the weather. */
  oilColdK: number | null;
  random: Random;
}): CalibrationDay {
  const { seed, order, aspiration, effect, setups, schedule, scatter, random } = chosen;
  const engine = aspiration === 'turbo' ? TURBO_ESTATE : NATURAL_PICKUP;
  const spec: DaySpec = {
    seed: seed * 31 + 5,
    engine,
    setups,
    schedule,
    scatter,
    weather: {
      temperatureC: random.between(12, 28),
      pressurePa: random.between(97_000, 101_500),
      relativeHumidity: random.between(0.3, 0.7),
    },
    oilColdK: chosen.oilColdK ?? random.between(0, 18),
  };
  const driven = driveDay(spec);
  const band = BANDS[aspiration];
  const letters = Object.keys(setups);
  const frame = {
    programme: {
      title: `day ${seed}`,
      question: '',
      metric: 'meanPower' as const,
      bandRpm: [...band] as [number, number],
      smallestGainPct: 1,
      correction: aspiration === 'na' ? ('SAE_J1349' as const) : ('NONE' as const),
    },
    vehicle: { name: 'calibration', aspiration, boostControl: engine.boostControl, ignition: 'spark' as const },
    cell: { name: 'calibration', powerAt: 'wheel' as const },
    setups: letters.map((id): Setup => ({ id, name: id, reference: id === 'A', parts: [id], state: {} })),
    startedAt: '2026-01-05T08:00:00Z',
  };
  // A reset is not written into the bundle: the judgement has to find out by itself, as it mostly must.
  const hidden = driven.map((pull) => ({ ...pull, ecuReset: false }));
  const devices = [
    { dialect: 'bracketed' as const, device: (i: number) => ecuDevice(100 * i, aspiration !== 'na') },
    { dialect: 'two-storey' as const, device: () => dynoDevice(0.37) },
  ];
  const simulated = bundleOfDay(frame, hidden, devices, seed);
  const truth = truthOf(spec, driven, ['A', letters[1]!], band, frame.programme.correction);
  return { seed, order, aspiration, effect, spec, driven, simulated, truth };
}

function changedPart(stock: PartSet, effect: EffectKind, random: Random): PartSet {
  if (effect === 'none') return stock;
  const wider = stock.inlet.map((section) => ({ ...section, areaM2: section.areaM2 * random.between(0.9, 1.5) }));
  const flow: PartSet = { ...stock, inlet: wider, tuning: { gain: random.between(-0.01, 0.035), rpm: 5400, widthRpm: 1500 } };
  if (effect === 'flow') return flow;
  const { cooler } = stock;
  return {
    ...flow,
    bayShare: stock.bayShare * random.between(0.1, 0.8),
    boxConductanceWPerK: stock.boxConductanceWPerK * random.between(0.4, 0.9),
    cooler: cooler && {
      ...cooler,
      heatCapacityJPerK: cooler.heatCapacityJPerK * random.between(1, 1.8),
      chargeShare: Math.min(0.9, cooler.chargeShare * random.between(1, 1.12)),
      areaM2: cooler.areaM2 * random.between(0.85, 1.3),
    },
  };
}
