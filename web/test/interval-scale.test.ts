import { describe, expect, it } from 'vitest';
import IntervalScale, { type IntervalRow } from '../src/shared/charts/IntervalScale.vue';
import { put } from './support/mounting.js';
import { page } from './support/page.js';

page();
const row = (label: string, value: number | null, half: number): IntervalRow => ({
  label,
  value,
  low: value === null ? null : value - half,
  high: value === null ? null : value + half,
  text: value === null ? 'not given' : `${value} (${value - half} to ${value + half})`,
});
const ROWS: [string, IntervalRow[], number][] = [
  ['usual ones', [row('as driven', 0.8, 0.4), row('from the same start', 1.9, 1.3), row('start as the part brings it', null, 0)], 1],
  ['far ones', [row('then', -40, 2), row('now', 35, 9)], 1],
  ['tiny ones', [row('then', 0.01, 0.005)], 3],
  ['none', [row('nothing', null, 0)], 1],
];
const numbers = (elements: NodeListOf<Element>, ...names: string[]) =>
  [...elements].flatMap((element) => names.map((name) => Number(element.getAttribute(name))));

describe('intervals on a common scale', () => {
  it.each(ROWS.flatMap(([name, rows, smallest]) => [270, 320, 348, 460, 700].map((width) => [name, width, rows, smallest] as const)))(
    '%s stand inside of %i px, with room between their ends',
    (name, width, rows, smallest) => {
      const wrapper = put(IntervalScale, { rows, smallest, unit: '%', width, labelWidth: 178, textWidth: 158 });
      const svg = wrapper.element as SVGSVGElement;
      const bars = numbers(svg.querySelectorAll('.bar'), 'x1', 'x2');
      const dots = numbers(svg.querySelectorAll('.dot'), 'cx');
      const within = svg.querySelector('.within')!;
      expect(bars).toHaveLength(2 * rows.filter(({ value }) => value !== null).length);
      for (const at of [...bars, ...dots]) {
        expect(at).toBeGreaterThanOrEqual(0);
        expect(at).toBeLessThanOrEqual(width);
      }
      expect(Number(within.getAttribute('width'))).toBeGreaterThan(0);
      const height = Number(svg.getAttribute('height'));
      for (const y of numbers(svg.querySelectorAll('.mark'), 'y')) expect(y).toBeLessThan(height);
      // The scale itself is never squeezed to nothing by the words beside it.
      const [from, to] = [Math.min(...bars, Infinity), Math.max(...bars, -Infinity)];
      if (name === 'far ones') expect(to - from).toBeGreaterThan(100);
      wrapper.unmount();
    },
  );
});
