import { randomUUID } from 'node:crypto';
import { EventEmitter } from 'node:events';
import type { Bundle, DayEvent, DayHappening, DayMessage, DayView, DeviceSetting, FileQuestion, RigCommand } from '@gezeit/contract';
import { conflict, dayState, type DayState, GezeitError } from '@gezeit/core';
import { Programme } from '../database/entities.js';
import { loadBundle } from '../store/load-bundle.js';
import { Holding, type Seat } from './holding.js';
import { DayDevices } from './day-devices.js';
import { addEvents, newestRun } from './day-events.js';
import { DaySays } from './day-says.js';
import type { DayServices } from './day-services.js';
import type { NeighbourDay, Neighbours } from './ongoing-day.js';
import type { DeviceFileMade, DeviceSample } from './device.js';
import type { RigDevice } from './devices/rig-device.js';
import { FileWatch } from './file-watch.js';
import { keepTemperatures } from './keep-temperatures.js';
import { KeptLive } from './kept-live.js';
import { LimitWatch } from './limit-watch.js';
import { LiveChannels } from './live-channels.js';
import { PullWatch } from './pull-watch.js';
import { RigDriver } from './rig-driver.js';

const TELL_EVERY_MS = 250;
/** A pull of the rig and its entry in the day are the same where they began this close together. */
const SAME_PULL_MS = 6000;

/** A programme's day while it is listened to: its list of happenings, and those that watch the cell for the next one. */
export class DayRun implements NeighbourDay {
  readonly live = new LiveChannels();
  readonly holding: Holding;
  readonly #kept: KeptLive;
  readonly #events = new EventEmitter().setMaxListeners(0);
  readonly #devices: DayDevices;
  readonly #limits = new LimitWatch(this);
  readonly #pulls = new PullWatch(this, () => this.#devices.settings.some((setting) => setting.kind === 'stream' && setting.keep));
  readonly #files = new FileWatch(
    this,
    () => this.#devices.settings,
    (atMs, cause) => this.#pulls.startOf(atMs, cause),
  );
  readonly #says = new DaySays(this);
  readonly #driver = new RigDriver(this);
  #bundle!: Bundle;
  #list: DayEvent[] = [];
  #state: DayState = dayState([]);
  #work: Promise<unknown> = Promise.resolve();
  #timer: NodeJS.Timeout | null = null;
  #toldUntilMs = 0;
  #others: DayView['others'] = [];

  constructor(
    readonly programmeId: string,
    readonly services: DayServices,
    readonly neighbours: Neighbours,
    folder: string,
  ) {
    this.#kept = new KeptLive(folder, programmeId, this.live);
    this.holding = new Holding(folder, this);
    this.#devices = new DayDevices(this, folder, (samples) => this.#take(samples));
  }

  async open(): Promise<void> {
    await this.#reload();
    this.#kept.restore();
    this.holding.restore();
    await this.#devices.open();
    this.#timer = setInterval(() => this.#tell(), TELL_EVERY_MS);
  }

  async close(): Promise<void> {
    if (this.#timer) clearInterval(this.#timer);
    this.#says.close();
    this.#files.close();
    await this.#devices.close();
    this.#kept.keep(true);
    await this.#work.catch(() => undefined);
  }

  get state(): DayState {
    return this.#state;
  }
  get bundle(): Bundle {
    return this.#bundle;
  }
  get nowMs(): number {
    return this.#devices.nowMs;
  }
  settled(): Promise<unknown> {
    return this.#work;
  }

  view(): DayView {
    return {
      day: this.#state.day,
      events: this.#list,
      clock: { nowMs: this.nowMs, speed: this.#devices.speed },
      devices: this.#devices.states,
      readings: this.live.readings,
      history: this.live.course,
      trace: this.live.trace,
      questions: this.#files.questions(false),
      rig: this.#devices.rig?.state ?? null,
      others: this.#others,
      holder: this.holding.holder,
    };
  }

  /** Calls back with every message for a window that follows; returns how to stop. */
  listen(listener: (message: DayMessage) => void): () => void {
    this.#events.on('message', listener);
    return () => this.#events.off('message', listener);
  }

  /** Adds what somebody says that happened: whoever begins a day holds it. @throws GezeitError `held-elsewhere`, and as adding does. */
  async addFrom(seat: Seat, events: readonly DayEvent[]): Promise<void> {
    this.holding.act(seat, Math.max(...events.map(({ at }) => Date.parse(at))));
    await this.add(events);
    if (this.holding.holder !== null) return;
    this.holding.act(seat);
    this.changed();
  }

  /** Adds what happened. @throws GezeitError where something may not happen now. */
  add(events: readonly DayEvent[]): Promise<void> {
    return this.#queue(async () => {
      const { database } = this.services;
      const { stored, state } = await database.write(async (manager) => {
        const added = await addEvents(manager, this.programmeId, events);
        const isRest = events.some(({ what }) => what.kind === 'pull-ended' || what.kind === 'ended');
        if (isRest && added.state.day !== null) await keepTemperatures(manager, this.programmeId, added.state.day, this.live.course);
        return added;
      });
      this.#stands(stored.events, state);
      this.#bundle = await loadBundle(database.manager, this.programmeId);
      this.#follow(events);
      this.changed();
    });
  }

  async happen(what: DayHappening, atMs = this.nowMs): Promise<void> {
    try {
      await this.add([{ id: randomUUID(), at: new Date(atMs).toISOString(), by: 'Gezeit', what }]);
    } catch (error) {
      if (!(error instanceof GezeitError)) throw error;
      this.services.log.info({ code: error.code, kind: what.kind }, 'a happening was refused');
    }
  }

  /** Takes a file of a device, or one that was brought: kept as it is. Of several that come together all are taken before they are matched. */
  async takeFile(file: DeviceFileMade, oneOfMany = false): Promise<{ file: string | null }> {
    const { day } = this.#state;
    if (day === null) throw conflict('no-day', 'No day has begun.', 'Begin the day, then bring the files.');
    const taken = await this.services.work.keepFile({ programmeId: this.programmeId, day, file });
    if (!taken || this.#state.files.some((known) => known.file === taken.file)) return { file: null };
    await this.happen(taken);
    await this.#files.giveWeather(taken);
    if (!oneOfMany) this.#files.matchSoon();
    return { file: taken.file };
  }

  /** Looks at the files of all devices anew; `final` where no more are to come. */
  async matchAgain(final: boolean): Promise<FileQuestion[]> {
    await this.#files.match(final);
    return this.#files.questions(final);
  }

  async setDevice(setting: DeviceSetting): Promise<void> {
    await this.#devices.set(setting);
    await this.neighbours.leaveRollersFor(this);
  }

  /** Whether this day is under way with its car on the rollers. */
  get isOnRollers(): boolean {
    return this.#state.day !== null && this.#state.endedMs === null && this.#state.away === null;
  }

  /** What it listens to. */
  get listensTo(): readonly string[] {
    return this.#devices.sources;
  }

  removeDevice(id: string): Promise<void> {
    return this.#devices.remove(id);
  }

  commandRig(command: RigCommand): void {
    this.#theRig().command(command);
    void this.#devices.keepSettings();
    this.changed();
  }

  /** What only the rig knows: the true difference of every comparison. */
  rigTruth(pairs: [string, string][]): { reference: string; candidate: string; levelledPct: number }[] {
    const rig = this.#theRig();
    const starts = rig.pullStartsMs;
    const kindOf = (index: number) => {
      const pull = this.#state.pulls.find(({ startedMs }) => Math.abs(startedMs - starts[index]!) < SAME_PULL_MS);
      return pull && !pull.aborted ? (pull.kind === 'measured' ? ('measured' as const) : ('conditioning' as const)) : null;
    };
    return pairs.flatMap(([reference, candidate]) => {
      const levelledPct = rig.truthPct([reference, candidate], kindOf, this.#bundle);
      return levelledPct === null ? [] : [{ reference, candidate, levelledPct }];
    });
  }

  /** The programme, or another day, was changed elsewhere: gates, stops, setups and the days beside this one are read again. */
  async refresh(): Promise<void> {
    await this.#queue(() => this.#reload());
    this.changed();
  }

  changed(): void {
    this.#events.emit('message', { type: 'view', view: this.view() } satisfies DayMessage);
    this.#toldUntilMs = this.nowMs;
  }

  #theRig(): RigDevice {
    const { rig } = this.#devices;
    if (!rig) throw conflict('no-rig', 'No simulated rig runs.', 'Add it under Devices.');
    return rig;
  }

  #queue<T>(work: () => Promise<T>): Promise<T> {
    const done = this.#work.then(work, work);
    this.#work = done.catch(() => undefined);
    return done;
  }

  /** Where the day stands now; while it runs its clock only goes forward. */
  #stands(events: DayEvent[], state: DayState): void {
    this.#list = events;
    this.#state = state;
    const { steady } = this.#devices;
    if (state.day !== null && state.endedMs === null) steady.hold(Math.max(...events.map(({ at }) => Date.parse(at))));
    else steady.release();
  }

  async #reload(): Promise<void> {
    const { manager } = this.services.database;
    this.#bundle = await loadBundle(manager, this.programmeId);
    const { events } = await newestRun(manager, this.programmeId);
    this.#stands(events, dayState(events));
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

  /** Samples of any device: shown, and looked at for the beginning and end of a pull and for the limits. */
  #take(samples: readonly DeviceSample[]): void {
    this.#kept.keep();
    // While another car stands on the rollers, what the cell shows is that one's.
    if (!this.#state.away) for (const sample of samples) this.#limits.take(sample.atMs, this.#pulls.take(sample));
    const { rig } = this.#devices;
    if (rig) this.#driver.follow(rig);
  }

  /** What follows from something that was added: files look for their pull, and the day says what it can. */
  #follow(events: readonly DayEvent[]): void {
    const happened = (...kinds: DayHappening['kind'][]) => events.some(({ what }) => kinds.includes(what.kind));
    if (happened('pull-ended', 'pull-started', 'taken-back')) setImmediate(() => void this.#files.match(false));
    if (happened('files-matched', 'pull-amended', 'taken-back')) this.#says.soon();
    const comesOn = events.some(({ what }) => what.kind === 'begun' || (what.kind === 'rollers' && what.on));
    if (comesOn) setImmediate(() => void this.neighbours.leaveRollersFor(this));
    if (happened('begun', 'ended')) setImmediate(() => void this.neighbours.lookAround(this));
  }

  #tell(): void {
    if (this.#events.listenerCount('message') === 0) return;
    const history = this.live.history(this.#toldUntilMs);
    const newest = Math.max(this.#toldUntilMs, ...Object.values(history).map(({ atMs }) => atMs.at(-1) ?? 0));
    this.#events.emit('message', {
      type: 'live',
      clock: { nowMs: this.nowMs, speed: this.#devices.speed },
      readings: this.live.readings,
      history,
      trace: this.live.changedTrace(),
      rig: this.#devices.rig?.state ?? null,
    } satisfies DayMessage);
    this.#toldUntilMs = newest;
  }
}
