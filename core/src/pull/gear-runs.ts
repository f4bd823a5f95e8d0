import type { Quantity, Vehicle } from '@gezeit/contract';
import type { LogTable } from '../log/log-table.js';
import { interpolate, lowerBound } from '../numeric/interpolate.js';
import { median } from '../numeric/means.js';
import { gearOf } from './gear-of.js';
import { movingMean, samplesBetween, traceOf, type Trace } from './traces.js';

/** A run at full throttle in one gear on the road; s on the log's own clock. */
export interface GearRun {
  /** By its channel, or by the ratio of engine to road speed; null where neither tells. */
  gear: number | null;
  /** Engine speed per road speed, rpm per m/s; null where no road speed is logged. */
  rpmPerMS: number | null;
  startS: number;
  endS: number;
  fromRpm: number;
  toRpm: number;
  startIntakeAirC: number | null;
  endIntakeAirC: number | null;
  /** Ignition and knock retard over the last of the run, degrees. */
  sparkAtTopDeg: number | null;
  knockAtTopDeg: number | null;
  /** The run by engine speed: road speed, m/s, acceleration, m/s², and time since its start, s; NaN where it is not known. */
  gridRpm: Float64Array;
  speedMS: Float64Array;
  accelerationMS2: Float64Array;
  timeS: Float64Array;
}

/** What a run is: so open, so long, so far up; and what of it is its top. Assumptions. */
const RUN_RULES = {
  openPct: 90,
  openShare: 0.95,
  leastS: 1.2,
  leastRiseRpm: 800,
  topRpm: 300,
  smoothS: 0.3,
  stepRpm: 100,
};

/** Beside the runs so much is looked at, s: of a log of a whole day no more. */
const BESIDE_S = 2;
/** A channel about the runs. */
type Near = (quantity: Quantity) => Trace | null;

/** Runs at full throttle of a log, gear by gear, between two times on its own clock. */
export function gearRuns(table: LogTable, vehicle: Vehicle, fromS: number, toS: number): GearRun[] {
  const near: Near = (quantity) => {
    const column = table.columns.find((entry) => entry.quantity === quantity);
    return column ? traceOf(table, column, fromS - BESIDE_S, toS + BESIDE_S) : null;
  };
  const speed = near('engineSpeed');
  const open = near('pedal') ?? near('throttle');
  if (!speed || !open) return [];
  const most = open.values.reduce((a, b) => Math.max(a, b), 0);
  const fully = Math.min(RUN_RULES.openPct, RUN_RULES.openShare * most);
  const stretches: [number, number][] = [];
  let begun: number | null = null;
  for (let i = lowerBound(open.timeS, fromS); i < open.timeS.length && open.timeS[i]! <= toS; i += 1) {
    const isOpen = open.values[i]! >= fully;
    if (isOpen) begun ??= open.timeS[i]!;
    if ((!isOpen || i + 1 === open.timeS.length || open.timeS[i + 1]! > toS) && begun !== null) {
      stretches.push([begun, open.timeS[isOpen ? i : i - 1]!]);
      begun = null;
    }
  }
  return stretches.flatMap(([startS, endS]) => runOf(near, vehicle, speed, startS, endS) ?? []);
}

function runOf(near: Near, vehicle: Vehicle, speed: Trace, startS: number, endS: number): GearRun | null {
  if (endS - startS < RUN_RULES.leastS) return null;
  const smooth = movingMean(speed.timeS, speed.values, RUN_RULES.smoothS);
  const inside = [...speed.timeS.keys()].filter((i) => speed.timeS[i]! >= startS && speed.timeS[i]! <= endS);
  if (inside.length < 5) return null;
  const [fromRpm, toRpm] = [smooth[inside[0]!]!, smooth[inside.at(-1)!]!];
  if (toRpm - fromRpm < RUN_RULES.leastRiseRpm) return null;
  const rising: { rpm: number[]; at: number[] } = { rpm: [], at: [] };
  for (const i of inside) {
    if (rising.rpm.length > 0 && smooth[i]! <= rising.rpm.at(-1)!) continue;
    rising.rpm.push(smooth[i]!);
    rising.at.push(speed.timeS[i]!);
  }
  const first = Math.ceil(rising.rpm[0]! / RUN_RULES.stepRpm) * RUN_RULES.stepRpm;
  const gridRpm = Float64Array.from(
    { length: Math.max(0, Math.floor((rising.rpm.at(-1)! - first) / RUN_RULES.stepRpm) + 1) },
    (_, i) => first + i * RUN_RULES.stepRpm,
  );
  const atS = gridRpm.map((rpm) => interpolate(rising.rpm, rising.at, rpm));
  const road = near('vehicleSpeed');
  const speedMS = gridRpm.map((_, i) => (road ? interpolate(road.timeS, road.values, atS[i]!) : Number.NaN));
  const known = [...gridRpm.keys()].filter((i) => speedMS[i]! > 1);
  const rpmPerMS = known.length === 0 ? null : median(known.map((i) => gridRpm[i]! / speedMS[i]!));
  // In one gear road and engine speed rise together: the engine's is logged finer.
  const accelerationMS2 = gridRpm.map((_, i) => {
    const [a, b] = [Math.max(0, i - 1), Math.min(gridRpm.length - 1, i + 1)];
    return rpmPerMS === null || a === b ? Number.NaN : (gridRpm[b]! - gridRpm[a]!) / (atS[b]! - atS[a]!) / rpmPerMS;
  });
  const air = near('intakeAirTemperature');
  const top = interpolate(rising.rpm, rising.at, toRpm - RUN_RULES.topRpm);
  const medianOf = (trace: Trace | null, from: number, to: number) => {
    const samples = trace ? samplesBetween(trace, from, to) : [];
    return samples.length === 0 ? null : median(samples);
  };
  return {
    gear: gearOf(near('gear'), vehicle, startS, endS, rpmPerMS),
    rpmPerMS,
    startS,
    endS,
    fromRpm,
    toRpm,
    startIntakeAirC: medianOf(air, startS - 0.5, startS + 0.1),
    endIntakeAirC: medianOf(air, endS - 0.5, endS + 0.1),
    sparkAtTopDeg: medianOf(near('ignitionAdvance'), top, endS),
    knockAtTopDeg: medianOf(near('knockRetard'), top, endS),
    gridRpm,
    speedMS: rpmPerMS === null ? speedMS : gridRpm.map((rpm) => rpm / rpmPerMS),
    accelerationMS2,
    timeS: atS.map((at) => at - startS),
  };
}
