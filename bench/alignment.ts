// How true files of several devices are brought onto one clock: random days of either engine by devices of random rates, clocks and offsets.
// npm run bench:alignment -- [days] [seed]
import { parseArgs } from 'node:util';
import type { Quantity } from '@gezeit/contract';
import { readingOf, readLoose } from '../core/src/index.js';
import { looseDay, Random, type LooseDevice } from '../core/src/simulate/index.js';
import { calibrationDay, EFFECTS } from './population.js';

const { positionals } = parseArgs({ allowPositionals: true });
const [days = 150, seed = 1] = positionals.map(Number);
const START = Date.UTC(2026, 8, 18, 8, 40);
/** What an alignment may be off by, s. */
const GOAL_S = { 'engine-speed': 0.02, 'roller-speed': 0.15, trigger: 0.15, step: 0.15 };
/** From here on *Sort* says that it is unsure, s. */
const UNSURE_S = 0.15;
/** Further off than this it is of another pull, or of nothing. */
const WRONG_S = 1;

/** How late a device with speed writes, s.d. in s, and a hose or a slow sensor at most. */
const LATE_S = 0.004;
const LATE_PRESSURE_S = 0.1;
/** What a box does not log: speed, or speed and more, down to temperatures alone. */
const WITHOUT: Quantity[][] = [
  ['engineSpeed'],
  ['engineSpeed', 'compressorOutTemperature', 'coolerOutTemperature', 'inletTemperature'],
  ['engineSpeed', 'pressureDrop'],
];

type Way = 'engine-speed' | 'roller-speed' | 'trigger' | 'step';
interface Found {
  errorS: number;
  withinS: number;
}
const found: Record<Way, Found[]> = { 'engine-speed': [], 'roller-speed': [], trigger: [], step: [] };
const counts = { members: 0, assumed: 0, asked: 0, missed: 0, wrong: 0 };

function devicesOf(random: Random): LooseDevice[] {
  const clockOf = () => random.pick(['elapsed', 'clock', 'dateTime'] as const);
  // A trigger wired to both, on some days.
  const trigger = random.chance(0.3) ? { trigger: 'Trigger' } : {};
  const rateHz = () => random.pick([10, 20, 25, 40, 50, 100]);
  const writing = () => ({
    delimiter: random.pick([',', ';', '\t'] as const),
    decimal: '.' as const,
    units: random.pick(['bracket', 'row'] as const),
    offS: random.pick([0, 0, 3600, -86_400, Math.round(random.between(-4000, 4000))]),
  });
  return [
    { ...writing(), ...trigger, device: 'ecu', files: 'day', name: () => 'ecu.csv', clock: 'dateTime', rateHz: rateHz() },
    {
      ...writing(),
      device: 'dyno',
      files: 'pull',
      name: (n) => `run_${n}.csv`,
      clock: clockOf(),
      rateHz: rateHz(),
      lateS: random.normal(LATE_S),
      without: random.chance(0.3) ? ['engineSpeed'] : [],
    },
    {
      ...writing(),
      ...trigger,
      device: 'box',
      files: 'pull',
      name: (n) => `box-${n}.txt`,
      clock: clockOf(),
      rateHz: rateHz(),
      ...random.pick<Partial<LooseDevice>>([
        { lateS: random.normal(LATE_S) },
        ...WITHOUT.map((without) => ({ without, lateS: random.between(0, LATE_PRESSURE_S) })),
      ]),
    },
  ];
}

for (let i = 0; i < days; i += 1) {
  const random = new Random(seed * 100_003 + i);
  const { driven } = calibrationDay(seed * 1000 + i, EFFECTS[i % 3]!);
  const day = looseDay(driven, START, devicesOf(random), seed + i);
  const reading = readingOf(
    [...day.files].map(([file, text]) => readLoose({ file, bytes: new TextEncoder().encode(text), sha256: '' }, {})),
  );
  const asked = new Set(
    [...reading.unmatched, ...reading.questions.map(({ files }) => ({ file: files.join() }))].flatMap(({ file }) => file.split(',')),
  );
  for (const truth of day.pulls) {
    const lead = truth.members.ecu!;
    const pull = reading.pulls.find(({ members }) =>
      members.some(({ file, startS }) => file === lead.file && startS !== null && Math.abs(startS - lead.startS) < 5),
    );
    for (const own of [truth.members.dyno, truth.members.box]) {
      if (!own) continue;
      counts.members += 1;
      const member = pull?.members.find(({ file }) => file === own.file);
      const first = pull?.members.find(({ how }) => how === 'first');
      if (!member || !first || member.offsetS === null) {
        if (asked.has(own.file)) counts.asked += 1;
        else counts.missed += 1;
        continue;
      }
      const leading = [truth.members.ecu, truth.members.dyno, truth.members.box].find((one) => one?.file === first.file)!;
      if (member === first) continue;
      if (member.how === 'assumed') {
        counts.assumed += 1;
        continue;
      }
      const errorS = member.offsetS - (own.startS - leading.startS);
      if (Math.abs(errorS) > WRONG_S) counts.wrong += 1;
      found[member.how as Way].push({ errorS, withinS: member.withinS! });
    }
  }
}

const quantile = (values: number[], share: number) => values.sort((a, b) => a - b)[Math.floor(share * (values.length - 1))]!;
const percent = (share: number) => `${(100 * share).toFixed(1)} %`;
for (const [way, goalS] of Object.entries(GOAL_S) as [Way, number][]) {
  const own = found[way];
  const right = own.filter(({ errorS }) => Math.abs(errorS) <= goalS);
  const wrong = own.filter(({ errorS }) => Math.abs(errorS) > goalS);
  const unsure = (of: Found[]) => of.filter(({ withinS }) => withinS > UNSURE_S).length;
  console.log(
    `${way}: ${own.length} files, 95 % within ${(
      1000 *
      quantile(
        own.map(({ errorS }) => Math.abs(errorS)),
        0.95,
      )
    ).toFixed(
      0,
    )} ms (goal ${1000 * goalS}); its own interval holds ${percent(own.filter(({ errorS, withinS }) => Math.abs(errorS) <= withinS).length / own.length)}; ` +
      `mean error ${(1000 * (own.reduce((sum, { errorS }) => sum + errorS, 0) / own.length)).toFixed(0)} ms; within says ${(
        1000 *
        quantile(
          own.map(({ withinS }) => withinS),
          0.5,
        )
      ).toFixed(
        0,
      )} ms in the middle; ${right.length} right, ${unsure(right)} of them unsure; ${wrong.length} wrong, ${unsure(wrong)} of them unsure`,
  );
}
console.log(
  `of ${counts.members} files: only assumed ${percent(counts.assumed / counts.members)}, asked about ${percent(counts.asked / counts.members)}, in no pull without a word ${counts.missed}, in a wrong place ${counts.wrong}`,
);
