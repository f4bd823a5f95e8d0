import { dryAirDensity } from '../../demand/air-demand.js';
import { viscosityPaS } from '../../air/moist-air.js';
import { nozzleAreaM2 } from '../../flow/effective-area.js';
import { dropOfLaw, flowAtDropM3S } from '../../flow/drop-law.js';
import type { WithInterval } from '../../flow/fit-drop-law.js';
import { MOST_LEAKAGE, PLATE_DISCHARGE, PLATE_LIMIT, plateCheck } from '../../flow/flow-bench.js';
import { depressionReduction } from '../../flow/test-depression.js';
import { ambientPressureField, numberField, shareField, temperatureField } from '../fields.js';
import { figure, percentFigure, steps, type Instrument } from '../instrument.js';
import { areaAt, leakArea, sheetRows, benchParts, type BenchPart, type SheetRow } from './flow-bench-parts.js';
import { groupsAlike, ratioAtEqual, smallestRecognisable } from '../statistics.js';
import { meanInterval } from '../../numeric/means.js';

/** What a row of the sheet is: a part, the blanked bench, the adapter alone, or the check plate. */
const SHEET_ROLES = { part: 'part', leak: 'leakage, part blanked', adapter: 'adapter alone', plate: 'check plate' } as const;

/** Areas with the depression that they were read at. */
const readAt = ({ areasM2, depressionsPa }: BenchPart) => areasM2.map((value, i) => ({ value, at: depressionsPa[i]! }));

/**
 * The gain of a part over another told both ways: more flow at the comparison depression, and less depression at the flow that the other
 * passes there. From both laws where both have one; else from readings at equal depressions.
 */
function gainBothWays(
  reference: BenchPart,
  part: BenchPart,
  at: number,
  gas: SheetRow['gas'],
): { more: WithInterval | null; less: WithInterval | null } {
  if (!reference.fit || !part.fit) {
    const more = ratioAtEqual(readAt(reference), readAt(part));
    const less = (gain: number) => depressionReduction(gain);
    return { more, less: more && { value: less(more.value), low: less(more.low), high: less(more.high) } };
  }
  const [a, b] = [areaAt(reference, at, gas), areaAt(part, at, gas)];
  const width = Math.hypot(...[a, b].map(({ value, low, high }) => (high! - low!) / 2 / value));
  const ratio = b.value / a.value;
  const more = { value: ratio - 1, low: ratio * (1 - width) - 1, high: ratio * (1 + width) - 1 };
  const flow = flowAtDropM3S(reference.fit.law, at, gas);
  const [x, y] = [reference.fit.predict(flow, gas), part.fit.predict(flow, gas)];
  const drops = y.dropPa / x.dropPa;
  const dropWidth = Math.hypot(x.meanHalfWidthPa / x.dropPa, y.meanHalfWidthPa / y.dropPa);
  return { more, less: { value: 1 - drops, low: 1 - drops * (1 + dropWidth), high: 1 - drops * (1 - dropWidth) } };
}

export const flowBenchInstrument: Instrument = {
  id: 'flow-bench',
  title: 'Flow bench',
  question: 'What does each section pass, and is the difference real?',
  sections: [
    'opening',
    'duct',
    'step',
    'snorkel',
    'filter',
    'box-outlet',
    'hose',
    'meter-housing',
    'bend',
    'coupler',
    'compressor-entry',
    'throttle',
  ],
  formulas: ['e2', 'e3', 'e6', 'e7', 'e8', 'e9', 'e10', 'e11'],
  fields: [
    {
      kind: 'table',
      name: 'readings',
      label: 'Readings',
      why: 'Check plate first, last and after each break; leakage with the part blanked; each part at several test depressions, with repeats.',
      atLeastRows: 1,
      columns: [
        { kind: 'choice', name: 'role', label: 'What', why: 'What was on the bench.', choices: SHEET_ROLES, value: 'part' },
        { kind: 'text', name: 'item', label: 'Part', why: 'Name and revision; readings of one name belong together.', optional: true },
        numberField('depression', 'Depression', 'kPa', 'Across part and adapter.', { atMost: 60_000, believable: [100, 15_000] }),
        numberField('flow', 'Flow', 'm³/h', 'Actual volume flow at the part, not standard.', { atMost: 3, believable: [1e-3, 1] }),
        temperatureField('temperature', 'Air', 'At the part; empty: as below.', { optional: true, believable: [0, 60] }),
      ],
    },
    ambientPressureField(),
    temperatureField('temperature', 'Air temperature', 'Where a row does not say another.', { value: 22, believable: [0, 50] }),
    numberField('atDepression', 'Compare at', 'kPa', 'One test depression for all: readings of one depression share its bias.', {
      value: 6_227,
      atMost: 60_000,
      believable: [500, 12_000],
    }),
    numberField('plateDiameter', 'Check plate’s bore', 'mm', 'Sharp-edged thin plate that draws from free air.', {
      value: 0.05,
      atMost: 0.5,
      optional: true,
    }),
    shareField('plateDischarge', 'Discharge coefficient of the plate', '0.60 ± 0.015 unless the plate is calibrated.', {
      value: PLATE_DISCHARGE,
      assumption: [0.585, 0.615],
    }),
  ],
  read(values) {
    const rows = sheetRows(values);
    const parts = benchParts(values);
    const warnings: string[] = [];
    const temperature = values.number('temperature');
    const gas = { densityKgM3: dryAirDensity(values.number('ambientPressure'), temperature), viscosityPaS: viscosityPaS(temperature) };
    const at = values.number('atDepression');
    const plates = rows.filter(({ role }) => role === 'plate');
    const diameter = values.optional('plateDiameter');
    const figures = [];
    if (plates.length > 0 && diameter !== null) {
      const checks = plates.map(({ dropPa, gas: air, flowM3S }) =>
        plateCheck(diameter, dropPa, air.densityKgM3, flowM3S, {
          discharge: values.number('plateDischarge'),
          upstreamPa: values.number('ambientPressure'),
        }),
      );
      const error = meanInterval(checks.map((check) => check.error))!;
      figures.push(
        percentFigure('plateError', 'Check plate reads', error.value, error.low === null ? {} : { low: error.low, high: error.high! }),
      );
      if (Math.abs(error.value) > PLATE_LIMIT)
        warnings.push('The check plate is more than 2 % off. Do not correct by it unless two plates or more are off alike.');
      const [first, last] = [checks[0]!, checks.at(-1)!];
      if (checks.length > 1 && Math.abs(last.error - first.error) > 0.01)
        warnings.push('First and last check plate differ by more than 1 %: the bench has drifted.');
    } else warnings.push('No check plate: put it on first, last and after each break.');
    // The bench's own repeatability: the scatter of repeats, pooled over everything that was read more than once.
    const noise = pooledScatter(rows);
    if (noise) {
      const recognised = smallestRecognisable(
        noise.sd,
        noise.freedom,
        Math.max(1, Math.min(...parts.map(({ areasM2 }) => areasM2.length), 3)),
      );
      figures.push(
        percentFigure('repeatability', 'Repeatability of the bench', noise.sd),
        percentFigure('recognisable', 'Smallest difference it can recognise', recognised),
      );
    } else warnings.push('Nothing was read twice: the repeatability of the bench is not known.');
    if (leakArea(rows) === 0) warnings.push('No leakage reading: blank the part and read once.');
    const rowsOut = parts.map((part) => {
      const area = areaAt(part, at, gas);
      const flow = area.value * Math.sqrt((2 * at) / gas.densityKgM3);
      const leakShare = leakArea(rows) / (area.value + leakArea(rows));
      if (leakShare > MOST_LEAKAGE)
        warnings.push(`${part.item}: leakage is ${(100 * leakShare).toFixed(1)} % of the total: seal the bench instead of correcting.`);
      if (part.fit && at > 0 && flow > 1.2 * part.fit.largestFlowM3S)
        warnings.push(`${part.item}: the comparison lies more than 1.2 times beyond what was measured.`);
      const limits = area.low === null ? {} : { low: area.low, high: area.high! };
      const nozzle =
        at / values.number('ambientPressure') > 0.02
          ? nozzleAreaM2(flow * gas.densityKgM3, values.number('ambientPressure'), temperature, at).areaM2
          : null;
      return {
        row: part.item,
        figures: [
          figure('area', 'Effective area', area.value, 'cm²', limits),
          figure('flow', 'Flow at the comparison', flow, 'm³/h'),
          figure('exponent', 'Exponent of drop over flow', part.fit ? dropOfLaw(part.fit.law, flow, gas).exponent : null, '–'),
          figure('nozzleArea', 'Area as a nozzle', nozzle, 'cm²'),
        ],
      };
    });
    if (at / values.number('ambientPressure') > 0.05)
      warnings.push(
        'Above 5 % of the ambient pressure the area itself is low by some per cent; parts at one depression still compare. To the engine’s smaller drop the area as a nozzle carries over.',
      );
    const [first, ...others] = parts;
    const comparisons = others.map((other) => ({ item: other.item, ...gainBothWays(first!, other, at, gas) }));
    for (const { item, more, less } of comparisons) {
      if (!more || !less) {
        warnings.push(
          `${item} and ${first!.item}: read at no depressions within 5 % of each other, or nothing twice. Read both at the same depressions, each twice, and they compare.`,
        );
        continue;
      }
      figures.push(
        percentFigure(`${item}/moreFlow`, `${item} against ${first!.item}: more flow at equal depression`, more.value, {
          low: more.low,
          high: more.high,
        }),
        percentFigure(`${item}/lessDepression`, `${item} against ${first!.item}: less depression at equal flow`, less.value, {
          low: less.low,
          high: less.high,
        }),
      );
    }
    const most = Math.max(...parts.flatMap(({ readings }) => readings.map(({ volumeFlowM3S }) => volumeFlowM3S)), 0.01) * 1.1;
    const grid = steps(most / 40, most, 40);
    return {
      sentence: sentenceOf(parts, rowsOut, comparisons),
      figures,
      rows: rowsOut,
      warnings,
      charts: [
        {
          name: 'flow-bench',
          title: 'Drop over flow',
          subtitle: 'readings with leakage and adapter taken off; band: 95 % of the fitted law',
          x: { label: 'Volume flow', unit: 'm³/h', from: 0 },
          y: { label: 'Pressure drop', unit: 'kPa', from: 0 },
          lines: parts.flatMap(({ item, fit }) => {
            if (!fit) return [];
            const predicted = grid.map((flow) => fit.predict(flow, gas));
            return [
              {
                name: item,
                x: grid,
                y: predicted.map(({ dropPa }) => dropPa),
                low: predicted.map(({ dropPa, meanHalfWidthPa }) => Math.max(0, dropPa - meanHalfWidthPa)),
                high: predicted.map(({ dropPa, meanHalfWidthPa }) => dropPa + meanHalfWidthPa),
              },
            ];
          }),
          points: parts.flatMap(({ item, readings }) =>
            readings.map(({ volumeFlowM3S, dropPa }) => ({ name: item, x: volumeFlowM3S, y: dropPa })),
          ),
          marks: [{ axis: 'y', at, label: 'compared here' }],
        },
      ],
    };
  },
};

function sentenceOf(
  parts: BenchPart[],
  rows: { figures: { value: number | null }[] }[],
  comparisons: { item: string; more: WithInterval | null }[],
): string {
  const told = comparisons.filter(({ more }) => more !== null);
  if (parts.length === 0) return 'No part has been read yet.';
  if (told.length === 0) return `${parts[0]!.item} has an effective area of ${(1e4 * rows[0]!.figures[0]!.value!).toFixed(1)} cm².`;
  return `${told
    .map(({ item, more }) =>
      more!.low > 0
        ? `${item} passes ${(100 * more!.value).toFixed(1)} % more than ${parts[0]!.item} (${(100 * more!.low).toFixed(1)} to ${(100 * more!.high).toFixed(1)})`
        : more!.high < 0
          ? `${item} passes ${(-100 * more!.value).toFixed(1)} % less than ${parts[0]!.item} (${(-100 * more!.high).toFixed(1)} to ${(-100 * more!.low).toFixed(1)})`
          : `${item} cannot be told from ${parts[0]!.item}`,
    )
    .join('; ')}.`;
}

/** Scatter of the logarithm of the effective area among repeats at about one depression, pooled; null where nothing was repeated. */
function pooledScatter(rows: SheetRow[]): { sd: number; freedom: number } | null {
  const groups = new Map<string, number[]>();
  const groupOf = groupsAlike(rows.map(({ dropPa }) => dropPa));
  for (const [i, { role, item, areaM2 }] of rows.entries()) {
    const key = `${role}/${item}/${groupOf[i]}`;
    groups.set(key, [...(groups.get(key) ?? []), Math.log(areaM2)]);
  }
  let [squares, freedom] = [0, 0];
  for (const values of groups.values()) {
    if (values.length < 2) continue;
    const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
    squares += values.reduce((sum, value) => sum + (value - mean) ** 2, 0);
    freedom += values.length - 1;
  }
  return freedom === 0 ? null : { sd: Math.sqrt(squares / freedom), freedom };
}
