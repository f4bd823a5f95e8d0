import type { PullCurve } from '../pull/curve.js';
import type { CheckInput } from './check.js';
import { flagsOf, type FlagDetail } from './index.js';

/** The flags of a day's pulls, and all that the checks looked at for them: curves by identity, the rest by its text. */
interface Flagged {
  curves: readonly PullCurve[];
  text: string;
  flags: FlagDetail[][];
}

/** By the first curve of the day. */
const kept = new WeakMap<PullCurve, Flagged>();

/**
 * Flags of every pull of a day, in order. Where nothing that a check looks at is other than it last was, they are what they were: a pull that is left
 * out changes none of them, and looking again takes a quarter of a judgement.
 * @param inputs one a pull, of one bundle, band and set of assumptions.
 */
export function flagsOfDay(inputs: readonly CheckInput[]): FlagDetail[][] {
  const curves = [...new Set(inputs.flatMap(({ curve, peers }) => [...(curve ? [curve] : []), ...peers.sameSetup, ...peers.sameGear]))];
  const text = textOf(inputs, curves);
  const before = curves[0] && kept.get(curves[0]);
  if (before && before.text === text && before.curves.length === curves.length && curves.every((curve, i) => curve === before.curves[i]))
    return before.flags;
  const flags = inputs.map(flagsOf);
  if (curves[0]) kept.set(curves[0], { curves, text, flags });
  return flags;
}

function textOf(inputs: readonly CheckInput[], curves: readonly PullCurve[]): string {
  const places = new Map(curves.map((curve, i) => [curve, i]));
  const placesOf = (group: readonly PullCurve[]) => group.map((curve) => places.get(curve));
  const written = new Map<unknown, number>();
  // What pulls have in common is written once, and pointed at from there on.
  const once = <T>(value: T, shown: unknown = value): unknown => {
    const place = written.get(value);
    if (place !== undefined) return place;
    written.set(value, written.size);
    return shown;
  };
  return JSON.stringify(
    inputs.map(({ bundle, assumptions, id, setup, curve, typed, band, peers, ...none }) => {
      const { sameSetup, sameGear, startAboveAmbientK, levels, copyOf, ...noPeers } = peers;
      // A check that looks at more does not compile before it stands here.
      const rest: Record<string, never>[] = [none, noPeers];
      const { vehicle, cell, cells, channels } = bundle;
      return [
        [vehicle, cell, cells, channels].map((part) => once(part)),
        [assumptions, band, startAboveAmbientK, levels, setup].map((part) => once(part)),
        [id, typed, copyOf, curve && places.get(curve)],
        [sameSetup, sameGear].map((group) => once(group, placesOf(group))),
        rest,
      ];
    }),
  );
}
