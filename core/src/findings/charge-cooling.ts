import type { ChargeCooling } from '@gezeit/contract';
import { DRY_AIR_SPECIFIC_HEAT } from '../air/moist-air.js';
import { mean } from '../judge/series.js';
import { meanInterval } from '../judge/pooled-difference.js';
import { bandMean, onBand, type Band } from '../pull/band.js';
import { median } from '../pull/traces.js';
import type { AnalysedPull } from './analysed-pull.js';

/** The end of a sweep's intake air temperature is the median of its last points, so that one sample does not decide. */
const END_POINTS = 4;

/** Rise of intake air temperature from the start to the end of the sweep, K; negative where the air gets cooler. Null where it is not logged. */
export function intakeAirRiseK({ curve, start }: AnalysedPull): number | null {
  const channel = curve?.channels.get('intakeAirTemperature');
  if (!channel || start.intakeAirC === null) return null;
  const known = channel.filter(Number.isFinite);
  return known.length === 0 ? null : median(known.subarray(Math.max(0, known.length - END_POINTS))) - start.intakeAirC;
}

/** Charge cooling of every setup whose compressor and cooler outlet temperatures are logged (formula i1, quasi-steady). */
export function chargeCooling(pulls: AnalysedPull[], setups: readonly string[], band: Band): ChargeCooling[] {
  return setups.flatMap((setup) => {
    const own = pulls.filter((entry) => entry.used && entry.curve && entry.pull.setup === setup);
    const values = own.map((entry) => coolingOf(entry, band)).filter((value) => value !== null);
    const first = values[0];
    if (!first) return [];
    const effectiveness = meanInterval(values.map((value) => value.effectiveness))!;
    const meanOf = (list: (number | null)[]) => {
      const known = list.filter((value) => value !== null);
      return known.length === 0 ? null : mean(known);
    };
    const drop = meanOf(values.map(({ pressureDropPa }) => pressureDropPa));
    return [
      {
        setup,
        effectiveness: effectiveness.value,
        low: effectiveness.low,
        high: effectiveness.high,
        coldSide: first.coldSide,
        intakeAirRiseK: meanOf(values.map(({ riseK }) => riseK)),
        risePerKJ: meanOf(values.map(({ riseK, rejectedJ }) => (riseK === null || !rejectedJ ? null : riseK / (rejectedJ / 1000)))),
        pressureDropKPa: drop === null ? null : drop / 1000,
      },
    ];
  });
}

interface PullCooling {
  effectiveness: number;
  coldSide: ChargeCooling['coldSide'];
  riseK: number | null;
  rejectedJ: number | null;
  pressureDropPa: number | null;
}

function coolingOf(entry: AnalysedPull, band: Band): PullCooling | null {
  const { channels } = entry.curve!;
  const before = channels.get('compressorOutTemperature');
  const after = channels.get('coolerOutTemperature') ?? channels.get('intakeAirTemperature');
  const cold = coldSideOf(entry);
  if (!before || !after || !cold) return null;
  const [hot, cooled] = [onBand(entry.curve!, before, band), onBand(entry.curve!, after, band)];
  const coldC = cold.channel ? onBand(entry.curve!, cold.channel, band) : hot.map(() => cold.constantC!);
  const ratio = hot.map((value, i) => (value - cooled[i]!) / (value - coldC[i]!));
  const known = Array.from(ratio).filter(Number.isFinite);
  if (known.length < ratio.length / 2) return null;
  return {
    effectiveness: mean(known),
    coldSide: cold.side,
    riseK: intakeAirRiseK(entry),
    rejectedJ: rejectedHeatJ(entry, before, after),
    pressureDropPa: bandMean(entry.curve!, 'pressureDrop/cooler', band),
  };
}

function coldSideOf({ curve, air }: AnalysedPull): { side: ChargeCooling['coldSide']; channel?: Float64Array; constantC?: number } | null {
  const coolant = curve!.channels.get('coolantInTemperature');
  if (coolant) return { side: 'coolantIn', channel: coolant };
  const cooling = curve!.channels.get('coolingAirTemperature');
  if (cooling) return { side: 'coolingAir', channel: cooling };
  return air ? { side: 'ambient', constantC: air.temperatureC } : null;
}

/** Heat that the charge gave up in the cooler over the sweep, J: ∫ ṁ·cp·ΔT dt, the time per grid step from the sweep's own length. */
function rejectedHeatJ({ curve }: AnalysedPull, before: Float64Array, after: Float64Array): number | null {
  const flow = curve!.channels.get('airMassFlow');
  const seconds = curve!.endS - curve!.startS;
  if (!flow || !Number.isFinite(seconds)) return null;
  const rates = Array.from(flow, (value, i) => value * DRY_AIR_SPECIFIC_HEAT * (before[i]! - after[i]!)).filter(Number.isFinite);
  return rates.length === 0 ? null : mean(rates) * seconds;
}
