import type { Witness } from '@gezeit/contract';
import type { AnalysedPull } from '../compare/analysed-pull.js';
import { quoted, type JudgedPair, type PairJudge } from '../compare/judged-pair.js';
import { pooledDifference } from '../numeric/means.js';
import { bandMean } from '../pull/band.js';

/** What each witness is read from, and which way it moves with more air. */
const WITNESSES: readonly {
  code: Witness['code'];
  kind: Witness['kind'];
  keys: readonly string[];
  moreAir: 1 | -1;
  /** Whether its size can be held against power's, or its direction alone. */
  bySize: boolean;
  value(means: (key: string) => number | null, logs: (key: string) => number | null): number | null;
}[] = [
  { code: 'airMassFlow', kind: 'percent', keys: ['airMassFlow'], moreAir: 1, bySize: true, value: (_, logs) => logs('airMassFlow') },
  {
    code: 'fuel',
    kind: 'percent',
    keys: ['injectorTime', 'lambda'],
    moreAir: 1,
    bySize: true,
    value: (_, logs) => sum(logs('injectorTime'), logs('lambda')),
  },
  {
    code: 'inletPressure',
    kind: 'pressureDifference',
    keys: ['inletPressure'],
    moreAir: 1,
    bySize: false,
    value: (means) => means('inletPressure'),
  },
  {
    code: 'ignitionAdvance',
    kind: 'degrees',
    keys: ['ignitionAdvance'],
    moreAir: 1,
    bySize: false,
    value: (means) => means('ignitionAdvance'),
  },
];

const sum = (a: number | null, b: number | null) => (a === null || b === null ? null : a + b);

/**
 * What else has seen the change: air mass flow, the air that injector time and mixture tell of, inlet pressure, pressure drops, the spark that the
 * engine control allows; each with its size, its interval from the repeats, and whether it agrees with power. Only what every used pull has logged.
 */
export function witnessesOf({ pulls }: PairJudge, pair: JudgedPair): Witness[] {
  const { reference, candidate, band } = pair;
  const { estimate } = quoted(pair);
  if (!pair.fitted || !estimate) return [];
  const own = pulls.filter(({ used, curve, pull }) => used && curve && (pull.setup === reference.id || pull.setup === candidate.id));
  const drops = [...new Set(own.flatMap(({ curve }) => [...curve!.channels.keys()]))].filter((key) => key.startsWith('pressureDrop'));
  const rules = [
    ...WITNESSES,
    ...drops.map((key) => ({
      code: key,
      kind: 'pressureDifference' as const,
      keys: [key],
      moreAir: -1 as const,
      bySize: false,
      value: (means: (of: string) => number | null) => means(key),
    })),
  ];
  const power = { value: estimate.pct, low: estimate.low, high: estimate.high };
  return rules.flatMap(({ code, kind, keys, moreAir, bySize, value }): Witness[] => {
    const at = ({ curve }: AnalysedPull) =>
      value(
        (key) => bandMean(curve!, key, band.band),
        (key) => bandMean(curve!, key, band.band, Math.log),
      );
    const of = (setup: string) => own.filter(({ pull }) => pull.setup === setup).map(at);
    const [a, b] = [of(reference.id), of(candidate.id)];
    if ([...a, ...b].includes(null)) return [];
    const apart = pooledDifference(a as number[], b as number[]);
    if (!apart) return [];
    const shown = (entry: number | null) => (entry === null ? null : kind === 'percent' ? 100 * Math.expm1(entry) : entry);
    const found = { value: shown(apart.value)!, low: shown(apart.low), high: shown(apart.high) };
    return [{ code, kind, ...found, restsOn: [...keys], agrees: agreement(found, power, moreAir, bySize) }];
  });
}

type Ends = { value: number; low: number | null; high: number | null };
const directionOf = ({ low, high }: Ends) => (low !== null && low > 0 ? 1 : high !== null && high < 0 ? -1 : 0);

/** Whether a witness says what power says: by size where it can, else by direction where both are clear. */
function agreement(found: Ends, power: Ends, moreAir: 1 | -1, bySize: boolean): Witness['agrees'] {
  if (found.low === null || found.high === null) return 'cannot-tell';
  if (bySize) {
    const [half, halfOfPower] = [(found.high - found.low) / 2, (power.high! - power.low!) / 2];
    return Math.abs(found.value - power.value) <= Math.hypot(half, halfOfPower) ? 'agrees' : 'apart';
  }
  const [own, ofPower] = [directionOf(found) * moreAir, directionOf(power)];
  if (own === 0 || ofPower === 0) return 'cannot-tell';
  return own === ofPower ? 'agrees' : 'apart';
}
