import { cellSchema, vehicleSchema, type Cell, type TypedFigures, type Vehicle } from '@gezeit/contract';
import { PLAIN_FORMATTER, UNNAMED_CAR, UNNAMED_CELL, whyText } from '@gezeit/core';
import { describe, expect, it } from 'vitest';
import { carChange, carFields, carValues } from '../src/features/question/car-fields.js';
import { cellChange, cellFields, cellValues } from '../src/features/question/cell-fields.js';
import type { FormField, FormValue } from '../src/shared/form/form-fields.js';
import { figureForm, hasHalfPoint, isEmptyForm, openInForm, typedFigures } from '../src/parts/figure-form.js';

// What fields of a car, a cell and a typed sheet show is what is kept, and what is put into them is kept as it was put.

const CAR: Vehicle = vehicleSchema.parse({ name: UNNAMED_CAR, aspiration: 'turbo' });
const CELL: Cell = cellSchema.parse({ name: UNNAMED_CELL });

/** What may stand in a field of a kind, as the field hands it on. */
function valuesOf(field: FormField): FormValue[] {
  if (field.kind === 'number') return [1, 3.5, 0.25, 1234.5, null];
  if (field.kind === 'choice') return Object.keys(field.choices);
  return ['own words', 'a & <b>', null];
}
/** Fields whose texts have a meaning: what they take is asked of them by name. */
const TEXTS: Record<string, FormValue[]> = { gearRatios: ['3.6 2.1 1.4 1', '4 2.5', null], timeZone: ['Europe/Oslo', null] };
/** Fields in which a part makes no sense. */
const WHOLE = ['cylinders'];

describe.each([
  ['car', carFields(CAR), carValues as (of: never) => Record<string, FormValue | undefined>, carChange, CAR, vehicleSchema],
  ['cell', cellFields(1, true), cellValues as (of: never) => Record<string, FormValue | undefined>, cellChange, CELL, cellSchema],
] as const)('a %s', (_, fields, values, change, empty, schema) => {
  it.each(fields.map((field) => [field.name, field] as const))('keeps what is put into %s, and shows it again', (name, field) => {
    for (const value of TEXTS[name] ?? valuesOf(field)) {
      const put = WHOLE.includes(name) && value !== null ? Math.max(1, Math.round(value as number)) : value;
      const kept = schema.parse({ ...empty, ...change(name, put) });
      const shown = values(kept as never)[name] ?? null;
      if (typeof put === 'number') expect(shown as number, `${name} ${put}`).toBeCloseTo(put, 9);
      else expect(shown === '' ? null : shown, `${name} ${String(put)}`).toBe(put);
    }
  });

  it('changes nothing but the field that was changed', () => {
    for (const field of fields) {
      const value = (TEXTS[field.name] ?? valuesOf(field))[0]!;
      expect(Object.keys(change(field.name, value))).toEqual([field.name]);
    }
  });

  it('offers every choice that there is, so that none that a bundle brings stands there unsaid', () => {
    for (const field of fields) {
      if (field.kind !== 'choice') continue;
      let kept = schema.shape[field.name as keyof typeof schema.shape] as unknown as { unwrap?: () => typeof kept; options?: string[] };
      while (kept.unwrap) kept = kept.unwrap();
      expect(Object.keys(field.choices).sort(), field.name).toEqual([...kept.options!].sort());
    }
  });

  it('asks every field by a name of its own, with a reason, and units where it is a number', () => {
    expect(new Set(fields.map(({ name }) => name)).size).toBe(fields.length);
    const called = fields.map((field) => ('aria' in field ? field.aria : undefined) ?? field.label);
    expect(new Set(called).size).toBe(fields.length);
    for (const field of fields) {
      expect(whyText(field, PLAIN_FORMATTER).length, field.name).toBeGreaterThan(8);
      if (field.kind === 'number') expect(field.unit, field.name).toBeTruthy();
    }
  });
});

describe('a car', () => {
  it('without a name shows none, and one whose name is taken away is unnamed again', () => {
    expect(carValues(CAR)['name']).toBe('');
    expect(carChange('name', null)).toEqual({ name: UNNAMED_CAR });
    expect(carChange('name', 'Grey wagon')).toEqual({ name: 'Grey wagon' });
  });

  it('is asked for its boost control only where it has boost', () => {
    const names = (aspiration: Vehicle['aspiration']) => carFields({ ...CAR, aspiration }).map(({ name }) => name);
    expect(names('na')).not.toContain('boostControl');
    expect(names('turbo')).toContain('boostControl');
    expect(names('supercharged')).toContain('boostControl');
  });

  it('of so many litres keeps so many, to the printed digit', () => {
    for (let millilitres = 300; millilitres < 9000; millilitres += 137) {
      const kept = carChange('displacementL', millilitres * 1e-6).displacementL!;
      expect(kept).toBe(millilitres / 1000);
      expect(carValues({ ...CAR, displacementL: kept })['displacementL']).toBeCloseTo(millilitres * 1e-6, 12);
    }
  });
});

describe('a cell', () => {
  it('among others calls its fields by its number', () => {
    const called = (number: number) => cellFields(number, false).map((field) => ('aria' in field ? field.aria : '') ?? '');
    expect(new Set([...called(1), ...called(2)]).size).toBe(2 * called(1).length);
  });

  it.each([
    ['Europe/Oslo', true],
    ['UTC', true],
    ['Asia/Kathmandu', true],
    ['Oslo', false],
    ['Middle/Earth', false],
    ['+02:00 hours', false],
  ])('in the time zone %s: %s', (zone, good) => {
    const field = cellFields(1, true).find(({ name }) => name === 'timeZone') as { refuse: (text: string) => string | null };
    expect(field.refuse(zone) === null).toBe(good);
  });
});

describe('figures that are typed', () => {
  const FULL: TypedFigures = {
    peakPowerKW: 101.5,
    peakPowerRpm: 6100,
    bandMeanPowerKW: 88.25,
    peakTorqueNm: 201,
    peakTorqueRpm: 4200,
    bandMeanTorqueNm: 187.5,
    corrected: 'SAE_J1349',
    points: [
      { rpm: 3000, powerKW: 52.5 },
      { rpm: 4500, powerKW: 81 },
    ],
    photo: null,
  } as TypedFigures;

  it('come back from the form as they went in', () => {
    expect(typedFigures(figureForm(FULL), null)).toEqual(FULL);
    expect(typedFigures(figureForm(FULL), 'attachments/sheet.png').photo).toBe('attachments/sheet.png');
  });

  it.each(['peakPowerKW', 'bandMeanPowerKW', 'peakTorqueNm', 'bandMeanTorqueNm'] as const)('are enough with %s alone', (name) => {
    const form = figureForm({ [name]: 50, corrected: 'NONE' } as unknown as TypedFigures);
    expect(isEmptyForm(form)).toBe(false);
    expect(openInForm(form)).toBeNull();
  });

  it('need a figure, whole points, and what they are corrected by, asked for in this order', () => {
    const empty = figureForm(null);
    expect(openInForm(empty)).toBe('Type at least one figure.');
    const half = { ...figureForm(FULL), points: [{ rpm: 3000, powerW: null }], corrected: null };
    expect(hasHalfPoint(half)).toBe(true);
    expect(openInForm(half)).toContain('its engine speed and its power');
    expect(openInForm({ ...half, points: [] })).toContain('corrected by');
    expect(openInForm({ ...half, points: [], corrected: 'NONE' })).toBeNull();
  });

  it('of a row that was left empty leave it out', () => {
    const form = { ...figureForm(FULL), points: [{ rpm: null, powerW: null }, ...figureForm(FULL).points] };
    expect(typedFigures(form, null).points).toEqual(FULL.points);
  });
});
