import type { Bundle, Findings } from '@gezeit/contract';
import { moistAirDensity } from '../air/moist-air.js';
import { interpolate } from '../numeric/interpolate.js';
import { mean, pooledDifference } from '../numeric/means.js';
import type { GearRun } from '../pull/gear-runs.js';
import type { Assumptions } from '../judge/assumptions.js';
import { wheelPower } from '../road/wheel-power.js';
import type { AnalysedPull } from './analysed-pull.js';

/** Drag area of a car that does not say its own, m². An assumption. */
export const USUAL_DRAG_AREA_M2 = 0.65;

type RoadFinding = Findings['road']['runs'][number];

/** Runs on the road, gear by gear, with what they made at the wheels where the car's mass is known; and what two setups' runs have in common. */
export function roadFindings(
  bundle: Bundle,
  { road }: Assumptions,
  pulls: readonly AnalysedPull[],
  pairs: readonly (readonly [string, string])[],
): Findings['road'] {
  const runs = pulls.flatMap((entry) => entry.runs.map((run) => ({ entry, run })));
  const isRoad = (bundle.cell?.kind ?? bundle.cells?.[0]?.kind) === 'road';
  // On rollers a pull is one run, and its power is measured.
  if (!isRoad && !pulls.some((entry) => entry.runs.length > 1)) return { runs: [], pairs: [] };
  return {
    runs: runs.map(({ entry, run }) => findingOf(bundle, road, entry, run)),
    pairs: pairs.flatMap(([reference, candidate]) => {
      const own = runs.filter(({ entry }) => entry.used && entry.pull.kind === 'measured');
      const gears = [...new Set(own.flatMap(({ run }) => (run.gear === null ? [] : [run.gear])))].sort((a, b) => a - b);
      return gears.flatMap((gear) => {
        const of = (setup: string) => own.filter(({ entry, run }) => entry.pull.setup === setup && run.gear === gear).map(({ run }) => run);
        const [a, b] = [of(reference), of(candidate)];
        return a.length > 0 && b.length > 0 ? (inCommon(reference, candidate, gear, a, b) ?? []) : [];
      });
    }),
  };
}

function findingOf(bundle: Bundle, road: Assumptions['road'], entry: AnalysedPull, run: GearRun): RoadFinding {
  const { startIntakeAirC, endIntakeAirC } = run;
  return {
    pull: entry.pull.id,
    setup: entry.pull.setup,
    gear: run.gear,
    rpmPerMS: run.rpmPerMS,
    fromRpm: run.fromRpm,
    toRpm: run.toRpm,
    seconds: run.endS - run.startS,
    startIntakeAirC,
    endIntakeAirC,
    riseK: startIntakeAirC === null || endIntakeAirC === null ? null : endIntakeAirC - startIntakeAirC,
    sparkAtTopDeg: run.sparkAtTopDeg,
    knockAtTopDeg: run.knockAtTopDeg,
    wheelPower: powerOf(bundle, road, entry, run),
  };
}

/** Mean power at the wheels over a run, kW, uniform over engine speed (formula k1), with what mass, drag, slope and wind leave open. */
function powerOf({ vehicle }: Bundle, road: Assumptions['road'], { air }: AnalysedPull, run: GearRun): RoadFinding['wheelPower'] {
  if (!vehicle.massKg || !air) return null;
  const density = moistAirDensity(air);
  const places = [...run.gridRpm.keys()].filter((i) => run.speedMS[i]! > 0 && Number.isFinite(run.accelerationMS2[i]!));
  if (places.length < 5) return null;
  const meanKW = (by: { mass?: number; drag?: number; grade?: number; wind?: number } = {}) =>
    mean(
      places.map(
        (i) =>
          wheelPower(
            {
              massKg: vehicle.massKg! * (1 + (by.mass ?? 0)),
              massFactor: road.massFactor,
              dragAreaM2: (vehicle.dragAreaM2 ?? USUAL_DRAG_AREA_M2) * (1 + (by.drag ?? 0)),
              rollingResistance: road.rollingResistance,
              airDensityKgM3: density,
              grade: by.grade ?? 0,
              headwindMPerS: by.wind ?? 0,
            },
            run.speedMS[i]!,
            run.accelerationMS2[i]!,
          ).powerW,
      ),
    ) / 1000;
  const value = meanKW();
  const half = Math.hypot(
    meanKW({ mass: road.massShare }) - value,
    meanKW({ drag: road.dragShare }) - value,
    meanKW({ grade: road.slope }) - value,
    meanKW({ wind: road.windMS }) - value,
  );
  return { meanKW: value, low: value - half, high: value + half };
}

/** What the runs of two setups in one gear have in common: the time through it, and what the intake air gained per second. */
function inCommon(
  reference: string,
  candidate: string,
  gear: number,
  a: GearRun[],
  b: GearRun[],
): Findings['road']['pairs'][number] | null {
  const all = [...a, ...b];
  const fromRpm = Math.max(...all.map((run) => run.gridRpm[0] ?? Infinity));
  const toRpm = Math.min(...all.map((run) => run.gridRpm.at(-1) ?? -Infinity));
  if (!(toRpm > fromRpm)) return null;
  const through = (run: GearRun) => interpolate(run.gridRpm, run.timeS, toRpm) - interpolate(run.gridRpm, run.timeS, fromRpm);
  const rate = (run: GearRun) =>
    run.startIntakeAirC === null || run.endIntakeAirC === null ? [] : [(run.endIntakeAirC - run.startIntakeAirC) / (run.endS - run.startS)];
  const unequal = all.some((run) => (run.gridRpm[0] ?? 0) < fromRpm || (run.gridRpm.at(-1) ?? 0) > toRpm);
  return {
    reference,
    candidate,
    gear,
    fromRpm,
    toRpm,
    unequal,
    runs: { reference: a.length, candidate: b.length },
    referenceS: mean(a.map(through)),
    seconds: pooledDifference(a.map(through), b.map(through)),
    risePerS: pooledDifference(a.flatMap(rate), b.flatMap(rate)),
  };
}
