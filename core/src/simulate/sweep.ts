import { DRY_AIR_GAS_CONSTANT, DRY_AIR_SPECIFIC_HEAT, vapourPressurePa } from '../air/moist-air.js';
import { CELSIUS_ZERO_K } from '../air/saturation.js';
import { knockLimitDeg, sparkEfficiency } from './combustion.js';
import type { CarState, Engine, PartSet, Weather } from './car.js';

/** What differs between two pulls of one setup: nature's own scatter. */
export interface PullChance {
  /** Factor on what reaches the roller (tyre, straps, roller), and on the boost target. */
  powerFactor: number;
  boostFactor: number;
  mishap: Mishap | null;
}

export type Mishap = { kind: 'slip' | 'late-lift' | 'spike' | 'throttle-closed' | 'soft'; atRpm: number };

/** Charge temperature and manifold pressure imposed from another sweep, by engine speed: for truth at the same air. */
export interface ImposedAir {
  chargeC(rpm: number): number;
  manifoldPa: ((rpm: number) => number) | null;
  /** Spark of the setup itself, which stays its own. */
  sparkDeg(rpm: number): number;
}

/** One instant of a sweep. */
export interface Instant {
  timeS: number;
  engineSpeedRpm: number;
  rollerSpeedMPerS: number;
  wheelPowerW: number;
  throttlePct: number;
  pedalPct: number;
  manifoldPa: number;
  chargeC: number;
  sensorC: number;
  inletC: number;
  compressorOutC: number;
  coreC: number;
  circuitC: number;
  airFlowKgS: number;
  /** Pressure drop of each inlet section, Pa, in order, and of the cooler. */
  sectionDropsPa: number[];
  coolerDropPa: number;
  sparkDeg: number;
  knockRetardDeg: number;
  lambda: number;
  injectorS: number;
  coolantC: number;
  oilC: number;
}

export const STEP_S = 0.02;
const KAPPA = (1.4 - 1) / 1.4;
const HEAT_PER_AIR = 43e6 / 14.6;
const LOSS_TO_WALLS = 0.68;
const SETTLE_S = 2.5;
const COAST_S = 2;
const CHARGE_WALL_SHARE = 0.22;
const INJECTOR_FLOW_KG_S = 0.0075;
const INJECTOR_DEAD_S = 0.0009;
const MOST_SECONDS = 40;

/** The state at the end of a sweep, and its course: a settled run-up, the sweep, the coast-down. */
export interface SweepResult {
  instants: Instant[];
  /** Time of full throttle and of lift in the record, s. */
  fullThrottleS: number;
  liftS: number;
  state: CarState;
}

/** Drives one full-throttle sweep; the given state is not changed. */
export function driveSweep(
  engine: Engine,
  parts: PartSet,
  weather: Weather,
  from: CarState,
  chance: PullChance,
  imposed?: ImposedAir,
  settleS = SETTLE_S,
): SweepResult {
  const sweep = new Sweep(engine, parts, weather, from, chance, imposed);
  return sweep.run(settleS);
}

class Sweep {
  readonly #state: CarState;
  readonly #instants: Instant[] = [];
  readonly #oxygenShare: number;
  #rpm: number;
  #manifoldPa: number;
  #airFlow = 0.02;
  #knockRetardDeg = 0;
  #lifted = false;

  constructor(
    readonly engine: Engine,
    readonly parts: PartSet,
    readonly weather: Weather,
    from: CarState,
    readonly chance: PullChance,
    readonly imposed: ImposedAir | undefined,
  ) {
    this.#state = { ...from };
    this.#rpm = engine.startRpm;
    this.#manifoldPa = 0.75 * weather.pressurePa;
    this.#oxygenShare = 1 - vapourPressurePa(weather.relativeHumidity, weather.temperatureC) / weather.pressurePa;
  }

  run(settleS: number): SweepResult {
    for (let t = 0; t < settleS - 1e-9; t += STEP_S) this.#step(t, false);
    let t = settleS;
    const lateLift = this.chance.mishap?.kind === 'late-lift' ? this.chance.mishap.atRpm : Infinity;
    while (this.#rpm < Math.min(this.engine.stopRpm, lateLift) && t < MOST_SECONDS) {
      this.#step(t, true);
      t += STEP_S;
    }
    const liftS = t;
    this.#lifted = true;
    for (; t < liftS + COAST_S; t += STEP_S) this.#step(t, false);
    return { instants: this.#instants, fullThrottleS: settleS, liftS, state: this.#state };
  }

  #step(timeS: number, open: boolean): void {
    const { engine, parts, weather } = this;
    const state = this.#state;
    const throttlePct = open ? this.#throttlePct() : this.#lifted ? 2 : 18;
    const flow = Math.max(0.004, this.#airFlow);
    const drops = parts.inlet.map((section) => sectionDrop(opened(section, this.#rpm), flow, weather));
    const inletPa = weather.pressurePa - drops.reduce((sum, drop) => sum + drop, 0);
    const inletC = this.#inletC(flow);
    const { compressorOutC, chargeC: coolerOutC, coolerDropPa } = this.#charge(flow, inletPa, inletC);
    const chargeC = this.imposed && open ? this.imposed.chargeC(this.#rpm) : coolerOutC;
    this.#moveManifold(open, throttlePct, flow, inletPa, chargeC, coolerDropPa);
    const airFlow = this.#breathe(chargeC, inletPa, flow);
    this.#airFlow = airFlow;
    const spark = this.#spark(open, chargeC);
    const brakeW = open
      ? this.#brakePower(airFlow, spark, inletPa, inletC, compressorOutC)
      : this.#lifted
        ? -0.06 * engine.displacementM3 * 1e6 * (this.#rpm / 6000) * 60
        : 0;
    const wheelW = open ? brakeW * engine.drivelineEfficiency * this.chance.powerFactor : brakeW;
    const sensorC = this.#sensor(chargeC, flow);
    this.#instants.push({
      timeS,
      engineSpeedRpm: this.#rpm,
      rollerSpeedMPerS: this.#rpm * engine.rollerMPerSPerRpm * (1 - this.#slip()),
      wheelPowerW: wheelW,
      throttlePct,
      pedalPct: open ? 100 : this.#lifted ? 0 : 12,
      manifoldPa: this.#manifoldPa,
      chargeC,
      sensorC,
      inletC,
      compressorOutC,
      coreC: state.coreC,
      circuitC: state.circuitC,
      airFlowKgS: airFlow,
      sectionDropsPa: drops,
      coolerDropPa,
      sparkDeg: spark,
      knockRetardDeg: this.#knockRetardDeg,
      lambda: open ? engine.lambda : 1,
      injectorS: this.#injector(airFlow, open ? engine.lambda : 1),
      coolantC: state.coolantC,
      oilC: state.oilC,
    });
    this.#heat(airFlow, compressorOutC, brakeW);
    const omega = (this.#rpm * 2 * Math.PI) / 60;
    const heldBackW = this.#roadLoadW(this.#rpm * engine.rollerMPerSPerRpm);
    if (open || this.#lifted) this.#rpm += (((wheelW - heldBackW) / (engine.inertiaKgM2 * omega)) * STEP_S * 60) / (2 * Math.PI);
  }

  #roadLoadW(speedMPerS: number): number {
    const { roadLoad } = this.engine;
    if (!roadLoad) return 0;
    const density = this.weather.pressurePa / (DRY_AIR_GAS_CONSTANT * (this.weather.temperatureC + CELSIUS_ZERO_K));
    return (roadLoad.rollingN + 0.5 * density * roadLoad.dragAreaM2 * speedMPerS ** 2) * speedMPerS;
  }

  #throttlePct(): number {
    const { mishap } = this.chance;
    return mishap?.kind === 'throttle-closed' && Math.abs(this.#rpm - mishap.atRpm) < 250 ? 78 : 100;
  }

  #slip(): number {
    const { mishap } = this.chance;
    return mishap?.kind === 'slip' && Math.abs(this.#rpm - mishap.atRpm) < 150 ? 0.04 : 0;
  }

  /** Air at the compressor or throttle: part from the bay, and warmed along the box's walls. */
  #inletC(flow: number): number {
    const { boxConductanceWPerK, bayShare } = this.parts;
    const mixed = this.weather.temperatureC + bayShare * (this.#state.bayC - this.weather.temperatureC);
    const pickup = 1 - Math.exp(-boxConductanceWPerK / (flow * DRY_AIR_SPECIFIC_HEAT));
    return mixed + (this.#state.boxC - mixed) * pickup;
  }

  #charge(flow: number, inletPa: number, inletC: number): { compressorOutC: number; chargeC: number; coolerDropPa: number } {
    const { boost } = this.engine;
    const { cooler } = this.parts;
    if (!boost) return { compressorOutC: inletC, chargeC: inletC, coolerDropPa: 0 };
    const density = this.#manifoldPa / (DRY_AIR_GAS_CONSTANT * (this.#state.coreC + CELSIUS_ZERO_K));
    const coolerDropPa = cooler ? flow ** 2 / (2 * density * cooler.areaM2 ** 2) : 0;
    const ratio = Math.max(1, (this.#manifoldPa + coolerDropPa) / inletPa);
    const inletK = inletC + CELSIUS_ZERO_K;
    const compressorOutC = inletC + (inletK / boost.compressorEfficiency) * (ratio ** KAPPA - 1);
    const chargeC = cooler ? compressorOutC - cooler.chargeShare * (compressorOutC - this.#state.coreC) : compressorOutC;
    return { compressorOutC, chargeC, coolerDropPa };
  }

  #moveManifold(open: boolean, throttlePct: number, flow: number, inletPa: number, chargeC: number, coolerDropPa: number): void {
    const { boost, throttleAreaM2, boostControl } = this.engine;
    let wanted: number;
    if (!open) wanted = this.#lifted ? 0.35 * this.weather.pressurePa : 0.55 * this.weather.pressurePa;
    else if (boost) {
      const gauge = boostControl === 'gauge' ? this.weather.pressurePa - 100_000 : 0;
      const target = boost.targetPa * this.parts.tune.boostFactor * this.chance.boostFactor + gauge;
      const reach = 1 + 1.25 * (this.#rpm / boost.spoolRpm) ** 1.6;
      const softened = this.chance.mishap?.kind === 'soft' ? 0.93 : 1;
      wanted = Math.min(target * softened * (throttlePct < 95 ? 0.93 : 1), inletPa * reach - coolerDropPa);
    } else {
      const density = inletPa / (DRY_AIR_GAS_CONSTANT * (chargeC + CELSIUS_ZERO_K));
      wanted = inletPa - flow ** 2 / (2 * density * (throttleAreaM2 * (throttlePct / 100) ** 2) ** 2);
    }
    if (this.imposed?.manifoldPa && open) {
      this.#manifoldPa = this.imposed.manifoldPa(this.#rpm);
      return;
    }
    this.#manifoldPa += ((wanted - this.#manifoldPa) * STEP_S) / (boost ? 0.28 : 0.06);
  }

  /** Mass flow from speed, density and breathing; the charge is warmed by the ports, and burnt gas is left in the cylinder. */
  #breathe(chargeC: number, inletPa: number, flow: number): number {
    const { breathing, displacementM3, compressionRatio } = this.engine;
    const { tuning } = this.parts;
    const portC = this.#state.coolantC + 25;
    const cylinderK = chargeC + CHARGE_WALL_SHARE * (portC - chargeC) + CELSIUS_ZERO_K;
    const shape = breathing.best - 0.5 * ((this.#rpm - breathing.rpm) / breathing.widthRpm) ** 2;
    const bump = tuning ? tuning.gain * Math.exp(-0.5 * ((this.#rpm - tuning.rpm) / tuning.widthRpm) ** 2) : 0;
    const exhaustPa = this.#exhaustPa(flow, inletPa);
    const residual = (compressionRatio - (exhaustPa / this.#manifoldPa) ** (1 / 1.35)) / (compressionRatio - 1);
    const density = this.#manifoldPa / (DRY_AIR_GAS_CONSTANT * cylinderK);
    return Math.max(0.003, shape * (1 + bump) * residual * density * displacementM3 * (this.#rpm / 120) * 1.13);
  }

  /** Back pressure: the silencer, and with a turbine what the compressor's work takes. */
  #exhaustPa(flow: number, inletPa: number): number {
    const { exhaustAreaM2, boost } = this.engine;
    const exhaustK = 1050;
    const silencer = flow ** 2 / (2 * (this.weather.pressurePa / (287 * exhaustK)) * exhaustAreaM2 ** 2);
    const after = this.weather.pressurePa + silencer;
    if (!boost) return after;
    const ratio = Math.max(1, this.#manifoldPa / inletPa);
    const work = (DRY_AIR_SPECIFIC_HEAT * 310 * (ratio ** KAPPA - 1)) / boost.compressorEfficiency;
    const spent = Math.min(0.45, work / (1150 * exhaustK * boost.turbineEfficiency));
    return after * (1 - spent) ** -4;
  }

  #spark(open: boolean, chargeC: number): number {
    const { engine } = this;
    if (!open) return 22;
    if (this.imposed) return this.imposed.sparkDeg(this.#rpm);
    const limit = knockLimitDeg(engine, chargeC, this.#manifoldPa, this.#rpm, this.#state.coolantC);
    const mapped = Math.min(engine.bestSparkDeg, engine.knockSparkDeg + 0.4 + (this.#rpm - 4500) * 0.0009 + this.parts.tune.sparkDeg);
    const over = Math.max(0, mapped - limit);
    this.#knockRetardDeg += (over - this.#knockRetardDeg) * (over > this.#knockRetardDeg ? 0.2 : 0.02);
    this.#state.learnedRetardDeg -= (this.#state.learnedRetardDeg * STEP_S) / LEARNING_S;
    return Math.max(0, mapped - this.#knockRetardDeg - this.#state.learnedRetardDeg);
  }

  #brakePower(airFlow: number, sparkDeg: number, inletPa: number, inletC: number, compressorOutC: number): number {
    const { engine } = this;
    const volumeRate = engine.displacementM3 * (this.#rpm / 120);
    const indicatedShare = LOSS_TO_WALLS * (1 - engine.compressionRatio ** -0.32) * mixtureShare(engine.lambda);
    const indicated =
      airFlow *
      this.#oxygenShare *
      HEAT_PER_AIR *
      indicatedShare *
      sparkEfficiency(engine.bestSparkDeg - sparkDeg) *
      throttleShare(this.chance, this.#rpm);
    const viscosity = Math.exp(-0.02 * (this.#state.oilC - 90));
    const friction = (55_000 + 95_000 * (this.#rpm / 6000) ** 1.6 * viscosity ** 0.3 + 12_000 * viscosity ** 0.5) * volumeRate;
    const pumping = (this.#exhaustPa(airFlow, inletPa) - this.#manifoldPa) * volumeRate;
    const blower = engine.aspiration === 'supercharged' ? airFlow * DRY_AIR_SPECIFIC_HEAT * (compressorOutC - inletC) : 0;
    return indicated - friction - pumping - blower;
  }

  #injector(airFlow: number, lambda: number): number {
    const fuelPerCycle = (airFlow / (14.6 * lambda)) * (120 / this.#rpm);
    return fuelPerCycle / (4 * INJECTOR_FLOW_KG_S) + INJECTOR_DEAD_S;
  }

  /** The sensor follows the charge with a lag that falls with flow, and its housing. */
  #sensor(chargeC: number, flow: number): number {
    const lagS = 1.1 * (0.1 / Math.max(0.02, flow)) ** 0.5;
    const state = this.#state;
    state.sensorC += STEP_S * ((chargeC - state.sensorC) / lagS + (state.bayC + 8 - state.sensorC) / 60);
    return state.sensorC;
  }

  /** Core, box, bay, coolant and oil during the sweep. */
  #heat(airFlow: number, compressorOutC: number, brakeW: number): void {
    const state = this.#state;
    const { cooler, boxConductanceWPerK } = this.parts;
    const ambient = this.weather.temperatureC;
    if (cooler) {
      const cold = cooler.circuit ? state.circuitC : ambient;
      const taken = airFlow * DRY_AIR_SPECIFIC_HEAT * cooler.chargeShare * (compressorOutC - state.coreC);
      const given = cooler.coldConductanceWPerK * (state.coreC - cold);
      state.coreC += (STEP_S * (taken - given)) / cooler.heatCapacityJPerK;
      if (cooler.circuit) {
        const { heatCapacityJPerK, radiatorWPerK } = cooler.circuit;
        state.circuitC += (STEP_S * (given - radiatorWPerK * (state.circuitC - ambient))) / heatCapacityJPerK;
      }
    }
    const heat = Math.max(0, brakeW);
    state.bayC += STEP_S * ((heat * 0.018) / BAY_HEAT_CAPACITY - (state.bayC - ambient) / 420);
    state.boxC += STEP_S * ((state.bayC - state.boxC) / 260 + (boxConductanceWPerK * (ambient - state.boxC)) / 9000);
    state.coolantC += STEP_S * ((heat * 0.9) / COOLANT_HEAT_CAPACITY - (state.coolantC - 86) / 70);
    state.oilC += STEP_S * ((heat * 0.16) / OIL_HEAT_CAPACITY + (state.coolantC - state.oilC) / 600);
  }
}

/** Full load after which a spark held back is learned again to 1/e, s. */
const LEARNING_S = 14;
export const BAY_HEAT_CAPACITY = 4200;
const COOLANT_HEAT_CAPACITY = 160_000;
const OIL_HEAT_CAPACITY = 28_000;

/** A section as it is at an engine speed. */
const opened = (section: PartSet['inlet'][number], rpm: number): PartSet['inlet'][number] =>
  section.opens && rpm >= section.opens.atRpm ? { ...section, areaM2: section.opens.areaM2 } : section;

/** Pressure drop of an inlet section, Pa, at a mass flow, kg/s: the truth that measurements are held against. */
export function sectionDrop({ areaM2, laminarShare }: PartSet['inlet'][number], flow: number, weather: Weather): number {
  const density = weather.pressurePa / (DRY_AIR_GAS_CONSTANT * (weather.temperatureC + CELSIUS_ZERO_K));
  const rated = 0.12;
  const turbulent = flow ** 2 / (2 * density * areaM2 ** 2);
  const laminar = (flow * rated) / (2 * density * areaM2 ** 2);
  return (1 - laminarShare) * turbulent + laminarShare * laminar;
}

/** Share of the oxygen's heat that a rich or lean mixture still gives. */
function mixtureShare(lambda: number): number {
  return 1 - 1.6 * (lambda - 0.9) ** 2;
}

function throttleShare({ mishap }: PullChance, rpm: number): number {
  return mishap?.kind === 'throttle-closed' && Math.abs(rpm - mishap.atRpm) < 250 ? 0.96 : 1;
}
