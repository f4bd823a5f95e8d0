import type { Bundle, PullFlag, Quantity, Setup } from '@gezeit/contract';
import { analyseMeasured, measurePulls, type LogTable } from '@gezeit/core';
import {
  bundleOfDay,
  dataBoxDevice,
  driveDay,
  dynoDevice,
  ecuDevice,
  engineLike,
  NATURAL_PICKUP,
  Random,
  scheduleOf,
  stockLike,
  tablesOf,
  TURBO_ESTATE,
  type DrivenPull,
  type Engine,
  type PartSet,
} from '@gezeit/core/simulate';

/** A day for the checks: logged by three devices, on a hot or a cold day, with an engine of its own. */
export interface CheckDay {
  bundle: Bundle;
  tables: Map<string, LogTable>;
  driven: DrivenPull[];
  runToRun: number;
  isBoosted: boolean;
}

/** What is chosen of a day; the rest is drawn from its seed. */
export interface ChosenDay {
  order?: string;
  isBoosted?: boolean;
  runToRun?: number;
  driftPerHour?: number;
  setups?: (stock: PartSet) => Record<string, PartSet>;
  apartMin?: () => number;
  state?: Setup['state'];
}

/** Nothing is wrong on it, and nothing was chosen after its result was seen. */
export function checkDay(seed: number, chosen: ChosenDay = {}): CheckDay {
  const random = new Random(seed * 6007 + 11);
  const isBoosted = chosen.isBoosted ?? random.chance(0.5);
  const base = isBoosted ? TURBO_ESTATE : NATURAL_PICKUP;
  const vehicle = {
    name: 'check',
    aspiration: base.aspiration,
    boostControl: base.boostControl,
    ignition: 'spark' as const,
    displacementL: Number(random.between(1.2, 3.2).toFixed(1)),
    maxRpm: Math.round(random.between(6200, 7800)),
  };
  const engine: Engine = engineLike(vehicle);
  const stock = stockLike(vehicle);
  const order = chosen.order ?? random.pick(['AAABBB', 'ABBAABBA', 'AABBAABB', 'AAAABBBB', 'ABABABAB']);
  const setups = chosen.setups?.(stock) ?? Object.fromEntries([...new Set(order)].map((id) => [id, stock]));
  const runToRun = chosen.runToRun ?? Math.exp(random.between(Math.log(0.003), Math.log(0.009)));
  const driven = driveDay({
    seed: seed * 31 + 7,
    engine,
    setups,
    schedule: scheduleOf(order, chosen.apartMin ?? (() => random.between(4, 7)), () => random.between(10, 30), true),
    scatter: {
      runToRun,
      boostWander: 0.0025,
      driftPerHour: chosen.driftPerHour ?? 0.004,
      walkAtSwap: 0.001,
      weatherPerHour: { temperatureK: 1.2, pressurePa: 60, humidity: 0.02 },
    },
    weather: {
      temperatureC: random.between(-4, 36),
      pressurePa: random.between(90_000, 102_500),
      relativeHumidity: random.between(0.25, 0.8),
    },
    oilColdK: random.between(0, 12),
  });
  const band: [number, number] = [Math.round(engine.stopRpm * 0.62), Math.round(engine.stopRpm * 0.97)];
  const frame = {
    programme: {
      title: `checks ${seed}`,
      question: '',
      metric: 'meanPower' as const,
      bandRpm: band,
      smallestGainPct: 1,
      correction: isBoosted ? ('NONE' as const) : ('SAE_J1349' as const),
    },
    vehicle,
    cell: { name: 'check', powerAt: 'wheel' as const },
    setups: Object.keys(setups).map((id): Setup => ({ id, name: id, reference: id === 'A', parts: [id], state: chosen.state ?? {} })),
    startedAt: '2026-01-12T08:00:00Z',
  };
  const sections = stock.inlet.map(({ name }) => name);
  const simulated = bundleOfDay(
    frame,
    driven,
    [
      { dialect: 'bracketed', device: (i) => ecuDevice(90 * i + 3, isBoosted) },
      { dialect: 'two-storey', device: () => dynoDevice(0.21) },
      { dialect: 'bracketed', device: () => dataBoxDevice(12.5, sections, isBoosted, false) },
    ],
    seed,
  );
  return { bundle: simulated.bundle, tables: tablesOf(simulated), driven, runToRun, isBoosted };
}

/** Flags of every measured pull, by its id. */
export function flagsOfDay({ bundle, tables }: Pick<CheckDay, 'bundle' | 'tables'>): Map<string, PullFlag[]> {
  const { pulls } = analyseMeasured(bundle, measurePulls(bundle, tables)).findings;
  const measured = new Set(bundle.pulls.filter(({ kind }) => kind === 'measured').map(({ id }) => id));
  return new Map(pulls.filter(({ id }) => measured.has(id)).map(({ id, flags }) => [id, flags]));
}

/** When a pull of the day was at full throttle, s since its record began. */
export function sweepOf(day: CheckDay, pull: string): { fromS: number; toS: number; atRpm(rpm: number): number } {
  const { sweep } = day.driven[day.bundle.pulls.findIndex(({ id }) => id === pull)]!;
  return {
    fromS: sweep.fullThrottleS,
    toS: sweep.liftS,
    atRpm: (rpm) =>
      sweep.instants.find(({ timeS, engineSpeedRpm }) => timeS > sweep.fullThrottleS && engineSpeedRpm >= rpm)?.timeS ?? sweep.liftS,
  };
}

/** The day with one channel of one pull changed; `atS` counts from where its record began. */
export function changeChannel(
  day: CheckDay,
  pull: string,
  which: { quantity: Quantity; section?: string },
  change: (value: number, atS: number, index: number) => number,
): CheckDay {
  const tables = new Map(day.tables);
  for (const { file } of day.bundle.pulls.find(({ id }) => id === pull)!.logs) {
    const table = tables.get(file)!;
    const column = table.columns.find(
      ({ quantity, section }) => quantity === which.quantity && (!which.section || section === which.section),
    );
    if (!column) continue;
    const timeS = table.timeS!;
    const values = column.values.map((value, i) => (Number.isFinite(value) ? change(value, timeS[i]! - timeS[0]!, i) : value));
    tables.set(file, { ...table, columns: table.columns.map((own) => (own === column ? { ...column, values } : own)) });
  }
  return { ...day, tables };
}

/** Every measured pull of a setup, in the order of the day. */
export const pullsOf = ({ bundle }: CheckDay, setup: string): string[] =>
  bundle.pulls.filter((pull) => pull.setup === setup && pull.kind === 'measured').map(({ id }) => id);
