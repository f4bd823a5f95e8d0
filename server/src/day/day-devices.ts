import { randomUUID } from 'node:crypto';
import { join, resolve } from 'node:path';
import { deviceSettingSchema, type DeviceSetting, type DeviceState } from '@gezeit/contract';
import { wasAway } from '@gezeit/core';
import { DayDeviceEntity, type DayDeviceRow } from '../database/entities.js';
import type { Device, DeviceSample, DeviceSink } from './device.js';
import { RigDevice } from './devices/rig-device.js';
import { StreamDevice } from './devices/stream-device.js';
import { WatchedFolder } from './devices/watched-folder.js';
import type { OngoingDay } from './ongoing-day.js';
import { SteadyClock } from './steady-clock.js';

interface Listened {
  setting: DeviceState['setting'];
  /** Null where it is kept and cannot be listened to. */
  device: Device | null;
  state: DeviceState['state'];
  detail: string;
  files: number;
}

const CANNOT_RESUME = 'It cannot be listened to any more: remove it, and add it again.';

function parsedOrNull(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return null;
  }
}

/** The devices of a day: listened to, kept over a restart, and the clock of the one that has its own. */
export class DayDevices {
  readonly #listened = new Map<string, Listened>();
  readonly steady = new SteadyClock();
  #clock: { nowMs: number; speed: number; at: number } | null = null;

  constructor(
    readonly day: OngoingDay,
    readonly folder: string,
    readonly samples: (samples: readonly DeviceSample[]) => void,
  ) {}

  /** Listens again to every device that was kept. */
  async open(): Promise<void> {
    const { programmeId } = this.day;
    for (const row of await this.day.services.database.manager.find(DayDeviceEntity, { where: { programmeId } })) await this.#resume(row);
  }

  async close(): Promise<void> {
    await Promise.all([...this.#listened.values()].map(({ device }) => device?.stop()));
  }

  get nowMs(): number {
    if (!this.#clock) return this.steady.nowMs;
    return this.#clock.nowMs + (performance.now() - this.#clock.at) * this.#clock.speed;
  }
  get speed(): number {
    return this.#clock?.speed ?? 1;
  }
  get settings(): DeviceSetting[] {
    return [...this.#listened.values()].flatMap(({ setting }) => (setting.kind === 'unreadable' ? [] : [setting]));
  }
  /** What is listened to, as two days would both name it. */
  get sources(): string[] {
    return this.settings.flatMap((setting) =>
      setting.kind === 'folder' ? `folder ${resolve(setting.path)}` : setting.kind === 'stream' ? `stream ${setting.address}` : [],
    );
  }
  get states(): DeviceState[] {
    return [...this.#listened.values()].map(({ setting, state, detail, files }) => ({ setting, state, detail, files }));
  }
  get rig(): RigDevice | null {
    return [...this.#listened.values()].map(({ device }) => device).find((device) => device instanceof RigDevice) ?? null;
  }

  /** Listens to a device, and keeps it once that has begun; nothing is kept of one that cannot be listened to. */
  async set(setting: DeviceSetting): Promise<void> {
    await this.#forget(setting.id);
    await this.#listen(setting, null);
    try {
      await this.day.services.database.write((manager) =>
        manager.insert(DayDeviceEntity, {
          id: randomUUID(),
          programmeId: this.day.programmeId,
          key: setting.id,
          body: JSON.stringify(setting),
          memory: 'null',
        }),
      );
    } catch (error) {
      await this.#listened.get(setting.id)?.device?.stop();
      this.#listened.delete(setting.id);
      throw error;
    }
    this.day.changed();
  }

  async remove(id: string): Promise<void> {
    await this.#forget(id);
    this.day.changed();
  }

  /** Keeps the settings as they are now: a device may have changed its own. */
  async keepSettings(): Promise<void> {
    await this.day.services.database.write(async (manager) => {
      for (const setting of this.settings)
        await manager.update(DayDeviceEntity, this.#rowOf(setting.id), { body: JSON.stringify(setting) });
    });
  }

  #rowOf(key: string) {
    return { programmeId: this.day.programmeId, key };
  }

  async #forget(id: string): Promise<void> {
    await this.day.services.database.write((manager) => manager.delete(DayDeviceEntity, this.#rowOf(id)));
    await this.#listened.get(id)?.device?.stop();
    this.#listened.delete(id);
    if (!this.rig) this.#clock = null;
  }

  /** Goes on with a device that was kept; one that cannot be listened to any more is shown as that, to be removed. */
  async #resume({ key, body, memory }: Pick<DayDeviceRow, 'key' | 'body' | 'memory'>): Promise<void> {
    const kept = deviceSettingSchema.safeParse(parsedOrNull(body));
    if (!kept.success) {
      const unreadable: Listened = {
        setting: { id: key, kind: 'unreadable' },
        device: null,
        state: 'failed',
        detail: CANNOT_RESUME,
        files: 0,
      };
      this.#listened.set(key, unreadable);
      return;
    }
    try {
      await this.#listen(kept.data, parsedOrNull(memory));
    } catch (error) {
      this.day.services.log.error({ err: error, device: key }, 'a device could not be listened to again');
      const entry = this.#listened.get(key);
      if (entry) Object.assign(entry, { device: null, state: 'failed', detail: CANNOT_RESUME });
    }
  }

  async #listen(setting: DeviceSetting, memory: unknown): Promise<void> {
    const { services, bundle, state, programmeId } = this.day;
    const entry: Listened = { setting, device: null, state: 'waiting', detail: '', files: 0 };
    const sink: DeviceSink = {
      samples: (samples) => {
        // Readings come from a timer or a socket: what goes wrong with them would end the server.
        try {
          this.samples(samples);
        } catch (error) {
          sink.fault(error);
        }
      },
      file: async (file) => {
        if (wasAway(this.day.state, file.madeAtMs)) return;
        entry.files += 1;
        await this.day.takeFile(file);
      },
      state: (now, detail) => {
        if (entry.state === now && entry.detail === detail) return;
        Object.assign(entry, { state: now, detail });
        this.day.changed();
      },
      fault: (error) => {
        services.log.error({ err: error, device: setting.id }, 'a device cannot go on');
        sink.state('failed', CANNOT_RESUME);
      },
      now: () => this.nowMs,
      clock: (nowMs, speed) => (this.#clock = { nowMs, speed, at: performance.now() }),
      remember: (value) =>
        void services.database
          .write((manager) => manager.update(DayDeviceEntity, this.#rowOf(setting.id), { memory: JSON.stringify(value) }))
          .catch((error: unknown) => services.log.error({ err: error }, 'a device could not be remembered')),
    };
    const rigFolder = join(this.folder, 'rig', `${programmeId}-${setting.id}`);
    this.#listened.set(setting.id, entry);
    entry.device =
      setting.kind === 'folder'
        ? new WatchedFolder(setting, sink, memory)
        : setting.kind === 'stream'
          ? new StreamDevice(setting, sink)
          : new RigDevice(setting, sink, memory, rigFolder, bundle, state.fitted);
    await entry.device.start();
  }
}
