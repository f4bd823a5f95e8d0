import type { Bundle } from '@gezeit/contract';
import type { PartSet } from './car.js';
import { engineLike, stockLike } from './engines.js';
import { Random } from './random.js';
import type { RigSpec } from './rig.js';

/** What a part of the rig may truly give: breathing better by so much at best, and worse. */
const GAIN = { least: -0.004, most: 0.03 };

/** The rig for a programme's car: stock parts on references, and on every other setup a part whose gain only the seed knows. */
export function rigCell(bundle: Pick<Bundle, 'vehicle' | 'programme' | 'setups'>, seed: number): RigSpec {
  const engine = engineLike(bundle.vehicle);
  const stock = stockLike(bundle.vehicle);
  const middleRpm = (bundle.programme.bandRpm[0] + bundle.programme.bandRpm[1]) / 2;
  const weather = new Random(seed + 5);
  const setups = bundle.setups.map(({ id, reference, state }, i): [string, PartSet] => {
    if (reference) return [id, stock];
    const random = new Random(seed * 31 + 7 + i);
    const gain = (stock.tuning?.gain ?? 0) + random.between(GAIN.least, GAIN.most);
    const boxed = { ...stock, bayShare: stock.bayShare * random.between(0.3, 1) };
    return [
      id,
      { ...boxed, tuning: { gain, rpm: middleRpm, widthRpm: 1e6 }, tune: { ...stock.tune, boostFactor: boostOf(state, bundle) } },
    ];
  });
  return {
    seed,
    engine,
    setups: Object.fromEntries(setups),
    scatter: {
      runToRun: 0.004,
      boostWander: engine.boost ? 0.0025 : 0,
      driftPerHour: 0.006,
      walkAtSwap: 0.002,
      weatherPerHour: { temperatureK: 0.8, pressurePa: 50, humidity: 0.02 },
    },
    weather: {
      temperatureC: weather.between(14, 24),
      pressurePa: weather.between(98_500, 101_500),
      relativeHumidity: weather.between(0.35, 0.65),
    },
    fitted: bundle.setups.find(({ reference }) => reference)?.id ?? bundle.setups[0]!.id,
    coldC: 45,
  };
}

/** Another tune than the reference's holds a little more boost: a changed map is to be seen in the logs. */
function boostOf(state: Record<string, unknown>, { setups }: Pick<Bundle, 'setups'>): number {
  const usual = setups.find(({ reference }) => reference)?.state.tune;
  return state['tune'] !== undefined && usual !== undefined && state['tune'] !== usual ? 1.03 : 1;
}
