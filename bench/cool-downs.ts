import { predictReady, READY_RULES, type ReadyMoment } from '../core/src/day/ready-time.js';
import { NATURAL_PICKUP, Random, Rig, STOCK_NATURAL, STOCK_TURBO, TURBO_ESTATE, type PartSet } from '@gezeit/core/simulate';

/** What the forecast said through one cool-down of the rig, and what came. */
interface CoolDown {
  /** First moment at which a range was shown: what it said, and what was left, s. Null where none was shown. */
  shown: { moment: Extract<ReadyMoment, { kind: 'range' }>; leftS: number; atS: number } | null;
  reached: boolean;
  calledUnreachable: boolean;
}

const LONGEST_S = 1500;
const EVERY_S = 8;
/** Readings of a second each that are averaged to tell the true passing from noise. */
const SMOOTHED = 9;

/** Drives one to three pulls on a random rig, then watches one gate until it is met: coolant, or intake air above ambient. */
function coolDown(seed: number, goalFor: 'intake' | 'coolant'): CoolDown {
  const random = new Random(seed);
  const turbo = random.chance(0.6);
  const base = turbo ? STOCK_TURBO : STOCK_NATURAL;
  const parts: PartSet = {
    ...base,
    boxConductanceWPerK: base.boxConductanceWPerK * random.between(0.5, 1.8),
    bayShare: random.between(0.02, 0.25),
    cooler: base.cooler && {
      ...base.cooler,
      heatCapacityJPerK: base.cooler.heatCapacityJPerK * random.between(0.6, 2),
      coldConductanceWPerK: base.cooler.coldConductanceWPerK * random.between(0.5, 1.5),
    },
  };
  const rig = new Rig({
    seed,
    engine: turbo ? TURBO_ESTATE : NATURAL_PICKUP,
    setups: { A: parts },
    scatter: {
      runToRun: 0.005,
      boostWander: 0.002,
      driftPerHour: 0.008,
      walkAtSwap: 0.002,
      weatherPerHour: { temperatureK: 1, pressurePa: 50, humidity: 0.02 },
    },
    weather: { temperatureC: random.between(8, 32), pressurePa: 99_000, relativeHumidity: 0.5 },
    fitted: 'A',
    coldC: 70,
  });
  const before = rig.advance(random.between(420, 900)).samples.slice(-20);
  const pulls = 1 + Math.floor(random.uniform() * 3);
  for (let i = 0; i < pulls; i++) {
    rig.startPull();
    while (rig.doing === 'pull') rig.advance(1);
    if (i + 1 < pulls) rig.advance(random.between(30, 200));
  }
  const fromS = rig.timeS;
  const read = ({ instant, weather }: ReturnType<Rig['advance']>['samples'][number]) =>
    goalFor === 'coolant' ? instant.coolantC : instant.sensorC - weather.temperatureC;
  const resting = before.reduce((sum, sample) => sum + read(sample), 0) / before.length;
  const t: number[] = [];
  const y: number[] = [];
  const seen: { atS: number; moment: ReadyMoment }[] = [];
  let first = Number.NaN;
  const goal = goalFor === 'coolant' ? random.between(87.2, 89.5) : random.between(4.5, 10);
  for (let atS = 0; atS < LONGEST_S; atS += EVERY_S) {
    for (const sample of rig.advance(EVERY_S).samples) {
      t.push(sample.timeS - fromS);
      y.push(Math.round(10 * read(sample)) / 10);
    }
    if (Number.isNaN(first) && y.length > 10) first = y.at(-1)!;
    const now = t.at(-1)!;
    let turn = 0;
    y.forEach((value, i) => {
      if (value >= y[turn]!) turn = i;
    });
    const recent = y.slice(-SMOOTHED);
    if (recent.reduce((sum, value) => sum + value, 0) / recent.length <= goal) {
      const shown = seen.find(({ moment }) => moment.kind === 'range');
      const reachedS = now - SMOOTHED / 2;
      return {
        shown: shown ? { moment: shown.moment as never, leftS: reachedS - shown.atS, atS: shown.atS } : null,
        reached: true,
        calledUnreachable: seen.at(-1)?.moment.kind === 'unreachable',
      };
    }
    seen.push({
      atS: now,
      moment: predictReady(
        t.slice(turn).map((s) => s - now),
        y.slice(turn),
        goal,
        { surroundings: goalFor === 'intake' ? 0 : null, resting },
      ),
    });
  }
  const shown = seen.find(({ moment }) => moment.kind === 'range');
  return {
    shown: shown ? { moment: shown.moment as never, leftS: LONGEST_S, atS: shown.atS } : null,
    reached: false,
    calledUnreachable: seen.at(-1)!.moment.kind === 'unreachable',
  };
}

/** How the forecast did on so many cool-downs of coolant and as many of intake air. */
export function forecastCount(each: number) {
  const all = (['intake', 'coolant'] as const).flatMap((gate, kind) =>
    Array.from({ length: each }, (_, i) => coolDown(2000 + 1000 * kind + i, gate)),
  );
  const shown = all.flatMap(({ shown: range, reached }) => (range && reached ? [range] : []));
  const isMet = ({ moment, leftS }: (typeof shown)[number]) =>
    Math.abs(moment.midS - leftS) <= Math.max(READY_RULES.leastS, READY_RULES.shareOfWait * leftS);
  return {
    all: all.length,
    shown: shown.length,
    met: shown.filter(isMet).length,
    promisedInVain: all.filter(({ shown: range, reached }) => range && !reached).length,
    calledUnreachable: all.filter(({ reached, calledUnreachable }) => reached && calledUnreachable).length,
  };
}
