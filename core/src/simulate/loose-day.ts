import type { Quantity } from '@gezeit/contract';
import type { DrivenPull } from './day.js';
import { dataBoxDevice, dynoDevice, ecuDevice, type Device, type DeviceChannel } from './devices.js';
import { Random } from './random.js';
import type { Instant } from './sweep.js';
import { STEP_S } from './sweep.js';
import { fromSi } from '../units/units.js';

/** How one device writes its exports of a day. */
export interface LooseDevice {
  device: 'ecu' | 'dyno' | 'box';
  /** One file of the whole day, or one a pull. */
  files: 'day' | 'pull';
  /** Name of a file; `n` counts from 1, null for a file of the whole day. */
  name(n: number | null): string;
  /** What its clock says: seconds from anywhere, the time of day, or date and time. */
  clock: 'elapsed' | 'clock' | 'dateTime';
  /** Its clock is ahead of the true one by this, s. */
  offS: number;
  rateHz: number;
  delimiter: ',' | ';' | '\t';
  decimal: '.' | ',';
  units: 'bracket' | 'row';
  /** What its columns are called where it is not by their own labels. */
  rename?: Readonly<Record<string, string>>;
  /** What of its kind it does not log. */
  without?: readonly Quantity[];
  /** Everything reaches a file of one pull so much late, s. */
  lateS?: number;
  /** It logs a trigger wired to all: on at full throttle, off at lift. By this name. */
  trigger?: string;
  /** Pulls, from 1, of which it has no file. */
  missing?: readonly number[];
}

/** A pull as it stands in the loose files: the truth for tests. */
export interface LoosePull {
  startedMs: number;
  /** By device: the file, and full throttle and lift on the file's own clock, s. */
  members: Partial<Record<LooseDevice['device'], { file: string; startS: number; endS: number }>>;
}

export interface LooseDay {
  files: Map<string, string>;
  pulls: LoosePull[];
}

const DAY_S = 86_400;
/** A recording of one pull begins this long before its run-up at most, s. */
const MOST_LEAD_S = 4;

/** Writes a driven day as loose exports: what an engineer has in a folder. `startedMs`: true time of hour 0 of the day. */
export function looseDay(driven: readonly DrivenPull[], startedMs: number, devices: readonly LooseDevice[], seed: number): LooseDay {
  const random = new Random(seed);
  const pulls: LoosePull[] = driven.map(({ timeH, sweep }) => ({
    startedMs: startedMs + timeH * 3_600_000 + sweep.fullThrottleS * 1000,
    members: {},
  }));
  const files = new Map<string, string>();
  for (const spec of devices) {
    const device = deviceOf(spec, driven[0]!);
    if (spec.files === 'pull') {
      let count = 0;
      driven.forEach((pull, i) => {
        if (spec.missing?.includes(i + 1)) return;
        count += 1;
        const file = spec.name(count);
        const beganMs = startedMs + pull.timeH * 3_600_000;
        const leadS = random.between(0, MOST_LEAD_S);
        const own = ownClock(spec, beganMs - leadS * 1000);
        files.set(file, write(spec, device, rowsOfPull(pull, leadS, spec, own.beginS), own, random));
        pulls[i]!.members[spec.device] = {
          file,
          startS: own.beginS + leadS + pull.sweep.fullThrottleS,
          endS: own.beginS + leadS + pull.sweep.liftS,
        };
      });
      continue;
    }
    const file = spec.name(null);
    const beganMs = startedMs + driven[0]!.timeH * 3_600_000 - 60_000;
    const own = ownClock(spec, beganMs);
    files.set(file, write(spec, device, rowsOfDay(driven, startedMs, beganMs, spec.rateHz, own.beginS), own, random));
    driven.forEach(({ sweep }, i) => {
      const at = own.beginS + (pulls[i]!.startedMs - beganMs) / 1000;
      pulls[i]!.members[spec.device] = { file, startS: at, endS: at + sweep.liftS - sweep.fullThrottleS };
    });
  }
  return { files, pulls };
}

function deviceOf({ device, without = [] }: LooseDevice, pull: DrivenPull): Device {
  const sections = pull.sweep.instants[0]!.sectionDropsPa.length > 1 ? ['filter', 'duct'] : ['filter'];
  const made = device === 'ecu' ? ecuDevice(0, true) : device === 'dyno' ? dynoDevice(0) : dataBoxDevice(0, sections, true, false);
  return { ...made, channels: made.channels.filter(({ quantity }) => !without.includes(quantity)) };
}

/** Where a file's own clock begins, s; of a dated one the date as its first row writes it. */
function ownClock({ clock, offS }: LooseDevice, beganMs: number): { beginS: number; dateMs: number | null } {
  const writtenMs = beganMs + offS * 1000;
  if (clock === 'elapsed') return { beginS: 0, dateMs: null };
  if (clock === 'clock') return { beginS: (writtenMs / 1000) % DAY_S, dateMs: null };
  return { beginS: 0, dateMs: writtenMs };
}

interface Row {
  /** On the file's own clock, s. */
  timeS: number;
  instant: Instant;
  pull: DrivenPull;
}

function rowsOfPull(pull: DrivenPull, leadS: number, { rateHz, lateS = 0 }: LooseDevice, beginS: number): Row[] {
  const { instants } = pull.sweep;
  const count = Math.floor((leadS + instants.at(-1)!.timeS) * rateHz);
  return Array.from({ length: count }, (_, i) => {
    const atS = i / rateHz - leadS - lateS;
    return { timeS: beginS + i / rateHz, instant: instantAt(instants, Math.max(0, atS)), pull };
  });
}

/** The state at a moment between two steps of the simulation. */
function instantAt(instants: readonly Instant[], timeS: number): Instant {
  const at = Math.min(instants.length - 1, timeS / STEP_S);
  const [a, b] = [instants[Math.floor(at)]!, instants[Math.ceil(at)]!];
  const share = at - Math.floor(at);
  const between = (x: number, y: number) => x + share * (y - x);
  const mixed: Instant = { ...a, sectionDropsPa: a.sectionDropsPa.map((drop, i) => between(drop, b.sectionDropsPa[i]!)) };
  for (const key of Object.keys(a) as (keyof Instant)[]) if (key !== 'sectionDropsPa') mixed[key] = between(a[key], b[key]);
  return mixed;
}

/** Idling rows between the pulls, thinner than those of the pulls, as many loggers write them. */
const IDLE_HZ = 1;

function rowsOfDay(driven: readonly DrivenPull[], startedMs: number, beganMs: number, rateHz: number, beginS: number): Row[] {
  const rows: Row[] = [];
  let atS = 0;
  driven.forEach((pull, i) => {
    const fromS = (startedMs + pull.timeH * 3_600_000 - beganMs) / 1000;
    const before = driven[i - 1]?.sweep.instants.at(-1) ?? pull.sweep.instants[0]!;
    const idleFromS = atS;
    for (; atS < fromS; atS += 1 / IDLE_HZ)
      rows.push({ timeS: beginS + atS, instant: idle(before, pull.sweep.instants[0]!, (atS - idleFromS) / (fromS - idleFromS)), pull });
    const { instants } = pull.sweep;
    const lastS = fromS + instants.at(-1)!.timeS;
    for (let k = 0; fromS + k / rateHz <= lastS; k += 1)
      rows.push({ timeS: beginS + fromS + k / rateHz, instant: instantAt(instants, k / rateHz), pull });
    atS = lastS + 1 / IDLE_HZ;
  });
  return rows;
}

/** An idling engine between two pulls: what is warm goes from the end of one to the start of the next. */
function idle(from: Instant, to: Instant, share: number): Instant {
  const between = (a: number, b: number) => a + (b - a) * Math.min(1, Math.max(0, share));
  return {
    ...to,
    engineSpeedRpm: 820,
    rollerSpeedMPerS: 0,
    wheelPowerW: 0,
    throttlePct: 2,
    pedalPct: 0,
    manifoldPa: 34_000,
    airFlowKgS: 0.003,
    sectionDropsPa: to.sectionDropsPa.map(() => 1),
    coolerDropPa: 2,
    sparkDeg: 12,
    knockRetardDeg: 0,
    lambda: 1,
    injectorS: 0.0021,
    sensorC: between(from.sensorC, to.sensorC),
    inletC: between(from.inletC, to.inletC),
    chargeC: between(from.chargeC, to.chargeC),
    compressorOutC: between(from.compressorOutC, to.compressorOutC),
    coolantC: between(from.coolantC, to.coolantC),
    oilC: between(from.oilC, to.oilC),
  };
}

function write(
  spec: LooseDevice,
  { channels }: Device,
  rows: readonly Row[],
  own: { beginS: number; dateMs: number | null },
  random: Random,
): string {
  const { delimiter, decimal, units, rename = {} } = spec;
  const nameOf = ({ label }: DeviceChannel) => rename[label] ?? label;
  const timeName = rename['Time'] ?? 'Time';
  const timeUnit = spec.clock === 'elapsed' ? 's' : '';
  const heads = [
    { name: timeName, unit: timeUnit },
    ...channels.map((channel) => ({ name: nameOf(channel), unit: channel.unit as string })),
    ...(spec.trigger ? [{ name: spec.trigger, unit: '' }] : []),
  ];
  const lines =
    units === 'row'
      ? [heads.map(({ name }) => name), heads.map(({ unit }) => unit)]
      : [heads.map(({ name, unit }) => (unit === '' ? name : `${name} [${unit}]`))];
  const mark = (text: string) => (decimal === ',' ? text.replace('.', ',') : text);
  for (const { timeS, instant, pull } of rows) {
    const cells = channels.map(({ value, noise, unit, digits }) =>
      mark(fromSi(value(instant, pull) + random.normal(noise), unit).toFixed(digits)),
    );
    // A wire is not late.
    const wiredS = instant.timeS + (spec.lateS ?? 0);
    const isOn = wiredS >= pull.sweep.fullThrottleS && wiredS < pull.sweep.liftS;
    lines.push([timeCell(spec, timeS, own, mark), ...cells, ...(spec.trigger ? [isOn ? '1' : '0'] : [])]);
  }
  return `${lines.map((cells) => cells.join(delimiter)).join('\n')}\n`;
}

const two = (value: number) => String(value).padStart(2, '0');

function timeCell({ clock }: LooseDevice, timeS: number, { dateMs }: { dateMs: number | null }, mark: (text: string) => string): string {
  if (clock === 'elapsed') return mark(timeS.toFixed(3));
  const of = (seconds: number) =>
    `${two(Math.floor(seconds / 3600) % 24)}:${two(Math.floor(seconds / 60) % 60)}:${mark((seconds % 60).toFixed(3).padStart(6, '0'))}`;
  if (clock === 'clock') return of(timeS);
  const date = new Date(dateMs! + Math.round(timeS * 1000));
  const seconds = date.getUTCHours() * 3600 + date.getUTCMinutes() * 60 + date.getUTCSeconds() + date.getUTCMilliseconds() / 1000;
  return `${two(date.getUTCDate())}.${two(date.getUTCMonth() + 1)}.${date.getUTCFullYear()} ${of(seconds)}`;
}
