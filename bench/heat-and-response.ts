// Effectiveness of coolers with sensors that are off, response and fade, on simulated days whose truth is known.
// Usage: npm run bench:heat-and-response -- [days each]
import type { Question } from '@gezeit/contract';
import { analyseMeasured, measurePulls } from '@gezeit/core';
import { Random } from '@gezeit/core/simulate';
import { changeChannel, checkDay, pullsOf, type CheckDay } from './check-days.js';

const [days = 300] = process.argv.slice(2).map(Number);
const pct = (part: number, of: number) => `${part} of ${of} (${((100 * part) / of).toFixed(1)} %)`;
const findingsOf = ({ bundle, tables }: CheckDay, question: Omit<Question, 'id'>) => {
  const asked = { ...bundle, programme: { ...bundle.programme, questions: [{ id: 'q', ...question } as Question] } };
  return analyseMeasured(asked, measurePulls(asked, tables)).findings;
};

/** Every temperature sensor of the cooler is off by what it may be, the same all day. */
function effectiveness(seed: number): boolean {
  const random = new Random(seed * 331 + 7);
  const clean = checkDay(400_000 + seed, { order: random.pick(['AABB', 'ABBA', 'AAABBB']), isBoosted: true });
  const sensors = ['compressorOutTemperature', 'coolerOutTemperature', 'ambientTemperature'] as const;
  const day = sensors.reduce((now, quantity) => {
    const offK = random.normal(1 / 1.96);
    return clean.bundle.pulls.reduce((own, { id }) => changeChannel(own, id, { quantity }, (value) => value + offK), now);
  }, clean);
  const found = findingsOf(day, { kind: 'cooler-charge' }).chargeCooling.find(({ setup }) => setup === 'A')!;
  const [low, high] = clean.bundle.programme.bandRpm;
  const own = pullsOf(clean, 'A').map((id) => {
    const { sweep, weather } = clean.driven[clean.bundle.pulls.findIndex((pull) => pull.id === id)]!;
    const inBand = sweep.instants.filter(
      ({ timeS, engineSpeedRpm }) => timeS > sweep.fullThrottleS && timeS < sweep.liftS && engineSpeedRpm >= low && engineSpeedRpm <= high,
    );
    // Uniform over engine speed, as it is defined.
    let [area, span] = [0, 0];
    for (let i = 1; i < inBand.length; i += 1) {
      const { compressorOutC, chargeC, engineSpeedRpm } = inBand[i]!;
      const width = engineSpeedRpm - inBand[i - 1]!.engineSpeedRpm;
      area += width * ((compressorOutC - chargeC) / (compressorOutC - weather.temperatureC));
      span += width;
    }
    return area / span;
  });
  const truth = own.reduce((sum, value) => sum + value, 0) / own.length;
  return found.low! <= truth && truth <= found.high!;
}

/** Boost of B comes later or sooner by so many samples. */
function response(seed: number): boolean {
  const random = new Random(seed * 97 + 3);
  const clean = checkDay(500_000 + seed, { order: random.pick(['ABBA', 'ABBAAB', 'AABBAABB']), isBoosted: true });
  const samples = Math.round(random.between(0, 12));
  const tables = new Map(clean.tables);
  for (const id of pullsOf(clean, 'B')) {
    const { file } = clean.bundle.pulls.find((pull) => pull.id === id)!.logs[0]!;
    const table = tables.get(file)!;
    const columns = table.columns.map((column) =>
      column.quantity === 'manifoldPressure'
        ? { ...column, values: column.values.map((_, i) => column.values[Math.max(0, i - samples)]!) }
        : column,
    );
    tables.set(file, { ...table, columns });
  }
  const [answer] = findingsOf({ ...clean, tables }, { kind: 'quicker-response', unit: 's' }).comparisons[0]!.answers;
  return answer!.low! <= samples / 20 && samples / 20 <= answer!.high!;
}

/** A better cooler in series of four; the truth is the same day without scatter. */
function fade(seed: number): boolean {
  const random = new Random(seed * 53 + 1);
  const better = random.between(0.8, 2);
  const chosen = (runToRun: number) => ({
    order: 'AAAABBBBAAAABBBB',
    isBoosted: true,
    apartMin: () => 1.5,
    driftPerHour: 0.003,
    runToRun,
    setups: (stock: Parameters<NonNullable<NonNullable<Parameters<typeof checkDay>[1]>['setups']>>[0]) => ({
      A: stock,
      B: { ...stock, cooler: stock.cooler && { ...stock.cooler, heatCapacityJPerK: stock.cooler.heatCapacityJPerK * better } },
    }),
  });
  const of = (runToRun: number) =>
    findingsOf(checkDay(600_000 + seed, chosen(runToRun)), { kind: 'fades-less' }).comparisons[0]!.answers[0]!;
  const [truth, answer] = [of(1e-6).estimate!, of(Math.exp(random.between(Math.log(0.003), Math.log(0.009))))];
  return answer.low! <= truth && truth <= answer.high!;
}

for (const [name, holds] of Object.entries({ effectiveness, response, fade })) {
  let held = 0;
  for (let seed = 1; seed <= days; seed += 1) if (holds(seed)) held += 1;
  console.log(`${name}: the truth inside the 95 % interval on ${pct(held, days)}`);
  if (held < 0.9 * days) process.exitCode = 1;
}
