import { spreadApart } from '../../shared/charts/spread-apart.js';
import type { StagedPull } from '../../model/staged-pulls.js';

/** Where the posts of a day stand on a strip of a width, px, and the ground of each setup between them. */
export interface StripGeometry {
  posts: { key: string; x: number }[];
  grounds: { setup: string; fromX: number; toX: number }[];
  ticks: { x: number; label: string }[];
}

export const STRIP = { left: 150, right: 16, top: 34, rowHeight: 26, bottom: 26 };
const CLOSEST_PX = 22;

/** Lays pulls out by their time; where they would touch they are spread, and their order stays. */
export function stripGeometry(pulls: readonly StagedPull[], width: number, startMs: number | null, timeZone: string): StripGeometry {
  const room = width - STRIP.left - STRIP.right;
  const last = pulls.at(-1)?.atS ?? 0;
  const margin = 0.04 * room;
  const x = (atS: number) => STRIP.left + margin + (last > 0 ? (atS / last) * (room - 2 * margin) : room / 2);
  // Many pulls stand closer than a hand would like, rather than outside of the strip.
  const closest = Math.min(CLOSEST_PX, room / Math.max(1, pulls.length));
  const places = spreadApart(
    pulls.map(({ atS }) => x(atS)),
    closest,
    STRIP.left,
    width - STRIP.right - closest / 2,
  );
  const posts = pulls.map(({ key }, i) => ({ key, x: places[i]! }));
  const grounds: StripGeometry['grounds'] = [];
  pulls.forEach(({ setup }, i) => {
    const here = posts[i]!.x;
    const next = posts[i + 1]?.x;
    const toX = next === undefined ? here + CLOSEST_PX / 2 : (here + next) / 2;
    const before = grounds.at(-1);
    if (before?.setup === setup) before.toX = toX;
    else grounds.push({ setup, fromX: before?.toX ?? here - CLOSEST_PX / 2, toX });
  });
  return { posts, grounds, ticks: last > 0 ? ticksOf(last, x, startMs, timeZone) : [] };
}

const STEPS_S = [10, 30, 60, 300, 600, 900, 1800, 3600, 7200, 14_400, 43_200, 86_400];
const MOST_TICKS = 9;
/** What is written at a tick, and a gap, px. */
const TICK_PX = 64;

function ticksOf(lastS: number, x: (atS: number) => number, startMs: number | null, timeZone: string): StripGeometry['ticks'] {
  const most = Math.min(MOST_TICKS, (x(lastS) - x(0)) / TICK_PX);
  const step = STEPS_S.find((candidate) => lastS / candidate <= most) ?? Math.ceil(lastS / most / 86_400) * 86_400;
  const offsetS = startMs === null ? 0 : (startMs / 1000) % step;
  const ticks: StripGeometry['ticks'] = [];
  for (let atS = offsetS === 0 ? 0 : step - offsetS; atS <= lastS; atS += step)
    ticks.push({ x: x(atS), label: startMs === null ? `${Math.round(atS / 60)} min` : clock(startMs + atS * 1000, timeZone) });
  return ticks;
}

/** A time of day as the day's own clock shows it. */
export function clock(ms: number, timeZone: string): string {
  return new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', minute: '2-digit' }).format(ms);
}
