import { access, mkdir, rename, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Bundle, DeviceSetting, RigCommand, RigState } from '@gezeit/contract';
import {
  dataBoxDevice,
  dynoDevice,
  ecuDevice,
  record,
  Rig,
  rigCell,
  truthOf,
  writeLog,
  type Device as LoggedDevice,
  type Dialect,
  type DrivenPull,
  type RigSample,
  type RigSnapshot,
} from '@gezeit/core/simulate';
import type { Device, DeviceSample, DeviceSink } from '../device.js';
import { WatchedFolder } from './watched-folder.js';

type RigSetting = Extract<DeviceSetting, { kind: 'rig' }>;

interface RigMemory {
  /** The day's clock when the rig was started, ms. */
  epochMs: number;
  rig: RigSnapshot;
  folder: unknown;
  setups: Bundle['setups'];
}

const TICK_MS = 100;
const REMEMBER_EVERY_MS = 1500;
/** Loggers begin this long before full throttle; their files are written this long after the lift, s. */
const WRITTEN_AFTER_S = 4;

/**
 * The simulated rig behind the interface of a real cell: it streams its readings and writes its loggers' files, in three dialects, into a
 * folder that is watched like any other. Its time may go faster than ours; the day's clock is its clock.
 */
export class RigDevice implements Device {
  #rig: Rig;
  readonly #epochMs: number;
  readonly #folder: WatchedFolder;
  #folderMemory: unknown;
  #timer: NodeJS.Timeout | null = null;
  #remembered = 0;
  #last = 0;
  #waiting: { pull: DrivenPull; dueS: number }[] = [];

  constructor(
    readonly setting: RigSetting,
    readonly sink: DeviceSink,
    memory: unknown,
    readonly path: string,
    readonly bundle: Bundle,
    fitted: string | null,
  ) {
    const kept = memory as RigMemory | null;
    this.#epochMs = kept?.epochMs ?? Date.now();
    const setups = kept
      ? [...kept.setups, ...bundle.setups.filter(({ id }) => !kept.setups.some((known) => known.id === id))]
      : bundle.setups;
    const spec = rigCell({ ...bundle, setups }, setting.seed);
    // A day may say that a setup is fitted which the programme does not have.
    this.#rig = new Rig({ ...spec, fitted: fitted !== null && Object.hasOwn(spec.setups, fitted) ? fitted : spec.fitted }, kept?.rig);
    this.#folderMemory = kept?.folder ?? { known: [] };
    this.#folder = new WatchedFolder(
      { id: `${setting.id}-files`, kind: 'folder', path, takeExisting: true },
      {
        ...sink,
        file: (file) => sink.file(file),
        samples: (samples) => sink.samples(samples),
        clock: () => undefined,
        state: (state, detail) => sink.state(state, `the simulated rig runs; ${detail}`),
        remember: (folder) => {
          this.#folderMemory = folder;
          this.#remember();
        },
      },
      this.#folderMemory,
    );
  }

  async start(): Promise<void> {
    await mkdir(this.path, { recursive: true });
    await this.#writeMissing();
    await this.#folder.start();
    this.#last = performance.now();
    this.sink.state('listening', 'the simulated rig runs');
    this.#tell();
    this.#timer = setInterval(() => {
      try {
        this.#tick();
      } catch (error) {
        if (this.#timer) clearInterval(this.#timer);
        this.sink.fault(error);
      }
    }, TICK_MS);
  }

  async stop(): Promise<void> {
    if (this.#timer) clearInterval(this.#timer);
    this.#remember();
    await this.#folder.stop();
  }

  get state(): RigState {
    const { speed, follows } = this.setting;
    return {
      nowMs: this.#nowMs(),
      speed,
      follows,
      fitted: this.#rig.fitted,
      doing: this.#rig.doing,
      pulls: this.#rig.pulls.length,
      nextMishap: this.#rig.nextMishap,
    };
  }

  command(command: RigCommand): void {
    switch (command.do) {
      case 'pull':
        return this.#rig.startPull();
      case 'fit':
        // One that was added since looks like what is fitted.
        if (!Object.hasOwn(this.#rig.spec.setups, command.setup))
          this.#rig.spec.setups[command.setup] = this.#rig.spec.setups[this.#rig.fitted]!;
        return this.#rig.fit(command.setup, command.ecuReset);
      case 'engine':
        return this.#rig.setEngine(command.on);
      case 'mishap':
        this.#rig.nextMishap = command.mishap;
        return;
      case 'speed':
        this.setting.speed = command.speed;
        return this.#tell();
      case 'follow':
        this.setting.follows = command.follows;
    }
  }

  /** True difference of two setups on what the rig has driven, per cent; null where one of them has not run. */
  truthPct(pair: [string, string], kindOf: (index: number) => DrivenPull['kind'] | null, bundle: Bundle): number | null {
    const driven = this.#rig.pulls.flatMap((pull) => {
      const kind = kindOf(pull.index);
      return kind ? [{ ...pull, kind }] : [];
    });
    if (!pair.every((setup) => driven.some((pull) => pull.setup === setup && pull.kind === 'measured'))) return null;
    return 100 * Math.expm1(truthOf(this.#rig.spec, driven, pair, bundle.programme.bandRpm, bundle.programme.correction).levelled);
  }

  /** Moments of the rig's pulls on the day's clock, ms. */
  get pullStartsMs(): number[] {
    return this.#rig.pulls.map(({ startS }) => this.#epochMs + 1000 * startS);
  }

  #nowMs(): number {
    return this.#epochMs + 1000 * this.#rig.timeS;
  }

  #tell(): void {
    this.sink.clock(this.#nowMs(), this.setting.speed);
  }

  #tick(): void {
    const now = performance.now();
    const passedS = Math.min(1, (now - this.#last) / 1000) * this.setting.speed;
    this.#last = now;
    const { samples, ended } = this.#rig.advance(passedS);
    this.#tell();
    this.sink.samples(samples.map((sample) => this.#sampleOf(sample)));
    if (ended) this.#waiting.push({ pull: ended, dueS: this.#rig.timeS + WRITTEN_AFTER_S });
    for (const { pull } of this.#waiting.filter(({ dueS }) => dueS <= this.#rig.timeS)) void this.#write(pull);
    this.#waiting = this.#waiting.filter(({ dueS }) => dueS > this.#rig.timeS);
    if (ended || now - this.#remembered > REMEMBER_EVERY_MS) this.#remember();
  }

  #remember(): void {
    this.#remembered = performance.now();
    this.sink.remember({
      epochMs: this.#epochMs,
      rig: this.#rig.snapshot(),
      folder: this.#folderMemory,
      setups: this.bundle.setups,
    } satisfies RigMemory);
  }

  #sampleOf({ timeS, instant, weather }: RigSample): DeviceSample {
    const boosted = this.#rig.spec.engine.boost !== null;
    return {
      atMs: this.#epochMs + 1000 * timeS,
      values: new Map<string, number>([
        ['engineSpeed', instant.engineSpeedRpm],
        ['throttle', instant.throttlePct],
        ['pedal', instant.pedalPct],
        ['power', instant.wheelPowerW],
        ['rollerSpeed', instant.rollerSpeedMPerS],
        ['manifoldPressure', instant.manifoldPa],
        ...(boosted ? ([['boostPressure', instant.manifoldPa - weather.pressurePa]] as [string, number][]) : []),
        ['intakeAirTemperature', instant.sensorC],
        ['inletPressure', -instant.sectionDropsPa.reduce((sum, drop) => sum + drop, 0)],
        ['lambda', instant.lambda],
        ['ignitionAdvance', instant.sparkDeg],
        ['knockRetard', instant.knockRetardDeg],
        ['coolantTemperature', instant.coolantC],
        ['oilTemperature', instant.oilC],
        ['ambientTemperature', weather.temperatureC],
        ['ambientPressure', weather.pressurePa],
        ['relativeHumidity', 100 * weather.relativeHumidity],
      ]),
    };
  }

  /** Files of pulls that had ended, or were under way, when the server was stopped. */
  async #writeMissing(): Promise<void> {
    for (const pull of this.#rig.pulls) {
      const last = join(this.path, `daq-${numberOf(pull)}.txt`);
      const isThere = await access(last).then(
        () => true,
        () => false,
      );
      if (!isThere) await this.#write(this.#rig.replay(pull));
    }
  }

  async #write(pull: DrivenPull): Promise<void> {
    const { boost } = this.#rig.spec.engine;
    const parts = this.#rig.spec.setups[pull.setup]!;
    const sections = parts.inlet.map(({ name }) => name);
    const clockS = (pull.timeH * 3600) % 86_400;
    const devices: [Dialect, LoggedDevice, string][] = [
      ['comma-mark', ecuDevice(clockS, boost !== null), 'csv'],
      ['bracketed', dynoDevice(0), 'csv'],
      ['two-storey', dataBoxDevice(0, sections, parts.cooler !== null, Boolean(parts.cooler?.circuit)), 'txt'],
    ];
    const number = numberOf(pull);
    for (const [i, [dialect, device, ending]] of devices.entries()) {
      const made = record(device, pull, this.setting.seed * 1000 + pull.index * 10 + i);
      const file = join(this.path, `${device.id}-${number}.${ending}`);
      // Under its own name only once its time is right: a look in between would take the rig's clock for wrong.
      await writeFile(`${file}.part`, writeLog(made, dialect));
      const lengthS = pull.sweep.instants.at(-1)!.timeS;
      const madeAt = (this.#epochMs + 1000 * (pull.timeH * 3600 + lengthS + this.setting.clockWrongS)) / 1000;
      await utimes(`${file}.part`, madeAt, madeAt);
      await rename(`${file}.part`, file);
    }
  }
}

const numberOf = ({ index }: { index: number }) => String(index + 1).padStart(3, '0');
