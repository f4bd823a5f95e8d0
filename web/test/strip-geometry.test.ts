import { describe, expect, it } from 'vitest';
import { STRIP, stripGeometry } from '../src/features/sort/strip-geometry.js';
import type { StagedPull } from '../src/model/staged-pulls.js';

const pullsAt = (times: readonly number[]) =>
  times.map((atS, i) => ({ key: String(i), atS, setup: i % 4 < 2 ? 'A' : 'B' })) as unknown as StagedPull[];

describe('posts on the strip', () => {
  const days: [string, number[]][] = [
    ['one pull', [0]],
    ['a usual day', Array.from({ length: 12 }, (_, i) => 300 * i)],
    ['all at one moment', Array.from({ length: 8 }, () => 0)],
    ['a crowd at the end', [0, ...Array.from({ length: 30 }, (_, i) => 20_000 + i)]],
    ['a hundred', Array.from({ length: 100 }, (_, i) => 240 * i)],
    ['two days', [...Array.from({ length: 10 }, (_, i) => 300 * i), ...Array.from({ length: 10 }, (_, i) => 86_400 + 300 * i)]],
  ];
  it.each(days.flatMap(([name, times]) => [480, 1240].map((width) => [name, width, times] as const)))(
    'of %s stand inside a strip of %i px, in their order and apart',
    (_, width, times) => {
      const { posts, grounds } = stripGeometry(pullsAt(times), width, null, 'UTC');
      const at = posts.map(({ x }) => x);
      expect(posts.map(({ key }) => key)).toEqual(times.map((__, i) => String(i)));
      expect(Math.min(...at)).toBeGreaterThanOrEqual(STRIP.left - 1e-9);
      expect(Math.max(...at)).toBeLessThan(width - STRIP.right);
      const closest = Math.min(22, (width - STRIP.left - STRIP.right) / times.length);
      at.slice(1).forEach((x, i) => expect(x - at[i]!).toBeGreaterThanOrEqual(closest - 1e-6));
      expect(grounds.length).toBeGreaterThan(0);
    },
  );

  const lengths = [0, 7, 45, 300, 3599, 3600, 9000, 36_000, 86_400, 400_000, 3_000_000];
  it.each([320, 388, 480, 760, 1240].flatMap((width) => lengths.map((lastS) => [width, lastS] as const)))(
    'its times do not touch: a strip of %i px, %i s long',
    (width, lastS) => {
      for (const startMs of [null, Date.UTC(2026, 5, 11, 8, 17)]) {
        const { ticks } = stripGeometry(pullsAt([0, lastS]), width, startMs, 'UTC');
        ticks.slice(1).forEach(({ x }, i) => expect(x - ticks[i]!.x).toBeGreaterThanOrEqual(60));
        for (const { x } of ticks) expect(x).toBeLessThan(width);
        if (width > 480 && lastS >= 300 && startMs === null) expect(ticks.length).toBeGreaterThan(1);
      }
    },
  );
});
