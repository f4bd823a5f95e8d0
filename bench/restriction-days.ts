import { analyseMeasured, measurePulls } from '@gezeit/core';
import { Random } from '@gezeit/core/simulate';
import { changeChannel, checkDay, pullsOf, sweepOf, type CheckDay } from './check-days.js';

/** What sensors may be off by, ± at 95 %, as the judgement assumes it: Pa, and a share of the reading. */
const SENSORS = { dropPa: 50, flowShare: 0.02 };

export interface RestrictionDay {
  day: CheckDay;
  section: string;
  /** Effective area of the turbulent part, cm². */
  areaCm2: number;
  /** Change of the drop at a step, per cent; null where there is none. */
  stepPct: number | null;
}

/** A day whose sensors are off by what they may be, the same in every pull; with a flap in one section, or without. */
export function restrictionDay(seed: number, flapPct: number | null): RestrictionDay {
  const random = new Random(seed * 7877 + 5);
  const section = random.pick(['filter', 'duct']);
  const areaM2 = random.between(1.8e-3, 4e-3);
  const laminarShare = section === 'filter' ? random.between(0.1, 0.6) : 0;
  const clean = checkDay(300_000 + seed, {
    order: random.pick(['AABB', 'AAABBB', 'ABBA', 'AAAABB']),
    setups: (stock) => {
      const inlet = stock.inlet.map((own) => (own.name === section ? { ...own, areaM2, laminarShare } : own));
      return { A: { ...stock, inlet }, B: stock };
    },
  });
  const offsetPa = random.normal(SENSORS.dropPa / 1.96);
  const gain = 1 + random.normal(SENSORS.flowShare / 1.96);
  const [low, high] = clean.bundle.programme.bandRpm;
  const flapRpm = random.between(low - 200, high - 700);
  const day = pullsOf(clean, 'A').reduce((now, pull) => {
    const fromS = sweepOf(clean, pull).atRpm(flapRpm);
    const flapped = changeChannel(now, pull, { quantity: 'pressureDrop', section }, (value, atS) => {
      const drop = flapPct !== null && atS >= fromS ? value * (1 + flapPct / 100) : value;
      return drop + offsetPa;
    });
    return changeChannel(flapped, pull, { quantity: 'airMassFlow' }, (value) => value * gain);
  }, clean);
  return { day, section, areaCm2: (areaM2 / Math.sqrt(1 - laminarShare)) * 1e4, stepPct: flapPct };
}

/** What was found of the section of setup A. */
export function restrictionFound({ day, section }: RestrictionDay, sensorsAreExact = false) {
  const bundle = sensorsAreExact ? { ...day.bundle, assumptions: { dropAccuracy: 0, flowAccuracy: 0 } } : day.bundle;
  const { restriction } = analyseMeasured(bundle, measurePulls(bundle, day.tables)).findings;
  return restriction.find((entry) => entry.setup === 'A' && entry.section === section)!;
}
