import { decodeText } from '../text/decode.js';
import { GezeitError } from '../errors.js';
import { fromSi, toSi } from '../units/units.js';
import { unitFromText } from '../units/unit-spellings.js';
import Papa from 'papaparse';
import { MAP_REFERENCE, type MapReference } from './compression.js';

/** A measured point of a compressor map: corrected flow kg/s, ratio, efficiency 0 to 1, on a line of one speed, rpm. */
export interface MapPoint {
  speedRpm: number;
  flowKgS: number;
  ratio: number;
  efficiency: number;
}

export interface CompressorMap {
  name: string;
  reference: MapReference;
  points: MapPoint[];
}

/** Where an operating point lies on a map. */
export interface MapPlace {
  inside: boolean;
  /** In words where it leaves the map: beyond which edge. */
  edge: string | null;
  efficiency: number | null;
  speedRpm: number | null;
}

/** Lines of one speed, slowest first, each from surge to choke. */
export function speedLines({ points }: CompressorMap): { speedRpm: number; points: MapPoint[] }[] {
  const speeds = [...new Set(points.map(({ speedRpm }) => speedRpm))].sort((a, b) => a - b);
  return speeds.map((speedRpm) => ({
    speedRpm,
    points: points.filter((point) => point.speedRpm === speedRpm).sort((a, b) => a.flowKgS - b.flowKgS),
  }));
}

/** Efficiency and speed at a corrected flow, kg/s, and ratio: bilinear between speed lines at equal share of the way from surge to choke. */
export function placeOnMap(map: CompressorMap, flowKgS: number, ratio: number): MapPlace {
  const lines = speedLines(map);
  // The share of the way from surge to choke at which each line passes, and its ratio there.
  const surge = along(lines, 0, ratio);
  const choke = along(lines, 1, ratio);
  const top = lines.at(-1)!;
  const outside = (edge: string): MapPlace => ({ inside: false, edge, efficiency: null, speedRpm: null });
  if (ratio > Math.max(...top.points.map((point) => point.ratio))) return outside('above the fastest speed line: over-speed');
  if (surge !== null && flowKgS < surge.flowKgS) return outside('left of the surge line: surge');
  if (choke !== null && flowKgS > choke.flowKgS) return outside('right of the choke line: choke');
  if (ratio < Math.min(...lines[0]!.points.map((point) => point.ratio))) return outside('below the slowest speed line');
  let best: { miss: number; point: MapPoint } | null = null;
  for (let i = 0; i <= 100; i++) {
    const point = along(lines, i / 100, ratio);
    if (!point) continue;
    const miss = Math.abs(point.flowKgS - flowKgS);
    if (!best || miss < best.miss) best = { miss, point };
  }
  const reach = best && best.miss <= 0.03 * Math.max(...map.points.map((point) => point.flowKgS));
  if (!best || !reach) return outside(flowKgS > (choke?.flowKgS ?? 0) ? 'right of the choke line: choke' : 'between the lines’ ends');
  return { inside: true, edge: null, efficiency: best.point.efficiency, speedRpm: best.point.speedRpm };
}

/** The point of a ratio on the curve that joins the speed lines at one share of their way from surge to choke; null where none reaches it. */
function along(lines: { points: MapPoint[] }[], way: number, ratio: number): MapPoint | null {
  const joined = lines.map(({ points }) => onLine(points, way));
  for (let i = 1; i < joined.length; i++) {
    const [low, high] = [joined[i - 1]!, joined[i]!];
    if (ratio < Math.min(low.ratio, high.ratio) || ratio > Math.max(low.ratio, high.ratio)) continue;
    return mix(low, high, (ratio - low.ratio) / (high.ratio - low.ratio || 1));
  }
  return null;
}

function onLine(points: MapPoint[], way: number): MapPoint {
  const at = way * (points.length - 1);
  const i = Math.min(points.length - 2, Math.floor(at));
  return points.length === 1 ? points[0]! : mix(points[i]!, points[i + 1]!, at - i);
}

function mix(a: MapPoint, b: MapPoint, share: number): MapPoint {
  const between = (key: keyof MapPoint) => a[key] + share * (b[key] - a[key]);
  return { speedRpm: between('speedRpm'), flowKgS: between('flowKgS'), ratio: between('ratio'), efficiency: between('efficiency') };
}

const COLUMNS = [
  { key: 'speedRpm', words: /speed/i, unit: 'rpm' },
  { key: 'flowKgS', words: /flow/i, unit: 'kg/s' },
  { key: 'ratio', words: /ratio/i, unit: '–' },
  { key: 'efficiency', words: /efficien/i, unit: '–' },
] as const;

/**
 * Reads a map from CSV: a header with the words speed, flow, ratio and efficiency, units in brackets; lines before it may state the
 * reference ("reference temperature [K]; 298").
 * @throws GezeitError naming the row and column that cannot be read.
 */
export function readCompressorMap(bytes: Uint8Array, file: string): CompressorMap {
  const { text } = decodeText(bytes, file);
  const rows = Papa.parse<string[]>(text, { skipEmptyLines: 'greedy' }).data.map((row) => row.map((cell) => cell.trim()));
  const header = rows.findIndex((row) => COLUMNS.every(({ words }) => row.some((cell) => words.test(cell))));
  if (header < 0) {
    const next = 'The first row names speed, flow, pressure ratio and efficiency, each with its unit in brackets.';
    throw new GezeitError('no-map', 'This is no compressor map.', next, { file });
  }
  const reference = { ...MAP_REFERENCE };
  for (const [label, value] of rows.slice(0, header)) {
    const amount = Number(value?.replace(',', '.'));
    const unit = unitFromText(/\[([^\]]+)\]/.exec(label ?? '')?.[1] ?? '');
    if (!Number.isFinite(amount) || !unit) continue;
    // A temperature is kept in °C inside; the reference is an absolute one.
    if (/temperature/i.test(label!)) reference.temperatureK = toSi(amount, unit) + 273.15;
    if (/pressure/i.test(label!)) reference.pressurePa = toSi(amount, unit);
  }
  const places = COLUMNS.map(({ key, words, unit }) => {
    const position = rows[header]!.findIndex((cell) => words.test(cell));
    const stated = /\[([^\]]+)\]/.exec(rows[header]![position]!)?.[1];
    const percent = stated === '%';
    return { key, position, unit: percent ? null : ((stated ? unitFromText(stated) : null) ?? unit), percent };
  });
  const points = rows.slice(header + 1).map((row, i) => {
    const cell = (place: (typeof places)[number]) => {
      const value = Number(row[place.position]?.replace(',', '.'));
      if (row[place.position] === undefined || row[place.position] === '' || !Number.isFinite(value))
        throw new GezeitError('cell-not-a-number', `“${row[place.position] ?? ''}” is no number.`, 'Correct the file.', {
          file,
          row: header + 2 + i,
          column: place.key,
        });
      return place.percent ? value / 100 : toSi(value, place.unit!);
    };
    const [speedRpm, flowKgS, ratio, efficiency] = places.map(cell) as [number, number, number, number];
    return { speedRpm, flowKgS, ratio, efficiency };
  });
  if (new Set(points.map(({ speedRpm }) => speedRpm)).size < 2)
    throw new GezeitError('no-map', 'A map needs two speed lines or more.', 'Add lines.', { file });
  return { name: file.replace(/\.[^.]+$/, ''), reference, points };
}

/** The map as CSV, as {@link readCompressorMap} reads it. */
export function compressorMapCsv({ reference, points }: CompressorMap): string {
  return [
    `reference temperature [K],${reference.temperatureK}`,
    `reference pressure [kPa],${fromSi(reference.pressurePa, 'kPa')}`,
    'shaft speed [rpm],corrected flow [kg/s],pressure ratio [-],efficiency [-]',
    ...points.map(({ speedRpm, flowKgS, ratio, efficiency }) => [speedRpm, flowKgS, ratio, efficiency].join(',')),
    '',
  ].join('\n');
}

/** An invented compressor, for trying the instrument: lines of five speeds from a smooth rule, not a real map. */
export function inventedCompressorMap(): CompressorMap {
  const points: MapPoint[] = [];
  for (const [line, speedRpm] of [80_000, 105_000, 130_000, 150_000, 168_000].entries()) {
    const u = speedRpm / 168_000;
    for (let i = 0; i < 7; i++) {
      const way = i / 6;
      const flowKgS = u ** 1.15 * (0.055 + 0.02 * line * 0.4 + way * (0.125 + 0.025 * line));
      const ratio = 1 + 1.95 * u ** 2.1 * (1 - 0.34 * way ** 2.6);
      const efficiency = 0.775 - 0.32 * (way - 0.5) ** 2 - 0.2 * (u - 0.8) ** 2 - 0.06 * way ** 4;
      points.push({ speedRpm, flowKgS: round(flowKgS, 4), ratio: round(ratio, 3), efficiency: round(efficiency, 3) });
    }
  }
  return { name: 'Tramontane wheel, invented', reference: { ...MAP_REFERENCE }, points };
}

const round = (value: number, digits: number) => Number(value.toFixed(digits));
