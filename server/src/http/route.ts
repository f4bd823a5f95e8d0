import type { Readable } from 'node:stream';
import type { IncomingMessage } from 'node:http';
import type { Logger } from 'pino';
import type { Database } from '../database/database.js';
import { z } from 'zod';
import type { Access } from '@gezeit/contract';
import type { Cards } from '../board/cards.js';
import type { DayHub } from '../day/day-hub.js';
import type { ImportJobs } from '../import/import-jobs.js';
import type { KeptSamples } from '../store/kept-samples.js';
import type { Staging } from '../staging/staging.js';
import type { WorkerPools } from '../work/worker-pools.js';

/** What every handler may use. */
export interface Services {
  database: Database;
  work: WorkerPools;
  imports: ImportJobs;
  staging: Staging;
  days: DayHub;
  cards: Cards;
  keptSamples: KeptSamples;
  log: Logger;
  version: string;
}

/** An answer that is not JSON. */
export interface RawAnswer {
  type: string;
  body: Buffer | Readable;
  /** Name under which a browser saves it. */
  fileName?: string;
}

/**
 * The answer of a change that is stored already and is still being judged: who prefers to hear of the first at once is told so, and gets the
 * answer when it is there.
 */
export class StoredAnswer<A> {
  constructor(readonly judged: Promise<A>) {
    // Whoever awaits it hears of a failure.
    judged.catch(() => undefined);
  }
}

type Shape = z.ZodType;
type Output<T extends Shape | undefined> = T extends Shape ? z.output<T> : undefined;

/** A checked request: parameters, query and body have passed their schemas. */
interface Checked<P extends Shape | undefined, Q extends Shape | undefined, B extends Shape | undefined> {
  params: Output<P>;
  query: Output<Q>;
  body: Output<B>;
  /** Who is working; only on routes that change something. */
  person: string;
  /** The browser that asks, as it names itself; programs are all one. */
  seat: string;
  /** How the request came in. */
  access: Access;
  request: IncomingMessage;
  services: Services;
}

export interface RouteDefinition<P extends Shape | undefined, Q extends Shape | undefined, B extends Shape | undefined, A> {
  method: 'get' | 'post' | 'patch' | 'delete';
  path: string;
  summary: string;
  params?: P;
  query?: Q;
  body?: B;
  /** Schema of a JSON answer, or the media type of another. */
  answer: z.ZodType<A> | string;
  /** Whether it changes data: then the request says who is working. */
  changes?: boolean;
  /** Whether it is refused over the network: it is of the machine in the cell. */
  onMachine?: boolean;
  /** Status of a good answer; 200 where it is not said. */
  status?: number;
  handle(checked: Checked<P, Q, B>): Promise<A | RawAnswer | StoredAnswer<A>>;
}

/** A route as the registry keeps it. */
// The registry holds routes of all shapes; each handler was checked against its own schemas where it was defined.
// eslint-disable-next-line @typescript-eslint/no-explicit-any
export type Route = RouteDefinition<any, any, any, any>;

/** Defines a route with its schemas' types inferred. */
export function route<
  A,
  P extends Shape | undefined = undefined,
  Q extends Shape | undefined = undefined,
  B extends Shape | undefined = undefined,
>(definition: RouteDefinition<P, Q, B, A>): Route {
  return definition;
}

export const idParams = z.object({ id: z.string().min(1).max(100) });
