import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { nextTick } from 'vue';
import { beforeEach, describe, expect, it } from 'vitest';
import PlotlyChart from '../src/shared/charts/PlotlyChart.vue';
import { useTheme } from '../src/shared/charts/theme-store.js';
import { drawn } from './support/no-plotly.js';
import { put } from './support/mounting.js';
import { page } from './support/page.js';

// A chart draws what has changed, once, and nothing else: drawing takes longer than all else on a page.

page();
let wrapper: VueWrapper | null = null;
beforeEach(() => void drawn.splice(0));

const line = (values: number[], name = 'A') => ({ name, type: 'scatter', x: values.map((_, i) => i), y: values });
const layout = (title = 'power, kW') => ({ yaxis: { title: { text: title } }, shapes: [{ y0: 1 }] });
const base = () => ({ name: 'own', title: 'Own', data: [line([1, 2, 3])], layout: layout(), height: 300, table: [] });

/** A frame, and what is set off in it. */
async function settled(): Promise<void> {
  for (let i = 0; i < 3; i += 1) {
    await new Promise((resolve) => requestAnimationFrame(resolve));
    await new Promise((resolve) => setTimeout(resolve, 5));
    await flushPromises();
  }
}
async function shown(props: Record<string, unknown> = base()): Promise<VueWrapper> {
  wrapper = put(PlotlyChart, props);
  await settled();
  expect(drawn).toHaveLength(1);
  return wrapper;
}

describe('a chart', () => {
  it('is drawn once when it comes, after the words beside it', async () => {
    wrapper = put(PlotlyChart, base());
    await nextTick();
    expect(drawn).toHaveLength(0);
    expect(document.body.textContent).toContain('Own');
    await settled();
    expect(drawn).toHaveLength(1);
    expect(drawn[0]!.data.map(({ name }) => name)).toEqual(['A']);
  });

  it('is not drawn again by what says the same', async () => {
    const chart = await shown();
    for (let i = 0; i < 4; i += 1) {
      // Everything is computed anew, as it is after every change of a programme.
      await chart.setProps(base());
      await settled();
    }
    expect(drawn).toHaveLength(1);
  });

  it.each([
    ['a value', { data: [line([1, 2, 4])] }],
    ['a value that is missing', { data: [line([1, Number.NaN, 3])] }],
    ['a name', { data: [line([1, 2, 3], 'B')] }],
    ['one line more', { data: [line([1, 2, 3]), line([3, 2, 1], 'B')] }],
    ['no line at all', { data: [] }],
    ['a title of an axis', { layout: layout('power, hp') }],
    ['a mark', { layout: { ...layout(), shapes: [{ y0: 2 }] } }],
    ['its height', { height: 360 }],
  ])('is drawn again once for %s, and then rests', async (_, change) => {
    const chart = await shown();
    await chart.setProps(change);
    await settled();
    expect(drawn).toHaveLength(2);
    await chart.setProps({ ...base(), ...change });
    await settled();
    expect(drawn).toHaveLength(2);
    await chart.setProps(base());
    await settled();
    expect(drawn).toHaveLength(3);
  });

  it('is drawn once for many changes of one moment, as the last of them says', async () => {
    const chart = await shown();
    for (const name of ['B', 'C', 'D']) await chart.setProps({ data: [line([1, 2, 3], name)] });
    await settled();
    expect(drawn.map(({ data }) => data[0]!.name)).toEqual(['A', 'D']);
  });

  it('goes there and back within a moment without being drawn', async () => {
    const chart = await shown();
    await chart.setProps({ height: 500 });
    await chart.setProps({ height: 300 });
    await settled();
    expect(drawn).toHaveLength(1);
  });

  it('of long lines is held against them sample by sample', async () => {
    const long = () => Float64Array.from({ length: 20_000 }, (_, i) => Math.sin(i / 50));
    const chart = await shown({ ...base(), data: [{ name: 'A', type: 'scatter', x: long(), y: long() }] });
    await chart.setProps({ data: [{ name: 'A', type: 'scatter', x: long(), y: long() }] });
    await settled();
    expect(drawn).toHaveLength(1);
    const y = long();
    y[19_999] = 2;
    await chart.setProps({ data: [{ name: 'A', type: 'scatter', x: long(), y }] });
    await settled();
    expect(drawn).toHaveLength(2);
  });

  it('follows the theme there and back', async () => {
    await shown();
    for (let i = 0; i < 2; i += 1) {
      useTheme().toggle();
      await settled();
    }
    expect(drawn).toHaveLength(3);
  });

  it('that is gone is drawn no more', async () => {
    const chart = await shown();
    await chart.setProps({ height: 500 });
    chart.unmount();
    await settled();
    expect(drawn).toHaveLength(1);
  });
});
