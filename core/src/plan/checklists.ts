import { CHECKLISTS, type Bundle, type Cell, type ChecklistItem, type ChecklistName } from '@gezeit/contract';

const safe = (id: string, text: string): ChecklistItem => ({ id, text, safety: true });
const item = (id: string, text: string): ChecklistItem => ({ id, text, safety: false });

/** Places where cars are run, as far as safety goes. */
type Place = 'rollers' | 'hub' | 'engine' | 'road' | 'track';
const PLACE_OF: Record<NonNullable<Cell['kind']>, Place> = {
  inertia: 'rollers',
  brake: 'rollers',
  hub: 'hub',
  engine: 'engine',
  road: 'road',
  track: 'track',
};

const EXHAUST = safe('exhaust', 'Exhaust extraction runs, CO alarm on');
const STOP = safe('stop', 'Emergency stop shown to everyone; fire extinguisher at hand; no fuel leak');
const CRITERIA = safe('criteria', 'Stop criteria read out and agreed');
const TYRES = safe('tyres', 'Tyres: condition, speed rating, pressure and temperature');
const ON_THE_WAY = [safe('stop', 'Fire extinguisher in the car, belts worn; no fuel leak'), CRITERIA];

/** What safety asks before the day, by place. */
const SAFE_BEFORE: Record<Place, readonly ChecklistItem[]> = {
  rollers: [
    safe('straps', 'Straps sound and tight; checked again after the first pulls'),
    TYRES,
    EXHAUST,
    safe('people', 'Nobody in line with wheels or straps; hearing protection worn'),
    STOP,
    CRITERIA,
  ],
  hub: [
    safe('hubs', 'Hub adapters bolted to torque; the car held and on its stands'),
    EXHAUST,
    safe('people', 'Nobody beside the hubs or in line with the shafts; hearing protection worn'),
    STOP,
    CRITERIA,
  ],
  engine: [
    safe('guard', 'Shaft guard closed and bolted; coupling and mounts checked'),
    safe('fuelCut', 'Fuel cut-off tried before the first start'),
    EXHAUST,
    safe('people', 'Nobody in the cell while it runs; hearing protection worn'),
    STOP,
    CRITERIA,
  ],
  road: [
    safe('closedRoad', 'The road is closed to others, with permission: never at speed on a public road'),
    safe('second', 'A second person reads the laptop; the driver only drives'),
    safe('dry', 'Road dry, clear, and long enough to stop'),
    TYRES,
    ...ON_THE_WAY,
  ],
  track: [
    safe('inspected', 'Car inspected: wheels, brakes, fluids, belts, nothing loose inside'),
    safe('fuelCans', 'Fuel cans closed, away from hot parts and from people'),
    safe('rules', 'Rules, flags and marshals of the track known to the driver'),
    TYRES,
    ...ON_THE_WAY,
  ],
};

const CAR_BEFORE = [
  item('fuel', 'Fuel level and batch noted'),
  item('air', 'Air conditioning off'),
  item('odometer', 'Odometer and ECU software noted'),
  item('mode', 'Drive mode and driver aids as planned'),
];
const OPEN_BEFORE: Record<Place, readonly ChecklistItem[]> = {
  rollers: [item('battery', 'Battery charger on'), ...CAR_BEFORE],
  hub: [item('battery', 'Battery charger on'), ...CAR_BEFORE],
  engine: [item('fuel', 'Fuel level and batch noted'), item('software', 'ECU software noted')],
  road: CAR_BEFORE,
  track: CAR_BEFORE,
};

const CLEAR: Record<Place, ChecklistItem> = {
  rollers: safe('clear', 'Area clear, door shut'),
  hub: safe('clear', 'Area clear, door shut'),
  engine: safe('clear', 'Cell empty, door shut'),
  road: safe('clear', 'Road ahead clear, seen by both'),
  track: safe('clear', 'Track clear, signal given'),
};

const IN_A_CELL: readonly Place[] = ['rollers', 'hub', 'engine'];

/** What can hurt somebody while parts are changed; it holds for a setup that is never for sale as well. */
function beforeSwap(place: Place): ChecklistItem[] {
  return [
    safe('stopped', 'Engine off and stopped turning; key out'),
    safe('hot', 'Hot parts and the coolant circuit left to cool: no hot circuit is opened'),
    ...(place === 'rollers' ? [safe('free', 'Wheels stand still on the rollers, rollers locked; nobody reaches past them')] : []),
    safe('fans', 'Fans that start by themselves unplugged, or hands kept clear of them'),
    safe('loose', 'Nothing loose near the intake: no rag, no tool, no cap'),
    safe('openCompressor', 'Hands, hair and clothes away from an open compressor or intake while the engine can turn'),
  ];
}

const WHEELS: Record<Place, ChecklistItem> = {
  rollers: safe('wheels', 'Wheels and straps: bolts to torque, nothing left under the car'),
  hub: safe('wheels', 'Wheels back on: bolts to torque, nothing left under the car'),
  engine: safe('isolated', 'Fuel and battery isolated, guard closed'),
  road: safe('wheels', 'Wheels: bolts to torque, nothing left in the engine bay'),
  track: safe('wheels', 'Wheels: bolts to torque, nothing left in the engine bay'),
};

/** The checklists by place; what is marked as safety cannot be taken off, only added to. Local codes and licensed practice come first. */
function checklistItems(place: Place): Record<ChecklistName, readonly ChecklistItem[]> {
  return {
    beforeDay: [...SAFE_BEFORE[place], ...OPEN_BEFORE[place]],
    beforePull: [
      CLEAR[place],
      item('setup', 'Right setup and map version'),
      item('log', 'Loggers running'),
      ...(IN_A_CELL.includes(place) ? [item('fan', 'Fan on, in its place')] : []),
    ],
    beforeSwap: beforeSwap(place),
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
      WHEELS[place],
    ],
  };
}

type WithCell = Pick<Bundle, 'plan' | 'cell' | 'cells'>;
const placeOf = ({ cell, cells }: WithCell): Place => {
  const kind = (cells?.[0] ?? cell)?.kind;
  return kind ? PLACE_OF[kind] : 'rollers';
};

/** A plan's checklist for the kind of its cell, with every safety item that is missing put in front. */
export function checklist(bundle: WithCell, name: ChecklistName): ChecklistItem[] {
  const proposed = checklistItems(placeOf(bundle))[name];
  const own = bundle.plan?.checklists?.[name];
  if (!own) return [...proposed];
  const missing = proposed.filter(({ id, safety }) => safety && !own.some((entry) => entry.id === id));
  const safety = new Map(proposed.filter((entry) => entry.safety).map((entry) => [entry.id, entry]));
  // A safety item keeps its words and its mark whatever a bundle says of it; one of another kind of cell is an item like any other.
  return [...missing, ...own.map((entry) => safety.get(entry.id) ?? { ...entry, safety: false })];
}

/** Words of the checklists, in the order of the day. */
export const CHECKLIST_WORDS: Record<ChecklistName, string> = {
  beforeDay: 'Before the day',
  beforePull: 'Before each pull',
  beforeSwap: 'Before a swap',
  afterSwap: 'After a swap',
  atEnd: 'At the end: put back',
};

/** All checklists of a plan. */
export function checklists(bundle: WithCell): { name: ChecklistName; title: string; items: ChecklistItem[] }[] {
  return CHECKLISTS.map((name) => ({ name, title: CHECKLIST_WORDS[name], items: checklist(bundle, name) }));
}
