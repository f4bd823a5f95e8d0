import type { PlanSwap } from '@gezeit/contract';
import type { Assumptions, NoiseBelief } from '../judge/assumptions.js';
import { planResolution } from '../judge/resolution.js';
import { impossibleReturn } from './one-way.js';

/** What a suggestion may use. */
export interface SuggestionProblem {
  /** Setups, the reference first. */
  setups: readonly string[];
  mostPulls: number;
  mostHours: number;
  mostSwaps: number;
  restMin: number;
  /** Minutes across a swap, by setups' places. */
  swapMin(from: number, to: number): number;
  /** Swaps that have no way back. */
  oneWay?: readonly PlanSwap[];
  conditioning: number;
  assumptions: Assumptions;
  noise: NoiseBelief;
}

/** An order with what it costs and what it can recognise: the worst candidate counts. */
export interface Suggestion {
  order: string[];
  hours: number;
  swaps: number;
  smallestResolvablePct: number;
}

export interface SuggestionResult {
  best: Suggestion | null;
  /** Orders that no other beats in both hours and resolution, shortest first. */
  tradeOff: Suggestion[];
  looked: number;
}

/** Called now and then with the share that is done; false ends the search with what was found. */
export type OnSearch = (share: number, best: Suggestion | null) => boolean;

const MOST_LOOKS = 6000;
const STARTS = 14;
const TELL_EVERY = 40;

/**
 * Searches an order of measured pulls with the best resolution within a time and a number of swaps: every order of few pulls, else from
 * the usual ones uphill by moving, changing, adding and removing pulls. Every look feeds the trade-off of resolution against hours.
 */
export function suggestOrder(problem: SuggestionProblem, onSearch: OnSearch = () => true): SuggestionResult {
  const search = new Search(problem, onSearch);
  search.run();
  return search.result();
}

class Search {
  readonly #seen = new Map<string, Suggestion | null>();
  readonly #front: Suggestion[] = [];
  #best: Suggestion | null = null;
  #stopped = false;

  constructor(
    readonly problem: SuggestionProblem,
    readonly onSearch: OnSearch,
  ) {}

  run(): void {
    const { setups, mostPulls } = this.problem;
    for (const order of this.#usual()) this.#look(order);
    if (setups.length ** mostPulls <= MOST_LOOKS / 4) {
      for (let n = setups.length; n <= mostPulls; n++) this.#every([], n);
      return;
    }
    const starts = [...this.#seen.values()]
      .filter((entry) => entry !== null)
      .sort((a, b) => a.smallestResolvablePct - b.smallestResolvablePct);
    for (const start of starts.slice(0, STARTS)) this.#climb(start.order.map((setup) => setups.indexOf(setup)));
  }

  result(): SuggestionResult {
    return { best: this.#best, tradeOff: [...this.#front].sort((a, b) => a.hours - b.hours), looked: this.#seen.size };
  }

  /** The orders that practice knows, at every length. */
  #usual(): number[][] {
    const { setups, mostPulls } = this.problem;
    const candidates = setups.slice(1).map((_, i) => i + 1);
    const orders: number[][] = [];
    for (let each = 1; each * candidates.length + 1 <= mostPulls; each++) {
      const steps = candidates.flatMap((c) => Array.from({ length: each }, () => c));
      const back = [...steps].reverse();
      for (let a = 1; a <= each + 1; a++) {
        const reference = Array.from({ length: a }, () => 0);
        orders.push(
          [...reference, ...steps],
          [...reference, ...steps, ...reference],
          [...reference, ...steps, 0],
          [...steps, ...reference, ...back],
        );
        orders.push([...reference, ...steps, ...reference, ...reference, ...back, ...reference]);
        orders.push([...reference, ...candidates.flatMap((c) => [...Array.from({ length: each }, () => c), ...reference])]);
      }
    }
    if (candidates.length === 1)
      for (let n = 2; n <= mostPulls; n++) orders.push(Array.from({ length: n }, (_, i) => [0, 1, 1, 0, 1, 0, 0, 1][i % 8]!));
    return orders.filter((order) => order.length <= mostPulls);
  }

  #every(head: number[], left: number): void {
    if (this.#stopped) return;
    if (left === 0) {
      this.#look(head);
      return;
    }
    for (let setup = 0; setup < this.problem.setups.length; setup++) this.#every([...head, setup], left - 1);
  }

  #climb(order: number[]): void {
    let here = order;
    let score = this.#look(here)?.smallestResolvablePct ?? Infinity;
    for (;;) {
      let better: number[] | null = null;
      for (const next of this.#neighbours(here)) {
        if (this.#stopped) return;
        const found = this.#look(next);
        if (found && found.smallestResolvablePct < score - 1e-9) {
          score = found.smallestResolvablePct;
          better = next;
        }
      }
      if (!better) return;
      here = better;
    }
  }

  #neighbours(order: number[]): number[][] {
    const { setups, mostPulls } = this.problem;
    const list: number[][] = [];
    for (let i = 0; i < order.length; i++) {
      for (let setup = 0; setup < setups.length; setup++) if (setup !== order[i]) list.push(order.with(i, setup));
      if (i > 0 && order[i] !== order[i - 1]) list.push(order.with(i, order[i - 1]!).with(i - 1, order[i]!));
      if (order.length < mostPulls) list.push(order.toSpliced(i, 0, order[i]!));
    }
    if (order.length < mostPulls) for (let setup = 0; setup < setups.length; setup++) list.push([...order, setup]);
    // Whole blocks change places too.
    const edges = order.flatMap((setup, i) => (i === 0 || order[i - 1] !== setup ? [i] : []));
    for (let b = 1; b + 1 <= edges.length - 1; b++) {
      const [start, middle] = [edges[b - 1]!, edges[b]!];
      const end = edges[b + 1]!;
      list.push([...order.slice(0, start), ...order.slice(middle, end), ...order.slice(start, middle), ...order.slice(end)]);
    }
    return list;
  }

  #look(order: number[]): Suggestion | null {
    const key = order.join();
    const known = this.#seen.get(key);
    if (known !== undefined) return known;
    if (this.#seen.size >= MOST_LOOKS) {
      this.#stopped = true;
      return null;
    }
    const found = this.#judge(order);
    this.#seen.set(key, found);
    if (found) {
      if (!this.#best || isBetter(found, this.#best)) this.#best = found;
      this.#keepOnFront(found);
    }
    if (this.#seen.size % TELL_EVERY === 0 && !this.onSearch(this.#seen.size / MOST_LOOKS, this.#best)) this.#stopped = true;
    return found;
  }

  #judge(order: number[]): Suggestion | null {
    const { setups, mostHours, mostSwaps, restMin, swapMin, oneWay, conditioning, assumptions, noise } = this.problem;
    if (new Set(order).size < setups.length) return null;
    const names = order.map((setup) => setups[setup]!);
    if (oneWay?.length && impossibleReturn(names, oneWay)) return null;
    let [atMin, pullsBefore, swaps] = [0, 0, 0];
    const series = { setup: order, timeH: [] as number[], pullsBefore: [] as number[] };
    for (const [i, setup] of order.entries()) {
      const swapped = i > 0 && order[i - 1] !== setup;
      if (swapped) {
        swaps += 1;
        atMin += swapMin(order[i - 1]!, setup);
      } else if (i > 0) atMin += restMin;
      if (i === 0 || swapped) {
        atMin += conditioning * restMin;
        pullsBefore += conditioning;
      }
      series.timeH.push(atMin / 60);
      series.pullsBefore.push(pullsBefore);
      pullsBefore += 1;
    }
    const hours = atMin / 60;
    if (hours > mostHours || swaps > mostSwaps) return null;
    const worst = Math.max(...planResolution(series, assumptions, noise).map(({ smallestResolvablePct }) => smallestResolvablePct));
    return { order: names, hours, swaps, smallestResolvablePct: worst };
  }

  #keepOnFront(found: Suggestion): void {
    if (this.#front.some((other) => other.hours <= found.hours && other.smallestResolvablePct <= found.smallestResolvablePct)) return;
    for (let i = this.#front.length - 1; i >= 0; i--) {
      const other = this.#front[i]!;
      if (other.hours >= found.hours && other.smallestResolvablePct >= found.smallestResolvablePct) this.#front.splice(i, 1);
    }
    this.#front.push(found);
  }
}

/** A better resolution; of two that are as good within a thousandth, the shorter day. */
function isBetter(a: Suggestion, b: Suggestion): boolean {
  if (Math.abs(a.smallestResolvablePct / b.smallestResolvablePct - 1) < 1e-3) return a.hours < b.hours;
  return a.smallestResolvablePct < b.smallestResolvablePct;
}
