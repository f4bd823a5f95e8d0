import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { LineStream, PullDetector, type Detected, type DetectorSample } from '../src/index.js';

const RUNS = { numRuns: 200, seed: 20260307 };
const plainSamples = (samples: ReturnType<LineStream['take']>) => samples.map(({ timeS, values }) => [timeS, [...values]]);

describe('a stream of lines', () => {
  const rows = fc.array(
    fc.record({
      time: fc.integer({ min: 0, max: 100_000 }),
      rpm: fc.integer({ min: 700, max: 8000 }),
      air: fc.option(fc.integer({ min: -400, max: 900 }), { nil: null }),
      drop: fc.integer({ min: 0, max: 9000 }),
    }),
    { minLength: 1, maxLength: 30 },
  );
  const cuts = fc.array(fc.nat(2000), { maxLength: 12 });
  const lineEnds = fc.constantFrom('\n', '\r\n');

  /** A text in pieces, cut wherever it happens to be cut on its way. */
  function pieces(text: string, at: readonly number[]): string[] {
    const places = [0, ...at.map((place) => place % (text.length + 1)), text.length].sort((a, b) => a - b);
    return places.slice(1).map((place, i) => text.slice(places[i], place));
  }

  it.each([
    ['CSV with commas', ',', (value: number) => value.toFixed(1)],
    ['CSV with semicolons and decimal commas', ';', (value: number) => value.toFixed(1).replace('.', ',')],
    ['tab separated', '\t', (value: number) => value.toFixed(1)],
  ])('is read the same however it is cut in pieces: %s', (_, separator, written) => {
    fc.assert(
      fc.property(rows, cuts, lineEnds, (list, at, end) => {
        const header = ['Time [s]', 'Engine speed [rpm]', 'Intake air temperature [°C]', 'Pressure drop filter [hPa]'].join(separator);
        const lines = list.map(({ time, rpm, air, drop }) =>
          [written(time / 100), String(rpm), air === null ? '' : written(air / 10), written(drop / 100)].join(separator),
        );
        const text = [header, ...lines, ''].join(end);
        const stream = new LineStream();
        const samples = pieces(text, at).flatMap((piece) => stream.take(piece));
        expect(plainSamples(samples)).toEqual(plainSamples(new LineStream().take(text)));
        expect(stream.refused).toBe(0);
        expect(samples).toHaveLength(list.length);
        for (const [i, { rpm, air, drop }] of list.entries()) {
          const { values } = samples[i]!;
          expect(values.get('engineSpeed')).toBe(rpm);
          expect(values.get('intakeAirTemperature')).toBe(air === null ? undefined : Number((air / 10).toFixed(1)));
          expect(values.get('pressureDrop/filter')).toBeCloseTo(Number((drop / 100).toFixed(1)) * 100, 6);
        }
      }),
      RUNS,
    );
  });

  it('survives whatever else comes down the line, and goes on with what it can read', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ maxLength: 40 }), { maxLength: 20 }), (noise) => {
        const stream = new LineStream();
        for (const line of noise) stream.take(`${line}\n`);
        const [sample] = stream.take('Time [s],Engine speed [rpm]\n1.5,4200\n').slice(-1);
        expect(sample!.values.get('engineSpeed')).toBe(4200);
      }),
      RUNS,
    );
  });
});

describe('the finder of pulls in a stream', () => {
  const STEP_S = 0.05;
  type Phase = { kind: 'idle' | 'pull' | 'blip' | 'cruise' | 'pulled-throttle'; lengthS: number };
  const phases = fc.array(
    fc.record({
      kind: fc.constantFrom<Phase['kind']>('idle', 'pull', 'blip', 'cruise', 'pulled-throttle'),
      lengthS: fc.integer({ min: 4, max: 12 }),
    }),
    { minLength: 1, maxLength: 10 },
  );

  /** A drive made of phases, an idling pause behind each, with what a pull truly began and ended at. */
  function drive(list: readonly Phase[]): { samples: DetectorSample[]; truth: { beganS: number; endedS: number }[] } {
    const samples: DetectorSample[] = [];
    const truth: { beganS: number; endedS: number }[] = [];
    let timeS = 0;
    const push = (throttlePct: number, engineSpeedRpm: number, pedalPct = throttlePct) => {
      samples.push({ timeS, throttlePct, pedalPct, engineSpeedRpm });
      timeS += STEP_S;
    };
    const during = (lengthS: number, each: (t: number) => void) => {
      for (let t = 0; t < lengthS; t += STEP_S) each(t);
    };
    for (const { kind, lengthS } of list) {
      const beganS = timeS;
      // Full throttle from low speed; the engine control may close the throttle in the middle of it while the pedal stays down.
      if (kind === 'pull' || kind === 'pulled-throttle') {
        during(lengthS, (t) => push(kind === 'pull' || t < 2 || t > 2.8 ? 98 : 30, 2000 + 400 * t, 98));
        truth.push({ beganS, endedS: timeS });
      }
      // Somebody clears the engine's throat: open for a moment.
      if (kind === 'blip') during(0.3, (t) => push(95, 900 + 4000 * t));
      if (kind === 'cruise') during(lengthS, () => push(35, 3000));
      during(3, () => push(4, 950));
    }
    return { samples, truth };
  }

  const foundIn = (detector: PullDetector, samples: readonly DetectorSample[]): Detected[] =>
    samples.flatMap((sample) => {
      const found = detector.take(sample);
      return found ? [found] : [];
    });

  it('finds every pull and nothing else, where the throttle moved', () => {
    fc.assert(
      fc.property(phases, (list) => {
        const { samples, truth } = drive(list);
        const detector = new PullDetector();
        const found = foundIn(detector, samples);
        expect(found.map(({ kind }) => kind)).toEqual(truth.flatMap(() => ['started', 'ended']));
        for (const [i, { beganS, endedS }] of truth.entries()) {
          expect(Math.abs(found[2 * i]!.timeS - beganS)).toBeLessThanOrEqual(2 * STEP_S);
          expect(Math.abs(found[2 * i + 1]!.timeS - endedS)).toBeLessThanOrEqual(2 * STEP_S);
        }
        expect(detector.running).toBe(false);
      }),
      RUNS,
    );
  });

  it('does not mind samples without throttle or speed in between', () => {
    fc.assert(
      fc.property(phases, fc.array(fc.nat(5000), { maxLength: 40 }), (list, holes) => {
        const { samples, truth } = drive(list);
        const detector = new PullDetector();
        const holed = samples.flatMap((sample, i) =>
          holes.includes(i) ? [{ ...sample, throttlePct: Number.NaN, pedalPct: Number.NaN }, sample] : [sample],
        );
        expect(foundIn(detector, holed)).toHaveLength(2 * truth.length);
      }),
      RUNS,
    );
  });
});
