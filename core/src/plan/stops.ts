import type { Bundle, PlanStop } from '@gezeit/contract';

/** A limit that somebody watches by eye: no device streams it, and it has no figure. */
const byEye = (id: string, label: string): PlanStop => ({ id, label, limit: null, unit: '–', quantity: null, above: true });

/**
 * Limits at which the day stops, by kind of engine; a figure that is null must be filled in before the first pull. A diesel runs lean by nature:
 * it is stopped for heat, smoke, rail pressure and runaway, never for its mixture. The figures are assumptions to be changed.
 */
export function defaultStops({ vehicle }: Pick<Bundle, 'vehicle'>): PlanStop[] {
  const boosted = vehicle.aspiration !== 'na';
  const exhaust: PlanStop = { id: 'exhaust', label: 'Exhaust before the turbine', limit: null, unit: '°C', quantity: null, above: true };
  const heat: PlanStop[] = [
    ...(boosted ? [{ id: 'boost', label: 'Manifold pressure over its target', limit: 15, unit: 'kPa', above: true }] : []),
    { id: 'coolant', label: 'Coolant', limit: 110, unit: '°C', above: true },
    { id: 'oil', label: 'Oil', limit: 140, unit: '°C', above: true },
  ];
  const codes: PlanStop = { id: 'codes', label: 'New engine fault codes', limit: 0, unit: '–', quantity: null, above: true };
  if (vehicle.ignition === 'compression')
    return [
      boosted ? exhaust : { ...exhaust, label: 'Exhaust at the manifold' },
      byEye('smoke', 'Smoke, more than a haze'),
      { id: 'rail', label: 'Rail pressure over its target', limit: 10, unit: '%', quantity: null, above: true },
      byEye('runaway', 'It runs on by itself: shut its air off'),
      ...heat,
      codes,
    ];
  return [
    { id: 'lambda', label: 'Lambda at full load', limit: 0.95, unit: '–', above: true },
    { id: 'knock', label: 'Spark pulled by knock', limit: 6, unit: '°', above: true },
    byEye('misfire', boosted ? 'Misfire, or ignition that breaks down at boost' : 'Misfire, or ignition that breaks down under load'),
    ...heat,
    ...(boosted ? [exhaust] : []),
    codes,
  ];
}
