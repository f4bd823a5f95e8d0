import { GezeitError, leadingEstimate } from '@gezeit/core';
import { analysedState } from '../analysis/analysis.js';
import { loadState } from '../analysis/programme-state.js';
import type { OngoingDay } from './ongoing-day.js';

/** The files of one pull come one after the other: it is judged once they have. */
const SAY_AFTER_MS = 1200;

/** After a pull: what the day can say already, per comparison. */
export class DaySays {
  #soon: NodeJS.Timeout | null = null;

  constructor(readonly day: OngoingDay) {}

  close(): void {
    if (this.#soon) clearTimeout(this.#soon);
  }

  soon(): void {
    this.close();
    this.#soon = setTimeout(() => void this.#say(), SAY_AFTER_MS);
  }

  async #say(): Promise<void> {
    const { services, programmeId } = this.day;
    const last = this.day.state.pulls.findLast(({ endedMs }) => endedMs !== null);
    if (!last) return;
    try {
      const { findings } = await analysedState(services, await loadState(services.database.manager, programmeId));
      const comparisons = findings.comparisons.flatMap((comparison) => {
        const quoted = leadingEstimate(comparison);
        const { reference, candidate, verdict } = comparison;
        return quoted ? [{ reference, candidate, ...quoted, power: verdict.power as string }] : [];
      });
      const before = this.day.state.said.at(-1);
      const isNews =
        comparisons.length > 0 && (before?.pull !== last.id || JSON.stringify(before.comparisons) !== JSON.stringify(comparisons));
      if (isNews) await this.day.happen({ kind: 'said', pull: last.id, comparisons });
      else this.day.changed();
    } catch (error) {
      if (!(error instanceof GezeitError)) throw error;
      services.log.warn({ code: error.code }, 'the day cannot be judged yet');
    }
  }
}
