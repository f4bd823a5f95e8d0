import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { holderSchema, z, type Holder } from '@gezeit/contract';
import { conflict, type DayState } from '@gezeit/core';

/** Who asks for something on a day. */
export type Seat = Pick<Holder, 'seat' | 'by' | 'from'>;

/** What a day that is held has to say of itself. */
interface HeldDay {
  readonly programmeId: string;
  readonly state: DayState;
  readonly nowMs: number;
}

const keptSchema = z.object({ begunMs: z.number().nullable(), holder: holderSchema, earlier: z.array(z.string()) });

/**
 * Who acts on a day under way: one browser alone, so that nothing is called into a running cell from upstairs. It is the one that acted first;
 * another takes it over by a step of its own, which both are told.
 */
export class Holding {
  readonly #path: string;
  #holder: Holder | null = null;
  /** Those that held this day before: what they did until they handed over counts, also where it arrives later. */
  #earlier = new Set<string>();
  #begunMs: number | null = null;

  constructor(
    folder: string,
    readonly day: HeldDay,
  ) {
    this.#path = join(folder, 'live', `${day.programmeId}.holder.json`);
  }

  /** Finds again who held the day when the server stopped. */
  restore(): void {
    try {
      const { begunMs, holder, earlier } = keptSchema.parse(JSON.parse(readFileSync(this.#path, 'utf8')));
      this.#begunMs = begunMs;
      this.#holder = holder;
      this.#earlier = new Set(earlier);
    } catch {
      // Nobody held it, or nobody knows: who acts first holds it.
    }
  }

  get holder(): Holder | null {
    this.#forgetOtherDays();
    return this.#holder;
  }

  /**
   * Somebody acts on the day; where nobody holds it yet, they do from now on.
   * @param atMs when what they say happened, where that is earlier than now.
   * @throws GezeitError `held-elsewhere`.
   */
  act(seat: Seat, atMs = Infinity): void {
    const { holder } = this;
    if (!this.#isUnderWay || holder?.seat === seat.seat) return;
    if (holder === null) return this.#hold(seat, null);
    if (this.#earlier.has(seat.seat) && atMs < holder.sinceMs) return;
    throw conflict(
      'held-elsewhere',
      `${holder.by} holds this day, ${holder.from === 'machine' ? 'at the machine in the cell' : 'over the network'}.`,
      'Speak to them; then take the day over, and do it again.',
    );
  }

  /** Somebody takes the day over. @throws GezeitError `no-day` where none is under way. */
  takeOver(seat: Seat): void {
    const { holder } = this;
    if (!this.#isUnderWay) throw conflict('no-day', 'No day is under way.', 'There is nothing to take over.');
    if (holder?.seat !== seat.seat) this.#hold(seat, holder);
  }

  get #isUnderWay(): boolean {
    return this.day.state.day !== null && this.day.state.endedMs === null;
  }

  #hold(seat: Seat, from: Holder | null): void {
    if (from) this.#earlier.add(from.seat);
    this.#holder = { ...seat, sinceMs: this.day.nowMs, before: from?.by ?? null };
    this.#begunMs = this.day.state.begunMs;
    try {
      mkdirSync(dirname(this.#path), { recursive: true });
      writeFileSync(this.#path, JSON.stringify({ begunMs: this.#begunMs, holder: this.#holder, earlier: [...this.#earlier] }));
    } catch {
      // A full disk does not end the day: after a restart, who acts first holds it.
    }
  }

  /** A day that has ended, or another that has begun, is held by nobody. */
  #forgetOtherDays(): void {
    if (this.#isUnderWay && this.day.state.begunMs === this.#begunMs) return;
    this.#holder = null;
    this.#earlier.clear();
  }
}
