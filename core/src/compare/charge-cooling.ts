import type { Bundle, ChargeCooling } from '@gezeit/contract';
import { DRY_AIR_SPECIFIC_HEAT } from '../air/moist-air.js';
import type { Assumptions } from '../judge/assumptions.js';
import { bandMean, onBand, type Band } from '../pull/band.js';
import type { AnalysedPull } from './analysed-pull.js';
import { chargeKeyOf } from './day-series.js';
import { sensorOf, together } from '../judge/sensor-accuracy.js';
import { mean, meanInterval, median } from '../numeric/means.js';

/** What takes the heat of a charge cooler: the best air or water that all compared pulls have logged. */
export type ColdSide = ChargeCooling['coldSide'];

/** The end of a sweep's intake air temperature is the median of its last points, so that one sample does not decide. */
const END_POINTS = 4;

/** Rise of intake air temperature from the start to the end of the sweep, K; negative where the air gets cooler. Null where it is not logged. */
export function intakeAirRiseK({ curve, start }: AnalysedPull): number | null {
  const channel = curve?.channels.get('intakeAirTemperature');
  if (!channel || start.intakeAirC === null) return null;
  const end: number[] = [];
  for (let i = channel.length - 1; i >= 0 && end.length < END_POINTS; i -= 1) if (Number.isFinite(channel[i]!)) end.push(channel[i]!);
  return end.length === 0 ? null : median(end) - start.intakeAirC;
}

/** The one cold side by which all of some pulls are held: coolant in, cooling air, else ambient; null where they have none in common. */
export function coldSideOf(pulls: readonly AnalysedPull[], band: Band): ColdSide | null {
  const all = (key: string) => pulls.length > 0 && pulls.every(({ curve }) => curve && bandMean(curve, key, band) !== null);
  if (all('coolantInTemperature')) return 'coolantIn';
  if (all('coolingAirTemperature')) return 'coolingAir';
  return pulls.length > 0 && pulls.every(({ air }) => air) ? 'ambient' : null;
}

/** Mean temperature of a cold side in the band, °C. */
export function coldSideC({ curve, air }: AnalysedPull, side: ColdSide, band: Band): number | null {
  if (side === 'ambient') return air?.temperatureC ?? null;
  return curve && bandMean(curve, COLD_CHANNEL[side], band);
}
const COLD_CHANNEL = { coolantIn: 'coolantInTemperature', coolingAir: 'coolingAirTemperature' } as const;

/** Charge cooling of every setup whose compressor and cooler outlet temperatures are logged (formula i1, quasi-steady), all against one cold side. */
export function chargeCooling(
  bundle: Bundle,
  assumptions: Assumptions,
  pulls: readonly AnalysedPull[],
  setups: readonly string[],
  band: Band,
): ChargeCooling[] {
  const logged = pulls.filter(({ used, curve }) => used && curve?.channels.has('compressorOutTemperature'));
  const side = coldSideOf(logged, band);
  if (!side) return [];
  return setups.flatMap((setup) => {
    const own = logged.filter(({ pull }) => pull.setup === setup);
    const afterKey = own.every(({ curve }) => curve!.channels.has('coolerOutTemperature'))
      ? 'coolerOutTemperature'
      : chargeKeyOf(own, band);
    if (!afterKey) return [];
    const values = own.map((entry) => coolingOf(entry, band, side, afterKey)).filter((value) => value !== null);
    const first = values[0];
    if (!first) return [];
    const spread = meanInterval(values.map(({ effectiveness }) => effectiveness))!;
    const sensors = sensorHalf(bundle, assumptions, own[0]!, { side, afterKey, ...first });
    const wider = (limit: number | null) =>
      limit === null ? null : spread.value + Math.sign(limit - spread.value) * together(limit - spread.value, sensors);
    const meanOf = (list: (number | null)[]) => {
      const known = list.filter((value) => value !== null);
      return known.length === 0 ? null : mean(known);
    };
    const drop = meanOf(values.map(({ pressureDropPa }) => pressureDropPa));
    return [
      {
        setup,
        effectiveness: spread.value,
        low: wider(spread.low),
        high: wider(spread.high),
        coldSide: side,
        intakeAirRiseK: meanOf(values.map(({ riseK }) => riseK)),
        risePerKJ: meanOf(values.map(({ riseK, rejectedJ }) => (riseK === null || !rejectedJ ? null : riseK / (rejectedJ / 1000)))),
        pressureDropKPa: drop === null ? null : drop / 1000,
      },
    ];
  });
}

interface PullCooling {
  effectiveness: number;
  hotC: number;
  cooledC: number;
  coldC: number;
  riseK: number | null;
  rejectedJ: number | null;
  pressureDropPa: number | null;
}

function coolingOf(entry: AnalysedPull, band: Band, side: ColdSide, afterKey: string): PullCooling | null {
  const curve = entry.curve!;
  const before = curve.channels.get('compressorOutTemperature')!;
  const after = curve.channels.get(afterKey)!;
  const [hot, cooled] = [onBand(curve, before, band), onBand(curve, after, band)];
  const cold = side === 'ambient' ? hot.map(() => entry.air!.temperatureC) : onBand(curve, curve.channels.get(COLD_CHANNEL[side])!, band);
  let [known, effectiveness, hotC, cooledC, coldC] = [0, 0, 0, 0, 0];
  for (let i = 0; i < hot.length; i += 1) {
    const [before, after, around] = [hot[i]!, cooled[i]!, cold[i]!];
    if (!Number.isFinite(before + after + around)) continue;
    known += 1;
    effectiveness += (before - after) / (before - around);
    hotC += before;
    cooledC += after;
    coldC += around;
  }
  if (known === 0 || known < hot.length / 2) return null;
  return {
    effectiveness: effectiveness / known,
    hotC: hotC / known,
    cooledC: cooledC / known,
    coldC: coldC / known,
    riseK: intakeAirRiseK(entry),
    rejectedJ: rejectedHeatJ(entry, before, after),
    pressureDropPa: bandMean(curve, 'pressureDrop/cooler', band),
  };
}

/** What the three sensors may put into an effectiveness, as a half width at 95 %: ε = (T1 − T2)/(T1 − Tc), each derivative times its accuracy. */
function sensorHalf(
  bundle: Bundle,
  assumptions: Assumptions,
  { curve }: AnalysedPull,
  { side, afterKey, hotC, cooledC, coldC }: PullCooling & { side: ColdSide; afterKey: string },
): number {
  const accuracy = (key: string, reading: number) =>
    sensorOf(bundle, assumptions, curve!, key, reading)?.accuracy ?? assumptions.sensors.temperatureK;
  const span = hotC - coldC;
  const cold = accuracy(side === 'ambient' ? 'ambientTemperature' : COLD_CHANNEL[side], coldC);
  return together(
    (accuracy('compressorOutTemperature', hotC) * (cooledC - coldC)) / span ** 2,
    accuracy(afterKey, cooledC) / span,
    (cold * (hotC - cooledC)) / span ** 2,
  );
}

/** Heat that the charge gave up in the cooler over the sweep, J: ∫ ṁ·cp·ΔT dt, the time per grid step from the sweep's own length. */
function rejectedHeatJ({ curve }: AnalysedPull, before: Float64Array, after: Float64Array): number | null {
  const flow = curve!.channels.get('airMassFlow');
  const seconds = curve!.endS - curve!.startS;
  if (!flow || !Number.isFinite(seconds)) return null;
  const rates = Array.from(flow, (value, i) => value * DRY_AIR_SPECIFIC_HEAT * (before[i]! - after[i]!)).filter(Number.isFinite);
  return rates.length === 0 ? null : mean(rates) * seconds;
}
