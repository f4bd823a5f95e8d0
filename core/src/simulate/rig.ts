import { Random } from './random.js';
import { settledState, type CarState, type Engine, type PartSet, type Weather } from './car.js';
import { fitOnCar, RESET_RETARD_DEG, type DrivenPull, type Scatter } from './day.js';
import { stand, type Standing } from './standing.js';
import { driveSweep, type Instant, type Mishap, type PullChance, type SweepResult } from './sweep.js';

/** A whole cell with a car in it, standing in for dyno, loggers, weather station and driver. */
export interface RigSpec {
  seed: number;
  engine: Engine;
  setups: Record<string, PartSet>;
  scatter: Scatter;
  weather: Weather;
  fitted: string;
  /** Coolant and oil when the car is rolled in, °C. */
  coldC: number;
}

/** Everything of a rig that a server must keep to go on after it was stopped. */
export interface RigSnapshot {
  timeS: number;
  state: CarState;
  fitted: string;
  engineOn: boolean;
  walk: number;
  pulls: RigPull[];
  nextMishap: Mishap['kind'] | null;
}

/** What the rig remembers of a pull: enough for the truth, and for its files. */
export interface RigPull {
  index: number;
  setup: string;
  startS: number;
  weather: Weather;
  startState: CarState;
  chance: PullChance;
  drift: number;
  ecuReset: boolean;
}

/** A reading of the whole car at a moment, s since the rig was started. */
export interface RigSample {
  timeS: number;
  instant: Instant;
  weather: Weather;
}

const IDLE_SAMPLE_S = 1;
const PULL_SAMPLE_S = 0.05;
const IDLE_RPM = 820;

/**
 * The simulated rig: time advances as it is told to, and every sample, pull and file comes from the same car that carries heat, learning,
 * oil and drift along.
 */
export class Rig {
  #timeS = 0;
  #state: CarState;
  #fitted: string;
  #engineOn = true;
  #walk = 0;
  #playing: { sweep: SweepResult; pull: RigPull; fromS: number; next: number } | null = null;
  #resetNext = false;
  nextMishap: Mishap['kind'] | null = null;
  readonly pulls: RigPull[] = [];
  readonly #driftRate: number;
  readonly #weatherSlope: number;

  constructor(
    readonly spec: RigSpec,
    snapshot?: RigSnapshot,
  ) {
    const random = new Random(spec.seed);
    this.#driftRate = random.normal(spec.scatter.driftPerHour);
    this.#weatherSlope = random.normal();
    this.#fitted = spec.fitted;
    const { temperatureC } = spec.weather;
    this.#state = {
      ...settledState(spec.weather),
      coolantC: spec.coldC,
      oilC: spec.coldC,
      bayC: temperatureC + 4,
      boxC: temperatureC + 2,
      coreC: temperatureC + 1,
      circuitC: temperatureC + 1,
      sensorC: temperatureC + 2,
    };
    if (!snapshot) return;
    this.#timeS = snapshot.timeS;
    this.#state = snapshot.state;
    this.#fitted = snapshot.fitted;
    this.#engineOn = snapshot.engineOn;
    this.#walk = snapshot.walk;
    this.pulls.push(...snapshot.pulls);
    this.nextMishap = snapshot.nextMishap;
  }

  get timeS(): number {
    return this.#timeS;
  }
  get fitted(): string {
    return this.#fitted;
  }
  get doing(): 'idle' | 'off' | 'pull' {
    return this.#playing ? 'pull' : this.#engineOn ? 'idle' : 'off';
  }

  /** What to keep; a pull under way is kept as if it had ended. */
  snapshot(): RigSnapshot {
    return {
      timeS: this.#timeS,
      state: this.#playing ? this.#playing.sweep.state : this.#state,
      fitted: this.#fitted,
      engineOn: this.#engineOn,
      walk: this.#walk,
      pulls: [...this.pulls],
      nextMishap: this.nextMishap,
    };
  }

  setEngine(on: boolean): void {
    if (!this.#playing) this.#engineOn = on;
  }

  /** Fits other parts (the engine is off meanwhile); a reset makes the engine control learn again. */
  fit(setup: string, ecuReset: boolean): void {
    if (this.#playing || !this.spec.setups[setup]) return;
    if (setup !== this.#fitted) {
      this.#state = fitOnCar(this.#state, this.#weather());
      this.#walk += this.#chanceOf(1000 + this.pulls.length).normal(this.spec.scatter.walkAtSwap);
    }
    this.#fitted = setup;
    this.#engineOn = true;
    if (ecuReset) {
      this.#state = { ...this.#state, learnedRetardDeg: RESET_RETARD_DEG[this.spec.engine.aspiration] };
      this.#resetNext = true;
    }
  }

  /** Floors it: from the next advance on the sweep is played. */
  startPull(): void {
    if (this.#playing || !this.#engineOn) return;
    const { spec } = this;
    const random = this.#chanceOf(this.pulls.length);
    const weather = this.#weather();
    const drift = Math.exp((this.#driftRate * this.#timeS) / 3600 + this.#walk);
    const chance: PullChance = {
      powerFactor: Math.exp(random.normal(spec.scatter.runToRun)),
      boostFactor: Math.exp(random.normal(spec.scatter.boostWander)),
      mishap: this.nextMishap ? { kind: this.nextMishap, atRpm: random.between(0.6, 0.8) * spec.engine.stopRpm } : null,
    };
    this.nextMishap = null;
    const pull: RigPull = {
      index: this.pulls.length,
      setup: this.#fitted,
      startS: this.#timeS,
      weather,
      startState: { ...this.#state },
      chance,
      drift,
      ecuReset: this.#resetNext,
    };
    this.#resetNext = false;
    this.pulls.push(pull);
    this.#playing = { sweep: this.#sweepOf(pull), pull, fromS: this.#timeS, next: 0 };
  }

  /** Lets time pass; returns what the car showed meanwhile, and the pull that ended, if one did. */
  advance(seconds: number): { samples: RigSample[]; ended: DrivenPull | null } {
    const samples: RigSample[] = [];
    let ended: DrivenPull | null = null;
    const untilS = this.#timeS + seconds;
    while (this.#timeS < untilS - 1e-9) {
      if (this.#playing) ended = this.#play(untilS, samples) ?? ended;
      else this.#idle(Math.min(untilS - this.#timeS, IDLE_SAMPLE_S), samples);
    }
    return { samples, ended };
  }

  /** A pull driven again from what is remembered of it: the same in every sample. */
  replay(pull: RigPull): DrivenPull {
    return { ...pull, kind: 'measured', timeH: pull.startS / 3600, sweep: this.#sweepOf(pull) };
  }

  #sweepOf({ setup, weather, startState, chance, drift }: RigPull): SweepResult {
    return driveSweep(this.spec.engine, this.spec.setups[setup]!, weather, startState, {
      ...chance,
      powerFactor: chance.powerFactor * drift,
    });
  }

  #play(untilS: number, samples: RigSample[]): DrivenPull | null {
    const playing = this.#playing!;
    const { instants } = playing.sweep;
    const lengthS = instants.at(-1)!.timeS;
    const toS = Math.min(untilS, playing.fromS + lengthS);
    for (let at = playing.next; at <= toS - playing.fromS; at += PULL_SAMPLE_S) {
      const instant = instants[Math.min(instants.length - 1, Math.round((at / lengthS) * (instants.length - 1)))]!;
      samples.push({ timeS: playing.fromS + at, instant, weather: playing.pull.weather });
      playing.next = at + PULL_SAMPLE_S;
    }
    this.#timeS = toS;
    if (toS < playing.fromS + lengthS - 1e-9) return null;
    this.#state = playing.sweep.state;
    this.#playing = null;
    return { ...playing.pull, kind: 'measured', timeH: playing.fromS / 3600, sweep: playing.sweep };
  }

  #idle(seconds: number, samples: RigSample[]): void {
    const weather = this.#weather();
    const how: Standing = this.#engineOn ? 'idle' : 'off';
    this.#state = stand(this.#state, this.spec.setups[this.#fitted]!, weather, seconds, how);
    this.#timeS += seconds;
    if (Math.floor(this.#timeS) === Math.floor(this.#timeS - seconds)) return;
    samples.push({ timeS: this.#timeS, instant: this.#standingInstant(weather), weather });
  }

  #standingInstant(weather: Weather): Instant {
    const { coreC, circuitC, sensorC, boxC, coolantC, oilC } = this.#state;
    const noise = this.#chanceOf(5_000_000 + Math.floor(this.#timeS));
    return {
      timeS: this.#timeS,
      engineSpeedRpm: this.#engineOn ? IDLE_RPM + noise.normal(6) : 0,
      rollerSpeedMPerS: 0,
      wheelPowerW: 0,
      throttlePct: this.#engineOn ? 4 : 0,
      pedalPct: 0,
      manifoldPa: this.#engineOn ? 0.33 * weather.pressurePa : weather.pressurePa,
      chargeC: sensorC,
      sensorC: sensorC + noise.normal(0.1),
      inletC: boxC,
      compressorOutC: boxC + 4,
      coreC,
      circuitC,
      airFlowKgS: this.#engineOn ? 0.004 : 0,
      sectionDropsPa: this.spec.setups[this.#fitted]!.inlet.map(() => (this.#engineOn ? 1 : 0)),
      coolerDropPa: 0,
      sparkDeg: 12,
      knockRetardDeg: 0,
      lambda: 1,
      injectorS: 0.0014,
      coolantC: coolantC + noise.normal(0.1),
      oilC: oilC + noise.normal(0.1),
    };
  }

  #weather(): Weather {
    const { weather, scatter } = this.spec;
    const hours = this.#timeS / 3600;
    const { temperatureK, pressurePa, humidity } = scatter.weatherPerHour;
    return {
      temperatureC: weather.temperatureC + temperatureK * this.#weatherSlope * hours,
      pressurePa: weather.pressurePa - pressurePa * this.#weatherSlope * hours,
      relativeHumidity: Math.min(0.95, Math.max(0.1, weather.relativeHumidity - humidity * this.#weatherSlope * hours)),
    };
  }

  /** Chance by what it is for: the same seed and pull give the same scatter, whatever happened in between or after a restart. */
  #chanceOf(what: number): Random {
    return new Random((this.spec.seed * 2_654_435 + what * 7919 + 17) % 2_000_000_000);
  }
}
