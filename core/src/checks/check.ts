import type { Affected, Bundle, PullFlag, TypedFigures } from '@gezeit/contract';
import type { Band } from '../pull/band.js';
import { onBand } from '../pull/band.js';
import type { PullCurve } from '../pull/curve.js';
import type { AnySaid } from '../said.js';

/** What the other pulls of the day say about one pull. */
interface Peers {
  /** Curves of the same setup, this one included. */
  sameSetup: PullCurve[];
  /** Curves of every measured pull in the same gear, this one included. */
  sameGear: PullCurve[];
  /** Start temperatures above ambient of the day's measured pulls, K. */
  startAboveAmbientK: number[];
}

/** What a check looks at: one pull within a band. The curve is null where nothing was logged. */
export interface CheckInput {
  bundle: Bundle;
  curve: PullCurve | null;
  typed: TypedFigures | null;
  band: Band;
  peers: Peers;
}

/** What a check found. */
export interface CheckFinding {
  said: AnySaid;
  /** Engine speed from which on it holds, rpm, where that matters. */
  fromRpm?: number;
}

/** A check of one pull: what it looks at, what it needs, and what follows from it. */
export interface Check {
  flag: PullFlag;
  /** Whether it leaves the pull out, unless every pull of its setup has it. */
  leavesOut: boolean;
  /** On every pull of a setup: what it clouds and withholds then; null where it is no cloud. */
  ofSetup: { affects: readonly Affected[]; withholds: readonly Affected[] } | null;
  /** Channels of which one must be logged for the check to mean anything. */
  needs: readonly string[];
  /** How it is called in the cell the moment a pull closes; null where it is not shown there. Flags with one name share a line. */
  inCell: { id: string; label: string } | null;
  /** Its thresholds as they are listed among the assumptions. */
  thresholds: readonly { name: string; value: string; what: string }[];
  find(input: CheckInput): CheckFinding | null;
}

/** Share of the band in which a channel meets a test; 0 where it is not logged. */
export function shareOfBand(curve: PullCurve, key: string, band: Band, test: (value: number, index: number) => boolean): number {
  const channel = curve.channels.get(key);
  if (!channel) return 0;
  const values = onBand(curve, channel, band);
  let known = 0;
  let meeting = 0;
  values.forEach((value, index) => {
    if (!Number.isFinite(value)) return;
    known += 1;
    if (test(value, index)) meeting += 1;
  });
  return known === 0 ? 0 : meeting / known;
}
