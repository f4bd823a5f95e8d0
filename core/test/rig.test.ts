import { describe, expect, it } from 'vitest';
import { draftProgramme, LineStream, PullDetector } from '../src/index.js';
import { Rig, rigCell, truthOf, type RigSample } from '../src/simulate/index.js';

const BUNDLE = draftProgramme({ title: 'Rig', aspiration: 'turbo', vehicle: null, cell: null });
const rig = (seed = 3) => new Rig(rigCell(BUNDLE, seed));

/** Advances until a pull has ended; every sample that came. */
function drive(car: Rig): RigSample[] {
  const samples: RigSample[] = [];
  car.startPull();
  for (let i = 0; i < 60; i++) {
    const { samples: more, ended } = car.advance(1);
    samples.push(...more);
    if (ended) return samples;
  }
  throw new Error('the pull did not end');
}

describe('the simulated rig', () => {
  it('warms up, heats with a pull and cools with a rest', () => {
    const car = rig();
    const cold = car.advance(5).samples.at(-1)!.instant;
    const warm = car.advance(900).samples.at(-1)!.instant;
    expect(cold.coolantC).toBeLessThan(55);
    expect(warm.coolantC).toBeGreaterThan(84);
    expect(warm.oilC).toBeGreaterThan(cold.oilC + 10);
    drive(car);
    const after = car.advance(3).samples.at(-1)!.instant;
    expect(after.sensorC).toBeGreaterThan(warm.sensorC + 5);
    expect(car.advance(300).samples.at(-1)!.instant.sensorC).toBeLessThan(after.sensorC - 5);
  });

  it('goes on after a restart as if nothing had happened', () => {
    const [one, other] = [rig(7), rig(7)];
    for (const car of [one, other]) {
      car.advance(700);
      drive(car);
    }
    const again = new Rig(other.spec, JSON.parse(JSON.stringify(other.snapshot())) as ReturnType<Rig['snapshot']>);
    for (const car of [one, again]) {
      car.advance(240);
      car.fit('B', true);
      car.advance(200);
      drive(car);
    }
    expect(again.pulls).toEqual(one.pulls);
    expect(again.pulls[1]!.ecuReset).toBe(true);
    expect(again.replay(again.pulls[1]!).sweep.instants.at(-1)).toEqual(one.replay(one.pulls[1]!).sweep.instants.at(-1));
  });

  it('stands still with the engine off, and pulls only when it runs', () => {
    const car = rig();
    car.setEngine(false);
    car.startPull();
    expect(car.doing).toBe('off');
    expect(car.pulls).toEqual([]);
    expect(car.advance(10).samples.at(-1)!.instant.engineSpeedRpm).toBe(0);
  });

  it('knows the true difference of its parts, the same for the same seed only', () => {
    const truth = (seed: number) => {
      const car = rig(seed);
      car.advance(700);
      drive(car);
      car.fit('B', false);
      car.advance(200);
      drive(car);
      const driven = car.pulls.map((pull) => ({ ...pull, kind: 'measured' as const }));
      return truthOf(car.spec, driven, ['A', 'B'], BUNDLE.programme.bandRpm, 'NONE').levelled;
    };
    expect(truth(11)).toBe(truth(11));
    expect(truth(11)).not.toBe(truth(12));
    expect(Math.abs(truth(11))).toBeLessThan(0.06);
  });
});

describe('a pull in a stream', () => {
  const take = (detector: PullDetector, samples: RigSample[]) =>
    samples.flatMap(
      ({ timeS, instant }) =>
        detector.take({ timeS, throttlePct: instant.throttlePct, pedalPct: instant.pedalPct, engineSpeedRpm: instant.engineSpeedRpm }) ??
        [],
    );

  it('is found at full throttle and at the lift, also where the throttle is closed for a moment', () => {
    for (const mishap of [null, 'throttle-closed', 'late-lift'] as const) {
      const car = rig();
      car.advance(600);
      car.nextMishap = mishap;
      const from = car.timeS;
      const found = take(new PullDetector(), [...drive(car), ...car.advance(5).samples]);
      expect(found.map(({ kind }) => kind)).toEqual(['started', 'ended']);
      expect(found[0]!.timeS - from).toBeCloseTo(2.5, 0);
      expect(found[1]!.timeS - found[0]!.timeS).toBeGreaterThan(3);
    }
  });

  it('is none where the throttle is opened for a moment, or without the speeds', () => {
    const blip = Array.from({ length: 40 }, (_, i) => ({
      timeS: i / 20,
      throttlePct: i < 5 ? 100 : 3,
      pedalPct: Number.NaN,
      engineSpeedRpm: 1000 + 60 * i,
    }));
    const detector = new PullDetector();
    expect(blip.flatMap((sample) => detector.take(sample) ?? [])).toEqual([]);
    expect(detector.take({ timeS: 9, throttlePct: Number.NaN, pedalPct: Number.NaN, engineSpeedRpm: 3000 })).toBeNull();
  });
});

describe('lines of a stream', () => {
  it('are read with units by their names, in pieces as they come, as CSV or JSON', () => {
    const csv = new LineStream();
    const first = csv.take('Time [s],Engine speed [rpm],Coolant temperature [°F],Manifold pressure [kPa],Mood\n0.0,3000,185,');
    expect(first).toEqual([]);
    const [sample] = csv.take('180.5,9\n');
    expect(sample!.timeS).toBe(0);
    expect(sample!.values.get('engineSpeed')).toBe(3000);
    expect(sample!.values.get('coolantTemperature')).toBeCloseTo(85, 6);
    expect(sample!.values.get('manifoldPressure')).toBeCloseTo(180_500, 6);
    expect(sample!.values.size).toBe(3);
    const json = new LineStream().take('{"Engine speed [rpm]": 4200, "Lambda": 0.87, "Note": "x"}\n');
    expect([...json[0]!.values]).toEqual([
      ['engineSpeed', 4200],
      ['lambda', 0.87],
    ]);
    const comma = new LineStream().take('Zeit [s];Motordrehzahl [1/min];Lambda\n1,5;2500;0,9\n');
    expect(comma[0]!.values.get('lambda')).toBeCloseTo(0.9, 9);
  });

  it('that cannot be read are counted and passed over, never thrown', () => {
    const stream = new LineStream();
    expect(stream.take('1,2,3\n{broken\n\nTime [s],Throttle [%]\n1,55\n').map(({ values }) => values.get('throttle'))).toEqual([55]);
    expect(stream.refused).toBe(2);
    const endless = new LineStream();
    endless.take('x'.repeat(1_100_000));
    expect(endless.refused).toBe(1);
  });
});
