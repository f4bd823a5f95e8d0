import { describe, expect, it } from 'vitest';
import { CONDITION_ITEMS, pathSectionSchema, SECTION_KINDS, setupSchema, type PathSection, type Setup } from '@gezeit/contract';
import {
  budgetEvidence,
  claimInReach,
  draftProgramme,
  dropOfAreaPa,
  dropOfLossPa,
  dryAirDensity,
  duplicateSetup,
  gainAtMost,
  GEOMETRY_FIELDS,
  inOrderOfTheWay,
  intermediateSetups,
  lawOfGeometry,
  missingReferences,
  nextSetupId,
  programmeGaps,
  proposedBandRpm,
  proposedCorrection,
  proposedQuestion,
  restrictionBudget,
  sectionLoss,
  type BudgetConditions,
} from '../src/index.js';

const section = (value: object): PathSection => pathSectionSchema.parse({ id: 's', name: 's', ...value });
const setup = (value: object): Setup => setupSchema.parse({ id: 'A', name: 'A', ...value });
const natural: BudgetConditions = { massFlowKgS: 0.15, ambientPa: 100_000, ambientC: 25, charge: null, aspiration: 'na' };
const boosted: BudgetConditions = { ...natural, charge: { pressurePa: 205_000, temperatureC: 120 }, aspiration: 'turbo' };
const measured = (id: string, areaCm2: number, halfWidthPct: number | null = 3, kind = 'duct') =>
  section({
    id,
    name: id,
    kind,
    source: 'bench',
    bench: { viscousPerM3: 0, inertialPerM4: 1 / (2 * (areaCm2 * 1e-4) ** 2), halfWidthPct },
  });

describe('loss from geometry', () => {
  it('is asked for every kind of section, says what is missing, and grows when the area shrinks', () => {
    for (const kind of SECTION_KINDS) {
      expect(GEOMETRY_FIELDS[kind].length).toBeGreaterThan(0);
      expect('missing' in lawOfGeometry(kind, {}), kind).toBe(true);
      const full = { areaCm2: 30, areaAfterCm2: 40, lengthMm: 400, bendRadiusMm: 60, bendAngleDeg: 90, mediaAreaM2: 0.6 };
      const [large, small] = [lawOfGeometry(kind, full), lawOfGeometry(kind, { ...full, areaCm2: 20, areaAfterCm2: 28, mediaAreaM2: 0.4 })];
      if ('missing' in large || 'missing' in small) throw new Error(kind);
      expect(small.inertialPerM4 + small.viscousPerM3, kind).toBeGreaterThan(large.inertialPerM4 + large.viscousPerM3);
    }
  });

  it('follows what is known of bends, edges and steps', () => {
    const loss = (kind: PathSection['kind'], geometry: object) => {
      const law = lawOfGeometry(kind, { areaCm2: 30, ...geometry });
      if ('missing' in law) throw new Error(law.missing);
      return law.inertialPerM4 * 2 * 30e-4 ** 2;
    };
    expect(loss('opening', { edge: 'sharp' })).toBeCloseTo(0.5, 9);
    expect(loss('opening', { edge: 'bell-mouth' })).toBeCloseTo(0.05, 9);
    expect(loss('bend', { bendRadiusMm: 200 })).toBeLessThan(loss('bend', { bendRadiusMm: 50 }));
    expect(loss('bend', { bendRadiusMm: 60, bendAngleDeg: 45 })).toBeCloseTo(loss('bend', { bendRadiusMm: 60 }) / 2, 9);
    expect(loss('step', { areaAfterCm2: 60 })).toBeCloseTo(0.25, 9);
    expect(loss('step', { areaAfterCm2: 30 })).toBe(0);
    expect(loss('hose', { lengthMm: 500, corrugated: true })).toBeCloseTo(4 * loss('hose', { lengthMm: 500 }), 9);
    expect(loss('duct', { lengthMm: 500, lossCoefficient: 1.7 })).toBeCloseTo(1.7, 9);
  });

  it('says which of the three a loss is, and what is missing of it', () => {
    expect(sectionLoss(measured('d', 30), 'A', null)).toMatchObject({ source: 'bench' });
    expect(sectionLoss(section({ kind: 'duct', source: 'bench' }), 'A', null)).toEqual({
      missing: 'no reading of the flow bench is taken over yet',
    });
    const findings = {
      restriction: [
        {
          setup: 'A',
          section: 'duct',
          effectiveAreaCm2: 30,
          flowFrom: 'meter' as const,
          atMost: false,
          pulls: 3,
          step: null,
          low: 29,
          high: 31,
          laminarShare: 0.25,
          dropKPa: 1,
          dropLow: 0.94,
          dropHigh: 1.06,
          atFlowKgS: 0.12,
        },
      ],
    };
    const car = section({ kind: 'duct', name: 'duct', source: 'car' });
    const loss = sectionLoss(car, 'A', findings);
    if ('missing' in loss) throw new Error(loss.missing);
    expect(loss.source).toBe('car');
    expect(loss.low!).toBeCloseTo(0.94, 9);
    // The laminar share goes with the flow, the rest with its square: at half the flow more than a quarter is left.
    const at = (flowKgS: number) => dropOfLossPa(loss, flowKgS, 100_000, 25).dropPa;
    expect(at(0.12)).toBeCloseTo(1000, 0);
    expect(at(0.06) / at(0.12)).toBeCloseTo(0.25 * 0.5 + 0.75 * 0.25, 3);
    expect(sectionLoss(car, 'B', findings)).toHaveProperty('missing');
    expect(
      sectionLoss(section({ kind: 'duct', source: 'car', car: { dropKPa: 2, lowKPa: 1.8, highKPa: 2.2, atFlowKgS: 0.12 } }), 'B', findings),
    ).toMatchObject({ low: 0.9, high: 1.1 });
  });
});

describe('the budget', () => {
  it('sums the sections, names the worst, and gives each its share and what the total were without it', () => {
    const budget = restrictionBudget(setup({ path: [measured('a', 30), measured('b', 24), measured('c', 40)] }), natural, null);
    expect(budget.worst!.section.id).toBe('b');
    expect(budget.sections.reduce((sum, { share }) => sum + share!, 0)).toBeCloseTo(1, 9);
    expect(budget.sections[0]!.dropPa!).toBeCloseTo(dropOfAreaPa(30e-4, 0.15, dryAirDensity(100_000, 25)), 6);
    expect(budget.sections[1]!.totalIfIdealPa!).toBeCloseTo(budget.totalPa - budget.sections[1]!.dropPa!, 6);
    expect(budget.highPa! - budget.totalPa).toBeCloseTo(Math.hypot(...budget.sections.map(({ dropPa }) => 0.03 * dropPa!)), 6);
    // The second section gets thinner air than the first.
    expect(budget.sections[1]!.dropPa!).toBeGreaterThan(dropOfAreaPa(24e-4, 0.15, dryAirDensity(100_000, 25)));
  });

  it('leaves out what is missing and says so, gives no interval of the whole then where one has none, and marks what is carried too far', () => {
    const missing = restrictionBudget(setup({ path: [measured('a', 30), section({ kind: 'bend' })] }), natural, null);
    expect(missing.sections[1]).toMatchObject({ dropPa: null, missing: 'the area is not said' });
    // What nobody knows is not nothing: neither a total, nor a share, nor a gain is told as if it were whole.
    expect(missing).toMatchObject({ incomplete: ['s'], lowPa: null });
    expect(missing.sections[0]).toMatchObject({ share: null, totalIfIdealPa: null });
    const whole = restrictionBudget(setup({ path: [measured('a', 30)] }), natural, null);
    expect(gainAtMost(missing, whole, natural)).toBeNull();
    expect(gainAtMost(whole, missing, natural)!.candidate).toBeNull();
    expect(budgetEvidence([missing], null, { engineSpeedRpm: 6000, conditions: natural }, { id: 'b', note: '' }).sentence).toContain(
      'Incomplete',
    );
    expect(restrictionBudget(setup({ path: [measured('a', 30), measured('b', 30, null)] }), natural, null).lowPa).toBeNull();
    const far = measured('a', 30);
    far.bench!.largestFlowM3S = 0.05;
    expect(restrictionBudget(setup({ path: [far] }), natural, null).sections[0]!.beyond).toBe(true);
    expect(
      restrictionBudget(setup({ path: [measured('tiny', 1)] }), { ...natural, massFlowKgS: 0.5 }, null).sections[0]!.missing,
    ).toContain('more pressure than there is');
    expect(restrictionBudget(setup({}), natural, null)).toMatchObject({ totalPa: 0, worst: null });
  });

  it('keeps what lies behind the compressor apart, with the charge’s air', () => {
    const budget = restrictionBudget(setup({ path: [measured('a', 30), measured('core', 22, 3, 'cooler')] }), boosted, null);
    expect(budget.totalPa).toBeCloseTo(budget.sections[0]!.dropPa!, 9);
    expect(budget.chargeSidePa).toBeCloseTo(dropOfAreaPa(22e-4, 0.15, dryAirDensity(205_000, 120)), 6);
    expect(budget.worst!.section.id).toBe('a');
  });

  it('says what the gain could be at most: a per cent a kilopascal, or tenths of it where boost is held', () => {
    const [a, b] = [24, 40].map((area) => restrictionBudget(setup({ path: [measured('a', area)] }), natural, null)) as [
      ReturnType<typeof restrictionBudget>,
      ReturnType<typeof restrictionBudget>,
    ];
    const gain = gainAtMost(a, b, natural)!;
    expect(gain.candidate!.likelyPct / ((a.totalPa - b.totalPa) / 1000)).toBeCloseTo(1.02, 1);
    expect(gain.perfect.likelyPct).toBeGreaterThan(gain.candidate!.likelyPct);
    const held = gainAtMost(a, b, boosted)!;
    expect(held.candidate!.likelyPct).toBeGreaterThan(0);
    expect(held.candidate!.likelyPct).toBeLessThan(0.4 * held.candidate!.mostPct);
    expect(gainAtMost(a, a, natural)!.candidate).toEqual({ likelyPct: 0, mostPct: 0 });
  });

  it('sees when a claim is out of reach', () => {
    const claim = { id: 'c', quantity: 'power', value: 6, unit: 'kW' };
    expect(claimInReach(claim, 120, { mostPct: 2 })).toMatchObject({ pct: 5, inReach: false });
    expect(claimInReach({ ...claim, value: 2 }, 120, { mostPct: 2 })).toMatchObject({ inReach: true });
    expect(claimInReach({ ...claim, value: 1, unit: '%' }, null, { mostPct: 2 })).toMatchObject({ pct: 1, inReach: true });
    expect(claimInReach(claim, null, { mostPct: 2 }).inReach).toBeNull();
    expect(claimInReach({ ...claim, quantity: 'flow' }, 120, { mostPct: 2 }).inReach).toBeNull();
    expect(() => claimInReach({ ...claim, unit: 'furlong' }, 120, { mostPct: 2 })).toThrow(/no unit of power/);
  });

  it('stands in the order of the air’s way', () => {
    const path = [
      section({ id: '1', kind: 'throttle' }),
      section({ id: '2', kind: 'filter' }),
      section({ id: '3', kind: 'opening' }),
      section({ id: '4', kind: 'filter' }),
    ];
    expect(inOrderOfTheWay(path).map(({ id }) => id)).toEqual(['3', '2', '4', '1']);
  });
});

describe('a question', () => {
  it('proposes no correction on absolute boost control and says why', () => {
    expect(proposedCorrection({ aspiration: 'turbo', boostControl: 'absolute' })).toMatchObject({ value: 'NONE' });
    expect(proposedCorrection({ aspiration: 'turbo', boostControl: 'absolute' }).why).toContain('absolute');
    expect(proposedCorrection({ aspiration: 'na', boostControl: 'none' }).value).toBe('SAE_J1349');
    expect(proposedCorrection({ aspiration: 'supercharged', boostControl: 'mechanical' }).value).toBe('SAE_J1349');
    const [low, high] = proposedBandRpm({ aspiration: 'na', maxRpm: 7000 });
    expect([low, high]).toEqual([4200, 6800]);
  });

  it('proposes the part’s own start for boxes, ducts, shields and feeds', () => {
    expect(proposedQuestion('q', 'power-gain', ['sealed box']).start).toBe('own');
    expect(proposedQuestion('q', 'power-gain', ['cone filter']).start).toBe('same');
    expect(proposedQuestion('q', 'cooler-charge', ['core']).start).toBeUndefined();
  });

  it('names its gaps until each is filled', () => {
    const draft = draftProgramme({ title: 'T', aspiration: 'turbo' });
    const before = programmeGaps(draft).map(({ field }) => field);
    expect(before).toContain('vehicle.boostControl');
    draft.programme.unanswered = [];
    draft.programme.question = 'Does it gain?';
    Object.assign(draft.vehicle, { name: 'Texel saloon', displacementL: 2, boostControl: 'absolute' });
    draft.cells![0]!.name = 'Sirocco cell';
    draft.setups[0]!.parts = ['stock box'];
    draft.condition = CONDITION_ITEMS.map((item) => ({ item, state: 'good', note: '', by: 'TS', at: '2026-01-01T00:00:00Z' }));
    expect(programmeGaps(draft)).toEqual([]);
    draft.condition[0]!.state = 'not-good';
    draft.setups[0]!.path = [measured('a', 30)];
    expect(programmeGaps(draft).map(({ field }) => field)).toEqual(['condition', 'path']);
    draft.setups[0]!.reference = false;
    expect(programmeGaps(draft)[0]!.text).toContain('No setup is the reference');
  });
});

describe('setups', () => {
  const a = setup({ reference: true, parts: ['box', 'duct', 'hose'], state: { bonnet: 'closed', fan: 'front' } });
  const b = setup({ id: 'B', parts: ['new box', 'new duct', 'hose'], state: { bonnet: 'closed', fan: 'front' } });

  it('get letters in turn and copies of their own', () => {
    expect(nextSetupId([a, b])).toBe('C');
    expect(nextSetupId(Array.from({ length: 26 }, (_, i) => ({ id: String.fromCharCode(65 + i) })))).toBe('AA');
    const copy = duplicateSetup([a, b], a);
    expect(copy).toMatchObject({ id: 'C', reference: false });
    expect(copy.parts).not.toBe(a.parts);
  });

  it('get the setups between where several parts change at once', () => {
    const between = intermediateSetups([a, b], a, b);
    expect(between.map(({ parts }) => parts)).toEqual([
      ['new box', 'duct', 'hose'],
      ['box', 'new duct', 'hose'],
    ]);
    expect(intermediateSetups([a, b, { ...between[0]!, id: 'C' }], a, b)).toHaveLength(1);
    expect(intermediateSetups([a, b], a, { ...b, parts: ['new box', 'duct', 'hose'] })).toEqual([]);
  });

  it('get a reference for every state of bonnet, fan and learning that a candidate is in', () => {
    const open = { ...b, id: 'C', state: { bonnet: 'open', fan: 'front' } };
    const missing = missingReferences([a, b, open]);
    expect(missing).toHaveLength(1);
    expect(missing[0]).toMatchObject({ id: 'D', reference: true, parts: a.parts, state: { bonnet: 'open', fan: 'front' } });
    expect(missingReferences([a, b, open, ...missing])).toEqual([]);
    expect(missingReferences([{ ...a, reference: false }, b])).toEqual([]);
  });
});
