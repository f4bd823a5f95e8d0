import type { PathSection } from '@gezeit/contract';
import type { BenchPart } from './instruments/flow-bench-parts.js';
import { meanInterval } from '../numeric/means.js';

/** A part's readings of the flow bench as the loss of a section of the path, with the half width at the largest flow that was read. */
export function lossFromBench(part: BenchPart, evidence: string | null): NonNullable<PathSection['bench']> {
  const flows = part.readings.map(({ volumeFlowM3S }) => volumeFlowM3S);
  const largest = part.readings[flows.indexOf(Math.max(...flows))]!;
  if (part.fit) {
    const { dropPa, meanHalfWidthPa } = part.fit.predict(largest.volumeFlowM3S, largest);
    return {
      ...part.fit.law,
      halfWidthPct: (100 * meanHalfWidthPa) / dropPa,
      largestFlowM3S: largest.volumeFlowM3S,
      evidence,
      item: part.item,
    };
  }
  const area = meanInterval(part.areasM2)!;
  // A drop goes with the inverse square of the area: its relative half width is twice the area's.
  const halfWidthPct = area.high === null ? null : (200 * (area.high - area.value)) / area.value;
  return {
    viscousPerM3: 0,
    inertialPerM4: 1 / (2 * area.value ** 2),
    halfWidthPct,
    largestFlowM3S: largest.volumeFlowM3S,
    evidence,
    item: part.item,
  };
}
