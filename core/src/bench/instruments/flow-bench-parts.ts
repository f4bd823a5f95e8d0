import { viscosityPaS } from '../../air/moist-air.js';
import { dryAirDensity } from '../../demand/air-demand.js';
import { GezeitError } from '../../errors.js';
import { flowAtDropM3S } from '../../flow/drop-law.js';
import { effectiveAreaM2 } from '../../flow/effective-area.js';
import { fitDropLaw, type DropLawFit, type DropReading } from '../../flow/fit-drop-law.js';
import { meanInterval } from '../../numeric/means.js';
import type { Values } from '../fields.js';

/** A row of the sheet as it was read. */
export interface SheetRow {
  role: string;
  item: string;
  dropPa: number;
  flowM3S: number;
  temperatureC: number;
  gas: { densityKgM3: number; viscosityPaS: number };
  /** Effective area as read, m² (incompressible, so that parts at one depression compare). */
  areaM2: number;
}

/** A part on the bench: its net readings, areas and law. */
export interface BenchPart {
  item: string;
  readings: DropReading[];
  areasM2: number[];
  /** Test depression of each reading, across part and adapter. */
  depressionsPa: number[];
  fit: DropLawFit | null;
}

/** The rows of the sheet in SI units, each with its gas and its effective area. */
export function sheetRows(values: Values): SheetRow[] {
  const pressure = values.number('ambientPressure');
  return values.rows('readings').map((row) => {
    const temperatureC = row.optional('temperature') ?? values.number('temperature');
    const [dropPa, flowM3S] = [row.number('depression'), row.number('flow')];
    const densityKgM3 = dryAirDensity(pressure, temperatureC);
    return {
      role: row.text('role'),
      item: row.text('item').trim() || 'part',
      dropPa,
      flowM3S,
      temperatureC,
      gas: { densityKgM3, viscosityPaS: viscosityPaS(temperatureC) },
      areaM2: effectiveAreaM2(flowM3S * densityKgM3, densityKgM3, dropPa),
    };
  });
}

/** Leak area, m², of the blanked bench: the mean of its readings; 0 where it was not measured. */
export function leakArea(rows: SheetRow[]): number {
  const leaks = rows.filter(({ role }) => role === 'leak').map(({ areaM2 }) => areaM2);
  return leaks.length === 0 ? 0 : meanInterval(leaks)!.value;
}

/** Parts of the sheet in order, leakage taken off in areas and the adapter's own loss taken out in series. */
export function benchParts(values: Values): BenchPart[] {
  const rows = sheetRows(values);
  const leak = leakArea(rows);
  const adapters = rows.filter(({ role }) => role === 'adapter').map(({ areaM2 }) => areaM2 - leak);
  const adapter = adapters.length === 0 ? null : meanInterval(adapters)!.value;
  const items = [...new Set(rows.filter(({ role }) => role === 'part').map(({ item }) => item))];
  return items.map((item) => {
    const own = rows.filter((row) => row.role === 'part' && row.item === item);
    const readings = own.map(({ areaM2, dropPa, gas }) => {
      const whole = areaM2 - leak;
      if (!(whole > 0))
        throw new GezeitError(
          'leak-too-large',
          `${item}: the leakage is larger than the reading.`,
          'Measure the leakage again with the part blanked.',
        );
      if (adapter !== null && !(adapter > whole))
        throw new GezeitError(
          'adapter-too-small',
          `${item}: the adapter alone passes less than part and adapter together.`,
          'Check which rows are the adapter.',
        );
      const net = adapter === null ? whole : 1 / Math.sqrt(1 / whole ** 2 - 1 / adapter ** 2);
      // The part's own drop: what the adapter takes is not the part's.
      const partDrop = adapter === null ? dropPa : dropPa * (1 - (whole / adapter) ** 2);
      return { area: net, reading: { ...gas, dropPa: partDrop, volumeFlowM3S: net * Math.sqrt((2 * partDrop) / gas.densityKgM3) } };
    });
    let fit: DropLawFit | null;
    try {
      fit = fitDropLaw(readings.map(({ reading }) => reading));
    } catch (error) {
      if (!(error instanceof GezeitError)) throw error;
      fit = null;
    }
    return {
      item,
      readings: readings.map(({ reading }) => reading),
      areasM2: readings.map(({ area }) => area),
      depressionsPa: own.map(({ dropPa }) => dropPa),
      fit,
    };
  });
}

/** Area at the comparison depression: of the law where there is one, else the mean of the readings, with its 95 % interval. */
export function areaAt(
  part: BenchPart,
  depressionPa: number,
  gas: SheetRow['gas'],
): { value: number; low: number | null; high: number | null } {
  if (!part.fit) return meanInterval(part.areasM2)!;
  const flow = flowAtDropM3S(part.fit.law, depressionPa, gas);
  const { meanHalfWidthPa } = part.fit.predict(flow, gas);
  const area = (drop: number) => effectiveAreaM2(flow * gas.densityKgM3, gas.densityKgM3, drop);
  return { value: area(depressionPa), low: area(depressionPa + meanHalfWidthPa), high: area(Math.max(1, depressionPa - meanHalfWidthPa)) };
}
