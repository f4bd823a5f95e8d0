import type { BandPart, ChannelDifference, DifferenceCurve, Hint, Metric, PeakMove } from '@gezeit/contract';
import { metricChannel, type AnalysedPull } from '../compare/analysed-pull.js';
import { commonSpeeds, PointDifference, wholeCurveFactor } from '../compare/point-difference.js';
import { quoted, type JudgedPair, type PairJudge } from '../compare/judged-pair.js';
import { gainVerdict } from '../judge/verdict.js';
import { interpolate } from '../numeric/interpolate.js';
import { mean, pooledDifference } from '../numeric/means.js';
import { bandPeak, type Band } from '../pull/band.js';
import { said, type AnySaid } from '../said.js';
import { curveHints } from './curve-hints.js';

/** Widths that the parts of a band may have, rpm: the first that gives at most so many. */
const PART_WIDTHS_RPM = [250, 500, 1000, 2000];
const MOST_PARTS = 5;
/** Peaks that lie closer have not moved, rpm: the window over which they are smoothed. */
const LEAST_MOVE_RPM = 100;

/** The estimate of the question about power that leads, point by point, with everything that is said of its shape; null without logged power. */
export function differenceCurve(judge: PairJudge, pair: JudgedPair): DifferenceCurve | null {
  const difference = PointDifference.of(judge, pair);
  if (!difference) return null;
  const { speedsRpm } = difference;
  const factor = speedsRpm.length > 1 ? wholeCurveFactor(speedsRpm.at(-1)! - speedsRpm[0]!) : 1;
  const points = speedsRpm.flatMap((rpm) => {
    const estimate = difference.at(rpm);
    if (!estimate) return [];
    const { pct, low, high } = estimate;
    return [{ rpm, pct, low, high, wholeLow: pct - factor * (pct - low), wholeHigh: pct + factor * (high - pct) }];
  });
  const real = realRanges(points);
  const [low, high] = pair.band.band;
  const outside = real.flatMap(({ fromRpm, toRpm, isLoss }) => {
    const parts = [
      { fromRpm, toRpm: Math.min(toRpm, low), isLoss },
      { fromRpm: Math.max(fromRpm, high), toRpm, isLoss },
    ];
    return parts.filter((part) => part.toRpm > part.fromRpm);
  });
  const channels = channelDifferences(judge, pair);
  const peak = peakMove(judge, pair);
  return {
    reference: pair.reference.id,
    candidate: pair.candidate.id,
    engineSpeedRpm: points.map(({ rpm }) => rpm),
    pct: points.map(({ pct }) => pct),
    lowPct: points.map((point) => point.low),
    highPct: points.map((point) => point.high),
    wholeLowPct: points.map(({ wholeLow }) => wholeLow),
    wholeHighPct: points.map(({ wholeHigh }) => wholeHigh),
    real,
    outside: '',
    said: { outside: outside.length > 0 ? [said('outside-band', { ranges: outside, bandRpm: [low, high] })] : ([] satisfies AnySaid[]) },
    parts: bandParts(judge, pair, difference),
    peak,
    hints: curveHints({ pair, points, channels, real, aspiration: judge.bundle.vehicle.aspiration }) satisfies Hint[],
    channels,
    of: difference.of,
  };
}

interface Point {
  rpm: number;
  wholeLow: number;
  wholeHigh: number;
}

/** Ranges of engine speed where the band of the whole curve excludes zero; a single point is no range. */
function realRanges(points: readonly Point[]): DifferenceCurve['real'] {
  const ranges: DifferenceCurve['real'] = [];
  const signOf = ({ wholeLow, wholeHigh }: Point) => (wholeLow > 0 ? 1 : wholeHigh < 0 ? -1 : 0);
  points.forEach((point, i) => {
    const sign = signOf(point);
    if (sign === 0) return;
    const isContinued = i > 0 && signOf(points[i - 1]!) === sign;
    if (isContinued) ranges.at(-1)!.toRpm = point.rpm;
    else ranges.push({ fromRpm: point.rpm, toRpm: point.rpm, isLoss: sign < 0 });
  });
  return ranges.filter(({ fromRpm, toRpm }) => toRpm > fromRpm);
}

/** The band in parts, what lies outside it, the other metrics, and the claimed engine speeds: the same estimate for each. */
function bandParts(judge: PairJudge, pair: JudgedPair, difference: PointDifference): BandPart[] {
  const { reference, candidate, terms } = pair;
  const [low, high] = pair.band.band;
  const asked = (kind: BandPart['kind'], bandRpm: Band, metric: Metric): BandPart[] => {
    const part = judge.judge(reference, candidate, { ...terms, bandRpm, metric });
    const { estimate } = quoted(part);
    if (!estimate || part.bandWithheld) return [];
    const answer = gainVerdict({ value: estimate.pct, ...estimate }, terms.smallestPct);
    return [{ kind, metric, fromRpm: part.band.band[0], toRpm: part.band.band[1], estimate, answer }];
  };
  const mean: Metric = metricChannel(terms.metric) === 'power' ? 'meanPower' : 'meanTorque';
  const known = commonSpeeds(difference.day.pulls, 25);
  const ends = [known[0] ?? low, known.at(-1) ?? high] as const;
  const claimed = (judge.bundle.programme.claims ?? []).flatMap(({ atRpm }) => (atRpm == null ? [] : [atRpm]));
  return [
    ...partsOf([low, high]).flatMap((band) => asked('part', band, mean)),
    ...(low - ends[0] >= PART_WIDTHS_RPM[0]! ? asked('outside', [ends[0], low], mean) : []),
    ...(ends[1] - high >= PART_WIDTHS_RPM[0]! ? asked('outside', [high, ends[1]], mean) : []),
    ...(['meanPower', 'peakPower', 'meanTorque', 'peakTorque'] as const).flatMap((metric) => asked('metric', terms.bandRpm, metric)),
    ...[...new Set(claimed)].flatMap((rpm): BandPart[] => {
      const estimate = difference.at(rpm);
      const answer = estimate && gainVerdict({ value: estimate.pct, ...estimate }, terms.smallestPct);
      return estimate && answer ? [{ kind: 'claimed', metric: 'meanPower', fromRpm: rpm, toRpm: rpm, estimate, answer }] : [];
    }),
  ];
}

/** A band in equal steps on whole multiples of a width; none where it is too narrow to be parted. */
function partsOf([low, high]: Band): Band[] {
  for (const width of PART_WIDTHS_RPM) {
    const edges = [low];
    for (let edge = Math.ceil((low + width / 2) / width) * width; edge <= high - width / 2; edge += width) edges.push(edge);
    edges.push(high);
    if (edges.length - 1 <= MOST_PARTS) return edges.length < 3 ? [] : edges.slice(1).map((edge, i): Band => [edges[i]!, edge]);
  }
  return [];
}

/** Where the peaks of power stand, and whether they have moved. */
function peakMove({ pulls }: PairJudge, { reference, candidate }: JudgedPair): PeakMove | null {
  const speeds = (setup: string) =>
    pulls.flatMap(({ used, pull, curve }) => {
      const peak = used && curve && pull.setup === setup ? bandPeak(curve, 'power', [0, Infinity]) : null;
      return peak ? [peak.rpm] : [];
    });
  const [a, b] = [speeds(reference.id), speeds(candidate.id)];
  const apart = pooledDifference(a, b);
  if (!apart) return null;
  const isClear = apart.low === null || apart.high === null ? false : apart.low > 0 || apart.high < 0;
  return { referenceRpm: mean(a), candidateRpm: mean(b), apartRpm: apart.value, moved: isClear && Math.abs(apart.value) >= LEAST_MOVE_RPM };
}

/** Channels that are drawn over the same axis, and how their difference is told. */
const CHANNEL_KINDS: readonly [RegExp, ChannelDifference['kind']][] = [
  [
    /^(airMassFlow|injectorTime|manifoldPressure|inletPressure|boostPressure|preCoolerPressure|postCoolerPressure|compressorSpeed)$/,
    'percent',
  ],
  [/^pressureDrop/, 'pressureDifference'],
  [/Temperature$/, 'temperatureDifference'],
  [/^(ignitionAdvance|knockRetard)$/, 'degrees'],
  [/^lambda$/, 'lambda'],
  [/^(wastegateDuty|shortTermTrim|longTermTrim)$/, 'number'],
];
const CHANNEL_STEP_RPM = 100;

/** Every other channel that all used pulls of a pair have logged, candidate minus reference over engine speed. */
function channelDifferences({ pulls }: PairJudge, { reference, candidate }: JudgedPair): ChannelDifference[] {
  const own = pulls.filter(({ used, curve, pull }) => used && curve && (pull.setup === reference.id || pull.setup === candidate.id));
  const grid = commonSpeeds(own, CHANNEL_STEP_RPM);
  if (grid.length < 2) return [];
  const factor = wholeCurveFactor(grid.at(-1)! - grid[0]!);
  const keys = [...(own[0]?.curve!.channels.keys() ?? [])].filter((key) => own.every(({ curve }) => curve!.channels.has(key)));
  return keys.flatMap((key): ChannelDifference[] => {
    const kind = CHANNEL_KINDS.find(([pattern]) => pattern.test(key))?.[1];
    if (!kind || key.startsWith('ambient')) return [];
    const points = grid.flatMap((rpm) => {
      const found = differenceAt(own, key, kind, rpm, reference.id);
      return found ? [{ rpm, ...found }] : [];
    });
    if (points.length < grid.length / 2) return [];
    const wide = (value: number, end: number | null) => (end === null ? null : value + factor * (end - value));
    return [
      {
        key,
        kind,
        engineSpeedRpm: points.map(({ rpm }) => rpm),
        value: points.map(({ value }) => value),
        low: points.map(({ low }) => low),
        high: points.map(({ high }) => high),
        wholeLow: points.map(({ value, low }) => wide(value, low)),
        wholeHigh: points.map(({ value, high }) => wide(value, high)),
      },
    ];
  });
}

function differenceAt(own: readonly AnalysedPull[], key: string, kind: ChannelDifference['kind'], rpm: number, reference: string) {
  const at = (entry: AnalysedPull) => {
    const value = interpolate(entry.curve!.gridRpm, entry.curve!.channels.get(key)!, rpm);
    return kind === 'percent' ? Math.log(value) : value;
  };
  const of = (isReference: boolean) => own.filter(({ pull }) => (pull.setup === reference) === isReference).map(at);
  const [a, b] = [of(true), of(false)];
  if (![...a, ...b].every(Number.isFinite)) return null;
  const apart = pooledDifference(a, b);
  if (!apart || kind !== 'percent') return apart;
  const pct = (value: number | null) => (value === null ? null : 100 * Math.expm1(value));
  return { value: pct(apart.value)!, low: pct(apart.low), high: pct(apart.high) };
}
