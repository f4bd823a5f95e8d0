import type { Tide } from '@gezeit/contract';
import { spreadApart } from '../../shared/charts/spread-apart.js';

/** A stretch of clock time and where it lies on the strip, px. Days far apart are drawn side by side with a break between. */
interface TimeSegment {
  fromMs: number;
  toMs: number;
  fromX: number;
  toX: number;
}

export interface TideGeometry {
  segments: TimeSegment[];
  x(ms: number): number;
  y(kelvin: number): number;
  /** Bottom of the water, px. */
  groundY: number;
  levels: number[];
  hours: { ms: number; x: number }[];
  /** Ground of one setup after another; what is written under one has room as far as the next. */
  blocks: { setup: string; fromX: number; toX: number; roomPx: number }[];
  /** Posts that would touch are spread a little: their heads' x. */
  headX: Map<string, number>;
}

export const TIDE_SIZE = { left: 40, right: 12, top: 46, waterHeight: 74, bottom: 44, breakWidth: 34 };
const DAY_BREAK_MS = 6 * 3_600_000;
const EDGE_MS = 4 * 60_000;
const HEAD_SPACING = 22;
const HEAD_WIDTH = 19;

/** Lays a tide out on a strip of a width. */
export function tideGeometry(tide: Tide, width: number): TideGeometry {
  const segments = timeSegments(tide, width);
  const x = (ms: number): number => {
    const segment = segments.find(({ toMs }) => ms <= toMs) ?? segments.at(-1)!;
    const share = (ms - segment.fromMs) / (segment.toMs - segment.fromMs);
    return segment.fromX + share * (segment.toX - segment.fromX);
  };
  const values = tide.stretches.flatMap(({ valueK }) => valueK);
  const highest = Math.max(10, ...values);
  const lowest = Math.min(0, ...values);
  const groundY = TIDE_SIZE.top + TIDE_SIZE.waterHeight;
  const y = (kelvin: number) => groundY - ((kelvin - lowest) / (highest - lowest)) * TIDE_SIZE.waterHeight;
  return {
    segments,
    x,
    y,
    groundY,
    levels: niceLevels(lowest, highest),
    hours: segments.flatMap((segment) => wholeTimes(segment, width).map((ms) => ({ ms, x: x(ms) }))),
    blocks: setupBlocks(tide.pulls, x, width),
    headX: spreadHeads(tide.pulls, x, width),
  };
}

function timeSegments({ pulls }: Tide, width: number): TimeSegment[] {
  const spans: [number, number][] = [];
  for (const { startMs, endMs } of pulls) {
    const last = spans.at(-1);
    if (last && startMs - last[1] < DAY_BREAK_MS) last[1] = Math.max(last[1], endMs);
    else spans.push([startMs, endMs]);
  }
  const padded = spans.map(([from, to]): [number, number] => [from - EDGE_MS, to + EDGE_MS]);
  const total = padded.reduce((sum, [from, to]) => sum + to - from, 0);
  const whole = width - TIDE_SIZE.left - TIDE_SIZE.right;
  // Many days on a narrow strip: the breaks give way, never the pulls.
  const breakWidth = Math.min(TIDE_SIZE.breakWidth, (0.4 * whole) / Math.max(1, padded.length - 1));
  const room = whole - (padded.length - 1) * breakWidth;
  let at = TIDE_SIZE.left;
  return padded.map(([fromMs, toMs]) => {
    const toX = at + (room * (toMs - fromMs)) / total;
    const segment = { fromMs, toMs, fromX: at, toX };
    at = toX + breakWidth;
    return segment;
  });
}

function niceLevels(lowest: number, highest: number): number[] {
  const step = [5, 10, 20, 50].find((candidate) => (highest - lowest) / candidate <= 4) ?? 100;
  const levels: number[] = [];
  for (let level = Math.ceil(lowest / step) * step; level <= highest; level += step) levels.push(level);
  return levels;
}

const MINUTE_MS = 60_000;

function wholeTimes({ fromMs, toMs, fromX, toX }: TimeSegment, width: number): number[] {
  const wanted = Math.max(2, Math.floor((toX - fromX) / Math.max(90, width / 14)));
  const step = [5, 10, 15, 30, 60, 120].find((minutes) => (toMs - fromMs) / (minutes * MINUTE_MS) <= wanted) ?? 240;
  const times: number[] = [];
  for (let ms = Math.ceil(fromMs / (step * MINUTE_MS)) * step * MINUTE_MS; ms <= toMs; ms += step * MINUTE_MS) times.push(ms);
  return times;
}

/** Consecutive pulls of one setup make one block of ground; a swap is a break in it. */
export function setupBlocks(
  pulls: readonly Pick<Tide['pulls'][number], 'setup' | 'startMs' | 'endMs'>[],
  x: TideGeometry['x'],
  width: number,
): TideGeometry['blocks'] {
  const blocks: { setup: string; fromX: number; toX: number; lastMs: number }[] = [];
  for (const { setup, startMs, endMs } of pulls) {
    const last = blocks.at(-1);
    if (last && last.setup === setup && startMs - last.lastMs < DAY_BREAK_MS) {
      last.toX = x(endMs) + 6;
      last.lastMs = endMs;
    } else blocks.push({ setup, fromX: x(startMs) - 6, toX: x(endMs) + 6, lastMs: endMs });
  }
  return blocks.map(({ setup, fromX, toX }, i) => ({ setup, fromX, toX, roomPx: (blocks[i + 1]?.fromX ?? width) - fromX }));
}

/** Where the heads of posts stand: apart from each other, and inside of the strip. */
export function spreadHeads(
  pulls: readonly Pick<Tide['pulls'][number], 'id' | 'startMs'>[],
  x: TideGeometry['x'],
  width: number,
): TideGeometry['headX'] {
  const places = spreadApart(
    pulls.map(({ startMs }) => x(startMs)),
    HEAD_SPACING,
    TIDE_SIZE.left,
    width - TIDE_SIZE.right,
  );
  return new Map(pulls.map(({ id }, i) => [id, places[i]!]));
}

/** A strip is never so narrow that its heads would lie on each other, px: a narrow window moves along it. */
export const leastTideWidth = (posts: number): number => TIDE_SIZE.left + TIDE_SIZE.right + HEAD_WIDTH * posts;

/** SVG path through points. */
export function linePath(xs: number[], ys: number[]): string {
  return xs.map((at, i) => `${i === 0 ? 'M' : 'L'}${at.toFixed(1)} ${ys[i]!.toFixed(1)}`).join('');
}
