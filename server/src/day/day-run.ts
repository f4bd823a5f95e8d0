import { randomUUID } from 'node:crypto';
import { EventEmitter } from 'node:events';
import { join } from 'node:path';
import type {
  Bundle,
  DayEvent,
  DayHappening,
  DayMessage,
  DayView,
  DeviceSetting,
  DeviceState,
  FileQuestion,
  RigCommand,
} from '@gezeit/contract';
import {
  dayState,
  DETECTOR_RULES,
  defaultGates,
  defaultStops,
  GezeitError,
  instruct,
  nextPullId,
  passedStop,
  PullDetector,
  pullStart,
  readyForFirstPull,
  type DayState,
} from '@gezeit/core';
import { DayDeviceEntity, Programme } from '../database/entities.js';
import { writeTransaction } from '../database/write-transaction.js';
import { analysisOf } from '../http/programme-view.js';
import type { Services } from '../http/route.js';
import { loadBundle } from '../store/load-bundle.js';
import { addEvents, newestRun } from './day-events.js';
import { devicesOf, keepFile, matchDevice } from './day-files.js';
import type { Device, DeviceFileMade, DeviceSample, DeviceSink } from './device.js';
import { RigDevice } from './devices/rig-device.js';
import { StreamDevice } from './devices/stream-device.js';
import { WatchedFolder } from './devices/watched-folder.js';
import { LiveChannels } from './live-channels.js';
import { streamLog } from './stream-log.js';

const TELL_EVERY_MS = 250;
/** A simulated driver takes a moment before he floors it, s on the day's clock. */
const DRIVER_WAITS_S = 3;
/** Limits must be passed so many samples long. */
const STOP_SAMPLES = 3;
const BEFORE_PULL_MS = 4000;
/** Full throttle on rollers lasts no longer. */
const LONGEST_PULL_MS = 30_000;
const SAY_AFTER_MS = 1200;
const MATCH_AFTER_MS = 350;

interface Listened {
  setting: DeviceSetting;
  device: Device;
  state: DeviceState['state'];
  detail: string;
  files: number;
}

/** A programme's day while it is listened to: its devices, what they show, and what happens by itself. */
export class DayRun {
  readonly #events = new EventEmitter().setMaxListeners(0);
  readonly #devices = new Map<string, Listened>();
  readonly #live = new LiveChannels();
  readonly #detector = new PullDetector();
  #bundle!: Bundle;
  #list: DayEvent[] = [];
  #state: DayState = dayState([]);
  #clock: { nowMs: number; speed: number; at: number } | null = null;
  #work: Promise<unknown> = Promise.resolve();
  #timer: NodeJS.Timeout | null = null;
  #toldUntilMs = 0;
  #saidStop = { criterion: '', samples: 0, silent: '' };
  #readySinceMs: number | null = null;
  #rigDoes = '';
  #endedLate = '';
  #saying: NodeJS.Timeout | null = null;
  #matching: NodeJS.Timeout | null = null;
  #others: DayView['others'] = [];

  constructor(
    readonly programmeId: string,
    readonly services: Services,
    readonly folder: string,
  ) {}

  async open(): Promise<void> {
    await this.#reload();
    const { manager } = this.services.source;
    for (const row of await manager.find(DayDeviceEntity, { where: { programmeId: this.programmeId } }))
      await this.#listen(JSON.parse(row.body) as DeviceSetting, JSON.parse(row.memory) as unknown);
    this.#timer = setInterval(() => this.#tell(), TELL_EVERY_MS);
  }

  async close(): Promise<void> {
    if (this.#timer) clearInterval(this.#timer);
    for (const timer of [this.#saying, this.#matching]) if (timer) clearTimeout(timer);
    await Promise.all([...this.#devices.values()].map(({ device }) => device.stop()));
    await this.#work.catch(() => undefined);
  }

  get state(): DayState {
    return this.#state;
  }
  get hasDevices(): boolean {
    return this.#devices.size > 0;
  }

  /** The day's clock, ms: a device's own, else this machine's. */
  get nowMs(): number {
    if (!this.#clock) return Date.now();
    return this.#clock.nowMs + (performance.now() - this.#clock.at) * this.#clock.speed;
  }

  view(): DayView {
    return {
      day: this.#state.day,
      events: this.#list,
      clock: { nowMs: this.nowMs, speed: this.#clock?.speed ?? 1 },
      devices: [...this.#devices.values()].map(({ setting, state, detail, files }) => ({ setting, state, detail, files })),
      readings: this.#live.readings,
      history: this.#live.course,
      trace: this.#live.trace,
      questions: this.#questions(false),
      rig: this.#rig?.state ?? null,
      others: this.#others,
    };
  }

  /** Calls back with every message for a window that follows; returns how to stop. */
  listen(listener: (message: DayMessage) => void): () => void {
    this.#events.on('message', listener);
    return () => this.#events.off('message', listener);
  }

  /** Adds what happened. @throws GezeitError where something may not happen now. */
  add(events: readonly DayEvent[]): Promise<void> {
    return this.#queue(async () => {
      const { source } = this.services;
      const { stored, state } = await writeTransaction(source, (manager) => addEvents(manager, this.programmeId, events));
      this.#list = stored.events;
      this.#state = state;
      this.#bundle = await loadBundle(source.manager, this.programmeId);
      this.#follow(events);
      this.#changed();
    });
  }

  /** Adds what happened by itself, at a moment of the day's clock. */
  async happen(what: DayHappening, atMs = this.nowMs, by = 'Gezeit'): Promise<void> {
    try {
      await this.add([{ id: randomUUID(), at: new Date(atMs).toISOString(), by, what }]);
    } catch (error) {
      // Somebody was faster by key.
      if (!(error instanceof GezeitError)) throw error;
      this.services.log.info({ code: error.code, kind: what.kind }, 'a happening was refused');
    }
  }

  /** Takes a file of a device, or one that was brought: kept as it is. Of several that come together all are taken before they are matched. */
  async takeFile(file: DeviceFileMade, oneOfMany = false): Promise<{ file: string | null }> {
    const { source } = this.services;
    const day = this.#state.day;
    if (day === null) throw new GezeitError('no-day', 'No day has begun.', 'Begin the day, then bring the files.');
    const taken = await writeTransaction(source, (manager) => keepFile(manager, this.programmeId, this.#bundle, day, file));
    if (!taken) return { file: null };
    await this.happen(taken);
    if (!oneOfMany) this.#matchSoon();
    return { file: taken.file };
  }

  /** Looks at the files of all devices anew; `final` where no more are to come. */
  async matchAgain(final: boolean): Promise<FileQuestion[]> {
    await this.#match(final);
    return this.#questions(final);
  }

  async setDevice(setting: DeviceSetting): Promise<void> {
    await this.#forget(setting.id);
    await this.services.source.manager.insert(DayDeviceEntity, {
      id: randomUUID(),
      programmeId: this.programmeId,
      key: setting.id,
      body: JSON.stringify(setting),
      memory: 'null',
    });
    await this.#listen(setting, null);
    this.#changed();
  }

  async removeDevice(id: string): Promise<void> {
    await this.#forget(id);
    this.#changed();
  }

  commandRig(command: RigCommand): void {
    if (!this.#rig) throw new GezeitError('no-rig', 'No simulated rig runs.', 'Add it under Devices.');
    this.#rig.command(command);
    void this.#keepSetting();
    this.#changed();
  }

  /** What only the rig knows: the true difference of every comparison. */
  rigTruth(pairs: [string, string][]): { reference: string; candidate: string; levelledPct: number }[] {
    const rig = this.#rig;
    if (!rig) throw new GezeitError('no-rig', 'No simulated rig runs.', 'Add it under Devices.');
    const starts = rig.pullStartsMs;
    const kindOf = (index: number) => {
      const pull = this.#state.pulls.find(({ startedMs }) => Math.abs(startedMs - starts[index]!) < 6000);
      return pull && !pull.aborted ? (pull.kind === 'measured' ? ('measured' as const) : ('conditioning' as const)) : null;
    };
    return pairs.flatMap(([reference, candidate]) => {
      const levelledPct = rig.truthPct([reference, candidate], kindOf, this.#bundle);
      return levelledPct === null ? [] : [{ reference, candidate, levelledPct }];
    });
  }

  get #rig(): RigDevice | null {
    return [...this.#devices.values()].map(({ device }) => device).find((device) => device instanceof RigDevice) ?? null;
  }

  #queue<T>(work: () => Promise<T>): Promise<T> {
    const done = this.#work.then(work, work);
    this.#work = done.catch(() => undefined);
    return done;
  }

  async #reload(): Promise<void> {
    const { manager } = this.services.source;
    this.#bundle = await loadBundle(manager, this.programmeId);
    this.#list = (await newestRun(manager, this.programmeId)).events;
    this.#state = dayState(this.#list);
    const row = await manager.findOneByOrFail(Programme, { id: this.programmeId });
    const rows = await manager.find(Programme, { where: { superseded: false, archived: false }, order: { createdAt: 'ASC' } });
    this.#others = await Promise.all(
      rows
        .filter(({ id }) => id !== this.programmeId)
        .map(async ({ id, title, vehicleId }) => {
          const { day, endedMs } = dayState((await newestRun(manager, id)).events);
          return { id, title, sameCar: vehicleId === row.vehicleId, running: day !== null && endedMs === null };
        }),
    );
  }

  /** The programme was changed elsewhere: gates, stops and setups are read again. */
  async refresh(): Promise<void> {
    await this.#queue(() => this.#reload());
  }

  async #forget(id: string): Promise<void> {
    await this.#devices.get(id)?.device.stop();
    this.#devices.delete(id);
    await this.services.source.manager.delete(DayDeviceEntity, { programmeId: this.programmeId, key: id });
    if (!this.#rig) this.#clock = null;
  }

  async #keepSetting(): Promise<void> {
    for (const { setting } of this.#devices.values())
      await this.services.source.manager.update(
        DayDeviceEntity,
        { programmeId: this.programmeId, key: setting.id },
        { body: JSON.stringify(setting) },
      );
  }

  async #listen(setting: DeviceSetting, memory: unknown): Promise<void> {
    const { source, log } = this.services;
    const entry: Listened = { setting, device: null as never, state: 'waiting', detail: '', files: 0 };
    const sink: DeviceSink = {
      samples: (samples) => this.#take(samples),
      file: async (file) => {
        entry.files += 1;
        await this.takeFile(file);
      },
      state: (state, detail) => {
        if (entry.state === state && entry.detail === detail) return;
        Object.assign(entry, { state, detail });
        this.#changed();
      },
      clock: (nowMs, speed) => (this.#clock = { nowMs, speed, at: performance.now() }),
      remember: (value) =>
        void source.manager
          .update(DayDeviceEntity, { programmeId: this.programmeId, key: setting.id }, { memory: JSON.stringify(value) })
          .catch((error: unknown) => log.error({ err: error }, 'a device could not be remembered')),
    };
    const rigFolder = join(this.folder, 'rig', `${this.programmeId}-${setting.id}`);
    entry.device =
      setting.kind === 'folder'
        ? new WatchedFolder(setting, sink, memory)
        : setting.kind === 'stream'
          ? new StreamDevice(setting, sink)
          : new RigDevice(setting, sink, memory, rigFolder, this.#bundle, this.#state.fitted);
    this.#devices.set(setting.id, entry);
    await entry.device.start();
  }

  /** Samples of any device: shown, and looked at for the beginning and end of a pull and for the limits. */
  #take(samples: readonly DeviceSample[]): void {
    for (const sample of samples) {
      const { values, atMs } = sample;
      const found = this.#detector.take({
        timeS: atMs / 1000,
        throttlePct: values.get('throttle') ?? Number.NaN,
        pedalPct: values.get('pedal') ?? Number.NaN,
        engineSpeedRpm: values.get('engineSpeed') ?? Number.NaN,
      });
      if (found?.kind === 'started') this.#pullSeen(found.timeS * 1000);
      this.#live.take([sample], this.#detector.running);
      if (found?.kind === 'ended') void this.#pullOver(found.timeS * 1000);
      else if (this.#missedEnd(atMs)) void this.#pullOver(this.#state.running!.startedMs + LONGEST_PULL_MS);
      this.#watchLimits(atMs, (values.get('pedal') ?? values.get('throttle') ?? 0) >= DETECTOR_RULES.openPct && this.#detector.running);
    }
    this.#driveRig();
  }

  /** Whether a pull that a stream began still stands though the engine idles: its end came while nobody listened. */
  #missedEnd(atMs: number): boolean {
    const { running } = this.#state;
    const isOver = running?.begun.cause === 'stream' && !this.#detector.running && atMs - running.startedMs > 2 * LONGEST_PULL_MS;
    if (!isOver || this.#endedLate === running.id) return false;
    this.#endedLate = running.id;
    return true;
  }

  #pullSeen(atMs: number): void {
    const id = this.#state.running?.id ?? nextPullId(this.#bundle, this.#state);
    this.#live.beginTrace(id);
    if (this.#state.day === null || this.#state.endedMs !== null || this.#state.running) return;
    void this.happen(this.#pullStart(atMs, 'stream'), atMs);
  }

  async #pullOver(atMs: number): Promise<void> {
    // The start may still be on its way into the database.
    await this.#work;
    const running = this.#state.running;
    if (!running) return;
    await this.happen({ kind: 'pull-ended', pull: running.id, aborted: false, cause: 'stream' }, atMs);
    await this.#keepStream(running.id, running.startedMs);
  }

  async #keepStream(pull: string, startedMs: number): Promise<void> {
    const keeps = [...this.#devices.values()].some(({ setting }) => setting.kind === 'stream' && setting.keep);
    const samples = keeps ? this.#live.samplesSince(startedMs - BEFORE_PULL_MS) : [];
    if (samples.length > 0) await this.takeFile({ name: `${pull}-stream.csv`, bytes: streamLog(samples), madeAtMs: samples.at(-1)!.atMs });
  }

  /** What is stamped on a pull that begins by itself. */
  #pullStart(atMs: number, cause: 'stream' | 'file'): DayHappening {
    const cell = { nowMs: atMs, readings: this.#live.readings, history: this.#live.history() };
    const gates = this.#bundle.plan?.gates ?? defaultGates(this.#bundle);
    const instruction = instruct(this.#state, gates, cell, true);
    const early = cause === 'stream' && instruction.kind === 'wait' ? 'driven before the gates were met' : null;
    return pullStart(this.#state, this.#bundle, cell, instruction, early, cause);
  }

  #watchLimits(atMs: number, fullLoad: boolean): void {
    if (this.#state.day === null || this.#state.endedMs !== null || this.#state.stop) return;
    const stops = this.#bundle.plan?.stops ?? defaultStops(this.#bundle);
    const targetKPa = this.#bundle.setups.find(({ id }) => id === this.#state.fitted)?.state.boostTargetKPa;
    const found = passedStop(stops, this.#live.readings, fullLoad, typeof targetKPa === 'number' ? targetKPa * 1000 : null);
    if (!found) {
      this.#saidStop = { criterion: '', samples: 0, silent: '' };
      return;
    }
    // What was acknowledged is not raised again until it has been within its limit.
    if (found.criterion === this.#saidStop.silent) return;
    this.#saidStop = {
      ...this.#saidStop,
      criterion: found.criterion,
      samples: found.criterion === this.#saidStop.criterion ? this.#saidStop.samples + 1 : 1,
    };
    if (this.#saidStop.samples < STOP_SAMPLES) return;
    this.#saidStop.silent = found.criterion;
    void this.happen({ kind: 'stop-raised', criterion: found.criterion, text: found.text }, atMs);
  }

  /** The simulated driver and mechanics follow the screen: engine off for a swap, parts fitted at its end, full throttle where it says so. */
  #driveRig(): void {
    const rig = this.#rig;
    if (!rig) return;
    const { swapping, fitted, swaps } = this.#state;
    const does = swapping ? `off ${swaps.length}` : `on ${fitted} ${swaps.length}`;
    if (does !== this.#rigDoes) {
      this.#rigDoes = does;
      if (swapping) rig.command({ do: 'engine', on: false });
      else if (fitted && rig.state.fitted !== fitted) rig.command({ do: 'fit', setup: fitted, ecuReset: swaps.at(-1)?.ecuReset ?? false });
      else rig.command({ do: 'engine', on: true });
    }
    if (!rig.state.follows || rig.state.doing !== 'idle') return;
    const nowMs = this.nowMs;
    const gates = this.#bundle.plan?.gates ?? defaultGates(this.#bundle);
    const cell = { nowMs, readings: this.#live.readings, history: {} };
    const isReady =
      instruct(this.#state, gates, { ...cell, history: this.#live.history(nowMs - 120_000) }, readyForFirstPull(this.#bundle, this.#state))
        .kind === 'pull';
    if (!isReady) {
      this.#readySinceMs = null;
      return;
    }
    this.#readySinceMs ??= nowMs;
    if (nowMs - this.#readySinceMs < DRIVER_WAITS_S * 1000) return;
    this.#readySinceMs = null;
    rig.command({ do: 'pull' });
  }

  /** What follows from something that was added: the day says what it can, and files look for their pull. */
  #follow(events: readonly DayEvent[]): void {
    const kinds = new Set(events.map(({ what }) => what.kind));
    if (['pull-ended', 'pull-started', 'taken-back'].some((kind) => kinds.has(kind as 'pull-ended')))
      setImmediate(() => void this.#match(false));
    if (['files-matched', 'pull-amended', 'taken-back'].some((kind) => kinds.has(kind as 'pull-ended'))) this.#saySoon();
  }

  #matchSoon(): void {
    if (this.#matching) clearTimeout(this.#matching);
    this.#matching = setTimeout(() => void this.#match(false), MATCH_AFTER_MS);
  }

  async #match(final: boolean): Promise<void> {
    for (const device of devicesOf(this.#state)) {
      const { matched, question } = matchDevice(this.#state, device, final);
      if (matched) await this.happen(matched);
      else if (question) await this.#fromFileAlone(question);
    }
    this.#changed();
  }

  /** Where nothing streams, a fresh file is what begins and ends a pull. */
  async #fromFileAlone({ device, files }: FileQuestion): Promise<void> {
    const streams = [...this.#devices.values()].some(({ setting }) => setting.kind !== 'folder');
    const watched = [...this.#devices.values()].some(({ setting }) => setting.kind === 'folder');
    if (streams || !watched || this.#state.running || this.#state.swapping || this.#state.endedMs !== null) return;
    const newest = this.#state.files.at(-1);
    const alone = files.filter(({ pull }) => pull === null);
    if (newest?.device !== device || alone.length !== 1 || alone[0]!.file !== newest.file || newest.sweepsAtS.length !== 1) return;
    const startedMs = newest.atMs - 1000 * (newest.lengthS - newest.sweepsAtS[0]!);
    if (this.#state.pulls.some((pull) => pull.startedMs >= startedMs - 30_000)) return;
    await this.happen(this.#pullStart(startedMs, 'file'), startedMs);
  }

  #questions(final: boolean): FileQuestion[] {
    return devicesOf(this.#state).flatMap((device) => matchDevice(this.#state, device, final).question ?? []);
  }

  /** The files of one pull come one after the other: it is judged once they have. */
  #saySoon(): void {
    if (this.#saying) clearTimeout(this.#saying);
    this.#saying = setTimeout(() => void this.#say(), SAY_AFTER_MS);
  }

  /** After a pull: what the day can say already, per comparison. */
  async #say(): Promise<void> {
    const last = this.#state.pulls.findLast(({ endedMs }) => endedMs !== null);
    if (!last) return;
    try {
      const { findings } = await analysisOf(this.services, this.programmeId);
      const comparisons = findings.comparisons
        .filter(({ levelled }) => levelled !== null)
        .map(({ reference, candidate, levelled, verdict }) => ({ reference, candidate, ...levelled!, power: verdict.power as string }));
      const before = this.#state.said.at(-1);
      const isNews =
        comparisons.length > 0 && (before?.pull !== last.id || JSON.stringify(before.comparisons) !== JSON.stringify(comparisons));
      if (isNews) await this.happen({ kind: 'said', pull: last.id, comparisons });
      else this.#changed();
    } catch (error) {
      if (!(error instanceof GezeitError)) throw error;
      this.services.log.warn({ code: error.code }, 'the day cannot be judged yet');
    }
  }

  #changed(): void {
    this.#events.emit('message', { type: 'view', view: this.view() } satisfies DayMessage);
    this.#toldUntilMs = this.nowMs;
  }

  #tell(): void {
    if (this.#events.listenerCount('message') === 0) return;
    const history = this.#live.history(this.#toldUntilMs);
    const newest = Math.max(this.#toldUntilMs, ...Object.values(history).map(({ atMs }) => atMs.at(-1) ?? 0));
    this.#events.emit('message', {
      type: 'live',
      clock: { nowMs: this.nowMs, speed: this.#clock?.speed ?? 1 },
      readings: this.#live.readings,
      history,
      trace: this.#live.changedTrace(),
      rig: this.#rig?.state ?? null,
    } satisfies DayMessage);
    this.#toldUntilMs = newest;
  }
}
