import { CHECKLISTS, type Bundle, type ChecklistItem, type ChecklistName, type PlanGate, type PlanStop } from '@gezeit/contract';

/** Gates before a pull by kind of engine; none on a temperature that the part can shift where its own start is asked for. Assumptions. */
export function defaultGates({ vehicle, programme }: Pick<Bundle, 'vehicle' | 'programme'>): PlanGate[] {
  const own = programme.questions?.some(({ start }) => start === 'own') ?? false;
  const boosted = vehicle.aspiration !== 'na';
  return [
    { id: 'coolant', label: 'Coolant', target: 88, tolerance: 3, unit: '°C', must: true },
    { id: 'oil', label: 'Oil', target: 95, tolerance: 6, unit: '°C', must: false },
    { id: 'rest', label: 'Since the last pull', target: 5, tolerance: 1, unit: 'min', must: own, side: own ? 'within' : 'at-least' },
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

/** Limits at which the day stops, by kind of engine; what is null must be filled in before the first pull. */
export function defaultStops({ vehicle }: Pick<Bundle, 'vehicle'>): PlanStop[] {
  return [
    { id: 'lambda', label: 'Lambda at full load', limit: 0.95, unit: '–', above: true },
    { id: 'knock', label: 'Spark pulled by knock', limit: 6, unit: '°', above: true },
    ...(vehicle.aspiration === 'na'
      ? []
      : [{ id: 'boost', label: 'Manifold pressure over its target', limit: 15, unit: 'kPa', above: true }]),
    { id: 'coolant', label: 'Coolant', limit: 110, unit: '°C', above: true },
    { id: 'oil', label: 'Oil', limit: 140, unit: '°C', above: true },
    ...(vehicle.aspiration === 'na' ? [] : [{ id: 'exhaust', label: 'Exhaust before the turbine', limit: null, unit: '°C', above: true }]),
    { id: 'codes', label: 'New engine fault codes', limit: 0, unit: '–', above: true },
  ];
}

const safe = (id: string, text: string): ChecklistItem => ({ id, text, safety: true });
const item = (id: string, text: string): ChecklistItem => ({ id, text, safety: false });

/** The checklists of a day; what is marked as safety cannot be taken off, only added to. Local codes and licensed practice come first. */
const CHECKLIST_ITEMS: Record<ChecklistName, readonly ChecklistItem[]> = {
  beforeDay: [
    safe('straps', 'Straps sound and tight; checked again after the first pulls'),
    safe('tyres', 'Tyres: condition, speed rating, pressure and temperature'),
    safe('exhaust', 'Exhaust extraction runs, CO alarm on'),
    safe('people', 'Nobody in line with wheels or straps; hearing protection worn'),
    safe('stop', 'Emergency stop shown to everyone; fire extinguisher at hand; no fuel leak'),
    safe('criteria', 'Stop criteria read out and agreed'),
    item('fuel', 'Fuel level and batch noted'),
    item('battery', 'Battery charger on'),
    item('air', 'Air conditioning off'),
    item('odometer', 'Odometer and ECU software noted'),
    item('mode', 'Drive mode and driver aids as planned'),
  ],
  beforePull: [
    safe('clear', 'Area clear, door shut'),
    item('setup', 'Right setup and map version'),
    item('log', 'Loggers running'),
    item('fan', 'Fan on, in its place'),
  ],
  afterSwap: [
    item('reset', 'Said whether the engine’s control unit has lost what it had learned'),
    safe('fitted', 'Clamps tight, nothing left in the tract, nothing loose near belts or fans'),
    item('leak', 'No whistle, trims at idle as before'),
    item('sensors', 'Sensors in their places, pressures read zero'),
  ],
  atEnd: [
    item('tune', 'Tune put back'),
    item('bypassed', 'Whatever was switched off, bypassed or unplugged is as it was'),
    item('aids', 'Driver aids on again'),
    safe('lawful', 'Everything that the law asks of a road car is fitted and works'),
    item('hoses', 'Borrowed hoses and sensors returned'),
    safe('wheels', 'Wheels and straps: bolts to torque, nothing left under the car'),
  ],
};

/** A plan's checklist, with every safety item that is missing put in front. */
export function checklist(bundle: Pick<Bundle, 'plan'>, name: ChecklistName): ChecklistItem[] {
  const own = bundle.plan?.checklists?.[name];
  if (!own) return [...CHECKLIST_ITEMS[name]];
  const missing = CHECKLIST_ITEMS[name].filter(({ id, safety }) => safety && !own.some((entry) => entry.id === id));
  const safety = new Map(CHECKLIST_ITEMS[name].filter((entry) => entry.safety).map((entry) => [entry.id, entry]));
  // A safety item keeps its words and its mark whatever a bundle says of it.
  return [...missing, ...own.map((entry) => safety.get(entry.id) ?? { ...entry, safety: false })];
}

/** Words of the checklists, in the order of the day. */
export const CHECKLIST_WORDS: Record<ChecklistName, string> = {
  beforeDay: 'Before the day',
  beforePull: 'Before each pull',
  afterSwap: 'After a swap',
  atEnd: 'At the end: put back',
};

/** All checklists of a plan. */
export function checklists(bundle: Pick<Bundle, 'plan'>): { name: ChecklistName; title: string; items: ChecklistItem[] }[] {
  return CHECKLISTS.map((name) => ({ name, title: CHECKLIST_WORDS[name], items: checklist(bundle, name) }));
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
