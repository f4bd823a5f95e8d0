import { describe, expect, it } from 'vitest';
import { LiveChannels } from '../src/day/live-channels.js';

const START = Date.parse('2026-03-04T08:00:00Z');
const sample = (seconds: number, values: Record<string, number>) => ({
  atMs: START + 1000 * seconds,
  values: new Map(Object.entries(values)),
});

describe('what the cell shows', () => {
  it('is the newest value of every channel, whichever device it came from', () => {
    const live = new LiveChannels();
    live.take([sample(0, { coolantTemperature: 80, 'pressureDrop/filter': 900 }), sample(1, { coolantTemperature: 81 })], false);
    expect(live.readings).toEqual([{ quantity: 'coolantTemperature', value: 81, atMs: START + 1000 }]);
    expect(live.channels.get('pressureDrop/filter')).toEqual({ value: 900, atMs: START });
  });

  it('remembers the course of temperatures once a second, and forgets what a clock that was set back had shown', () => {
    const live = new LiveChannels();
    for (let i = 0; i <= 400; i++) live.take([sample(i / 4, { oilTemperature: 60 + i / 100, engineSpeed: 900 })], false);
    expect(Object.keys(live.history())).toEqual(['oilTemperature']);
    expect(live.history()['oilTemperature']!.atMs).toHaveLength(101);
    expect(live.history(START + 98_000)['oilTemperature']!.value).toEqual([63.96, 64]);
    live.take([sample(20, { oilTemperature: 70 })], false);
    expect(live.history()['oilTemperature']!.atMs).toHaveLength(21);
    expect(live.history()['oilTemperature']!.value.at(-1)).toBe(70);
    live.take([sample(-90_000, { oilTemperature: 50 })], false);
    expect(live.history()['oilTemperature']!.value).toEqual([50]);
  });

  it('is thinned for a window that opens, where it is older than ten minutes', () => {
    const live = new LiveChannels();
    for (let i = 0; i < 1800; i++) live.take([sample(i, { coolantTemperature: 80 })], false);
    const { atMs } = live.course['coolantTemperature']!;
    expect(atMs.length).toBeGreaterThan(600);
    expect(atMs.length).toBeLessThan(900);
    expect(atMs.at(-1)).toBe(START + 1_799_000);
  });

  it('draws a pull over engine speed: a slower device holds its value a moment, a silent one leaves gaps', () => {
    const live = new LiveChannels();
    live.take([sample(0, { power: 1000, intakeAirTemperature: 30 })], false);
    live.beginTrace('p01');
    for (let i = 0; i < 30; i++) live.take([sample(i / 10, { engineSpeed: 2000 + 100 * i, manifoldPressure: 2e5 })], true);
    live.take([sample(3, { intakeAirTemperature: 40 })], true);
    live.take([sample(3.1, { engineSpeed: 5000, manifoldPressure: 2.1e5 })], true);
    const { pull, engineSpeedRpm, channels } = live.trace;
    expect(pull).toBe('p01');
    expect(engineSpeedRpm).toHaveLength(31);
    expect(channels['manifoldPressure']!.at(-1)).toBe(2.1e5);
    expect(channels['intakeAirTemperature']!.slice(0, 3)).toEqual([30, 30, 30]);
    expect(channels['intakeAirTemperature']!.slice(20, 30).every((value) => value === null)).toBe(true);
    expect(channels['intakeAirTemperature']!.at(-1)).toBe(40);
    expect(Object.values(channels).every((series) => series.length === engineSpeedRpm.length)).toBe(true);
    expect(live.changedTrace()).not.toBeNull();
    expect(live.changedTrace()).toBeNull();
  });

  it('goes on after a stop from what was kept', () => {
    const live = new LiveChannels();
    const trace = { pull: 'p02', engineSpeedRpm: [2000], channels: { power: [1000] } };
    live.restore({ oilTemperature: { atMs: [START], value: [80] } }, trace);
    live.take([sample(5, { oilTemperature: 81 })], false);
    expect(live.history()).toEqual({ oilTemperature: { atMs: [START, START + 5000], value: [80, 81] } });
    expect(live.trace).toEqual(trace);
  });
});
