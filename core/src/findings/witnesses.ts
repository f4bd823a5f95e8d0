import type { Witness } from '@gezeit/contract';
import type { AnalysedPull } from '../compare/analysed-pull.js';
import { quoted, type JudgedPair, type PairJudge } from '../compare/judged-pair.js';
import { pooledDifference } from '../numeric/means.js';
import { bandMean } from '../pull/band.js';
import { ignitionApart } from './contributions.js';

type Read = (key: string) => number | null;

/** What a witness is read from, which way it moves with more air, and whether its size can be held against power's. */
interface WitnessRule {
  code: string;
  kind: Witness['kind'];
  keys: readonly string[];
  moreAir: 1 | -1;
  bySize: boolean;
  /** From means in the band, and means of logarithms. */
  value(means: Read, logs: Read): number | null;
}

const plus = (a: number | null, b: number | null, times = 1) => (a === null || b === null ? null : a + times * b);

const WITNESSES: readonly WitnessRule[] = [
  { code: 'airMassFlow', kind: 'percent', keys: ['airMassFlow'], moreAir: 1, bySize: true, value: (_, logs) => logs('airMassFlow') },
  {
    code: 'fuel',
    kind: 'percent',
    keys: ['injectorTime', 'lambda'],
    moreAir: 1,
    bySize: true,
    value: (_, logs) => plus(logs('injectorTime'), logs('lambda')),
  },
  {
    code: 'inletPressure',
    kind: 'pressureDifference',
    keys: ['inletPressure'],
    moreAir: 1,
    bySize: false,
    value: (means) => means('inletPressure'),
  },
];

/** More air makes more drop everywhere: what a drop tells is the drop at an equal flow. */
const dropRule = (key: string): WitnessRule => ({
  code: key,
  kind: 'percent',
  keys: [key, 'airMassFlow'],
  moreAir: -1,
  bySize: false,
  value: (_, logs) => plus(logs(key), logs('airMassFlow'), -2),
});

const TWO_SIDED = 1.96;
/** A drop at an equal flow still moves with the air's density by so much, per cent: less tells nothing. */
const DROP_TELLS_PCT = 3;

/**
 * What else has seen the change: air mass flow, the air that injector time and mixture tell of, inlet pressure, pressure drops at an equal flow, the
 * spark that the engine control allows beyond learning and the start; each with its size, its interval from the repeats, and whether it agrees with
 * power: by size with power as run, where it was read in the same air, else by direction. Only what every used pull has logged.
 */
export function witnessesOf(judge: PairJudge, pair: JudgedPair): Witness[] {
  const { reference, candidate, band, asRun } = pair;
  const { estimate } = quoted(pair);
  if (!pair.fitted || !estimate || !asRun) return [];
  const own = judge.pulls.filter(({ used, curve, pull }) => used && curve && (pull.setup === reference.id || pull.setup === candidate.id));
  const keys = new Set(own.flatMap(({ curve }) => [...curve!.channels.keys()]));
  const rules = [...WITNESSES, ...[...keys].filter((key) => key.startsWith('pressureDrop')).map(dropRule)];
  const measured = rules.flatMap(({ code, kind, keys: restsOn, moreAir, bySize, value }): Witness[] => {
    const at = ({ curve }: AnalysedPull) =>
      value(
        (key) => bandMean(curve!, key, band.band),
        (key) => bandMean(curve!, key, band.band, Math.log),
      );
    const of = (setup: string) => own.filter(({ pull }) => pull.setup === setup).map(at);
    const [a, b] = [of(reference.id), of(candidate.id)];
    const apart = [...a, ...b].includes(null) ? null : pooledDifference(a as number[], b as number[]);
    if (!apart) return [];
    const shown = (entry: number | null) => (entry === null ? null : kind === 'percent' ? 100 * Math.expm1(entry) : entry);
    const found = { value: shown(apart.value)!, low: shown(apart.low), high: shown(apart.high) };
    const isSmall = code.startsWith('pressureDrop') && Math.abs(found.value) < DROP_TELLS_PCT;
    const agrees = isSmall ? 'cannot-tell' : bySize ? agreementBySize(found, asRun) : agreementByDirection(found, estimate, moreAir);
    return [{ code, kind, ...found, restsOn: [...restsOn], agrees }];
  });
  const ignition = ignitionApart(judge, pair);
  if (!ignition) return measured;
  const { degrees, sd } = ignition;
  const allowed = { value: degrees, low: degrees - TWO_SIDED * sd, high: degrees + TWO_SIDED * sd };
  const agrees = agreementByDirection(allowed, estimate, 1);
  return [...measured, { code: 'ignitionAdvance', kind: 'degrees', ...allowed, restsOn: ['ignitionAdvance'], agrees }];
}

interface Ends {
  low: number | null;
  high: number | null;
}

function agreementBySize(found: Ends & { value: number }, power: { pct: number; low: number; high: number }): Witness['agrees'] {
  if (found.low === null || found.high === null) return 'cannot-tell';
  const halves = Math.hypot((found.high - found.low) / 2, (power.high - power.low) / 2);
  return Math.abs(found.value - power.pct) <= halves ? 'agrees' : 'apart';
}

const directionOf = ({ low, high }: Ends) => (low !== null && low > 0 ? 1 : high !== null && high < 0 ? -1 : 0);

function agreementByDirection(found: Ends, power: Ends, moreAir: 1 | -1): Witness['agrees'] {
  const [own, ofPower] = [directionOf(found) * moreAir, directionOf(power)];
  if (own === 0 || ofPower === 0) return 'cannot-tell';
  return own === ofPower ? 'agrees' : 'apart';
}
