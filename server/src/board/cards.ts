import { setTimeout as pause } from 'node:timers/promises';
import type { Board, BoardEntry } from '@gezeit/contract';
import type { EntityManager } from 'typeorm';
import { COMPUTATION_VERSION } from '../analysis/computation-version.js';
import { keptOfKind } from '../analysis/kept-products.js';
import type { Database } from '../database/database.js';
import { stampsOf } from '../store/stamp.js';
import type { Card } from './card.js';

/** Who makes cards, off the event loop. */
export interface CardWork {
  card(id: string, digest: string): Promise<Card>;
}

interface Held {
  digest: string;
  card: Card;
}

interface Listed {
  id: string;
  title: string;
  version: number;
  archived: boolean;
  vehicle: string;
  cells: string;
}

/**
 * The cards of all programmes: each is made once for a state, kept with the products and held at hand. What lists programmes reads these, so
 * that a list costs what it shows and not what stands behind it.
 */
export class Cards {
  /** By programme. */
  readonly #held = new Map<string, Held>();
  /** The reading of what is kept, once: those who ask at the same time wait for the same. */
  #filled: Promise<void> | null = null;
  /** The making of one card is waited for before the next is asked for: what somebody waits for is judged in between. */
  #making: Promise<void> = Promise.resolve();

  constructor(
    private readonly database: Database,
    private readonly work: CardWork,
  ) {}

  /** All cards as things stand, the oldest programme first. */
  async all(): Promise<Card[]> {
    const { listed, making } = await this.#look();
    await making;
    return listed.flatMap(({ id }) => this.#held.get(id)?.card ?? []);
  }

  /**
   * The board. Where answers have to be judged first it waits for them so long, ms; what is not judged by then is listed as it was, or by its
   * name alone, and says so.
   */
  async board(withinMs: number | null): Promise<Board> {
    const { listed, stale, making } = await this.#look();
    await (withinMs === null ? making : Promise.race([making, pause(withinMs)]));
    return {
      programmes: listed.map((row) => {
        const held = this.#held.get(row.id);
        const entry = held?.card.entry ?? bareEntry(row);
        return !stale.has(row.id) || held?.digest === stale.get(row.id) ? entry : { ...entry, judging: true };
      }),
    };
  }

  /** What there is, of which no card is at hand, and their making. */
  async #look(): Promise<{ listed: Listed[]; stale: Map<string, string>; making: Promise<void> }> {
    const { manager } = this.database;
    await (this.#filled ??= this.#fill(manager));
    const held = this.#held;
    const stamps = await stampsOf(manager);
    const listed = await listedOf(manager);
    const stale = new Map<string, string>();
    for (const { id } of listed) {
      const digest = `${COMPUTATION_VERSION}.${stamps.get(id)}`;
      if (!isGood(held.get(id), digest)) stale.set(id, digest);
    }
    const now = new Set(listed.map(({ id }) => id));
    for (const id of held.keys()) if (!now.has(id)) held.delete(id);
    if (stale.size > 0) {
      const make = () => this.#make(stale);
      this.#making = this.#making.then(make, make);
      // Whoever waits for it learns that it failed; who does not, asks again.
      this.#making.catch(() => undefined);
    }
    return { listed, stale, making: stale.size > 0 ? this.#making : Promise.resolve() };
  }

  async #fill(manager: EntityManager): Promise<void> {
    try {
      for (const { programmeId, digest, product } of await keptOfKind<Card>(manager, 'card'))
        this.#held.set(programmeId, { digest, card: product });
    } catch (error) {
      this.#filled = null;
      throw error;
    }
  }

  async #make(stale: ReadonlyMap<string, string>): Promise<void> {
    for (const [id, digest] of stale) {
      if (isGood(this.#held.get(id), digest)) continue;
      this.#held.set(id, { digest, card: await this.work.card(id, digest) });
    }
  }
}

/** Whether a card is of this state; one that could not be judged is tried anew whenever it is asked for. */
function isGood(held: Held | undefined, digest: string): boolean {
  return held?.digest === digest && held.card.entry.problem === null;
}

function listedOf(manager: EntityManager): Promise<Listed[]> {
  return manager.query(
    `SELECT p.id, p.title, p.version, p.archived, v.name AS vehicle,
       (SELECT GROUP_CONCAT(c.name, ', ') FROM programme_cell l JOIN cell c ON c.id = l.cellId WHERE l.programmeId = p.id) AS cells
     FROM programme p JOIN vehicle v ON v.id = p.vehicleId WHERE NOT p.superseded ORDER BY p.createdAt`,
  );
}

function bareEntry({ id, title, version, archived, vehicle, cells }: Listed): BoardEntry {
  return {
    id,
    title,
    question: '',
    vehicle,
    cell: cells,
    version,
    smallestGainPct: 1,
    pullsUsed: 0,
    pullsDriven: 0,
    lastPullAt: null,
    plannedResolvablePct: null,
    answers: [],
    fixed: { count: 0, outOfDate: 0 },
    earlierAnswers: [],
    gaps: [],
    archived: Boolean(archived),
    judging: true,
    problem: null,
  };
}
