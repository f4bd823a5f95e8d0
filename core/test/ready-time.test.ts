import { describe, expect, it } from 'vitest';
import { predictReady } from '../src/day/ready-time.js';
import { forecastCount } from '../../bench/cool-downs.js';

/** Of either gate; a hundred of each by `npm run bench:ready-time`, which wants nine of ten. */
const EACH = 12;
const seconds = (n: number) => Array.from({ length: n }, (_, i) => i - n + 1);

describe('the predicted ready moment', () => {
  it(`is within 15 per cent of the wait or 20 s in all but two of ${2 * EACH} cool-downs of the rig, once a range is shown`, () => {
    const { shown, met, promisedInVain, calledUnreachable } = forecastCount(EACH);
    expect(shown).toBeGreaterThan(1.2 * EACH);
    expect(met).toBeGreaterThanOrEqual(shown - 2);
    // A gate that is never reached is never given a moment, and hardly any that is reached is called out of reach.
    expect(promisedInVain).toBe(0);
    expect(calledUnreachable).toBeLessThanOrEqual(1);
  }, 120_000);

  it('does not know yet at first, and is not fooled by one exponential through the first minutes', () => {
    const t = seconds(120).map((s) => s);
    // 25 K fading in a minute and 12 K in ten, goal 5 K above the air: nine minutes in truth.
    const y = t.map((s) => 25 * Math.exp(-(s + 119) / 60) + 12 * Math.exp(-(s + 119) / 600));
    const moment = predictReady(t, y, 5, { surroundings: 0, resting: 0.5 });
    expect(moment.kind === 'range' ? moment.midS : 400).toBeGreaterThan(300);
    expect(predictReady(t.slice(0, 6), y.slice(0, 6), 5).kind).toBe('unknown');
  });

  it('says where the gate lies below the air around, or below what the course can reach', () => {
    const t = seconds(400);
    const y = t.map((s) => 15 + 20 * Math.exp(-(s + 399) / 80));
    expect(predictReady(t, y, -2, { surroundings: 0, resting: null })).toMatchObject({ kind: 'unreachable', endsAt: 0 });
    const short = predictReady(t, y, 12, { surroundings: 0, resting: 15 });
    expect(short.kind).toBe('unreachable');
    if (short.kind === 'unreachable') expect(short.endsAt).toBeGreaterThan(12.5);
  });

  it('foresees warming up as well as cooling down', () => {
    const t = seconds(90);
    const y = t.map((s) => 86.5 - 40 * Math.exp(-(s + 89) / 120));
    const moment = predictReady(t, y, 80, { surroundings: null, resting: 86.5 });
    const truth = 120 * Math.log(40 / 6.5) - 89;
    expect(moment.kind).toBe('range');
    if (moment.kind === 'range') expect(Math.abs(moment.midS - truth)).toBeLessThan(20);
  });
});
