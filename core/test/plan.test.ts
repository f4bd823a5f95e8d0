import { inverse, Matrix } from 'ml-matrix';
import { describe, expect, it } from 'vitest';
import { bundleSchema, CHECKLISTS, planReportSchema, type Bundle, type Cell, type ChecklistName, type PlanStop } from '@gezeit/contract';
import {
  blockOf,
  changePull,
  checklist,
  checklists,
  defaultAssumptions,
  defaultGates,
  defaultStops,
  forecastTide,
  insertPulls,
  isStreamed,
  passedStop,
  movePulls,
  removePulls,
  repeatPulls,
  noiseFromRepeatability,
  planReport,
  planResolution,
  practices,
  practiceText,
  pullsFromLetters,
  scheduled,
  suggestOrder,
  withoutWayBack,
  swapCount,
  withConditioning,
  type NoiseBelief,
  type SuggestionProblem,
  columnText,
  planMatrix,
  learnHeat,
  type HeatForecast,
} from '../src/index.js';
import { Random } from '../src/simulate/random.js';

const assumptions = defaultAssumptions('turbo');
const SETUPS = ['A', 'B', 'C', 'D', 'E', 'F'];

function bundle(change: (bundle: Bundle) => void = () => {}): Bundle {
  const made = bundleSchema.parse({
    format: 'gezeit-bundle',
    version: 1,
    programme: { title: 't', bandRpm: [4000, 6000], smallestGainPct: 1, correction: 'NONE' },
    vehicle: { name: 'v', aspiration: 'turbo' },
    cell: { name: 'c' },
    setups: [
      { id: 'A', name: 'Stock', reference: true, parts: ['box'], state: { bonnet: 'closed' } },
      { id: 'B', name: 'New', parts: ['new box'], state: { bonnet: 'closed' } },
    ],
    pulls: [],
  });
  change(made);
  return made;
}
const planned = (letters: string, change: (bundle: Bundle) => void = () => {}) =>
  bundle((made) => {
    made.plan = scheduled({ pulls: pullsFromLetters(letters, SETUPS), restMin: 5, swapMin: 32 });
    change(made);
  });
const codes = (made: Bundle) => planReport(made).warnings.map(({ code }) => code);

/** Series of an order, with so many conditioning pulls in each block. */
function seriesOf(letters: string, restMin = 5, swapMin = 32) {
  const plan = scheduled({ pulls: withConditioning([...letters]), restMin, swapMin });
  const rows = plan.pulls.map((pull, pullsBefore) => ({ ...pull, pullsBefore })).filter(({ kind }) => kind === 'measured');
  return {
    setup: rows.map(({ setup }) => SETUPS.indexOf(setup)),
    timeH: rows.map(({ atMin }) => atMin / 60),
    pullsBefore: rows.map(({ pullsBefore }) => pullsBefore),
  };
}

describe('the table of orders', () => {
  it.each([
    ['AB', 2.42, 2.42],
    ['AABB', 2.06, 2.06],
    ['ABBA', 1.45, 1.45],
    ['AAABBB', 1.93, 1.93],
    ['ABBAAB', 1.18, 1.18],
    ['ABBABAAB', 1.0, 1.0],
    ['AABBCC', 2.51, 3.01],
    ['AABBCCAA', 1.35, 1.38],
    ['ABBCCA', 1.53, 1.56],
    ['AABBCCDD', 2.91, 3.91],
    ['ABBCCDDA', 1.6, 1.64],
    ['AABBCCDDEEFF', 3.42, 5.17],
    ['ABBCCDDEEFFA', 1.69, 1.76],
    ['ABCDEFFEDCBA', 1.65, 1.84],
  ])('%s has a half width of %f, the worst candidate %f, within 5 per cent', (order, mean, worst) => {
    const widths = planResolution(seriesOf(order), assumptions, assumptions.noise).map(({ halfWidthPct }) => halfWidthPct);
    expect(widths.reduce((sum, width) => sum + width, 0) / widths.length / mean).toBeGreaterThan(0.95);
    expect(widths.reduce((sum, width) => sum + width, 0) / widths.length / mean).toBeLessThan(1.05);
    expect(Math.max(...widths) / worst).toBeGreaterThan(0.95);
    expect(Math.max(...widths) / worst).toBeLessThan(1.05);
  });

  it('is what whole matrices say, on random orders', () => {
    const random = new Random(5);
    for (let round = 0; round < 30; round++) {
      const letters = [
        'A',
        'B',
        'C',
        ...Array.from({ length: 3 + Math.floor(random.uniform() * 8) }, () => SETUPS[Math.floor(random.uniform() * 3)]!),
      ].join('');
      const series = seriesOf(letters);
      const noise = noiseFromRepeatability(0.004);
      const plain = byMatrices(series, noise);
      planResolution(series, assumptions, noise).forEach(({ halfWidthPct }, i) => expect(halfWidthPct).toBeCloseTo(plain[i]!, 8));
    }
  });
});

/** Half widths, per cent, written out with whole matrices as the method states them. */
function byMatrices({ setup, timeH, pullsBefore }: ReturnType<typeof seriesOf>, noise: NoiseBelief): number[] {
  const n = setup.length;
  const mean = timeH.reduce((sum, t) => sum + t, 0) / n;
  const centre = Matrix.sub(Matrix.eye(n), Matrix.ones(n, n).div(n));
  const walk = centre.mmul(new Matrix(timeH.map((a) => timeH.map((b) => -Math.abs(a - b) / 2)))).mmul(centre);
  const learning = 0.6 * 0.001 ** 2 + 0.4 * (0.018 ** 2 + 0.008 ** 2);
  const design = new Matrix(setup.map((own) => [1, own === 1 ? 1 : 0, own === 2 ? 1 : 0]));
  const variances = [0, 0];
  let total = 0;
  for (let g = 0; g < 9; g++) {
    const z = -2.2 + 0.55 * g;
    const s = noise.mid * Math.exp(noise.logSd * z);
    const sigma = new Matrix(
      setup.map((_, i) =>
        setup.map(
          (__, j) =>
            0.009 ** 2 * (timeH[i]! - mean) * (timeH[j]! - mean) +
            0.005 ** 2 * walk.get(i, j) +
            learning * Math.exp(-pullsBefore[i]! / 1.3) * Math.exp(-pullsBefore[j]! / 1.3) +
            (i === j ? s * s : 0),
        ),
      ),
    );
    const information = design.transpose().mmul(inverse(sigma)).mmul(design);
    for (const c of [1, 2]) information.set(c, c, information.get(c, c) + 1 / 0.06 ** 2);
    const v = inverse(information);
    const weight = Math.exp(-(z * z) / 2);
    total += weight;
    for (const c of [0, 1]) variances[c]! += weight * v.get(c + 1, c + 1);
  }
  return variances.map((variance) => 196 * 1.04 * Math.sqrt(variance / total));
}

it('a cell that drifts more is believed, and breaks block orders first', () => {
  const width = (letters: string, driftPctPerHour?: number) =>
    planReport(planned(letters, (made) => (made.cell!.driftPctPerHour = driftPctPerHour))).comparisons[0]!.halfWidthPct;
  const block = width('aAAbBB', 2.5) / width('aAAbBB');
  const balanced = width('aAbBBaA', 2.5) / width('aAbBBaA');
  expect(block).toBeGreaterThan(1.3);
  expect(balanced).toBeLessThan(block);
});

describe('a schedule', () => {
  it('sets the clock from rests, swaps of their own and breaks', () => {
    const plan = scheduled({
      pulls: [...pullsFromLetters('aAB', SETUPS), { setup: 'B', kind: 'measured', atMin: 99, restMin: 8, breakMin: 30 }],
      restMin: 4,
      swapMin: 20,
      swaps: [{ from: 'A', to: 'B', minutes: 45 }],
    });
    expect(plan.pulls.map(({ atMin }) => atMin)).toEqual([0, 4, 49, 87]);
    expect(scheduled({ pulls: [] }).pulls).toEqual([]);
    expect(
      withConditioning(['A', 'B', 'B', 'A'])
        .map(({ kind, setup }) => (kind === 'measured' ? setup : setup.toLowerCase()))
        .join(''),
    ).toBe('aAbBBaA');
    expect(swapCount(['A', 'B', 'B', 'A'])).toBe(2);
  });
});

describe('what is wrong with a plan', () => {
  it('is said in words with the size that drift would take', () => {
    const report = planReportSchema.parse(planReport(planned('aAAbBB')));
    const [warning] = report.warnings;
    expect(warning!.code).toBe('order-confounded');
    expect(warning!.detail).toMatch(/Every A comes before every B: 1 % of drift an hour would look like 0\.\d % of the part/);
    expect(codes(planned('aAbBBaA'))).toEqual([]);
  });

  it('names single pulls, missing and unequal conditioning, and what is not planned', () => {
    expect(codes(planned('aAbBaA'))).toEqual(['single-pull']);
    expect(codes(planned('AABBAA'))).toEqual(['no-conditioning']);
    expect(codes(planned('aAbbBBaA'))).toEqual(['unequal-conditioning']);
    expect(codes(planned('aAA'))).toEqual(['not-planned']);
    expect(planReport(bundle())).toMatchObject({ comparisons: [], lengthMin: 0, warnings: [] });
  });

  it('lays parts against states, and marks what a planned comparison would miss on either side', () => {
    const both = (made: Bundle) =>
      made.setups.push(
        { ...made.setups[0]!, id: 'C', name: 'Stock, open', state: { bonnet: 'open' } },
        { ...made.setups[1]!, id: 'D', name: 'New, open', state: { bonnet: 'open' } },
      );
    const made = planned('aAbBdDDaA', both);
    const { rows, columns, keys } = planMatrix(made, made.plan!);
    expect(keys).toContain('bonnet');
    expect(columns.map((column) => columnText(column, ['bonnet']))).toEqual(['bonnet closed', 'bonnet open']);
    expect(rows.map(({ cells }) => cells.map(({ setup, measured, missing }) => [setup, measured, missing]))).toEqual([
      [
        ['A', 2, false],
        ['C', 0, true],
      ],
      [
        ['B', 1, false],
        ['D', 2, false],
      ],
    ]);
    expect(planReport(made).warnings.find(({ code }) => code === 'combination-missing')!.detail).toContain(
      'Stock is not planned with bonnet open',
    );
    const tunes = planned('aAbBaA', (bundleNow) => (bundleNow.setups[1]!.state = { tune: 'map 4' }));
    expect(planMatrix(tunes, tunes.plan!).rows.flatMap(({ cells }) => cells.map(({ missing }) => missing))).not.toContain(true);
  });

  it('names the combination that would be missing at the desk', () => {
    const both = (made: Bundle) => made.setups.push({ ...made.setups[0]!, id: 'C', name: 'Stock, open', state: { bonnet: 'open' } });
    const made = planned('aAbBcCCaA', both);
    const warning = planReport(made).warnings.find(({ code }) => code === 'combination-missing');
    expect(warning!.detail).toContain('New is not planned with bonnet open');
    made.setups.push({ ...made.setups[1]!, id: 'D', name: 'New, open', state: { bonnet: 'open' } });
    made.plan = scheduled({ pulls: pullsFromLetters('aAbBBcCCdDDaA', SETUPS) });
    expect(codes(made)).not.toContain('combination-missing');
  });

  it('names a way back that does not exist, and rests that keep the own start from being judged', () => {
    const oneWay = (made: Bundle) => (made.plan!.swaps = [{ from: 'A', to: 'B', back: 'never' }]);
    expect(codes(planned('aAbBBaA', oneWay))).toContain('swap-without-way-back');
    expect(codes(planned('aAAbBB', oneWay))).not.toContain('swap-without-way-back');
    // An order that begins with the cut part: its first setup cannot come at all any more.
    expect(codes(planned('bBaAA', oneWay))).toContain('swap-without-way-back');
    const withOther = (made: Bundle) =>
      (made.plan!.swaps = [
        { from: 'A', to: 'B', back: 'never' },
        { from: 'B', to: 'A', minutes: 20 },
      ]);
    expect(codes(planned('aAbBBaA', withOther))).not.toContain('swap-without-way-back');
    const own = (made: Bundle) => {
      made.programme.questions = [{ id: 'q', kind: 'power-gain', smallest: 1, unit: 'pct', start: 'own' }];
      made.plan = scheduled({
        pulls: pullsFromLetters('aAAbBBaA', SETUPS).map((pull) => (pull.setup === 'B' ? { ...pull, restMin: 9 } : pull)),
        restMin: 3,
        swapMin: 30,
      });
    };
    expect(codes(planned('', own))).toContain('unequal-rests');
  });
});

describe('practices', () => {
  it('are plans of their own, each with its price, the cell’s noise in the one-pull habit', () => {
    const list = practices(bundle((made) => (made.cell!.repeatabilityPct = 0.6)));
    expect(list.map(({ id }) => id)).toEqual([
      'one-each',
      'there',
      'there-and-back',
      'mirrored',
      'alternating',
      'pairs',
      'fresh-and-settled',
      'hot-soak',
    ]);
    expect(practiceText(list[0]!).price).toContain('differ by 1.7 % by themselves');
    for (const practice of list) {
      const { plan } = practice;
      expect(plan.pulls.length).toBeGreaterThan(2);
      expect(plan.pulls.map(({ atMin }) => atMin)).toEqual([...plan.pulls.map(({ atMin }) => atMin)].sort((a, b) => a - b));
      expect(practiceText(practice).price).toMatch(/\.$/);
    }
    const three = practices(bundle((made) => made.setups.push({ ...made.setups[1]!, id: 'C' })));
    expect(three.map(({ id }) => id)).toContain('progressive');
    expect(practices(bundle((made) => made.setups.pop()))).toEqual([]);
  });
});

describe('a suggestion', () => {
  const problem = (change: Partial<SuggestionProblem> = {}): SuggestionProblem => ({
    setups: ['A', 'B'],
    mostPulls: 8,
    mostHours: 6,
    mostSwaps: 7,
    restMin: 5,
    swapMin: () => 20,
    conditioning: 1,
    assumptions,
    noise: assumptions.noise,
    ...change,
  });

  /** The best of all orders of two setups, by looking at every one. */
  function exhaustive(p: SuggestionProblem): number {
    let best = Infinity;
    for (let n = 2; n <= p.mostPulls; n++) {
      for (let bits = 0; bits < 2 ** n; bits++) {
        const order = Array.from({ length: n }, (_, i) => ((bits >> i) & 1 ? 'B' : 'A'));
        if (new Set(order).size < 2 || swapCount(order) > p.mostSwaps) continue;
        const series = seriesOf(order.join(''), p.restMin, p.swapMin(0, 1));
        const first = p.conditioning * p.restMin;
        if (series.timeH.at(-1)! * 60 > p.mostHours * 60 + 1e-9 || first < 0) continue;
        best = Math.min(best, planResolution(series, p.assumptions, p.noise)[0]!.smallestResolvablePct);
      }
    }
    return best;
  }

  it('of two setups and eight pulls is within 2 per cent of every order looked at', () => {
    for (const limits of [{ mostHours: 6 }, { mostHours: 2.5 }, { mostSwaps: 2 }, { mostHours: 4, swapMin: () => 3 }]) {
      const p = problem(limits);
      const { best } = suggestOrder(p);
      expect(best!.smallestResolvablePct / exhaustive(p), JSON.stringify(limits)).toBeLessThan(1.02);
      expect(best!.hours).toBeLessThanOrEqual(p.mostHours);
      expect(best!.swaps).toBeLessThanOrEqual(p.mostSwaps);
    }
  });

  it('is another one for slow swaps than for fast ones, and never worse than a practice under the same limits', () => {
    const slow = suggestOrder(problem({ swapMin: () => 60, mostHours: 4 })).best!;
    const fast = suggestOrder(problem({ swapMin: () => 3, mostHours: 4 })).best!;
    expect(slow.order).not.toEqual(fast.order);
    expect(slow.swaps).toBeLessThan(fast.swaps);
    for (const minutes of [3, 20, 60]) {
      const made = bundle((entry) => (entry.plan = { pulls: [], restMin: 5, swapMin: minutes }));
      const limits = problem({ swapMin: () => minutes, mostPulls: 10, mostHours: 5, mostSwaps: 9 });
      const { best } = suggestOrder(limits);
      for (const { id, plan } of practices(made)) {
        const order = plan.pulls.filter(({ kind }) => kind === 'measured').map(({ setup }) => setup);
        const hours = (plan.pulls.at(-1)!.atMin - plan.pulls[0]!.atMin) / 60;
        if (order.length > limits.mostPulls || hours > limits.mostHours || ['hot-soak', 'pairs', 'fresh-and-settled'].includes(id))
          continue;
        const [own] = planResolution(seriesOf(order.join(''), 5, minutes), assumptions, assumptions.noise);
        expect(best!.smallestResolvablePct, `${id} at ${minutes} min`).toBeLessThanOrEqual(own!.smallestResolvablePct + 1e-9);
      }
    }
  });

  it('never goes back over a swap without a way back, shows what an hour buys, and can be stopped', () => {
    const oneWay = suggestOrder(problem({ oneWay: [{ from: 'A', to: 'B', back: 'never' }] })).best!;
    // The part is cut: no A after any B, so the order begins with the setup that is fitted.
    expect(oneWay.order.join('')).toMatch(/^A+B+$/);
    const { tradeOff } = suggestOrder(problem());
    expect(tradeOff.length).toBeGreaterThan(3);
    for (let i = 1; i < tradeOff.length; i++) {
      expect(tradeOff[i]!.hours).toBeGreaterThan(tradeOff[i - 1]!.hours);
      expect(tradeOff[i]!.smallestResolvablePct).toBeLessThan(tradeOff[i - 1]!.smallestResolvablePct);
    }
    const stopped = suggestOrder(problem({ setups: ['A', 'B', 'C'], mostPulls: 24, mostHours: 12, mostSwaps: 20 }), () => false);
    expect(stopped.looked).toBeLessThan(200);
    expect(suggestOrder(problem({ mostHours: 0.1 })).best).toBeNull();
  });
});

describe('a plan that is edited', () => {
  const plan = scheduled({ pulls: pullsFromLetters('aAbBBaA', SETUPS), restMin: 5, swapMin: 30 });
  const letters = ({ pulls }: { pulls: { setup: string; kind: string }[] }) =>
    pulls.map(({ setup, kind }) => (kind === 'measured' ? setup : setup.toLowerCase())).join('');

  it('moves, inserts, removes, repeats and changes pulls and blocks, the clock set anew each time', () => {
    expect(letters(movePulls(plan, 3, 3, 1))).toBe('aBAbBaA');
    expect(letters(movePulls(plan, 1, 1, 3))).toBe('abABBaA');
    expect(letters(movePulls(plan, 2, 4, 6))).toBe('aAabBBA');
    expect(letters(movePulls(plan, 2, 4, 3))).toBe('aAbBBaA');
    expect(letters(movePulls(plan, 0, 1, 7))).toBe('bBBaAaA');
    expect(letters(movePulls(plan, 2, 4, 0))).toBe('bBBaAaA');
    expect(letters(movePulls(plan, 6, 6, 99))).toBe('aAbBBaA');
    expect(letters(insertPulls(plan, 2, [{ setup: 'A', kind: 'measured' }]))).toBe('aAAbBBaA');
    expect(letters(removePulls(plan, 2, 4))).toBe('aAaA');
    expect(letters(repeatPulls(plan, 2, 4))).toBe('aAbBBbBBaA');
    expect(letters(changePull(plan, 0, { kind: 'measured' }))).toBe('AAbBBaA');
    expect(blockOf(plan, 3)).toEqual([2, 4]);
    const moved = movePulls(plan, 2, 4, 0);
    expect(moved.pulls.map(({ atMin }) => atMin)).toEqual([0, 5, 10, 40, 45, 50, 55]);
    expect(letters(plan)).toBe('aAbBBaA');
  });

  it('brings the pulls of what is left for good before a swap without a way back', () => {
    const oneWay = (back: 'never' | null) => ({ ...plan, swaps: [{ from: 'A', to: 'B', back }] });
    expect(letters(withoutWayBack(oneWay('never')))).toBe('aAAbBB');
    expect(letters(withoutWayBack(oneWay(null)))).toBe('aAbBBaA');
    const long = scheduled({ pulls: pullsFromLetters('aAbBcCaAbB', SETUPS), swaps: [{ from: 'A', to: 'B', back: 'not-today' }] });
    expect(letters(withoutWayBack(long))).toBe('aAAbBcCbB');
    expect(withoutWayBack(oneWay('never')).pulls.at(-1)!.atMin).toBe(50);
  });

  it('has a tide that rises with every pull, ebbs in every rest, and starts hotter after a short one', () => {
    const tide = forecastTide(plan);
    expect(tide.pulls.map(({ id }) => id)).toEqual(['n1', 'n2', 'n3', 'n4', 'n5', 'n6', 'n7']);
    for (const pull of tide.pulls) expect(pull.endK!).toBeGreaterThan(pull.startK!);
    const [, , afterSwap, soon] = tide.pulls;
    expect(soon!.startK!).toBeGreaterThan(afterSwap!.startK!);
    expect(forecastTide({ pulls: [] }).stretches).toEqual([]);
  });
});

describe('rules of the day', () => {
  it('set no gate on a temperature that the part can shift where its own start is asked for, and equal rests instead', () => {
    const same = defaultGates(bundle());
    expect(same.map(({ id }) => id)).toContain('intake');
    const own = defaultGates(bundle((made) => (made.programme.questions = [{ id: 'q', kind: 'power-gain', start: 'own' }])));
    expect(own.map(({ id }) => id)).not.toContain('intake');
    expect(own.find(({ id }) => id === 'rest')!.must).toBe(true);
    expect(defaultStops(bundle((made) => (made.vehicle.aspiration = 'na'))).map(({ id }) => id)).not.toContain('boost');
  });

  it('keep every safety item, whatever a plan leaves out or says of it', () => {
    const made = bundle((entry) => {
      entry.plan = {
        pulls: [],
        checklists: {
          beforeDay: [
            { id: 'straps', text: 'skip it', safety: false },
            { id: 'mine', text: 'coffee', safety: true },
          ],
        },
      };
    });
    const list = checklist(made, 'beforeDay');
    const all = checklist(bundle(), 'beforeDay').filter(({ safety }) => safety);
    expect(all.length).toBeGreaterThan(4);
    for (const item of all) expect(list).toContainEqual(item);
    expect(list).toContainEqual({ id: 'mine', text: 'coffee', safety: false });
    expect(checklists(bundle()).map(({ name }) => name)).toEqual(['beforeDay', 'beforePull', 'beforeSwap', 'afterSwap', 'atEnd']);
  });

  const inCell = (kind: NonNullable<Cell['kind']>, change: (made: Bundle) => void = () => {}) =>
    bundle((made) => {
      Object.assign(made.cell ?? made.cells![0]!, { kind });
      change(made);
    });
  const safety = (made: Bundle, name: ChecklistName) =>
    checklist(made, name)
      .filter((item) => item.safety)
      .map(({ id }) => id);

  it('ask by the kind of cell what can hurt there, and nothing that is not there', () => {
    expect(safety(inCell('inertia'), 'beforeDay')).toEqual(['straps', 'tyres', 'exhaust', 'people', 'stop', 'criteria']);
    expect(safety(inCell('hub'), 'beforeDay')).toEqual(['hubs', 'exhaust', 'people', 'stop', 'criteria']);
    expect(safety(inCell('engine'), 'beforeDay')).toEqual(['guard', 'fuelCut', 'exhaust', 'people', 'stop', 'criteria']);
    expect(safety(inCell('road'), 'beforeDay')).toEqual(['closedRoad', 'second', 'dry', 'tyres', 'stop', 'criteria']);
    expect(safety(inCell('track'), 'beforeDay')).toEqual(['inspected', 'fuelCans', 'rules', 'tyres', 'stop', 'criteria']);
    for (const kind of ['inertia', 'brake', 'hub', 'engine', 'road', 'track'] as const) {
      const swap = safety(inCell(kind), 'beforeSwap');
      expect(swap).toEqual(expect.arrayContaining(['hot', 'fans', 'loose', 'openCompressor']));
      expect(swap.includes('free')).toBe(kind === 'inertia' || kind === 'brake');
      for (const name of CHECKLISTS)
        expect(new Set(checklist(inCell(kind), name).map(({ id }) => id)).size).toBe(checklist(inCell(kind), name).length);
    }
    // What a plan kept of another kind of cell is an item like any other: it can be taken off.
    const moved = inCell(
      'hub',
      (made) => (made.plan = { pulls: [], checklists: { beforeDay: [{ id: 'straps', text: 'Straps', safety: true }] } }),
    );
    expect(checklist(moved, 'beforeDay').find(({ id }) => id === 'straps')!.safety).toBe(false);
  });

  it('stop an engine for what its kind can die of; what no stream can watch is watched by eye', () => {
    const stops = (aspiration: Bundle['vehicle']['aspiration'], ignition: 'spark' | 'compression') =>
      defaultStops(bundle((made) => Object.assign(made.vehicle, { aspiration, ignition })));
    const ids = (list: PlanStop[]) => list.map(({ id }) => id);
    expect(ids(stops('turbo', 'spark'))).toEqual(['lambda', 'knock', 'misfire', 'boost', 'coolant', 'oil', 'exhaust', 'codes']);
    expect(ids(stops('na', 'spark'))).toEqual(['lambda', 'knock', 'misfire', 'coolant', 'oil', 'codes']);
    const diesel = stops('turbo', 'compression');
    expect(ids(diesel)).toEqual(['exhaust', 'smoke', 'rail', 'runaway', 'boost', 'coolant', 'oil', 'codes']);
    // An ordinary diesel at full load: lambda 1.25, nothing knocks.
    const readings = [
      { quantity: 'lambda' as const, value: 1.25, atMs: 0 },
      { quantity: 'coolantTemperature' as const, value: 92, atMs: 0 },
    ];
    expect(passedStop(diesel, readings, true, null)).toBeNull();
    expect(passedStop(stops('turbo', 'spark'), readings, true, null)).toMatchObject({ criterion: 'lambda' });
    const eye = (list: PlanStop[]) => list.filter((stop) => !isStreamed(stop)).map(({ id }) => id);
    expect(eye(diesel)).toEqual(['exhaust', 'smoke', 'rail', 'runaway', 'codes']);
    expect(eye(stops('turbo', 'spark'))).toEqual(['misfire', 'exhaust', 'codes']);
  });
});

describe('heat constants from a car’s own days', () => {
  const truth: HeatForecast = { perPullK: 21, quickShare: 0.8, quickS: 50, slowS: 900, firstK: 4, standingK: 4 };
  const rests = [0, 5, 10, 13, 45, 50, 52, 60];

  it('are found again from a day that was made with them, and forecast another order of it', () => {
    const day = forecastTide({ pulls: rests.map((atMin) => ({ setup: 'A', kind: 'measured', atMin })) }, truth);
    const learned = learnHeat(day)!;
    expect(learned.recoveries).toBe(7);
    expect(learned.missK).toBeLessThan(0.5);
    expect(learned.perPullK).toBeCloseTo(21, 6);
    const other = { pulls: [0, 4, 8, 30, 33].map((atMin) => ({ setup: 'A', kind: 'measured' as const, atMin })) };
    const [told, real] = [forecastTide(other, learned), forecastTide(other, truth)];
    told.pulls.forEach((pull, i) => expect(Math.abs(pull.startK! - real.pulls[i]!.startK!)).toBeLessThan(1.2));
  });

  it('are not made up from too little', () => {
    expect(learnHeat({ pulls: [] })).toBeNull();
    const unknown = forecastTide({ pulls: rests.map((atMin) => ({ setup: 'A', kind: 'measured', atMin })) }, truth).pulls.map((pull) => ({
      ...pull,
      startK: null,
    }));
    expect(learnHeat({ pulls: unknown })).toBeNull();
  });
});
