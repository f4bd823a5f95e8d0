import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { apiErrorSchema, bundleSchema, exclusionSchema } from '../src/index.js';

type Json = Record<string, unknown> & { [key: string]: never };
const text = readFileSync(new URL('../../demo/bundles/sealed-airbox/gezeit.json', import.meta.url), 'utf8');
const fresh = () => JSON.parse(text) as { programme: Json; setups: Json[]; pulls: Json[]; cell?: Json; vehicle: Json } & Json;
const problem = (change: (bundle: ReturnType<typeof fresh>) => void): string => {
  const bundle = fresh();
  change(bundle);
  const parsed = bundleSchema.safeParse(bundle);
  if (parsed.success) throw new Error('nothing was refused');
  return `${parsed.error.issues[0]!.path.join('.')}: ${parsed.error.issues[0]!.message}`;
};
const set = (target: Json, name: string, value: unknown) => Object.assign(target, { [name]: value });

describe('the schema of a bundle', () => {
  it('takes the demo, and keeps unknown fields everywhere', () => {
    const bundle = fresh();
    for (const part of [bundle as Json, bundle.programme, bundle.vehicle, bundle.setups[0]!, bundle.pulls[0]!])
      set(part, 'ownNote', 'kept');
    const parsed = bundleSchema.parse(bundle) as unknown as ReturnType<typeof fresh>;
    for (const part of [parsed as Json, parsed.programme, parsed.vehicle, parsed.setups[0]!, parsed.pulls[0]!])
      expect(part['ownNote']).toBe('kept');
  });

  it.each<[string, (bundle: ReturnType<typeof fresh>) => void, RegExp]>([
    ['another format', (bundle) => set(bundle, 'format', 'else'), /^format/],
    ['a later version', (bundle) => set(bundle, 'version', 2), /^version/],
    ['a band upside down', (bundle) => set(bundle.programme, 'bandRpm', [6000, 3000]), /bandRpm.*below the second/],
    ['a smallest gain of nought', (bundle) => set(bundle.programme, 'smallestGainPct', 0), /smallestGainPct/],
    ['an unknown correction', (bundle) => set(bundle.programme, 'correction', 'MINE'), /correction/],
    ['no setups', (bundle) => set(bundle, 'setups', []), /setups/],
    ['a setup twice', (bundle) => set(bundle.setups[1]!, 'id', 'A'), /setups.1.id.*twice/],
    ['a pull twice', (bundle) => set(bundle.pulls[1]!, 'id', 'p01'), /pulls.1.id.*twice/],
    ['a pull of no setup', (bundle) => set(bundle.pulls[3]!, 'setup', 'Q'), /pulls.3.setup.*no setup has the id "Q"/],
    ['a time without offset', (bundle) => set(bundle.pulls[0]!, 'startedAt', '2026-03-04T09:12:30'), /pulls.0.startedAt/],
    [
      'a log outside the bundle',
      (bundle) => set(bundle.pulls[0]!, 'logs', [{ file: '../secret.csv', device: 'ecu' }]),
      /inside the bundle/,
    ],
    ['an absolute path', (bundle) => set(bundle.pulls[0]!, 'logs', [{ file: '/etc/passwd', device: 'ecu' }]), /inside the bundle/],
    ['no cell', (bundle) => delete (bundle as { cell?: unknown }).cell, /cell/],
    ['a comparison of nobody', (bundle) => set(bundle.programme, 'comparisons', [['A', 'Z']]), /no setup has the id "Z"/],
    ['an infinite number', (bundle) => set(bundle.vehicle, 'displacementL', Number.POSITIVE_INFINITY), /displacementL/],
    ['a text for a number', (bundle) => set(bundle.vehicle, 'massKg', '1400'), /massKg/],
  ])('refuses %s', (_, change, expected) => expect(problem(change)).toMatch(expected));
});

it('leaving a pull out needs a reason; the other two ways need none', () => {
  expect(exclusionSchema.safeParse({ excluded: '  ' }).success).toBe(false);
  expect(exclusionSchema.safeParse({}).success).toBe(false);
  for (const excluded of ['slipped', false, null]) expect(exclusionSchema.parse({ excluded })).toEqual({ excluded });
});

it('an error always carries a next step', () => {
  expect(apiErrorSchema.safeParse({ error: { code: 'x', message: 'y', place: {} } }).success).toBe(false);
});
