import type { Affected, Bundle, PullFlag, Setup, TypedFigures } from '@gezeit/contract';
import type { Band } from '../pull/band.js';
import { onBand } from '../pull/band.js';
import type { PullCurve } from '../pull/curve.js';
import type { Assumptions } from '../judge/assumptions.js';
import type { AnySaid } from '../said.js';

/** What the other pulls of the day say about one pull. */
interface Peers {
  /** Curves of the same setup, this one included. */
  sameSetup: PullCurve[];
  /** Curves of every measured pull in the same gear, this one included. */
  sameGear: PullCurve[];
  /** Start temperatures above ambient of the day's measured pulls, K. */
  startAboveAmbientK: number[];
  /** An earlier pull of which this one is no more than a copy; null where it is one of its own. */
  copyOf: string | null;
  /** Measured pulls in the order of the day, this one included, with what they made from the same start. */
  levels: readonly PullLevel[];
}

/** What a pull made: natural logarithm of its corrected mean power over the band, brought to the same start temperature. */
export interface PullLevel {
  id: string;
  setup: string;
  level: number;
}

/** What a check looks at: one pull within a band. The curve is null where nothing was logged. */
export interface CheckInput {
  bundle: Pick<Bundle, 'vehicle' | 'cell' | 'cells' | 'channels'>;
  assumptions: Assumptions;
  /** Which pull it is, and with what it was driven. */
  id: string;
  setup: Setup | null;
  curve: PullCurve | null;
  typed: TypedFigures | null;
  band: Band;
  peers: Peers;
}

/** What a check found. */
export interface CheckFinding {
  said: AnySaid;
  /** Where it is seen: channels and times, s after full throttle; empty where it is of the whole pull. */
  where?: readonly CheckPlace[];
}

export interface CheckPlace {
  channel: string;
  fromS: number;
  toS: number;
}

/** A stretch of engine speed as times of the sweep; none where the curve has no time. */
export function placeAt({ gridRpm, gridTimeS }: PullCurve, channel: string, fromRpm: number, toRpm: number): CheckPlace[] {
  const inside = [...gridRpm.keys()].filter((i) => gridRpm[i]! >= fromRpm && gridRpm[i]! <= toRpm && Number.isFinite(gridTimeS[i]!));
  return inside.length === 0 ? [] : [{ channel, fromS: gridTimeS[inside[0]!]!, toS: gridTimeS[inside.at(-1)!]! }];
}

/** A check of one pull: what it looks at, what it needs, and what follows from it. */
export interface Check {
  flag: PullFlag;
  /** Whether it leaves the pull out, unless every pull of its setup has it. */
  leavesOut: boolean;
  /** Whether leaving the pull out is suggested; the engineer decides. Never for what is weighed down already. */
  suggestsLeavingOut: boolean;
  /** What a pull with it says less about. */
  touches: readonly Affected[];
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
  for (let index = 0; index < values.length; index += 1) {
    const value = values[index]!;
    if (!Number.isFinite(value)) continue;
    known += 1;
    if (test(value, index)) meeting += 1;
  }
  return known === 0 ? 0 : meeting / known;
}

/** From the first to the last engine speed of the band at which a channel meets a test, as one place. */
export function placesWhere(curve: PullCurve, key: string, [low, high]: Band, test: (value: number) => boolean): CheckPlace[] {
  const channel = curve.channels.get(key);
  if (!channel) return [];
  const meeting = [...curve.gridRpm].filter((rpm, i) => rpm >= low && rpm <= high && test(channel[i]!));
  return meeting.length === 0 ? [] : placeAt(curve, key, meeting[0]!, meeting.at(-1)!);
}
