import { dirname } from 'node:path';
import type { Services } from '../http/route.js';
import { DayDeviceEntity } from '../database/entities.js';
import { findProgramme } from '../store/load-bundle.js';
import { DayRun } from './day-run.js';

/** The days that are listened to: one a programme, made when it is first asked for, or at the start where devices wait for it. */
export class DayHub {
  readonly #runs = new Map<string, Promise<DayRun>>();

  constructor(readonly services: () => Services) {}

  /** Goes on with every day whose devices were listened to when the server stopped. */
  async resume(): Promise<void> {
    const rows = await this.services().source.manager.find(DayDeviceEntity, { select: { programmeId: true } });
    await Promise.all([...new Set(rows.map(({ programmeId }) => programmeId))].map((id) => this.run(id)));
  }

  /** The day of a programme. @throws GezeitError `not-found`. */
  async run(programmeId: string): Promise<DayRun> {
    const known = this.#runs.get(programmeId);
    if (known) return known;
    const { source } = this.services();
    await findProgramme(source.manager, programmeId);
    const again = this.#runs.get(programmeId);
    if (again) return again;
    const run = new DayRun(programmeId, this.services(), dirname(source.options.database as string));
    const opening = run.open().then(() => run);
    this.#runs.set(programmeId, opening);
    opening.catch(() => this.#runs.delete(programmeId));
    return opening;
  }

  /**
   * A car comes on the rollers: those of other days that listen to the same devices leave them, or what is streamed and exported would be
   * taken for both.
   */
  async leaveRollersFor(day: DayRun): Promise<void> {
    if (!day.isOnRollers) return;
    for (const opening of this.#runs.values()) {
      const other = await opening.catch(() => null);
      if (!other || other === day || !other.isOnRollers || !other.sharesDevice(day)) continue;
      await other.happen({ kind: 'rollers', on: false, other: day.bundle.programme.title });
    }
  }

  /** A day has begun or ended: those beside it say so. */
  async lookAround(day: DayRun): Promise<void> {
    for (const opening of this.#runs.values()) {
      const other = await opening.catch(() => null);
      if (other && other !== day) await other.refresh();
    }
  }

  /** Tells a day that its programme was changed elsewhere. */
  async changed(programmeId: string): Promise<void> {
    await (await this.#runs.get(programmeId))?.refresh();
  }

  async close(): Promise<void> {
    for (const opening of this.#runs.values()) await (await opening.catch(() => null))?.close();
    this.#runs.clear();
  }
}
