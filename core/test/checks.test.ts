import { PULL_FLAGS, type PullFlag } from '@gezeit/contract';
import { describe, expect, it } from 'vitest';
import { analyseMeasured, CHECKS, measurePulls, PLAIN_FORMATTER, withWords } from '../src/index.js';
import { FAULTS, type StudiedFlag } from '../../bench/check-cases.js';
import { checkDay, flagsOfDay } from '../../bench/check-days.js';
import { LOOK_ALIKES } from '../../bench/check-look-alikes.js';
import { channelFaults } from '../src/pull/channel-faults.js';
import type { Trace } from '../src/pull/traces.js';

/** A short run of the study (`npm run bench:checks`): seeds that were not used there. */
const SEED = 5000;

describe('the checks of a pull', () => {
  const studied = Object.keys(FAULTS) as StudiedFlag[];

  it('are studied for every flag that leaves nothing out and clouds nothing, but those that state a fact', () => {
    const facts: readonly PullFlag[] = ['timing-pulled', 'spike', 'air-meter-implausible', 'started-hot', 'started-cold', 'typed'];
    const others = PULL_FLAGS.filter((flag) => !CHECKS[flag].leavesOut && !facts.includes(flag));
    expect(others.toSorted()).toEqual(studied.toSorted());
    for (const flag of studied) expect([CHECKS[flag].leavesOut, CHECKS[flag].ofSetup]).toEqual([false, null]);
    for (const flag of ['outlier', 'wobble', 'learning'] as const) expect(CHECKS[flag].suggestsLeavingOut).toBe(false);
  });

  it.each(studied)('%s is found at two and a half times its threshold, with its words and where it is seen', (flag) => {
    let found = 0;
    for (let seed = SEED; seed < SEED + 4; seed += 1) {
      const { day, pull } = FAULTS[flag](seed, 2.5);
      const { pulls } = analyseMeasured(day.bundle, measurePulls(day.bundle, day.tables));
      const own = pulls.find((entry) => entry.pull.id === pull)!;
      const detail = own.flags.find((entry) => entry.flag === flag);
      if (!detail) continue;
      found += 1;
      expect(own.used).toBe(own.leftOut.length === 0);
      expect(own.leftOut.some(({ reason }) => reason === flag)).toBe(false);
      const { text } = withWords({ text: '', said: { text: [detail.said] } }, PLAIN_FORMATTER);
      expect(text).toMatch(/\d/);
      expect(text).not.toMatch(/NaN|undefined|null|Infinity/);
      for (const { fromS, toS, channel } of detail.where ?? []) {
        expect(fromS).toBeLessThanOrEqual(toS);
        expect(own.curve!.channels.has(channel)).toBe(true);
      }
    }
    expect(found).toBeGreaterThanOrEqual(3);
  });

  it('say nothing of clean pulls, but of one in fifty', () => {
    const flags = Array.from({ length: 12 }, (_, i) => [...flagsOfDay(checkDay(SEED + i)).values()]).flat();
    expect(flags.length).toBeGreaterThan(70);
    expect(flags.filter((own) => own.length > 0).length).toBeLessThanOrEqual(2);
  });

  it.each(LOOK_ALIKES)('say nothing of $name', ({ silent, day }) => {
    const raised = new Set([...flagsOfDay(day(SEED)).values()].flat());
    expect(silent.filter((flag) => raised.has(flag))).toEqual([]);
  });
});

describe('what looks like a sensor or a logger', () => {
  const trace = (values: number[], hz = 20): Trace => ({
    column: { name: 'x' } as Trace['column'],
    timeS: Float64Array.from(values, (_, i) => i / hz),
    values: Float64Array.from(values),
  });
  const faults = (key: string, values: number[], hz = 20) =>
    channelFaults(trace(values, hz), { key, file: 'f', device: 'd' }, 0, values.length / hz);
  const rising = Array.from({ length: 120 }, (_, i) => 100 + i + 0.01 * ((i * 7919) % 17));

  it('sees nothing in a channel that rises', () => {
    expect(faults('airMassFlow', rising)).toEqual([]);
    expect(faults('rollerSpeed', rising)).toEqual([]);
  });

  it('sees a stretch that stands still, with its length and where it stands', () => {
    const stuck = rising.map((value, i) => (i >= 50 && i < 62 ? rising[50]! : value));
    const [flat] = faults('rollerSpeed', stuck);
    expect(flat).toMatchObject({ kind: 'flat', samples: 12, fromS: 2.5, atEnd: null });
    const clipped = rising.map((value) => Math.min(value, rising[100]!));
    expect(faults('rollerSpeed', clipped)[0]).toMatchObject({ kind: 'flat', atEnd: 'highest' });
  });

  it('sees a plug that goes and comes back, and no temperature that rises fast', () => {
    const gone = rising.map((value, i) => (i >= 40 && i < 52 ? 0 : value));
    expect(faults('pressureDrop/filter', gone)).toContainEqual(expect.objectContaining({ kind: 'away', value: 0, fromS: 2 }));
    const heating = Array.from({ length: 60 }, (_, i) => 20 + 60 * (1 - Math.exp(-i / 6)));
    expect(faults('compressorOutTemperature', heating, 5).filter(({ kind }) => kind === 'away')).toEqual([]);
    const open = heating.map((value, i) => (i >= 30 && i < 34 ? -40 : value));
    expect(faults('compressorOutTemperature', open, 5)).toContainEqual(expect.objectContaining({ kind: 'away', value: -40 }));
  });

  it('counts short losses of power, and takes no slow one for a misfire', () => {
    const power = Array.from({ length: 400 }, (_, i) => 50_000 + 200 * i + 100 * Math.sin(i * 12.9));
    const misfiring = power.map((value, i) => ([90, 160, 230, 300].some((at) => i >= at && i < at + 5) ? 0.9 * value : value));
    expect(faults('power', misfiring, 50)).toContainEqual(expect.objectContaining({ kind: 'dips', count: 4 }));
    const sagging = power.map((value, i) => value * (1 - 0.1 * Math.exp(-(((i - 200) / 60) ** 2))));
    expect(faults('power', sagging, 50).filter(({ kind }) => kind === 'dips')).toEqual([]);
  });
});
