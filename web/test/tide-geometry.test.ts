import type { Tide } from '@gezeit/contract';
import { describe, expect, it } from 'vitest';
import { leastTideWidth, TIDE_SIZE, tideGeometry } from '../src/parts/tide/tide-geometry.js';

const MINUTE = 60_000;
function tide(starts: number[], setups: string): Tide {
  const pulls = starts.map((minute, i) => ({
    id: `p${i}`,
    setup: setups[i]!,
    kind: 'measured',
    status: 'used' as const,
    startMs: minute * MINUTE,
    endMs: minute * MINUTE + 10_000,
    startK: 5,
    endK: 30,
  }));
  const stretches = pulls.map(({ startMs, endMs }) => ({ kind: 'logged' as const, atMs: [startMs, endMs], valueK: [5, 30] }));
  return { source: 'intakeAir', pulls, stretches };
}

describe('the tide strip', () => {
  it('keeps true clock time within a day', () => {
    const { x } = tideGeometry(tide([0, 10, 30], 'AAB'), 1000);
    expect((x(30 * MINUTE) - x(0)) / (x(10 * MINUTE) - x(0))).toBeCloseTo(3, 6);
    expect(x(0)).toBeGreaterThan(TIDE_SIZE.left);
    expect(x(30 * MINUTE)).toBeLessThan(1000 - TIDE_SIZE.right);
  });

  it('puts days side by side with a break', () => {
    const { segments, x } = tideGeometry(tide([0, 10, 1500, 1510], 'AABB'), 1000);
    expect(segments.length).toBe(2);
    expect(x(1500 * MINUTE) - x(10 * MINUTE)).toBeLessThan(500);
  });

  it('breaks the ground where the setup changes', () => {
    expect(tideGeometry(tide([0, 5, 40, 45, 80], 'AABBA'), 1000).blocks.map(({ setup }) => setup)).toEqual(['A', 'B', 'A']);
  });

  it('gives what is written under a block room as far as the next, and under the last as far as the strip goes', () => {
    const { blocks } = tideGeometry(tide([0, 5, 40, 45, 80], 'AABBA'), 1000);
    for (const [i, { fromX, toX, roomPx }] of blocks.entries()) {
      expect(fromX + roomPx).toBeCloseTo(blocks[i + 1]?.fromX ?? 1000, 9);
      expect(roomPx).toBeGreaterThanOrEqual(toX - fromX);
    }
  });

  it('spreads heads that would touch, in their order', () => {
    const heads = [...tideGeometry(tide([0, 1, 2, 200], 'AAAA'), 1000).headX.values()];
    for (let i = 1; i < heads.length; i += 1) expect(heads[i]! - heads[i - 1]!).toBeGreaterThanOrEqual(19);
  });

  it.each([
    ['crowded at the end', [0, ...Array.from({ length: 30 }, (_, i) => 300 + i / 4)]],
    ['crowded at the beginning', [...Array.from({ length: 30 }, (_, i) => i / 4), 300]],
    ['many', Array.from({ length: 90 }, (_, i) => 5 * i)],
    ['one', [0]],
  ])('keeps every head inside of it: %s', (_, starts) => {
    for (const width of [270, 390, 700, 1240]) {
      const across = Math.max(width, leastTideWidth(starts.length));
      const heads = [...tideGeometry(tide(starts, 'A'.repeat(starts.length)), across).headX.values()];
      expect(heads).toHaveLength(starts.length);
      for (const at of heads) {
        expect(at).toBeGreaterThanOrEqual(TIDE_SIZE.left - 1e-9);
        expect(at).toBeLessThanOrEqual(across - TIDE_SIZE.right + 1e-9);
      }
      for (let i = 1; i < heads.length; i += 1) expect(heads[i]! - heads[i - 1]!).toBeGreaterThanOrEqual(18.999);
    }
  });

  it('draws a higher temperature higher, and the ground at nought', () => {
    const { y, groundY } = tideGeometry(tide([0], 'A'), 1000);
    expect(y(20)).toBeLessThan(y(10));
    expect(y(0)).toBeCloseTo(groundY, 6);
  });
});
