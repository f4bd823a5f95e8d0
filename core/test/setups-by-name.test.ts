import type { ReadPull } from '@gezeit/contract';
import { describe, expect, it } from 'vitest';
import { setupsByName } from '../src/reading/setups-by-name.js';

// Which setup a pull is of, by how people name their files. Written down before any of them was tried.

/** A pull for each entry, with its files; devices' files parted by a plus. */
const pullsOf = (names: string): ReadPull[] =>
  names.split(/\s*,\s*/).map((files, i) => ({
    id: `p${i + 1}`,
    startedAt: null,
    members: files.split('+').map((file) => ({
      file: file.trim(),
      recording: 0,
      startS: 1,
      endS: 9,
      offsetS: 0,
      how: 'order' as const,
      withinS: null,
    })),
  }));
/** The setups in their order with the pulls of each: "Stock 1 2 | Airbox 3 4"; conditioning and what has none behind. */
function told(names: string): string {
  const pulls = pullsOf(names);
  const named = setupsByName(pulls);
  if (!named) return 'nothing';
  const of = Object.values(named.pulls);
  const at = (wanted: (entry: (typeof of)[number]) => boolean) => of.flatMap((entry, i) => (wanted(entry) ? [i + 1] : [])).join(' ');
  const setups = named.names.map((name, k) => `${name ?? '–'} ${at(({ setup, isConditioning }) => setup === k && !isConditioning)}`);
  const [warm, none] = [at(({ isConditioning }) => isConditioning), at(({ setup, isConditioning }) => setup === null && !isConditioning)];
  return [...setups, ...(warm ? [`warm ${warm}`] : []), ...(none ? [`none ${none}`] : [])].join(' | ');
}

describe('names that tell of setups', () => {
  it.each([
    ['stock_1.csv, stock_2.csv, airbox_1.csv, airbox_2.csv', 'Stock 1 2 | Airbox 3 4'],
    ['airbox_1.csv, airbox_2.csv, stock_1.csv, stock_2.csv', 'Stock 3 4 | Airbox 1 2'],
    ['01 stock.csv, 02 airbox.csv, 03 airbox.csv, 04 stock.csv', 'Stock 1 4 | Airbox 2 3'],
    ['A1.csv, A2.csv, B1.csv, B2.csv', 'A 1 2 | B 3 4'],
    ['B_01.csv, B_02.csv, A_01.csv, A_02.csv', 'A 3 4 | B 1 2'],
    ['pull_01_A.txt, pull_02_B.txt, pull_03_B.txt, pull_04_A.txt', 'A 1 4 | B 2 3'],
    ['stock/run1.csv, stock/run2.csv, new intake/run1.csv, new intake/run2.csv', 'Stock 1 2 | New intake 3 4'],
    ['run1.csv, run2.csv, run3_airbox.csv, run4_airbox.csv', '– 1 2 | Airbox 3 4'],
    ['StockRun1.csv, StockRun2.csv, AirboxRun1.csv, AirboxRun2.csv', 'Stock 1 2 | Airbox 3 4'],
    ['stock.csv, airbox.csv', 'Stock 1 | Airbox 2'],
    ['after.csv, before.csv', 'Before 2 | After 1'],
    ['filter1_run1.csv, filter1_run2.csv, filter2_run1.csv, filter2_run2.csv', 'Filter1 1 2 | Filter2 3 4'],
    ['duct v1 pull 1.csv, duct v1 pull 2.csv, duct v2 pull 1.csv, duct v2 pull 2.csv', 'V1 1 2 | V2 3 4'],
    ['stock_10-32-05.csv, stock_10-41-12.csv, airbox_11-02-44.csv, airbox_11-09-30.csv', 'Stock 1 2 | Airbox 3 4'],
    ['2026-03-04_stock_1.csv, 2026-03-04_stock_2.csv, 2026-03-04_scoop_1.csv, 2026-03-04_scoop_2.csv', 'Stock 1 2 | Scoop 3 4'],
    [
      'ecu/stock-1.log + dyno/stock-1.csv, ecu/stock-2.log + dyno/stock-2.csv, ecu/ram-1.log + dyno/ram-1.csv, ecu/ram-2.log + dyno/ram-2.csv',
      'Stock 1 2 | Ram 3 4',
    ],
    ['warmup.csv, stock_1.csv, stock_2.csv, scoop_1.csv, scoop_2.csv', 'Stock 2 3 | Scoop 4 5 | warm 1'],
    ['warm up 1.csv, warm up 2.csv, serie 1.csv, serie 2.csv, ansaugung 1.csv, ansaugung 2.csv', 'Serie 3 4 | Ansaugung 5 6 | warm 1 2'],
    ['stock 1.csv, stock 2.csv, cone 1.csv, cone 2.csv, panel 1.csv, panel 2.csv', 'Stock 1 2 | Cone 3 4 | Panel 5 6'],
    ['Run 3 - baseline.csv, Run 4 - baseline.csv, Run 5 - cold air.csv, Run 6 - cold air.csv', 'Baseline 1 2 | Cold air 3 4'],
    ['base.csv, base (2).csv, base (3).csv, duct.csv, duct (2).csv, duct (3).csv', 'Base 1 2 3 | Duct 4 5 6'],
    ['cone filter 1.csv, cone filter 2.csv, panel filter 1.csv, panel filter 2.csv', 'Cone 1 2 | Panel 3 4'],
    ['kühler alt 1.csv, kühler alt 2.csv, kühler neu 1.csv, kühler neu 2.csv', 'Alt 1 2 | Neu 3 4'],
    ['stock_1.csv, stock_2.csv, stock_3.csv, stock_4.csv, stock_5.csv, airbox.csv', 'Stock 1 2 3 4 5 | Airbox 6'],
    ['stock_monday_1.csv, stock_tuesday_1.csv, box_monday_1.csv, box_tuesday_1.csv', 'Stock 1 2 | Box 3 4'],
    ['setup 1 a.csv, setup 1 b.csv, setup 2 a.csv, setup 2 b.csv', 'Setup 1 1 2 | Setup 2 3 4'],
    ['intake 70mm 1.csv, intake 70mm 2.csv, intake 80mm 1.csv, intake 80mm 2.csv', '70mm 1 2 | 80mm 3 4'],
    ['70mm_1.csv, 70mm_2.csv, 76mm_1.csv, 76mm_2.csv', '70mm 1 2 | 76mm 3 4'],
    ['stage1_1.csv, stage1_2.csv, stage2_1.csv, stage2_2.csv', 'Stage1 1 2 | Stage2 3 4'],
    ['101stock.csv, 102stock.csv, 103cone.csv, 104cone.csv', 'Stock 1 2 | Cone 3 4'],
    ['2nd gear stock.csv, 2nd gear cone.csv, 3rd gear stock.csv, 3rd gear cone.csv', 'Stock 1 3 | Cone 2 4'],
    ['1A.csv, 2A.csv, 3B.csv, 4B.csv, 5A.csv', 'A 1 2 5 | B 3 4'],
    ['lufi neu 1.csv, lufi neu 2.csv, lufi alt 1.csv, lufi alt 2.csv', 'Alt 3 4 | Neu 1 2'],
    ['with duct.csv, without duct.csv, with duct 2.csv, without duct 2.csv', 'Without 2 4 | With 1 3'],
    [
      'original_conditioning.csv, original_1.csv, original_2.csv, sport_conditioning.csv, sport_1.csv, sport_2.csv',
      'Original 2 3 | Sport 5 6 | warm 1 4',
    ],
    ['stock_1_ok.csv, stock_2.csv, airbox_1.csv, airbox_2_odd.csv', 'Stock 1 2 | Airbox 3 4'],
  ])('%s: %s', (names, wanted) => expect(told(names)).toBe(wanted));
});

describe('names that do not', () => {
  it.each([
    'run_001.csv, run_002.csv, run_003.csv, run_004.csv',
    'a.csv, b.csv, c.csv, d.csv, e.csv',
    'log.csv, log (1).csv, log (2).csv',
    'ecu_1.csv + dyno_1.csv, ecu_2.csv + dyno_2.csv, ecu_3.csv + dyno_3.csv',
    'stock_1.csv, stock_2.csv, stock_3.csv',
    '20260304_103205.csv, 20260304_104112.csv, 20260304_110244.csv',
    'day1_run1.csv, day1_run2.csv, day2_run1.csv, day2_run2.csv',
    'Test 1.csv, Test 2.csv, Pull 3.csv, Pull 4.csv',
    'gear3_run1.csv, gear3_run2.csv, gear4_run1.csv, gear4_run2.csv',
    'one.csv',
    'a.csv, b.csv',
    'pullA.csv, pullB.csv, pullC.csv',
    '1.csv, 2.csv, 3.csv, 4.csv',
    'alpha.csv, beta.csv, gamma.csv, delta.csv',
  ])('%s', (names) => expect(told(names)).toBe('nothing'));
});

it('a recording of many pulls tells of no setup by its name', () => {
  const [first] = pullsOf('stock_day.csv');
  const pulls = [1, 60, 120].map((startS, i) => ({
    ...first!,
    id: `p${i}`,
    members: [{ ...first!.members[0]!, startS, endS: startS + 8 }],
  }));
  expect(setupsByName(pulls)).toBeNull();
});
