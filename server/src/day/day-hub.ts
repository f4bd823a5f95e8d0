import { dirname } from 'node:path';
import { DayDeviceEntity } from '../database/entities.js';
import { findProgramme } from '../store/load-bundle.js';
import { DayRun } from './day-run.js';
import type { DayServices } from './day-services.js';
import type { NeighbourDay, Neighbours } from './ongoing-day.js';

/** The days that are listened to: one a programme, made when it is first asked for, or at the start where devices wait for it. */
export class DayHub implements Neighbours {
  readonly #runs = new Map<string, Promise<DayRun>>();

  constructor(readonly services: DayServices) {}

  /** Goes on with every day whose devices were listened to when the server stopped. */
  async resume(): Promise<void> {
    const rows = await this.services.database.manager.find(DayDeviceEntity, { select: { programmeId: true } });
    const opening = [...new Set(rows.map(({ programmeId }) => programmeId))].map((id) =>
      this.run(id).catch((error: unknown) => this.services.log.error({ err: error, programme: id }, 'a day could not be gone on with')),
    );
    await Promise.all(opening);
  }

  /** The day of a programme. @throws GezeitError `not-found`. */
  async run(programmeId: string): Promise<DayRun> {
    const known = this.#runs.get(programmeId);
    if (known) return known;
    const { database } = this.services;
    await findProgramme(database.manager, programmeId);
    const again = this.#runs.get(programmeId);
    if (again) return again;
    const run = new DayRun(programmeId, this.services, this, dirname(this.services.database.file));
    const opening = run.open().then(() => run);
    this.#runs.set(programmeId, opening);
    opening.catch(() => this.#runs.delete(programmeId));
    return opening;
  }

  /**
   * A car comes on the rollers: those of other days that listen to the same devices leave them, or what is streamed and exported would be
   * taken for both.
   */
  async leaveRollersFor(day: NeighbourDay): Promise<void> {
    if (!day.isOnRollers) return;
    const sources = new Set(day.listensTo);
    for (const opening of this.#runs.values()) {
      const other = await opening.catch(() => null);
      if (!other || other === day || !other.isOnRollers || !other.listensTo.some((source) => sources.has(source))) continue;
      await other.happen({ kind: 'rollers', on: false, other: day.bundle.programme.title });
    }
  }

  /** A day has begun or ended: those beside it say so. */
  async lookAround(day: NeighbourDay): Promise<void> {
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
