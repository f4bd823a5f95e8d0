import type { PullFlag, Quantity } from '@gezeit/contract';
import { studentQuantile } from '@gezeit/core';
import { Random } from '@gezeit/core/simulate';
import { changeChannel, checkDay, pullsOf, sweepOf, type CheckDay } from './check-days.js';

/** A day on which one pull has a fault, so many times as large as what its check looks for. */
export interface FiringCase {
  day: CheckDay;
  pull: string;
}
type Fault = (seed: number, times: number) => FiringCase;

/** The checks whose faults are simulated here: those that leave nothing out. */
export type StudiedFlag = Extract<
  PullFlag,
  | 'wobble'
  | 'outlier'
  | 'learning'
  | 'misfire'
  | 'boost-off-target'
  | 'ramp-differs'
  | 'gear-differs'
  | 'smoothing-differs'
  | 'drop-not-square'
  | 'devices-contradict'
  | 'channel-stuck'
  | 'channel-saturated'
  | 'channel-unplugged'
  | 'channel-implausible'
>;

/** A pull of the day, not the first of its setup. */
function begin(seed: number, chosen: Parameters<typeof checkDay>[1] = {}): { day: CheckDay; pull: string; random: Random } {
  const day = checkDay(100_000 + seed, chosen);
  const random = new Random(seed * 104_729 + 3);
  return { day, pull: random.pick(pullsOf(day, 'A').slice(1)), random };
}

/** Somewhere in the sweep, so that a stretch of this length lies in it, s. */
function somewhere(day: CheckDay, pull: string, seconds: number, random: Random): number {
  const { fromS, toS } = sweepOf(day, pull);
  return random.between(fromS + 0.6, toS - seconds - 0.6);
}

const scaled =
  (by: (atS: number) => number) =>
  (value: number, atS: number): number =>
    value * by(atS);

/** What a channel that is watched for standing still is, with the rate and the noise that its device has. */
const MOVING: readonly { quantity: Quantity; section?: string }[] = [
  { quantity: 'power' },
  { quantity: 'rollerSpeed' },
  { quantity: 'engineSpeed' },
  { quantity: 'airMassFlow' },
  { quantity: 'pressureDrop', section: 'filter' },
  { quantity: 'pressureDrop', section: 'duct' },
];

/** What a pull may lie off by chance on a day whose scatter were known as well as its pulls let it be: the threshold of checks of levels. */
function chanceOf(day: CheckDay, inDoubt: number, probability: number, others: number): number {
  const free = pullsOf(day, 'A').length + pullsOf(day, 'B').length - 2 - inDoubt;
  return studentQuantile(free, probability) * day.runToRun * Math.sqrt(1 + 1 / others);
}

/** How each fault is put into a day. */
export const FAULTS: Readonly<Record<StudiedFlag, Fault>> = {
  wobble(seed, times) {
    const { day, pull, random } = begin(seed);
    const [low, high] = day.bundle.programme.bandRpm;
    const middle = random.between(low + 300, high - 500);
    const half = random.between(120, 300);
    const { atRpm } = sweepOf(day, pull);
    const [fromS, toS] = [atRpm(middle - half), atRpm(middle + half)];
    const depth = 0.03 * times * (random.chance(0.75) ? -1 : 1);
    const hump = (atS: number) =>
      atS < fromS || atS > toS ? 1 : 1 + (depth * (1 - Math.cos((2 * Math.PI * (atS - fromS)) / (toS - fromS)))) / 2;
    return { day: changeChannel(day, pull, { quantity: 'power' }, scaled(hump)), pull };
  },
  outlier(seed, times) {
    const { day, pull, random } = begin(seed);
    const least = Math.max(0.02, chanceOf(day, 1, 0.9995, pullsOf(day, 'A').length - 1));
    const factor = 1 + least * times * (random.chance(0.8) ? -1 : 1);
    return {
      day: changeChannel(
        day,
        pull,
        { quantity: 'power' },
        scaled(() => factor),
      ),
      pull,
    };
  },
  learning(seed, times) {
    const { day } = begin(seed, { order: seed % 2 === 0 ? 'AAAAABBB' : 'AAAAAABBB' });
    const pulls = pullsOf(day, 'A');
    const least = Math.max(0.01, chanceOf(day, 2, 0.997, pulls.length - 2));
    const learned = pulls.reduce(
      (now, pull, i) =>
        changeChannel(
          now,
          pull,
          { quantity: 'power' },
          scaled(() => 1 - least * times * Math.exp(-i / 1.3)),
        ),
      day,
    );
    return { day: learned, pull: pulls[0]! };
  },
  misfire(seed, times) {
    const { day, pull, random } = begin(seed);
    const { fromS, toS } = sweepOf(day, pull);
    const count = 3 + Math.floor(random.uniform() * 4);
    const part = (toS - fromS - 1.4) / count;
    const dips = Array.from({ length: count }, (_, i) => fromS + 0.7 + part * (i + random.between(0.15, 0.6)));
    const depth = 0.03 * times;
    const lengths = dips.map(() => random.between(0.08, 0.16));
    const loss = (atS: number) => (dips.some((dip, i) => atS >= dip && atS <= dip + lengths[i]!) ? 1 - depth : 1);
    return { day: changeChannel(day, pull, { quantity: 'power' }, scaled(loss)), pull };
  },
  'boost-off-target'(seed, times) {
    const hasTarget = seed % 2 === 0;
    const { day, pull, random } = begin(seed, { isBoosted: true });
    if (hasTarget) {
      const { sweep } = day.driven[day.bundle.pulls.findIndex(({ id }) => id === pull)]!;
      const [low, high] = day.bundle.programme.bandRpm;
      const inBand = sweep.instants.filter(
        ({ timeS, engineSpeedRpm }) => timeS > sweep.fullThrottleS && timeS < sweep.liftS && engineSpeedRpm > low && engineSpeedRpm < high,
      );
      const usual = inBand.reduce((sum, { manifoldPa }) => sum + manifoldPa, 0) / inBand.length;
      const target = usual / 1000 / (1 + 0.04 * times * (random.chance(0.5) ? -1 : 1));
      const setups = day.bundle.setups.map((setup) => ({ ...setup, state: { ...setup.state, boostTargetKPa: target } }));
      return { day: { ...day, bundle: { ...day.bundle, setups } }, pull };
    }
    const [hz, phase] = [random.between(0.5, 2), random.between(0, 6)];
    const wander = (atS: number) => 1 + 0.02 * times * Math.sin(2 * Math.PI * hz * atS + phase);
    return { day: changeChannel(day, pull, { quantity: 'manifoldPressure' }, scaled(wander)), pull };
  },
  'ramp-differs'(seed, times) {
    const { day, pull, random } = begin(seed);
    const stretch = 1 + 0.1 * times * (random.chance(0.5) ? 1 : -0.6);
    const tables = new Map(day.tables);
    for (const { file } of day.bundle.pulls.find(({ id }) => id === pull)!.logs) {
      const table = tables.get(file)!;
      const [first] = table.timeS!;
      tables.set(file, { ...table, timeS: table.timeS!.map((at) => first! + (at - first!) * stretch) });
    }
    return { day: { ...day, tables }, pull };
  },
  'gear-differs'(seed, times) {
    const { day, pull, random } = begin(seed);
    const ratio = 1 + 0.08 * times * (random.chance(0.5) ? 1 : -0.8);
    return {
      day: changeChannel(
        day,
        pull,
        { quantity: 'rollerSpeed' },
        scaled(() => ratio),
      ),
      pull,
    };
  },
  'smoothing-differs'(seed, times) {
    const { day, pull, random } = begin(seed);
    // The dyno's own scatter is 350 W a sample: so many times rougher.
    const more = 350 * Math.sqrt((2 * times) ** 2 - 1);
    return { day: changeChannel(day, pull, { quantity: 'power' }, (value) => value + random.normal(more)), pull };
  },
  'drop-not-square'(seed, times) {
    const { day, pull, random } = begin(seed);
    const [low, high] = day.bundle.programme.bandRpm;
    const atS = sweepOf(day, pull).atRpm(random.between(low - 300, high - 700));
    const factor = 1 + 0.1 * times * (random.chance(0.8) ? -1 : 1);
    const which = { quantity: 'pressureDrop', section: random.pick(['filter', 'duct']) } as const;
    return {
      day: changeChannel(
        day,
        pull,
        which,
        scaled((at) => (at >= atS ? factor : 1)),
      ),
      pull,
    };
  },
  'devices-contradict'(seed, times) {
    const { day, pull, random } = begin(seed);
    // Two sensors of ± 1 K at 95 %.
    const apartK = Math.SQRT2 * times * (random.chance(0.5) ? 1 : -1);
    const logs = day.bundle.pulls.find(({ id }) => id === pull)!.logs;
    const [ecu, box] = [day.tables.get(logs[0]!.file)!, day.tables.get(logs[2]!.file)!];
    const source = ecu.columns.find(({ quantity }) => quantity === 'intakeAirTemperature')!;
    const known = [...source.values.keys()].filter((i) => Number.isFinite(source.values[i]!));
    const values = box.timeS!.map((at) => {
      const sinceS = at - box.timeS![0]!;
      const near = known.reduce(
        (best, i) =>
          Math.abs(ecu.timeS![i]! - ecu.timeS![0]! - sinceS) < Math.abs(ecu.timeS![best]! - ecu.timeS![0]! - sinceS) ? i : best,
        known[0]!,
      );
      return source.values[near]! + apartK + random.normal(0.1);
    });
    const tables = new Map(day.tables).set(box.file, { ...box, columns: [...box.columns, { ...source, name: 'Air after box', values }] });
    return { day: { ...day, tables }, pull };
  },
  'channel-stuck'(seed, times) {
    const { day, pull, random } = begin(seed);
    const which = random.pick(MOVING);
    const seconds = 0.25 * times;
    const fromS = somewhere(day, pull, seconds, random);
    return { day: changeChannel(day, pull, which, held(fromS, fromS + seconds)), pull };
  },
  'channel-saturated'(seed, times) {
    const { day, pull, random } = begin(seed);
    const which = random.pick([
      { quantity: 'pressureDrop', section: 'filter' },
      { quantity: 'pressureDrop', section: 'duct' },
      { quantity: 'airMassFlow' },
    ] as const);
    // What cannot read higher than it reads so long before the lift.
    const most = valueBefore(day, pull, which, 0.25 * times + 0.25);
    const clipped = pullsOf(day, 'A').reduce((now, own) => changeChannel(now, own, which, (value) => Math.min(value, most)), day);
    return { day: clipped, pull };
  },
  'channel-unplugged'(seed, times) {
    const { day, pull, random } = begin(seed);
    const seconds = 0.25 * times;
    const fromS = somewhere(day, pull, seconds, random);
    const { which, value } = random.pick([
      { which: { quantity: 'intakeAirTemperature' }, value: -40 },
      { which: { quantity: 'intakeAirTemperature' }, value: 140 },
      { which: { quantity: 'inletTemperature' }, value: 150 },
      { which: { quantity: 'airMassFlow' }, value: 0 },
      { which: { quantity: 'pressureDrop', section: 'filter' }, value: 0 },
      { which: { quantity: 'pressureDrop', section: 'duct' }, value: 12_000 },
      { which: { quantity: 'lambda' }, value: 0.1 },
      { which: { quantity: 'rollerSpeed' }, value: 0 },
    ] as const);
    return { day: changeChannel(day, pull, which, (own, at) => (at >= fromS && at <= fromS + seconds ? value : own)), pull };
  },
  'channel-implausible'(seed, times) {
    const { day, pull, random } = begin(seed);
    const { which, change } = random.pick([
      { which: { quantity: 'intakeAirTemperature' }, change: (value: number) => value + 110 * times },
      { which: { quantity: 'intakeAirTemperature' }, change: (value: number) => value - 60 * times },
      { which: { quantity: 'lambda' }, change: (value: number) => value * (1 + 0.9 * times) },
      { which: { quantity: 'coolantTemperature' }, change: (value: number) => value + 50 * times },
      { which: { quantity: 'coolantTemperature' }, change: (value: number) => value - 75 * times },
      { which: { quantity: 'airMassFlow' }, change: (value: number) => value / (40 * times) },
      { which: { quantity: 'ignitionAdvance' }, change: (value: number) => value + 50 * times },
      { which: { quantity: 'injectorTime' }, change: (value: number) => value / (80 * times) },
    ] as const);
    return { day: changeChannel(day, pull, which, change), pull };
  },
};

/** A channel that keeps its reading over a stretch. */
function held(fromS: number, toS: number): (value: number, atS: number) => number {
  let kept: number | null = null;
  return (value, atS) => {
    if (atS < fromS || atS > toS) return value;
    kept ??= value;
    return kept;
  };
}

/** The median reading of a channel about a time before the lift. */
function valueBefore(day: CheckDay, pull: string, which: { quantity: Quantity; section?: string }, seconds: number): number {
  const { toS } = sweepOf(day, pull);
  const seen: number[] = [];
  changeChannel(day, pull, which, (value, atS) => {
    if (Math.abs(atS - (toS - seconds)) < 0.2) seen.push(value);
    return value;
  });
  return seen.sort((a, b) => a - b)[seen.length >> 1]!;
}
