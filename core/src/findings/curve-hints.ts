import type { Aspiration, ChannelDifference, DifferenceCurve, Hint } from '@gezeit/contract';
import { quoted, type JudgedPair } from '../compare/judged-pair.js';
import { mean } from '../numeric/means.js';

/** When a shape fits a mechanism; per cent of power, rpm, K. Each is a rule of thumb: a hint, never a proof. */
export const HINT_RULES = {
  /** The upper third gains so much more than the lower one, % of power, for a restriction that was removed; the other way round for spool. */
  slopePct: 0.7,
  /** A range no wider than this share of the band, and so much above what lies beside it: tract tuning or noise. */
  bumpShare: 0.4,
  bumpPct: 0.8,
  /** A charge cooler by so much, and a gain no less even than this: charge density. */
  chargeK: 2,
  flatPct: 0.5,
  /** Power falls by so much while boost holds within so much: downstream. */
  fallPct: -1,
  boostHeldPct: 0.5,
};

interface Shape {
  pair: JudgedPair;
  points: readonly { rpm: number; pct: number }[];
  channels: readonly ChannelDifference[];
  real: DifferenceCurve['real'];
  aspiration: Aspiration;
}

/** Mechanisms that a real difference's shape fits; none where nothing is real. */
export function curveHints({ pair, points, channels, real, aspiration }: Shape): Hint[] {
  const [low, high] = pair.band.band;
  const inBand = points.filter(({ rpm }) => rpm >= low && rpm <= high);
  const { estimate } = quoted(pair);
  const isReal =
    real.some(({ fromRpm, toRpm }) => toRpm > low && fromRpm < high) || (estimate !== null && (estimate.low > 0 || estimate.high < 0));
  if (!isReal || inBand.length < 6) return [];
  const third = Math.floor(inBand.length / 3);
  const of = (part: readonly { pct: number }[]) => mean(part.map(({ pct }) => pct));
  const [lower, middle, upper] = [of(inBand.slice(0, third)), of(inBand.slice(third, -third)), of(inBand.slice(-third))];
  const over = (key: string) => {
    const channel = channels.find((entry) => entry.key === key);
    const inside = channel?.value.filter((_, i) => channel.engineSpeedRpm[i]! >= low && channel.engineSpeedRpm[i]! <= high) ?? [];
    return inside.length > 0 ? mean(inside) : null;
  };
  const charge = over('intakeAirTemperature') ?? over('coolerOutTemperature');
  const boost = over('manifoldPressure');
  const isBoosted = aspiration !== 'na';
  const rules = HINT_RULES;
  const bump = real.find(({ fromRpm, toRpm }) => fromRpm >= low && toRpm <= high && toRpm - fromRpm <= rules.bumpShare * (high - low));
  const hints: [Hint, boolean][] = [
    ['restriction', upper - lower >= rules.slopePct && middle >= lower && upper > 0],
    ['spool', isBoosted && lower - upper >= rules.slopePct && lower > 0],
    ['flap', !isBoosted && lower - upper >= rules.slopePct && lower > 0],
    ['tract-tuning', bump !== undefined && Math.abs(middle) - Math.max(Math.abs(lower), Math.abs(upper)) >= rules.bumpPct],
    [
      'charge-density',
      Math.max(lower, middle, upper) - Math.min(lower, middle, upper) <= rules.flatPct &&
        middle > 0 &&
        charge !== null &&
        charge <= -rules.chargeK,
    ],
    ['downstream', isBoosted && upper <= rules.fallPct && boost !== null && Math.abs(boost) <= rules.boostHeldPct],
  ];
  return hints.flatMap(([hint, fits]) => (fits ? [hint] : []));
}
