import { describe, expect, it } from 'vitest';
import type { Bundle } from '@gezeit/contract';
import { assumptionsFor, measurePulls } from '../src/index.js';
import { FAULTS } from '../../bench/check-cases.js';
import { analysePulls, type AnalysedPull } from '../src/compare/analysed-pull.js';
import type { MeasuredPull } from '../src/pull/measure.js';
import { DEMO_DAYS } from './known-days.js';

// Flags are kept where nothing that a check looks at has changed. Whatever is changed: they are what a day says that was never looked at before.

const analysed = (bundle: Bundle, measured: readonly MeasuredPull[]): AnalysedPull[] =>
  analysePulls(bundle, measured, assumptionsFor(bundle));
const flagsIn = (bundle: Bundle, measured: readonly MeasuredPull[]) =>
  analysed(bundle, measured).map(({ pull, flags }) => [pull.id, flags]);

type Change = (bundle: Bundle) => void;
const measuredPull = (bundle: Bundle, place: number) => bundle.pulls.filter(({ kind }) => kind === 'measured').at(place)!;
const NEW_TO_CHECKS: Record<string, Change> = {
  'a narrower band': ({ programme }) => (programme.bandRpm = [programme.bandRpm[0] + 700, programme.bandRpm[1] - 200]),
  'a wider band': ({ programme }) => (programme.bandRpm = [programme.bandRpm[0] - 800, programme.bandRpm[1] + 900]),
  'another correction': ({ programme }) => (programme.correction = programme.correction === 'NONE' ? 'SAE_J1349' : 'NONE'),
  'boost that is held': ({ vehicle }) => Object.assign(vehicle, { boostControl: 'absolute', aspiration: 'turbo' }),
  'boost that is not held': ({ vehicle }) => Object.assign(vehicle, { boostControl: 'open-loop' }),
  'another engine': ({ vehicle }) => Object.assign(vehicle, { displacementL: 5, ignition: 'diesel' }),
  'a box without a clutch': ({ vehicle }) => Object.assign(vehicle, { gearbox: 'converter' }),
  'a cell that repeats badly': (bundle) => Object.assign(bundle.cell ?? bundle.cells![0]!, { repeatabilityPct: 3 }),
  'a gear of its own': ({ setups }) => Object.assign(setups[0]!, { state: { ...setups[0]!.state, gear: '3' } }),
  'a boost target': ({ setups }) => (setups[0]!.state = { ...setups[0]!.state, boostTargetKPa: '60' }),
  'a setup that two share': (bundle) => (measuredPull(bundle, 0).setup = bundle.setups.at(-1)!.id),
  'a pull that was aborted': (bundle) => (measuredPull(bundle, 1).aborted = true),
  'a pull that is conditioning': (bundle) => (measuredPull(bundle, -1).kind = 'conditioning'),
  'a pull driven later': (bundle) => (measuredPull(bundle, 0).startedAt = measuredPull(bundle, -1).startedAt.replace(/T../, 'T23')),
  'starts that are worth more': (bundle) => (bundle.assumptions = { ...bundle.assumptions, startTemperature: -0.01 }),
  'sensors that are worse': (bundle) =>
    (bundle.assumptions = { ...bundle.assumptions, pressureAccuracy: 4000, temperatureAccuracy: 20, dropAccuracy: 3000 }),
  'figures that were typed': (bundle) => (measuredPull(bundle, 0).typed = { peakPowerKW: 80, corrected: 'NONE' } as never),
};

/** Days with a fault that only some of what a check looks at decides. */
const FAULTY_DAYS = (['boost-off-target', 'gear-differs', 'outlier', 'learning', 'devices-contradict'] as const).map((flag) => {
  const { day } = FAULTS[flag](5000, 2.5);
  return { name: `a day with ${flag}`, bundle: day.bundle, measured: measurePulls(day.bundle, day.tables) };
});

describe('the flags of a day', () => {
  it.each([...DEMO_DAYS, ...FAULTY_DAYS].map((day) => [day.name, day] as const))(
    'of %s are those of a day never looked at, whatever was looked at before',
    (_, day) => {
      const { bundle, measured } = day;
      let different = 0;
      const before = JSON.stringify(flagsIn(bundle, measured));
      for (const [name, change] of Object.entries(NEW_TO_CHECKS)) {
        const changed = structuredClone(bundle);
        change(changed);
        const [own, fresh] = [flagsIn(changed, measured), flagsIn(changed, structuredClone(measured))];
        expect(own, name).toEqual(fresh);
        if (JSON.stringify(own) !== before) different += 1;
        // And back again.
        expect(JSON.stringify(flagsIn(bundle, measured)), `${name}, taken back`).toBe(before);
      }
      // Changes that no flag notices would show nothing.
      if (bundle.pulls.length > 0) expect(different).toBeGreaterThan(1);
    },
  );

  it('follow what a sensor’s sheet says of its accuracy', () => {
    const { day, pull } = FAULTS['devices-contradict'](5000, 2.5);
    const measured = measurePulls(day.bundle, day.tables);
    const flagsOfPull = (bundle: Bundle) =>
      analysed(bundle, measured)
        .find((entry) => entry.pull.id === pull)!
        .flags.map(({ flag }) => flag);
    expect(flagsOfPull(day.bundle)).toContain('devices-contradict');
    const sources = measured.flatMap(({ curve }) => [...(curve?.sources.values() ?? [])]);
    const channels: NonNullable<Bundle['channels']> = {};
    for (const { device, column } of sources) channels[device] = { ...channels[device], [column]: { accuracy: 1e4 } };
    expect(flagsOfPull({ ...day.bundle, channels })).not.toContain('devices-contradict');
  });

  it('are not looked for again where a pull is left out, or where something else is asked or claimed', () => {
    for (const { bundle, measured } of DEMO_DAYS) {
      if (bundle.pulls.length === 0) continue;
      const first = analysed(bundle, measured);
      const changed = structuredClone(bundle);
      measuredPull(changed, 1).excluded = 'a gust';
      changed.programme.questions = [];
      changed.programme.claims = [];
      const second = analysed(changed, measured);
      expect(second.map(({ flags }, i) => flags === first[i]!.flags)).toEqual(first.map(() => true));
      expect(second.find(({ pull }) => pull.excluded === 'a gust')!.used).toBe(false);
    }
  });
});
