import type { LapLine } from '@gezeit/contract';
import { placeOf } from '../road/plane.js';
import { fromSi } from '../units/units.js';
import type { DeviceRecord, WrittenChannel } from './devices.js';
import { Random } from './random.js';

/** A drive as nature has it: on a track lap after lap, or a long run on the road. */
export interface DriveSpec {
  seed: number;
  /** Laps of the track; a way on a long road where there are none. */
  laps: number | null;
  lengthKm: number;
  rateHz: number;
  ambientC: number;
  massKg: number;
  powerW: number;
  /** Intake air above ambient at a standstill, and what full throttle adds, K: the part's doing. */
  soakK: number;
  loadK: number;
  /** Drift of the long-term trim, % over 100 km. */
  trimDriftPct: number;
  isCounted: boolean;
}

/** Centre of the track: on open water, so that it is nobody's. */
const ORIGIN = { latitude: 61.25, longitude: -3.5 };
const GRIP_MS2 = 9;
const BRAKE_MS2 = 8;
const TOP_MS = 58;
const STEP_M = 4;
const AIR_LAG_S = 18;
const DRAG_AREA_M2 = 0.62;
const ROLLING = 0.012;
/** Power lost per kelvin of intake air. */
const POWER_PER_K = 0.0015;
const RPM_PER_MS = 118;

/** Across the track where a lap begins. */
export function startLine(): LapLine {
  const { x, y } = centre(0);
  return { from: placeOf(ORIGIN, { x: x - 15, y }), to: placeOf(ORIGIN, { x: x + 15, y }) };
}

interface DriveInstant {
  timeS: number;
  x: number;
  y: number;
  lap: number;
  speedMS: number;
  pedalPct: number;
  intakeAirC: number;
  coolantC: number;
  oilC: number;
  knockDeg: number;
  longTermTrimPct: number;
  shortTermTrimPct: number;
}

/** Drives it, and writes what one logger on the car would. */
export function recordDrive(spec: DriveSpec): DeviceRecord {
  const random = new Random(spec.seed);
  const instants = spec.laps === null ? longRun(spec, random) : trackLaps(spec, spec.laps, random);
  const channel = (label: string, quantity: WrittenChannel['quantity'], unit: WrittenChannel['unit'], digits: number): WrittenChannel => ({
    label,
    quantity,
    unit,
    digits,
  });
  const columns: [WrittenChannel, (instant: DriveInstant) => number][] = [
    [channel('Engine speed', 'engineSpeed', 'rpm', 0), ({ speedMS }) => Math.max(850, geared(speedMS) + random.normal(4))],
    [channel('Accelerator pedal', 'pedal', '%', 1), ({ pedalPct }) => pedalPct],
    [channel('Vehicle speed', 'vehicleSpeed', 'km/h', 1), ({ speedMS }) => speedMS + random.normal(0.03)],
    [channel('Latitude', 'latitude', '°', 6), (at) => placeOf(ORIGIN, at).latitude + random.normal(3e-6)],
    [channel('Longitude', 'longitude', '°', 6), (at) => placeOf(ORIGIN, at).longitude + random.normal(5e-6)],
    ...(spec.isCounted
      ? [[channel('Lap', 'lap', '–', 0), ({ lap }: DriveInstant) => lap] as [WrittenChannel, (at: DriveInstant) => number]]
      : []),
    [channel('Intake air temperature', 'intakeAirTemperature', '°C', 1), ({ intakeAirC }) => intakeAirC + random.normal(0.1)],
    [channel('Ambient air', 'ambientTemperature', '°C', 1), () => spec.ambientC + random.normal(0.1)],
    [channel('Coolant temperature', 'coolantTemperature', '°C', 0), ({ coolantC }) => coolantC],
    [channel('Oil temperature', 'oilTemperature', '°C', 0), ({ oilC }) => oilC],
    [channel('Knock retard', 'knockRetard', '°', 1), ({ knockDeg }) => knockDeg],
    [channel('Long-term fuel trim', 'longTermTrim', '%', 1), ({ longTermTrimPct }) => longTermTrimPct + random.normal(0.25)],
    [channel('Short-term fuel trim', 'shortTermTrim', '%', 1), ({ shortTermTrimPct }) => shortTermTrimPct],
  ];
  const count = Math.floor(instants.at(-1)!.timeS * spec.rateHz);
  let next = 0;
  const sampled = Array.from({ length: count }, (_, i) => {
    while (instants[next + 1] && instants[next + 1]!.timeS <= i / spec.rateHz) next += 1;
    return along(instants[next]!, instants[next + 1], i / spec.rateHz);
  });
  return {
    device: { id: 'ecu', channels: columns.map(([own]) => own) },
    timeS: Float64Array.from(sampled, (_, i) => 12 + i / spec.rateHz),
    values: columns.map(([{ unit, digits }, value]) => Float64Array.from(sampled, (at) => Number(fromSi(value(at), unit).toFixed(digits)))),
  };
}

/** Between two instants the place moves on; what changes slowly stays. */
function along(from: DriveInstant, to: DriveInstant | undefined, timeS: number): DriveInstant {
  const share = to ? (timeS - from.timeS) / (to.timeS - from.timeS) : 0;
  return to ? { ...from, timeS, x: from.x + share * (to.x - from.x), y: from.y + share * (to.y - from.y) } : from;
}

/** Engine speed by the gear that a driver would take. */
function geared(speedMS: number): number {
  const ratios = [2.1, 1.45, 1.08, 0.86];
  return speedMS * RPM_PER_MS * (ratios.find((ratio) => speedMS * RPM_PER_MS * ratio < 6500) ?? ratios.at(-1)!);
}

/** The centre line, m: a closed curve with a hairpin and two straights. */
function centre(turn: number): { x: number; y: number } {
  const angle = 2 * Math.PI * turn;
  const radius = 430 * (1 + 0.3 * Math.cos(2 * angle) + 0.14 * Math.sin(3 * angle));
  return { x: 1.25 * radius * Math.cos(angle), y: 0.8 * radius * Math.sin(angle) };
}

function trackPoints(): { x: number; y: number; curvature: number }[] {
  const fine = Array.from({ length: 4000 }, (_, i) => centre(i / 4000));
  const points: { x: number; y: number }[] = [];
  let left = 0;
  fine.forEach((point, i) => {
    const next = fine[(i + 1) % fine.length]!;
    left -= Math.hypot(next.x - point.x, next.y - point.y);
    if (left <= 0) {
      points.push(point);
      left += STEP_M;
    }
  });
  const n = points.length;
  return points.map((point, i) => {
    const [a, b] = [points[(i + n - 2) % n]!, points[(i + 2) % n]!];
    const [inX, inY, outX, outY] = [point.x - a.x, point.y - a.y, b.x - point.x, b.y - point.y];
    const bend = Math.abs(Math.atan2(inX * outY - inY * outX, inX * outX + inY * outY));
    return { ...point, curvature: bend / Math.hypot(outX, outY) };
  });
}

/** Laps at the limit of grip and power, the first from a standstill; the driver is not quite as quick every lap. */
function trackLaps(spec: DriveSpec, laps: number, random: Random): DriveInstant[] {
  const points = trackPoints();
  const n = points.length;
  const total = Math.round(n * (laps + 0.6));
  // One lap that the driver takes it easy: it is not compared.
  const easy = laps >= 6 ? laps - 2 : -1;
  const pace = Array.from({ length: laps + 2 }, (_, lap) => (lap === easy ? 0.72 : 1) * Math.exp(random.normal(0.006)));
  const start = Math.round(0.6 * n);
  const lapOf = (i: number) => Math.floor((start + i) / n);
  const limit = Array.from({ length: total }, (_, i) =>
    Math.min(TOP_MS, pace[lapOf(i)]! * Math.sqrt(GRIP_MS2 / Math.max(1e-4, points[(start + i) % n]!.curvature))),
  );
  for (let i = total - 2; i >= 0; i -= 1) limit[i] = Math.min(limit[i]!, Math.sqrt(limit[i + 1]! ** 2 + 2 * BRAKE_MS2 * STEP_M));
  const warm = new Warmth(spec);
  const instants: DriveInstant[] = [];
  let [timeS, speedMS, way] = [0, 6, 0];
  for (let i = 0; i < total; i += 1) {
    const point = points[(start + i) % n]!;
    const can = Math.sqrt(speedMS ** 2 + 2 * STEP_M * pullMS2(spec, speedMS, warm.intakeAirC));
    const isOpen = can < limit[i]!;
    const next = Math.min(can, limit[i]!);
    const pedalPct = isOpen ? 100 : next < speedMS ? 0 : 45;
    const seconds = STEP_M / ((speedMS + next) / 2);
    way += STEP_M;
    warm.pass(seconds, pedalPct, next);
    instants.push({ timeS, x: point.x, y: point.y, lap: lapOf(i), speedMS: next, pedalPct, ...warm.shown(way, pedalPct, random) });
    timeS += seconds;
    speedMS = next;
  }
  return instants;
}

function pullMS2({ powerW, massKg, ambientC }: DriveSpec, speedMS: number, intakeAirC: number): number {
  const power = powerW * (1 - POWER_PER_K * (intakeAirC - ambientC));
  const force = Math.min(0.55 * massKg * 9.81, power / Math.max(4, speedMS)) - 0.6 * DRAG_AREA_M2 * speedMS ** 2 - ROLLING * massKg * 9.81;
  return Math.max(0.05, force / massKg);
}

/** A steady run on the road with its ups and downs, far out and back. */
function longRun(spec: DriveSpec, random: Random): DriveInstant[] {
  const warm = new Warmth(spec);
  const instants: DriveInstant[] = [];
  let [timeS, way, wanted] = [0, 0, 24];
  let speedMS = 20;
  while (way < 1000 * spec.lengthKm) {
    if (timeS % 90 < 1) wanted = random.between(17, 27);
    speedMS += 0.05 * (wanted - speedMS);
    way += speedMS;
    const pedalPct = Math.max(0, Math.min(60, 18 + 30 * (wanted - speedMS) * 0.2 + random.normal(3)));
    warm.pass(1, pedalPct, speedMS);
    instants.push({ timeS, x: way * 0.8, y: 900 * Math.sin(way / 4000), lap: 0, speedMS, pedalPct, ...warm.shown(way, pedalPct, random) });
    timeS += 1;
  }
  return instants;
}

/** What warms on the way. */
class Warmth {
  intakeAirC: number;
  #coolantC = 88;
  #oilC = 92;

  constructor(readonly spec: DriveSpec) {
    this.intakeAirC = spec.ambientC + spec.soakK;
  }

  pass(seconds: number, pedalPct: number, speedMS: number): void {
    const { ambientC, soakK, loadK } = this.spec;
    const goal = ambientC + soakK * Math.exp(-speedMS / 18) + (loadK * pedalPct) / 100;
    this.intakeAirC += (goal - this.intakeAirC) * (1 - Math.exp(-seconds / AIR_LAG_S));
    this.#coolantC += (88 + (8 * pedalPct) / 100 - this.#coolantC) * (1 - Math.exp(-seconds / 120));
    this.#oilC += (94 + (24 * pedalPct) / 100 - this.#oilC) * (1 - Math.exp(-seconds / 300));
  }

  shown(wayM: number, pedalPct: number, random: Random) {
    return {
      intakeAirC: this.intakeAirC,
      coolantC: this.#coolantC,
      oilC: this.#oilC,
      knockDeg: pedalPct > 90 ? Math.max(0, (this.intakeAirC - this.spec.ambientC - 22) * 0.15) : 0,
      longTermTrimPct: 1.5 + (this.spec.trimDriftPct * wayM) / 100_000,
      shortTermTrimPct: pedalPct > 90 ? 0 : random.normal(1.4),
    };
  }
}
