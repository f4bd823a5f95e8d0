import { ASSUMPTION_KEYS, ASSUMPTION_RANGES, bundleSchema, type Bundle, type Question } from '@gezeit/contract';
import { describe, expect, it } from 'vitest';
import {
  analyse,
  assumptionsFor,
  comparedPairs,
  curvesOf,
  judgeOf,
  measurePulls,
  keptAssumption,
  listAssumptions,
  planReport,
  referenceFor,
  stateClouds,
  tideOf,
} from '../src/index.js';
import { demoDay, type KnownDay } from './known-days.js';

const [box, core] = [demoDay('sealed-airbox'), demoDay('water-cooler-and-fuel')];

const asked = (day: KnownDay, questions: Question[], change: (copy: Bundle) => void = () => {}) =>
  day.changed((copy) => {
    copy.programme.questions = questions;
    change(copy);
  }).findings.comparisons[0]!;
const question = (kind: Question['kind'], more: Partial<Question> = {}): Question => ({ id: 'q', kind, ...more });

describe('every kind of question gets an answer of its own', () => {
  const kinds: Question['kind'][] = [
    'power-gain',
    'power-no-loss',
    'package-gain',
    'cooler-charge',
    'less-restriction',
    'no-fault-codes',
    'meter-unchanged',
    'mixture-within',
    'coolant-no-hotter',
    'not-louder',
  ];

  it('one entry a question, with a unit and a reason', () => {
    const { answers } = asked(
      box,
      kinds.map((kind, i) => ({ id: `q${i}`, kind })),
    );
    expect(answers.map((answer) => answer.question)).toEqual(kinds.map((_, i) => `q${i}`));
    for (const answer of answers) {
      expect(answer.why.length).toBeGreaterThan(10);
      expect(['pct', 'K', 'lambda', 'dB', 'codes']).toContain(answer.unit);
      expect(answer.smallest).toBeGreaterThan(0);
    }
  });

  it('without a list there is the ordinary power question', () => {
    const copy = structuredClone(box.bundle);
    delete copy.programme.questions;
    expect(analyse(copy, box.tables).findings.comparisons[0]!.answers).toMatchObject([{ answer: 'gain', unit: 'pct' }]);
  });

  it('a changed tune withholds the gain but not the package, nor the temperature', () => {
    const anotherTune = (copy: Bundle) => (copy.setups[1]!.state = { ...copy.setups[0]!.state, tune: 'map 8' });
    const { answers, verdict } = asked(
      core,
      [
        { id: 'gain', kind: 'power-gain' },
        { id: 'package', kind: 'package-gain' },
        { id: 'loss', kind: 'power-no-loss' },
        { id: 'charge', kind: 'cooler-charge', smallest: 8 },
      ],
      anotherTune,
    );
    expect(verdict.power).toBe('withheld');
    expect(Object.fromEntries(answers.map((answer) => [answer.question, answer.answer]))).toEqual({
      gain: 'withheld',
      package: 'gain',
      loss: 'withheld',
      charge: 'gain',
    });
    expect(answers.find((answer) => answer.question === 'package')!.why).toContain('Part and tune together');
  });

  it('a changed fan withholds the temperature, a moved sensor too', () => {
    const fan = asked(core, [question('cooler-charge', { smallest: 8 })], (copy) => (copy.setups[1]!.state['fan'] = 'side'));
    expect(fan.answers[0]!.answer).toBe('withheld');
    const moved = asked(core, [question('cooler-charge', { smallest: 8 })], (copy) => {
      copy.setups[0]!.sensorPlaces = { intakeAirTemperature: 'manifold' };
      copy.setups[1]!.sensorPlaces = { intakeAirTemperature: 'box' };
    });
    expect(moved.answers[0]!.answer).toBe('withheld');
    expect(moved.notes.join()).toContain('start temperature is left out');
  });

  it('a larger filter has less restriction, in the section that was asked about', () => {
    const { answers } = asked(box, [question('less-restriction', { section: 'filter', smallest: 5 })]);
    expect(answers[0]).toMatchObject({ answer: 'gain', unit: 'pct', of: 'pressureDrop' });
    // Less is negative, in the sentence too.
    expect(answers[0]!.high!).toBeLessThan(-40);
    expect(answers[0]!.why).toMatch(/^Less pressure drop over the filter: −/);
    const [inKPa] = asked(box, [question('less-restriction', { section: 'filter', smallest: 0.1, unit: 'kPa' })]).answers;
    expect(inKPa).toMatchObject({ answer: 'gain', unit: 'kPa' });
    expect(inKPa!.estimate!).toBeCloseTo((answers[0]!.estimate! / 100) * 1.32, 1);
    expect(asked(box, [question('less-restriction', { section: 'snorkel' })]).answers[0]!.answer).toBe('not-resolved');
  });

  it('the mixture stayed within its limit, and an impossible limit is not met', () => {
    expect(asked(box, [question('mixture-within')]).answers[0]).toMatchObject({ answer: 'gain', unit: 'lambda' });
    expect(asked(box, [question('mixture-within', { smallest: 1e-6 })]).answers[0]!.answer).not.toBe('gain');
  });

  it('what nobody measured is not resolved and says where to enter it', () => {
    for (const kind of ['no-fault-codes', 'not-louder'] as const)
      expect(asked(box, [question(kind)]).answers[0]).toMatchObject({
        answer: 'not-resolved',
        estimate: null,
        why: expect.stringContaining('enter what was found where the question stands'),
      });
  });
});

describe('the part’s own start', () => {
  const restsApart = /rests before the pulls differ/;

  it('is not given where the rests differ, and the reason is said', () => {
    const comparison = asked(box, [question('power-gain', { start: 'own' })]);
    expect(comparison.ownStart).toBeNull();
    expect(comparison.ownStartReason).toMatch(restsApart);
    expect(comparison).toMatchObject({ leading: 'ownStart', verdict: { power: 'not-resolved' }, morePulls: null });
    expect(comparison.verdict.why).toMatch(/own start, and that cannot be judged/);
  });

  it('leads where it is asked for and the rests were equal; a gate on intake air forbids it', () => {
    const change = (copy: Bundle) => copy.setups.forEach((setup) => (setup.state['tune'] = 'same'));
    const own = asked(core, [question('power-gain', { start: 'own' })], change);
    expect(own.ownStart).not.toBeNull();
    expect(own.verdict.why).toMatch(/No verdict|start that the part itself brings about/);
    const gated = asked(core, [question('power-gain', { start: 'own' })], (copy) =>
      copy.setups.forEach((setup) => (setup.state['gate'] = 'intake air below 35 °C')),
    );
    expect(gated.ownStartReason).toContain('gate');
  });
});

describe('who is compared with whom', () => {
  it('a candidate finds the reference of its own state', () => {
    const copy = structuredClone(box.bundle);
    const [stock] = copy.setups;
    copy.setups.push({ ...structuredClone(stock!), id: 'A2', name: 'Stock, bonnet open', state: { ...stock!.state, bonnet: 'open' } });
    copy.setups.push({
      ...structuredClone(copy.setups[1]!),
      id: 'B2',
      name: 'Sealed, bonnet open',
      state: { ...copy.setups[1]!.state, bonnet: 'open' },
    });
    expect(referenceFor(copy, copy.setups[3]!)!.id).toBe('A2');
    expect(comparedPairs(copy).map(([a, b]) => a.id + b.id)).toEqual(['AB', 'A2B2']);
    copy.programme.comparisons = [['A', 'A2']];
    expect(comparedPairs(copy).map(([a, b]) => a.id + b.id)).toEqual(['AB', 'A2B2', 'AA2']);
  });

  it('several parts changed at once are said; one changed part is not', () => {
    const [a, b] = structuredClone(box.bundle.setups);
    expect(stateClouds(a!, b!).clouds).toEqual([]);
    b!.parts = ['sealed box', 'new duct', 'new hose'];
    expect(stateClouds(a!, b!).clouds.map(({ code, withholds }) => [code, withholds])).toEqual([['several-parts-changed', []]]);
    b!.state = { ...b!.state };
    delete b!.state['fuel'];
    expect(stateClouds(a!, b!).unknown).toEqual(['fuel']);
  });

  it('a setup without pulls is not resolved, and a programme without a reference warns', () => {
    const copy = structuredClone(box.bundle);
    copy.pulls = copy.pulls.filter(({ setup }) => setup === 'A');
    expect(analyse(copy, box.tables).findings.comparisons[0]).toMatchObject({
      levelled: null,
      verdict: { power: 'not-resolved' },
      morePulls: null,
    });
    delete copy.setups[0]!.reference;
    const { comparisons, warnings } = analyse(copy, box.tables).findings;
    expect(comparisons).toEqual([]);
    expect(warnings.join()).toContain('reference');
  });
});

describe('what the screens draw', () => {
  it('the tide is logged during pulls and fitted between them, and falls back in words', () => {
    const { pulls } = analyse(box.bundle, box.tables);
    const tide = tideOf(pulls);
    expect(tide.source).toBe('intakeAir');
    expect(tide.pulls.length).toBe(box.bundle.pulls.length);
    expect(tide.stretches.filter(({ kind }) => kind === 'logged').length).toBe(tide.pulls.length);
    expect(tide.stretches.filter(({ kind }) => kind === 'fitted').length).toBe(tide.pulls.length - 1);
    const without = (quantities: string[]) =>
      new Map(
        [...box.tables].map(([file, table]) => [
          file,
          { ...table, columns: table.columns.filter(({ quantity }) => !quantities.includes(quantity ?? '')) },
        ]),
      );
    const onCoolant = without(['intakeAirTemperature']);
    expect(tideOf(analyse(box.bundle, onCoolant).pulls).source).toBe('coolant');
    const onNothing = without(['intakeAirTemperature', 'coolantTemperature']);
    const bare = tideOf(analyse(box.bundle, onNothing).pulls);
    expect(bare.source).toBe('pulls');
    expect(bare.source).toBe('pulls');
  });

  it('the tide is as it was streamed between the logs, with gaps fitted where a device was silent', () => {
    const { pulls } = analyse(box.bundle, box.tables);
    const plain = tideOf(pulls);
    const [first, second] = plain.pulls;
    const from = plain.stretches[0]!.atMs.at(-1)! + 30_000;
    const to = plain.stretches[2]!.atMs[0]! - 30_000;
    const atMs = Array.from({ length: Math.floor((to - from) / 20_000) + 1 }, (_, i) => from + 20_000 * i);
    const ambient = pulls[0]!.air!.temperatureC;
    const temperatures = { atMs, intakeAirC: atMs.map(() => ambient + 7), coolantC: atMs.map(() => null), ambientC: atMs.map(() => null) };
    const streamed = tideOf(pulls, [{ day: 'x', temperatures }]);
    const between = streamed.stretches.filter(({ atMs: own }) => own[0]! > first!.endMs && own.at(-1)! < second!.startMs);
    expect(between.filter(({ kind }) => kind === 'logged').map(({ atMs: own }) => own)).toEqual([atMs]);
    for (const value of between.find(({ kind }) => kind === 'logged')!.valueK) expect(value).toBeCloseTo(7, 0);
    // A device that was silent for a while in between: two stretches, and a fit from one to the other.
    const half = Math.floor(atMs.length / 2);
    const silent = { ...temperatures, intakeAirC: atMs.map((_, i) => (Math.abs(i - half) < 4 ? null : ambient + 7)) };
    const parted = tideOf(pulls, [{ day: 'x', temperatures: silent }]).stretches;
    expect(parted.filter(({ kind }) => kind === 'logged').length).toBe(plain.pulls.length + 2);
    expect(parted.filter(({ kind }) => kind === 'fitted').length).toBe(plain.pulls.length + 1);
    // The ambient of that moment counts where it was streamed.
    const own = tideOf(pulls, [{ day: 'x', temperatures: { ...temperatures, ambientC: atMs.map(() => ambient + 2) } }]);
    const line = own.stretches.find(({ kind, atMs: times }) => kind === 'logged' && times[0] === atMs[0])!;
    for (const value of line.valueK) expect(value).toBeCloseTo(5, 6);
  });

  it('curves hold their means inside their bands, and the difference grows with engine speed as built', () => {
    const { setups, differences, pulls: single } = curvesOf(judgeOf(box.bundle, measurePulls(box.bundle, box.tables)));
    for (const curve of setups) {
      curve.powerW.forEach((value, i) => {
        expect(curve.powerLowW[i]!).toBeLessThanOrEqual(value);
        expect(curve.powerHighW[i]!).toBeGreaterThanOrEqual(value);
      });
    }
    const [difference] = differences;
    const at = (rpm: number) => difference!.pct[difference!.engineSpeedRpm.indexOf(rpm)]!;
    expect(at(6000)).toBeGreaterThan(at(4500) + 1);
    difference!.pct.forEach((value, i) => expect(difference!.lowPct[i]! < value && value < difference!.highPct[i]!).toBe(true));
    expect(single.length).toBe(11);
  });

  it('lists every assumption with a value and a word about it', () => {
    const list = listAssumptions(box.bundle);
    expect(list.length).toBeGreaterThan(20);
    for (const { name, value, what } of list) expect([name, value, what].every((text) => text.length > 0)).toBe(true);
    expect(new Set(list.map(({ name }) => name)).size).toBe(list.length);
  });

  it('lets every prior be changed, tells it, and judges and plans with it', () => {
    const fields = (bundle: Bundle) => listAssumptions(bundle).flatMap((entry) => entry.fields);
    expect(
      fields(box.bundle)
        .map(({ key }) => key)
        .sort(),
    ).toEqual([...ASSUMPTION_KEYS].sort());
    for (const { key, value, usual } of fields(box.bundle)) {
      expect([key, value]).toEqual([key, usual]);
      const [low, high] = ASSUMPTION_RANGES[key];
      const other = keptAssumption(key, value) === high ? low : (keptAssumption(key, value) + high) / 2;
      const changed = { ...box.bundle, assumptions: { [key]: other } };
      expect(bundleSchema.safeParse(changed).success).toBe(true);
      const now = fields(changed).filter((field) => field.value !== field.usual);
      expect(now.map((field) => [field.key, keptAssumption(key, field.value)])).toEqual([[key, Number(other.toPrecision(6))]]);
      expect(bundleSchema.safeParse({ ...box.bundle, assumptions: { [key]: high + 1 } }).success).toBe(false);
    }
    const { stories } = assumptionsFor({ ...box.bundle, assumptions: { storyDay: 0.4, storySwap: 0.3 } });
    expect(stories.none.weight + stories.day.weight + stories.swap.weight).toBeCloseTo(1, 12);

    const width = (assumptions: Bundle['assumptions']) => {
      const { comparisons } = analyse({ ...box.bundle, assumptions }, box.tables).findings;
      return { notes: comparisons[0]!.notes.join(' '), half: (comparisons[0]!.levelled!.high - comparisons[0]!.levelled!.low) / 2 };
    };
    const [usual, noisy] = [width(null), width({ drift: 0.03, noise: 0.02 })];
    expect(noisy.half).toBeGreaterThan(1.3 * usual.half);
    expect(usual.notes).not.toMatch(/changed by hand/);
    expect(noisy.notes).toMatch(/Assumptions changed by hand: noise of one pull 2 % instead of .* %; drift 3 % instead of .* % an hour\./);
    const planned = (assumptions: Bundle['assumptions']) => planReport({ ...box.bundle, assumptions }).comparisons[0]!.halfWidthPct;
    expect(planned({ noise: 0.02 })).toBeGreaterThan(2 * planned(null));
  });

  it('charge cooling says what its cold side was', () => {
    const { chargeCooling } = analyse(core.bundle, core.tables).findings;
    // The stock cooler has no coolant: both are held against the air that all pulls have.
    expect(chargeCooling.map(({ coldSide }) => coldSide)).toEqual(['ambient', 'ambient']);
    for (const { effectiveness, low, high, risePerKJ } of chargeCooling) {
      expect(low!).toBeLessThan(effectiveness);
      expect(high!).toBeGreaterThan(effectiveness);
      expect(effectiveness > 0 && effectiveness < 1).toBe(true);
      expect(risePerKJ).not.toBeNull();
    }
  });
});

describe('a day that was typed from the cell’s sheets', () => {
  const typedDay = (typed: (meanKW: number, points: { rpm: number; powerKW: number }[]) => Bundle['pulls'][number]['typed']) => {
    const { findings, pulls } = analyse(box.bundle, box.tables);
    const copy = structuredClone(box.bundle);
    for (const pull of copy.pulls) {
      const mean = findings.pulls.find(({ id }) => id === pull.id)!.meanPowerUncorrectedKW;
      const curve = pulls.find((entry) => entry.pull.id === pull.id)!.curve!;
      const power = curve.channels.get('power')!;
      const points = [...curve.gridRpm].flatMap((rpm, i) =>
        i % 10 === 0 || i === curve.gridRpm.length - 1 ? [{ rpm, powerKW: power[i]! / 1000 }] : [],
      );
      pull.logs = [];
      if (mean !== null)
        pull.typed = typed(
          mean,
          points.filter(({ powerKW }) => Number.isFinite(powerKW)),
        );
    }
    return { logged: findings, typed: analyse(copy, new Map()).findings };
  };

  it.each([
    ['the mean over the band', (bandMeanPowerKW: number) => ({ bandMeanPowerKW })],
    ['points of the curve', (_: number, points: { rpm: number; powerKW: number }[]) => ({ points })],
  ])('is judged by %s much as by its logs, and marked as typed everywhere', (_, typed) => {
    const day = typedDay(typed as never);
    const [a, b] = [day.logged.comparisons[0]!, day.typed.comparisons[0]!];
    expect(Math.abs(a.asRun!.pct - b.asRun!.pct)).toBeLessThan(0.15);
    expect(b.levelled!.high - b.levelled!.low).toBeGreaterThan(0.7 * (a.levelled!.high - a.levelled!.low));
    for (const pull of day.typed.pulls.filter(({ status }) => status === 'used')) expect(pull.flags).toContain('typed');
    expect(day.typed.pulls.filter(({ status }) => status === 'used').length).toBeGreaterThan(6);
  });

  it('cannot be judged by too few points, and says so', () => {
    const { typed } = typedDay((_, points) => ({ points: points.slice(0, 3) }));
    expect(typed.pulls.every(({ status }) => status === 'excluded')).toBe(true);
    expect(typed.pulls.flatMap(({ reasons }) => reasons)).toContain('typed-not-enough');
  });
});
