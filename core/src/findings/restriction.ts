import type { Findings } from '@gezeit/contract';
import { dryAirDensity } from '../demand/air-demand.js';
import { dropOfAreaPa } from '../flow/effective-area.js';
import { meanInterval } from '../judge/pooled-difference.js';
import { bandMean, type Band } from '../pull/band.js';
import type { AnalysedPull } from './analysed-pull.js';

/** Density at which pressure drops are stated: 25 °C and 100 kPa, dry. */
export const STATED_DENSITY = dryAirDensity(100_000, 25);
const PREFIX = 'pressureDrop';

/** Sections whose pressure drop is logged on used pulls of all the setups; the empty text is a drop without a section. */
export function sectionsOf(pulls: AnalysedPull[], setups: readonly string[]): string[] {
  const perSetup = setups.map((setup) => {
    const own = pulls.filter((entry) => entry.used && entry.curve && entry.pull.setup === setup);
    return new Set(
      own.flatMap(({ curve }) =>
        [...curve!.channels.keys()].filter((key) => key.startsWith(PREFIX)).map((key) => key.slice(PREFIX.length + 1)),
      ),
    );
  });
  return [...(perSetup[0] ?? [])].filter((section) => perSetup.every((known) => known.has(section)));
}

/**
 * Effective area of a section in one pull, m²: A = ṁ/√(2ρΔp) with upstream density, mean over the band (formula e2). Null where
 * air mass flow, drop or weather is missing.
 */
export function sectionArea({ curve, air }: AnalysedPull, section: string, band: Band): number | null {
  if (!curve || !air) return null;
  const flow = bandMean(curve, 'airMassFlow', band);
  const rootDrop = bandMean(curve, section ? `${PREFIX}/${section}` : PREFIX, band, (drop) => Math.sqrt(Math.max(0, drop)));
  if (flow === null || !rootDrop) return null;
  const density = upstreamDensity({ curve, air }, section, band);
  if (density === null) return null;
  return flow / (Math.sqrt(2 * density) * rootDrop);
}

/** Air density before a section, kg/m³: of the charge for the cooler, else of the cell (inlet losses before the section are neglected). */
function upstreamDensity({ curve, air }: Pick<AnalysedPull, 'curve' | 'air'>, section: string, band: Band): number | null {
  if (section !== 'cooler') return dryAirDensity(air!.pressurePa, air!.temperatureC);
  const pressurePa = bandMean(curve!, 'manifoldPressure', band);
  const temperatureC = bandMean(curve!, 'compressorOutTemperature', band);
  return pressurePa === null || temperatureC === null ? null : dryAirDensity(pressurePa, temperatureC);
}

/** Effective area of every logged section of every setup, with the drop at the setup's mean flow in the band. */
export function restrictionFindings(pulls: AnalysedPull[], setups: readonly string[], band: Band): Findings['restriction'] {
  return setups.flatMap((setup) =>
    sectionsOf(pulls, [setup]).flatMap((section) => {
      const own = pulls.filter((entry) => entry.used && entry.pull.setup === setup);
      const areas = own.map((entry) => sectionArea(entry, section, band)).filter((area) => area !== null);
      const area = meanInterval(areas);
      const flows = own.map(({ curve }) => curve && bandMean(curve, 'airMassFlow', band)).filter((flow) => flow !== null);
      const flow = meanInterval(flows)?.value;
      if (!area || flow === undefined) return [];
      const dropPa = dropOfAreaPa(area.value, flow, STATED_DENSITY);
      const cm2 = (value: number | null) => (value === null ? null : value * 1e4);
      return [
        {
          setup,
          section,
          effectiveAreaCm2: area.value * 1e4,
          low: cm2(area.low),
          high: cm2(area.high),
          dropKPa: dropPa / 1000,
          atFlowKgS: flow,
        },
      ];
    }),
  );
}
