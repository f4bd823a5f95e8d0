import type { Quantity } from '@gezeit/contract';
import { describe, expect, it } from 'vitest';
import { findSweeps, pullSweeps, type LogTable } from '../src/index.js';
import { alignBySpeed, alignByThrottle, assumedAlignment } from '../src/pull/align.js';
import { speedMap } from '../src/pull/speed-map.js';
import { sweepSpeed } from '../src/pull/sweep.js';
import { Random, tableOf } from '../src/simulate/index.js';

// Sweeps and clocks of courses that are known to the sample: made here by a formula, not by the simulated car.

/** The course of a run: what the engine does at a moment, s. */
interface Course {
  engineSpeedRpm(timeS: number): number;
  throttlePct(timeS: number): number;
  endS: number;
}

interface Pull {
  /** Full throttle from here to the lift, s. */
  fromS: number;
  toS: number;
  lowRpm: number;
  highRpm: number;
}

const IDLE_RPM = 900;
/** Before full throttle the engine is brought to where the pull begins, and after it it coasts down. */
const RUN_UP_S = 4;
const COAST_S = 6;

/** Pulls one after the other; engine speed rises ever more slowly, as it does against the air. */
function courseOf(pulls: readonly Pull[]): Course {
  const mix = (a: number, b: number, share: number) => a + (b - a) * Math.min(1, Math.max(0, share));
  return {
    endS: pulls.at(-1)!.toS + COAST_S + 3,
    throttlePct: (timeS) => {
      const pull = pulls.find(({ fromS, toS }) => timeS >= fromS - RUN_UP_S && timeS <= toS + COAST_S);
      if (!pull || timeS > pull.toS) return 0;
      return timeS < pull.fromS ? 18 : 100;
    },
    engineSpeedRpm: (timeS) => {
      const pull = pulls.find(({ fromS, toS }) => timeS >= fromS - RUN_UP_S && timeS <= toS + COAST_S);
      if (!pull) return IDLE_RPM;
      const { fromS, toS, lowRpm, highRpm } = pull;
      if (timeS < fromS) return mix(IDLE_RPM, lowRpm, (timeS - fromS + RUN_UP_S) / (RUN_UP_S - 1.5));
      if (timeS > toS) return mix(highRpm, IDLE_RPM, (timeS - toS) / COAST_S);
      const share = (timeS - fromS) / (toS - fromS);
      return mix(lowRpm, highRpm, share * (1.3 - 0.3 * share));
    },
  };
}

const ROLLER_M_PER_S_PER_RPM = 0.0071;
interface Way {
  speed: 'engineSpeed' | 'rollerSpeed' | 'vehicleSpeed';
  open: 'pedal' | 'throttle' | null;
  rateHz: number;
  noiseRpm: number;
  /** What its own clock shows when the course begins, s. */
  clockS: number;
}

/** A logger's table of a course. */
function logged(course: Course, { speed, open, rateHz, noiseRpm, clockS }: Way, file = 'own.csv', seed = 1): LogTable {
  const random = new Random(seed);
  const count = Math.floor(course.endS * rateHz);
  const at = Float64Array.from({ length: count }, (_, i) => i / rateHz);
  const ofSpeed = (timeS: number) => {
    const rpm = course.engineSpeedRpm(timeS) + random.normal(noiseRpm);
    return speed === 'engineSpeed' ? rpm : rpm * ROLLER_M_PER_S_PER_RPM * 3.6;
  };
  const channel = (label: string, quantity: Quantity, unit: 'rpm' | 'km/h' | '%', values: Float64Array) => ({
    channel: { label, quantity, unit, digits: 2 },
    values,
  });
  const columns = [
    channel('Speed', speed, speed === 'engineSpeed' ? 'rpm' : 'km/h', at.map(ofSpeed)),
    ...(open ? [channel('Opening', open, '%', at.map(course.throttlePct))] : []),
  ];
  const record = {
    device: { id: 'own', channels: columns.map((column) => column.channel) },
    timeS: at.map((timeS) => clockS + timeS),
    values: columns.map(({ values }) => values),
  };
  return tableOf(record, file);
}

const ONE: Pull[] = [{ fromS: 8, toS: 16, lowRpm: 2200, highRpm: 6600 }];
const THREE: Pull[] = [
  { fromS: 8, toS: 16, lowRpm: 2200, highRpm: 6600 },
  { fromS: 40, toS: 49, lowRpm: 2000, highRpm: 6400 },
  { fromS: 75, toS: 82, lowRpm: 2500, highRpm: 6700 },
];
const SPEEDS = ['engineSpeed', 'rollerSpeed', 'vehicleSpeed'] as const;
const WAYS: Way[] = SPEEDS.flatMap((speed) =>
  (['pedal', 'throttle', null] as const).flatMap((open) =>
    [5, 10, 20, 50, 100].flatMap((rateHz) => [0, 12].map((noiseRpm) => ({ speed, open, rateHz, noiseRpm, clockS: 0 }))),
  ),
);
const named = ({ speed, open, rateHz, noiseRpm }: Way) =>
  `${speed} at ${rateHz} Hz, ${open ?? 'no throttle'}, ${noiseRpm === 0 ? 'quiet' : 'noisy'}`;

describe('a full-throttle sweep', () => {
  for (const way of WAYS)
    it(`is found where it was driven, one and three of them: ${named(way)}`, () => {
      for (const pulls of [ONE, THREE]) {
        const found = pullSweeps(findSweeps(logged(courseOf(pulls), way)));
        expect(found.length).toBe(pulls.length);
        found.forEach((sweep, i) => {
          const pull = pulls[i]!;
          // Without throttle the run-up is a rise too: then its begin is known to that alone.
          const early = way.open ? 1 / way.rateHz : RUN_UP_S + 0.5;
          expect(sweep.startS).toBeGreaterThan(pull.fromS - early - 1e-6);
          expect(sweep.startS).toBeLessThan(pull.fromS + 1 / way.rateHz + (way.open ? 0 : 0.6) + 1e-6);
          expect(Math.abs(sweep.endS - pull.toS)).toBeLessThan(0.35 + 2 / way.rateHz);
        });
      }
    });

  it.each([
    ['a rise of less than 1000 rpm', [{ fromS: 8, toS: 14, lowRpm: 3000, highRpm: 3900 }]],
    ['one that takes minutes', [{ fromS: 8, toS: 128, lowRpm: 2000, highRpm: 6000 }]],
  ])('is not seen in %s where no throttle was logged', (_, pulls) => {
    const way: Way = { speed: 'engineSpeed', open: null, rateHz: 20, noiseRpm: 0, clockS: 0 };
    const sweeps = findSweeps(logged(courseOf(pulls), way));
    // The run-up to it rises as well, and is over before it begins.
    expect(sweeps.filter(({ endS }) => endS > pulls[0]!.fromS + 1)).toEqual([]);
  });

  it('goes on over a throttle that the engine control closes for a moment, and ends at one that stays closed', () => {
    const course = courseOf(ONE);
    const way: Way = { speed: 'engineSpeed', open: 'throttle', rateHz: 50, noiseRpm: 0, clockS: 0 };
    for (const [closedS, count] of [
      [0.4, 1],
      [1.2, 1],
      [2.5, 2],
    ] as const) {
      const closed = { ...course, throttlePct: (timeS: number) => (timeS > 11 && timeS < 11 + closedS ? 40 : course.throttlePct(timeS)) };
      expect(findSweeps(logged(closed, way)).length, `${closedS} s`).toBe(count);
    }
  });

  it('is found by a throttle that tops out low, and not by part throttle', () => {
    const course = courseOf(ONE);
    const way: Way = { speed: 'engineSpeed', open: 'throttle', rateHz: 20, noiseRpm: 0, clockS: 0 };
    const scaled = (share: number) => ({ ...course, throttlePct: (timeS: number) => course.throttlePct(timeS) * share });
    for (const share of [0.99, 0.9, 0.78, 0.65]) expect(findSweeps(logged(scaled(share), way)).length, `${share}`).toBe(1);
    for (const share of [0.55, 0.3]) expect(findSweeps(logged(scaled(share), way)).length, `${share}`).toBe(0);
  });

  it('is none of a table without any speed, nor of one that stands still', () => {
    const way: Way = { speed: 'engineSpeed', open: 'throttle', rateHz: 20, noiseRpm: 0, clockS: 0 };
    const table = logged(courseOf(ONE), way);
    expect(findSweeps({ ...table, columns: table.columns.filter(({ quantity }) => quantity !== 'engineSpeed') })).toEqual([]);
    expect(findSweeps(logged({ ...courseOf(ONE), engineSpeedRpm: () => IDLE_RPM }, way))).toEqual([]);
  });

  it('of a run through the gears is left out beside a pull, and kept by itself', () => {
    const gears: Pull[] = [
      { fromS: 8, toS: 11, lowRpm: 3000, highRpm: 5000 },
      { fromS: 40, toS: 49, lowRpm: 2000, highRpm: 6600 },
    ];
    const way: Way = { speed: 'engineSpeed', open: 'pedal', rateHz: 20, noiseRpm: 0, clockS: 0 };
    const sweeps = findSweeps(logged(courseOf(gears), way));
    expect(sweeps).toHaveLength(2);
    expect(pullSweeps(sweeps).map(({ startS }) => Math.round(startS))).toEqual([40]);
    expect(pullSweeps(sweeps.slice(0, 1))).toHaveLength(1);
    expect(pullSweeps([], true)).toEqual([]);
  });
});

/** Differences of two clocks, s: none, small, of minutes, of hours, before and after. */
const SHIFTS = [0, 0.037, -0.4, 7.21, -63.5, 3600, -86_400.25];

describe('two clocks', () => {
  const course = courseOf(ONE);
  const first = logged(course, { speed: 'engineSpeed', open: 'throttle', rateHz: 20, noiseRpm: 3, clockS: 100 });
  const sweep = pullSweeps(findSweeps(first))[0]!;
  const map = speedMap(sweepSpeed(first)!.trace, sweep.startS, sweep.endS);

  for (const speed of SPEEDS)
    for (const rateHz of [10, 25, 100])
      it(`are brought together by ${speed} at ${rateHz} Hz, to a few hundredths of a second`, () => {
        for (const [seed, shiftS] of SHIFTS.entries()) {
          const other = logged(course, { speed, open: null, rateHz, noiseRpm: 3, clockS: 100 + shiftS }, 'other.csv', seed + 2);
          const own = pullSweeps(findSweeps(other), true)[0]!;
          const alignment = alignBySpeed(map, other, own)!;
          expect(alignment.how).toBe(speed === 'engineSpeed' ? 'engine-speed' : 'roller-speed');
          // A scale that is not known leaves a little of the shift open.
          expect(Math.abs(alignment.offsetS - shiftS), `${shiftS} s`).toBeLessThan(speed === 'engineSpeed' ? 0.05 : 0.25);
          expect(alignment.residualS!).toBeLessThan(0.08);
        }
      });

  it('are brought together by the throttle that both saw open, where that is plain', () => {
    for (const shiftS of SHIFTS) {
      const other = logged(course, { speed: 'engineSpeed', open: 'pedal', rateHz: 25, noiseRpm: 0, clockS: 100 + shiftS }, 'other.csv');
      const onlyOpening = { ...other, columns: other.columns.filter(({ quantity }) => quantity === 'pedal') };
      const alignment = alignByThrottle(first, onlyOpening, sweep)!;
      expect(alignment.how).toBe('step');
      expect(Math.abs(alignment.offsetS - shiftS)).toBeLessThan(0.06);
    }
  });

  it('are not, where the other saw two alike, one of another length, or none', () => {
    const way: Way = { speed: 'engineSpeed', open: 'throttle', rateHz: 20, noiseRpm: 0, clockS: 0 };
    const twice = courseOf([ONE[0]!, { ...ONE[0]!, fromS: 40, toS: 48 }]);
    const longer = courseOf([{ ...ONE[0]!, toS: 20 }]);
    const never = { ...course, throttlePct: () => 20 };
    for (const other of [twice, longer, never]) expect(alignByThrottle(first, logged(other, way, 'other.csv'), sweep)).toBeNull();
  });

  it('stay apart where the other passed none of the same engine speeds', () => {
    const other = logged(
      courseOf([{ fromS: 8, toS: 16, lowRpm: 7200, highRpm: 9800 }]),
      { speed: 'engineSpeed', open: 'throttle', rateHz: 20, noiseRpm: 0, clockS: 0 },
      'other.csv',
    );
    const own = findSweeps(other)[0]!;
    expect(alignBySpeed(map, other, own)).toBeNull();
  });

  it('are assumed alike where one record covers the sweep, and to have begun together where it does not', () => {
    const way: Way = { speed: 'engineSpeed', open: null, rateHz: 20, noiseRpm: 0, clockS: 100 };
    expect(assumedAlignment(first, logged(course, way, 'other.csv'), sweep)).toMatchObject({
      offsetS: 0,
      how: 'same-clock',
      residualS: null,
    });
    const late = logged(course, { ...way, clockS: 5000 }, 'other.csv');
    expect(assumedAlignment(first, late, sweep)).toMatchObject({ offsetS: 4900, how: 'same-start', residualS: null });
  });
});
