import type { Bundle, PlanGate, PlanStop } from '@gezeit/contract';

/** Gates before a pull by kind of engine; none on a temperature that the part can shift where its own start is asked for. Assumptions. */
export function defaultGates({ vehicle, programme }: Pick<Bundle, 'vehicle' | 'programme'>): PlanGate[] {
  const own = programme.questions?.some(({ start }) => start === 'own') ?? false;
  const boosted = vehicle.aspiration !== 'na';
  return [
    { id: 'coolant', label: 'Coolant', target: 88, tolerance: 3, unit: '°C', must: true },
    { id: 'oil', label: 'Oil', target: 95, tolerance: 6, unit: '°C', must: false },
    { id: 'rest', label: 'Since the last pull', target: 5, tolerance: 1, unit: 'min', must: true, side: own ? 'within' : 'at-least' },
    ...(own
      ? []
      : [
          {
            id: 'intake',
            label: boosted ? 'Intake air above ambient' : 'Intake air above ambient, idling',
            target: boosted ? 8 : 12,
            tolerance: 4,
            unit: 'K',
            must: true,
            side: 'at-most',
          } as const,
        ]),
    { id: 'fan', label: 'Air speed at the opening', target: 60, tolerance: 5, unit: 'km/h', must: false },
  ];
}

/** A gate as it is offered; target and tolerance are assumptions to be changed. */
export type OfferedGate = Pick<PlanGate, 'label' | 'target' | 'tolerance' | 'unit' | 'side' | 'quantity'>;

/** Gates that can be added, by what they read: streamed by a device, or typed from an instrument of the cell. */
export const GATES_OFFERED: Readonly<Record<string, OfferedGate>> = {
  coolant: { label: 'Coolant', target: 88, tolerance: 3, unit: '°C', quantity: 'coolantTemperature' },
  oil: { label: 'Oil', target: 95, tolerance: 6, unit: '°C', quantity: 'oilTemperature' },
  head: { label: 'Cylinder head', target: 90, tolerance: 5, unit: '°C', quantity: null },
  intake: { label: 'Intake air above ambient', target: 8, tolerance: 4, unit: 'K', side: 'at-most', quantity: 'intakeAirTemperature' },
  inlet: { label: 'Inlet air above ambient', target: 3, tolerance: 3, unit: 'K', side: 'at-most', quantity: 'inletTemperature' },
  charge: {
    label: 'Charge air above ambient',
    target: 10,
    tolerance: 4,
    unit: 'K',
    side: 'at-most',
    quantity: 'coolerOutTemperature',
  },
  water: { label: 'Water into the charge cooler', target: 35, tolerance: 3, unit: '°C', quantity: 'coolantInTemperature' },
  coolingAir: { label: 'Cooling air before the core', target: 22, tolerance: 3, unit: '°C', quantity: 'coolingAirTemperature' },
  ambient: { label: 'Air in the cell', target: 22, tolerance: 4, unit: '°C', quantity: 'ambientTemperature' },
  humidity: { label: 'Humidity', target: 50, tolerance: 15, unit: '%', quantity: 'relativeHumidity' },
  rest: { label: 'Since the last pull', target: 5, tolerance: 1, unit: 'min', side: 'at-least', quantity: null },
  fan: { label: 'Air speed at the opening', target: 60, tolerance: 5, unit: 'km/h', quantity: null },
  fanPlace: { label: 'Fan to the opening', target: 1, tolerance: 0.05, unit: 'm', quantity: null },
  tyres: { label: 'Tyre pressure', target: 220, tolerance: 5, unit: 'kPa', quantity: null },
  tyreHeat: { label: 'Tyre temperature', target: 40, tolerance: 8, unit: '°C', quantity: null },
  fuel: { label: 'Fuel in the tank', target: 50, tolerance: 10, unit: '%', quantity: null },
};

/** Limits that can be added beside those proposed; the figures are assumptions to be changed. */
export const STOPS_OFFERED: Readonly<Record<string, Pick<PlanStop, 'label' | 'limit' | 'unit' | 'above' | 'quantity'>>> = {
  chargeOut: { label: 'Charge after the cooler', limit: 80, unit: '°C', above: true, quantity: 'coolerOutTemperature' },
  compressor: { label: 'Air after the compressor', limit: 180, unit: '°C', above: true, quantity: 'compressorOutTemperature' },
  intake: { label: 'Intake air', limit: 75, unit: '°C', above: true, quantity: 'intakeAirTemperature' },
  water: { label: 'Water out of the charge cooler', limit: 70, unit: '°C', above: true, quantity: 'coolantOutTemperature' },
  manifold: { label: 'Manifold pressure', limit: 250, unit: 'kPa', above: true, quantity: 'manifoldPressure' },
  shaft: { label: 'Compressor speed', limit: 180_000, unit: 'rpm', above: true, quantity: 'compressorSpeed' },
};
