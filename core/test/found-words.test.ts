import {
  HINTS,
  LAP_FIGURES,
  tideSchema,
  type BandPart,
  type Comparison,
  type DifferenceCurve,
  type DrivePair,
  type Findings,
} from '@gezeit/contract';
import { describe, expect, it } from 'vitest';
import {
  bandPartLabel,
  coolingText,
  courseWords,
  drivePairWords,
  equalStartText,
  formatterFor,
  isNoGood,
  pullOfDayText,
  roadPairText,
  say,
  shapeText,
  steadyCoolerText,
  stepText,
  tideSourceText,
} from '../src/index.js';

// What was found beside the power, in sentences: the same for the page and the command, in whichever units.

const METRIC = formatterFor();
const IMPERIAL = formatterFor({ power: 'hp', torque: 'lb·ft', temperature: '°F', pressure: 'psi' });
/** Where a line may not break is no matter here. */
const words = (text: string | null) => text?.replaceAll('\u00a0', ' ') ?? null;
const known = { value: 1.5, low: 0.5, high: 2.5 };
const once = { value: 1.5, low: null, high: null };

describe('laps of two setups', () => {
  const pair: DrivePair = {
    reference: 'A',
    candidate: 'B',
    laps: { reference: 6, candidate: 5 },
    drives: { reference: 1, candidate: 1 },
    between: 'laps',
    figures: LAP_FIGURES.map((of) => ({ of, reference: of === 'fullThrottleShare' ? 0.45 : 40, difference: known })),
  };

  it('are told figure by figure, the intake air once: above ambient where that is known', () => {
    const { head, lines, note } = drivePairWords(pair, METRIC);
    expect(head).toBe('B against A, 5 and 6 laps of one drive each');
    expect(lines.map(words)).toEqual([
      'A lap takes: 40.00 s with A, with B +1.50 s (95 %: +0.50 to +2.50).',
      'At full throttle, per cent of the time: 45 % with A, with B +150.0 % (95 %: +50.0 to +250.0).',
      'Intake air above ambient: 40.0 K with A, with B +1.5 K (95 %: +0.5 to +2.5).',
      'Intake air at most: 40.0 °C with A, with B +1.5 K (95 %: +0.5 to +2.5).',
      'Coolant at most: 40.0 °C with A, with B +1.5 K (95 %: +0.5 to +2.5).',
    ]);
    expect(note).toContain('Drive each setup at least twice');
  });

  it.each(LAP_FIGURES.filter((of) => !['seconds', 'fullThrottleShare'].includes(of)))('follow the units: %s', (of) => {
    const figures = [{ of, reference: -10, difference: known }];
    const [line] = drivePairWords({ ...pair, figures }, IMPERIAL).lines.map(words);
    // −10 °C are 14 °F, and −10 K of difference −18 °F.
    expect(line).toContain(`${of === 'aboveAmbientK' ? '−18.0' : '14.0'} °F with A, with B +2.7 °F (95 %: +0.9 to +4.5).`);
  });

  it('say where there is no interval, and between what there is one', () => {
    const drives = { reference: 2, candidate: 3 };
    const figures = [{ of: 'intakeAirMeanC' as const, reference: 40, difference: once }];
    const { head, lines, note } = drivePairWords({ ...pair, drives, between: 'drives', figures }, METRIC);
    expect(head).toBe('B against A, 5 and 6 laps of 3 and 2 drives');
    expect(lines.map(words)).toEqual(['Intake air on average: 40.0 °C with A, with B +1.5 K (one each: no interval).']);
    expect(note).toBe('The intervals are between drives.');
  });
});

describe('what drifts over a drive', () => {
  const course = (quantity: Findings['drives']['drives'][number]['courses'][number]['quantity'], aboveAmbient = false) => ({
    quantity,
    aboveAmbient,
    mean: { value: 20, low: 19, high: 21 },
    perHundredKm: { value: 10, low: 5, high: 15 },
  });

  it('is told over what was driven, in the units that are shown', () => {
    expect(courseWords(course('intakeAirTemperature'), 20_000, METRIC)).toMatchObject({
      mean: '20.0 (19.0 to 21.0)',
      drift: '+2.00 (+1.00 to +3.00)',
      says: 'goes up',
    });
    expect(courseWords(course('intakeAirTemperature'), 20_000, IMPERIAL)).toMatchObject({
      mean: '68.0 (66.2 to 69.8)',
      drift: '+3.60 (+1.80 to +5.40)',
    });
    const above = courseWords(course('intakeAirTemperature', true), 100_000, IMPERIAL);
    expect(above.words).toMatch(/, above ambient, °F$/);
    expect(above).toMatchObject({ mean: '36.0 (34.2 to 37.8)', drift: '+18.00 (+9.00 to +27.00)' });
    expect(courseWords(course('lambda'), 100_000, METRIC)).toMatchObject({ mean: '20.000 (19.000 to 21.000)' });
  });

  it.each([
    [{ value: -2, low: -3, high: -1 }, 'goes down'],
    [{ value: 1, low: -1, high: 3 }, 'none told'],
    [{ value: 1, low: 0, high: 2 }, 'none told'],
    [once, '–'],
    [null, '–'],
  ])('%j %s', (perHundredKm, says) => {
    expect(courseWords({ ...course('coolantTemperature'), perHundredKm }, 50_000, METRIC).says).toBe(says);
  });
});

describe('two setups in a gear', () => {
  const pair: Findings['road']['pairs'][number] = {
    reference: 'A',
    candidate: 'B',
    gear: 3,
    fromRpm: 2500.4,
    toRpm: 6000,
    unequal: false,
    runs: { reference: 3, candidate: 2 },
    referenceS: 5.25,
    seconds: { value: -0.1, low: -0.2, high: 0 },
    risePerS: known,
  };

  it('are told by time and heat, in the units that are shown', () => {
    expect(words(roadPairText(pair, METRIC))).toBe(
      'Gear 3, 2500 to 6000 rpm: B against A −0.10 s (95 %: −0.20 to 0.00) of 5.25 s; rise of intake air +1.50 K/s (+0.50 to +2.50); 2 and 3 runs.',
    );
    expect(words(roadPairText(pair, IMPERIAL))).toContain('rise of intake air +2.70 °F/s (+0.90 to +4.50)');
  });

  it('say what is missing, and what was left out', () => {
    expect(words(roadPairText({ ...pair, unequal: true, seconds: once, risePerS: null }, METRIC))).toBe(
      'Gear 3, 2500 to 6000 rpm, which all runs have; what some drove beyond is left out: B against A +1.50 s, one run each: no interval of 5.25 s; 2 and 3 runs.',
    );
    expect(words(roadPairText({ ...pair, seconds: null, risePerS: once }, METRIC))).toBe(
      'Gear 3, 2500 to 6000 rpm: B against A of 5.25 s; 2 and 3 runs.',
    );
  });
});

describe('heat', () => {
  const from = (rise: { value: number; low: number; high: number } | null) =>
    words(equalStartText({ reference: 'A', candidate: 'B', riseAtEqualStartK: rise } as Comparison, METRIC));

  it('from the same start is more, less, alike, or not told', () => {
    expect(from({ value: -2, low: -3, high: -1 })).toBe(
      'From the same start the intake air of B rises less than that of A: −2.0 K (95 %: −3.0 to −1.0).',
    );
    expect(from({ value: 2, low: 1, high: 3 })).toContain('rises more than');
    expect(from({ value: 1, low: -1, high: 3 })).toContain('of B and A rise alike as far as can be told: +1.0 K');
    expect(from(null)).toBeNull();
  });

  it('of a cooler is told with what it is held against', () => {
    const cooling = { setup: 'B', effectiveness: 0.712, low: 0.7, high: 0.72, coldSide: 'coolantIn', intakeAirRiseK: -1 } as const;
    const more = { risePerKJ: null, pressureDropKPa: null };
    expect(words(coolingText({ ...cooling, ...more }, METRIC))).toBe(
      'B: cooler effectiveness 0.71 (0.70 to 0.72), against the coolant into the cooler; intake air −1.0 K over a pull.',
    );
    expect(words(coolingText({ ...cooling, ...more, low: null, high: null, intakeAirRiseK: null }, METRIC))).toMatch(
      /^B: cooler effectiveness 0\.71, against [a-z ]+\.$/,
    );
    const steady = { effectiveness: { value: 0.7, low: 0.6, high: 0.8 }, heatW: { value: 7457, low: 6711.3, high: 8202.7 } };
    expect(words(steadyCoolerText('p03', steady, 'the coolant', METRIC))).toBe(
      'p03: effectiveness 0.70 (0.60 to 0.80) against the coolant; the charge gives up 7.5 kW (6.7 to 8.2).',
    );
    expect(words(steadyCoolerText('p03', steady, 'the coolant', IMPERIAL))).toContain('gives up 10.0 hp (9.0 to 11.0)');
    expect(words(steadyCoolerText('p03', { ...steady, heatW: null }, 'the coolant', METRIC))).toContain('with the air mass flow drawn');
  });
});

it('a section that steps says where, by how much, and what is known of either side', () => {
  const step = { atRpm: 3999.6, atFlowKgS: 0.1, changePct: -35.2, below: { areaCm2: 20, low: 18, high: 22 }, above: null };
  const section = { setup: 'B', step } as unknown as Findings['restriction'][number];
  expect(words(stepText(section, METRIC))).toBe(
    'B changes at 4000 rpm: the drop by −35 %, the area from 20.0 cm² (18.0 to 22.0) to unknown. The figures are of the side on which the compared flow lies.',
  );
  expect(stepText({ ...section, step: null }, METRIC)).toBeNull();
  const typedOnce = { ...section, step: { ...step, above: { areaCm2: 30, low: null, high: null } } };
  expect(words(stepText(typedOnce as typeof section, METRIC))).toContain('to 30.0 cm² (one pull: no interval)');
});

describe('the shape of a difference', () => {
  const curve = (of: Partial<DifferenceCurve>) => ({ real: [], peak: null, hints: [], ...of }) as unknown as DifferenceCurve;
  const gain = { fromRpm: 5500, toRpm: 6500, isLoss: false };
  const loss = { fromRpm: 2000, toRpm: 2500, isLoss: true };
  const moved = { referenceRpm: 6000, candidateRpm: 6300, apartRpm: 300, moved: true };

  it('names what is real, and where the peaks stand', () => {
    expect(words(shapeText(curve({ real: [gain, loss], peak: moved }), false, METRIC))).toBe(
      'Real gain: 5500 to 6500 rpm. Real loss: 2000 to 2500 rpm. The peak of power has moved from 6000 rpm to 6300 rpm.',
    );
    expect(words(shapeText(curve({ peak: { ...moved, moved: false } }), false, METRIC))).toBe(
      'Nowhere does the band of the whole curve leave zero. The peak of power stands where it stood, near 6000 rpm.',
    );
  });

  it.each(HINTS)('of a withheld answer nothing is called real, and nothing hinted: %s', (hint) => {
    const shown = curve({ real: [gain, loss], hints: [hint] });
    expect(words(shapeText(shown, true, METRIC))).toBe(
      'Measured all the same, above zero: 5500 to 6500 rpm. Below zero: 2000 to 2500 rpm.',
    );
    expect(shapeText(shown, false, METRIC).length).toBeGreaterThan(shapeText(curve({ real: [gain, loss] }), false, METRIC).length);
  });

  it('has parts that are named by what they are', () => {
    const part = (kind: BandPart['kind']) =>
      words(bandPartLabel({ kind, metric: 'meanPower', fromRpm: 5000, toRpm: 5500 } as BandPart, METRIC));
    expect([part('part'), part('outside'), part('claimed')]).toEqual([
      '5000 to 5500 rpm',
      '5000 to 5500 rpm, not asked',
      'at the claimed 5000 rpm',
    ]);
    expect(part('metric')).toMatch(/^\w.* in the band$/);
  });
});

describe('a pull of the day', () => {
  const pull = { id: 'p03', kind: 'measured', isUnderWay: false, aborted: false, typed: false, leftOut: [] as string[] } as const;
  const good = { id: 'start', label: 'Start', state: 'good', detail: 'as it should be' } as const;
  const bad = { id: 'roller', label: 'Roller', state: 'bad', detail: 'roller speed wandered' } as const;

  it.each([
    ['under way', { isUnderWay: true, aborted: true }, 'Pull p03 under way.'],
    ['aborted', { aborted: true, checks: [bad] }, 'Pull p03 aborted: kept, not counted; it heats and teaches the car all the same.'],
    ['typed', { typed: true }, 'Pull p03: figures typed from the cell’s screen. It counts.'],
    ['typed to condition', { typed: true, kind: 'conditioning' }, 'Pull p03: figures typed from the cell’s screen.'],
    ['typed, left out', { typed: true, leftOut: ['by hand'] }, 'Pull p03: figures typed from the cell’s screen. Left out: by hand.'],
    ['without a file', { checks: [] }, 'Pull p03: no file yet.'],
    ['bad', { checks: [good, bad] }, 'Pull p03 is no good: roller speed wandered.'],
    ['bad, but only to condition', { kind: 'conditioning', checks: [bad] }, 'Pull p03: conditioning, never compared.'],
    ['left out', { leftOut: ['by hand'] }, 'Pull p03 left out: by hand.'],
    ['good', {}, 'Pull p03 counts.'],
  ] as const)('%s', (_, of, text) => {
    const known = { ...pull, checks: [good], ...of };
    expect(pullOfDayText(known)).toBe(text);
    // What is repeated at once is what the sentence calls so.
    expect(isNoGood(known)).toBe(text.includes('is no good'));
  });
});

describe('what a tide strip draws', () => {
  it.each(tideSchema.shape.source.options)('is said in the units that are shown: %s', (source) => {
    const [metric, imperial] = [METRIC, IMPERIAL].map((f) => tideSourceText(source, f));
    const isTemperature = !['pulls', 'logs'].includes(source);
    expect(metric!.includes(', K')).toBe(isTemperature);
    expect(imperial).toBe(metric!.replace(', K', ', °F'));
  });
});

describe('what is held in a sentence', () => {
  const held = [
    { code: 'order-confounded', values: {} },
    { code: 'coolant-unknown', values: {} },
    { code: 'coolant-differs', values: { apartK: 6 } },
    { code: 'too-little-band', values: { sharePct: 40, needPct: 60 } },
  ];
  const INSIDE = [
    'every pull of one setup came before every pull of the other: drift cannot be told from the part',
    'Coolant at the start is not known for every pull',
    'Coolant at the start differs by 6.0 K',
    'only 40 % of the asked band could be compared (60 % are needed)',
  ];

  it('has its full stop where it stands alone, and none inside another', () => {
    const told = (code: string, values: object) => words(say({ code, values }, METRIC));
    expect(told('claim-withheld', { because: held })).toBe(`Withheld as the answer is: ${INSIDE.join('; ')}.`);
    expect(told('withheld', { because: held })).toBe(`Withheld: ${INSIDE.join('; ')}.`);
    expect(told('own-start-missing', { because: held[2] })).toContain(' cannot be judged. Coolant at the start differs by 6.0 K.');
    expect(told('coolant-differs', { apartK: 6 })).toBe('Coolant at the start differs by 6.0 K.');
    expect(words(say({ code: 'coolant-differs', values: { apartK: 6 } }, IMPERIAL))).toBe('Coolant at the start differs by 10.8 °F.');
  });
});
