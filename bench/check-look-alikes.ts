import type { PullFlag } from '@gezeit/contract';
import { Random } from '@gezeit/core/simulate';
import { changeChannel, checkDay, pullsOf, sweepOf, type CheckDay } from './check-days.js';

/** Something that looks like a fault and is none. */
export interface LookAlike {
  name: string;
  /** Checks that must say nothing. */
  silent: readonly PullFlag[];
  day(seed: number): CheckDay;
}

const SENSOR_FLAGS: readonly PullFlag[] = ['channel-stuck', 'channel-saturated', 'channel-unplugged', 'channel-implausible'];

const onPulls = (
  day: CheckDay,
  pulls: readonly string[],
  which: Parameters<typeof changeChannel>[2],
  change: Parameters<typeof changeChannel>[3],
) => pulls.reduce((now, pull) => changeChannel(now, pull, which, change), day);
const everyPull = ({ bundle }: CheckDay) => bundle.pulls.map(({ id }) => id);
const seeded = (seed: number, chosen: Parameters<typeof checkDay>[1] = {}) => checkDay(200_000 + seed, chosen);

export const LOOK_ALIKES: readonly LookAlike[] = [
  {
    name: 'a part that gains 5 %, driven between',
    silent: ['outlier', 'wobble', 'learning'],
    day: (seed) => {
      const day = seeded(seed, { order: 'ABBAABBA' });
      return onPulls(day, pullsOf(day, 'B'), { quantity: 'power' }, (value) => value * 1.05);
    },
  },
  {
    name: 'a part with another tract tuning: a hump in every one of its pulls',
    silent: ['wobble', 'outlier'],
    day: (seed) =>
      seeded(seed, {
        order: 'AABBAABB',
        isBoosted: false,
        setups: (stock) => ({ A: stock, B: { ...stock, tuning: { gain: 0.05, rpm: 5200, widthRpm: 350 } } }),
      }),
  },
  {
    name: 'pulls close together, each hotter than the one before',
    silent: ['wobble', 'learning', 'ramp-differs', 'smoothing-differs'],
    day: (seed) => seeded(seed, { order: 'AAAABBBB', apartMin: () => 1.5 }),
  },
  { name: 'a day that drifts by 1.5 % an hour', silent: ['learning', 'outlier'], day: (seed) => seeded(seed, { driftPerHour: 0.015 }) },
  {
    name: 'a noisy cell, 1.4 % from pull to pull',
    silent: ['outlier', 'learning', 'wobble'],
    day: (seed) => seeded(seed, { runToRun: 0.014 }),
  },
  {
    name: 'a noisy dyno, the same on every pull',
    silent: ['smoothing-differs', 'misfire', 'wobble'],
    day: (seed) => {
      const day = seeded(seed);
      const random = new Random(seed);
      return onPulls(day, everyPull(day), { quantity: 'power' }, (value) => value + random.normal(900));
    },
  },
  {
    name: 'manifold pressure written in whole kPa, held flat by its control',
    silent: SENSOR_FLAGS,
    day: (seed) => {
      const day = seeded(seed, { isBoosted: true });
      return onPulls(day, everyPull(day), { quantity: 'manifoldPressure' }, (value) => 1000 * Math.round(value / 1000));
    },
  },
  {
    name: 'manifold pressure in steps of 4 kPa',
    silent: SENSOR_FLAGS,
    day: (seed) => {
      const day = seeded(seed, { isBoosted: true });
      return onPulls(day, everyPull(day), { quantity: 'manifoldPressure' }, (value) => 4000 * Math.round(value / 4000));
    },
  },
  {
    name: 'roller speed in whole km/h',
    silent: SENSOR_FLAGS,
    day: (seed) => {
      const day = seeded(seed);
      return onPulls(day, everyPull(day), { quantity: 'rollerSpeed' }, (value) => Math.round(value * 3.6) / 3.6);
    },
  },
  {
    name: 'power in whole kW',
    silent: [...SENSOR_FLAGS, 'misfire'],
    day: (seed) => {
      const day = seeded(seed);
      return onPulls(day, everyPull(day), { quantity: 'power' }, (value) => 1000 * Math.round(value / 1000));
    },
  },
  {
    name: 'air mass flow in whole g/s',
    silent: SENSOR_FLAGS,
    day: (seed) => {
      const day = seeded(seed);
      return onPulls(day, everyPull(day), { quantity: 'airMassFlow' }, (value) => Math.round(value * 1000) / 1000);
    },
  },
  {
    name: 'a real lift of half a second: all channels fall together',
    silent: ['channel-unplugged', 'channel-stuck', 'misfire'],
    day: (seed) => {
      const day = seeded(seed, { isBoosted: true });
      const pull = pullsOf(day, 'A')[1]!;
      const at = (sweepOf(day, pull).fromS + sweepOf(day, pull).toS) / 2;
      const lift = (least: number) => (value: number, atS: number) => {
        const into = Math.min(Math.max((atS - at) / 0.12, 0), 1) - Math.min(Math.max((atS - at - 0.5) / 0.12, 0), 1);
        return value * (1 - (1 - least) * into);
      };
      return (['power', 'manifoldPressure', 'airMassFlow', 'throttle', 'pedal', 'injectorTime'] as const).reduce(
        (now, quantity) => changeChannel(now, pull, { quantity }, lift(0.3)),
        day,
      );
    },
  },
  {
    name: 'spark pulled in steps by knock',
    silent: ['channel-unplugged', 'channel-implausible'],
    day: (seed) => {
      const day = seeded(seed);
      const pull = pullsOf(day, 'A')[1]!;
      const { fromS, toS } = sweepOf(day, pull);
      const isPulled = (atS: number) => atS > (fromS + toS) / 2 && atS < (fromS + toS) / 2 + 1;
      const spark = changeChannel(day, pull, { quantity: 'ignitionAdvance' }, (value, atS) => (isPulled(atS) ? value - 9 : value));
      return changeChannel(spark, pull, { quantity: 'knockRetard' }, (value, atS) => (isPulled(atS) ? 9 : value));
    },
  },
  {
    name: 'boost that falls off towards the top',
    silent: ['boost-off-target', 'wobble'],
    day: (seed) => {
      const day = seeded(seed, { isBoosted: true });
      return day.bundle.pulls.reduce((now, { id }) => {
        const { fromS, toS } = sweepOf(day, id);
        return changeChannel(
          now,
          id,
          { quantity: 'manifoldPressure' },
          (value, atS) => value * (1 - 0.12 * Math.min(1, Math.max(0, (atS - fromS) / (toS - fromS)))),
        );
      }, day);
    },
  },
  {
    name: 'boost that overshoots as it comes',
    silent: ['boost-off-target'],
    day: (seed) => {
      const day = seeded(seed, { isBoosted: true });
      return day.bundle.pulls.reduce((now, { id }) => {
        const { fromS } = sweepOf(day, id);
        return changeChannel(
          now,
          id,
          { quantity: 'manifoldPressure' },
          (value, atS) => value * (1 + 0.08 * Math.exp(-(((atS - fromS - 1.6) / 0.4) ** 2))),
        );
      }, day);
    },
  },
  {
    name: 'a filter whose loss is mostly laminar',
    silent: ['drop-not-square'],
    day: (seed) =>
      seeded(seed, {
        setups: (stock) => {
          const laminar = {
            ...stock,
            inlet: stock.inlet.map((section) => ({ ...section, laminarShare: section.name === 'filter' ? 0.85 : 0 })),
          };
          return { A: laminar, B: laminar };
        },
        order: 'AABBAABB',
      }),
  },
  {
    name: 'an air meter that reads 12 % more at its top than at its bottom',
    silent: ['drop-not-square'],
    day: (seed) => {
      const day = seeded(seed);
      return onPulls(day, everyPull(day), { quantity: 'airMassFlow' }, (value) => value * (1 + 0.12 * Math.min(1, value / 0.2)));
    },
  },
  {
    name: 'a differential sensor with an offset of 60 Pa',
    silent: ['drop-not-square'],
    day: (seed) => {
      const day = seeded(seed);
      return onPulls(day, everyPull(day), { quantity: 'pressureDrop', section: 'filter' }, (value) => value + 60);
    },
  },
  {
    name: 'a torque converter: the roller slips alike on every pull',
    silent: ['channel-stuck', 'ramp-differs', 'devices-contradict'],
    day: (seed) => {
      const day = seeded(seed);
      return day.bundle.pulls.reduce((now, { id }) => {
        const { fromS, toS } = sweepOf(day, id);
        return changeChannel(
          now,
          id,
          { quantity: 'rollerSpeed' },
          (value, atS) => value * (0.92 + 0.06 * Math.min(1, Math.max(0, (atS - fromS) / (toS - fromS)))),
        );
      }, day);
    },
  },
  {
    name: 'coolant and oil that do not move in a sweep',
    silent: SENSOR_FLAGS,
    day: (seed) => {
      const day = seeded(seed);
      return onPulls(
        onPulls(day, everyPull(day), { quantity: 'coolantTemperature' }, () => 89),
        everyPull(day),
        { quantity: 'oilTemperature' },
        () => 94,
      );
    },
  },
  {
    name: 'a throttle that stands at 100 % throughout',
    silent: SENSOR_FLAGS,
    day: (seed) => {
      const day = seeded(seed);
      return onPulls(day, everyPull(day), { quantity: 'throttle' }, (value) => (value > 95 ? 100 : value));
    },
  },
];
