import { DRY_AIR_GAS_CONSTANT } from '../air/moist-air.js';
import { CELSIUS_ZERO_K } from '../air/saturation.js';
import type { PartSet, Weather } from './car.js';
import { Random } from './random.js';
import { sectionDrop } from './sweep.js';

/** A row of a flow-bench sheet, in the unit kept inside. */
export interface SheetReading {
  [column: string]: string | number | null;
  role: 'part' | 'leak' | 'plate';
  item: string;
  /** Pa, m³/s, °C. */
  depression: number;
  flow: number;
  temperature: number | null;
}

/** Relative scatter of a flow reading, and the leak of the bench as an area, m². */
const READING_NOISE = 0.003;
const LEAK_M2 = 0.35e-4;
const PLATE = { diameterM: 0.05, discharge: 0.6 };

/**
 * A sheet of a simulated flow bench: check plate first and last, leakage, each section at several test depressions with a repeat; the
 * bench leaks and scatters, and its air is that of the room.
 */
export function flowBenchSheet(
  sections: readonly { item: string; section: PartSet['inlet'][number] }[],
  room: Weather,
  seed: number,
): SheetReading[] {
  const random = new Random(seed);
  const density = room.pressurePa / (DRY_AIR_GAS_CONSTANT * (room.temperatureC + CELSIUS_ZERO_K));
  const leak = (depression: number) => LEAK_M2 * Math.sqrt((2 * depression) / density);
  const row = (role: SheetReading['role'], item: string, depression: number, net: number): SheetReading => ({
    role,
    item,
    depression,
    flow: Number(((net + (role === 'leak' ? 0 : leak(depression))) * (1 + random.normal(READING_NOISE))).toPrecision(5)),
    temperature: null,
  });
  const plate = () => {
    const expansion = 1 - 0.351 * (1 - (1 - 2500 / room.pressurePa) ** (1 / 1.4));
    const flow = PLATE.discharge * (Math.PI / 4) * PLATE.diameterM ** 2 * Math.sqrt(5000 / density) * expansion;
    return row('plate', 'check plate', 2500, flow - leak(2500));
  };
  const parts = sections.flatMap(({ item, section }) =>
    [1200, 2500, 2500, 4000, 6000].map((depression) => row('part', item, depression, flowAt(section, depression, room) / density)),
  );
  return [plate(), row('leak', 'blanked', 2500, leak(2500)), ...parts, plate()];
}

/** Mass flow, kg/s, at which a section takes a depression, Pa: by bisection, since the truth knows only the other way. */
function flowAt(section: PartSet['inlet'][number], depressionPa: number, room: Weather): number {
  let [low, high] = [0, 2];
  for (let i = 0; i < 80; i++) {
    const middle = (low + high) / 2;
    if (sectionDrop(section, middle, room) < depressionPa) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
