import type { Plan, Setup } from '@gezeit/contract';
import { defaultGates, scheduled, withConditioning } from '@gezeit/core';
import { emptyCount } from '@gezeit/core/rehearse';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Component } from 'vue';
import HeatTable from '../src/features/plan/HeatTable.vue';
import MatrixTable from '../src/features/plan/MatrixTable.vue';
import PlanFigures from '../src/features/plan/PlanFigures.vue';
import PlanStrip from '../src/features/plan/PlanStrip.vue';
import RehearsePanel from '../src/features/plan/RehearsePanel.vue';
import RulesPanel from '../src/features/plan/RulesPanel.vue';
import RunSheet from '../src/features/plan/RunSheet.vue';
import SuggestPanel from '../src/features/plan/SuggestPanel.vue';
import ChoiceInput from '../src/shared/form/ChoiceInput.vue';
import SwapTable from '../src/features/plan/SwapTable.vue';
import { usePlan } from '../src/model/plan-store.js';
import { useProgramme } from '../src/model/programme-store.js';
import { useUnits } from '../src/shared/units/units-store.js';
import { alerts, button, field, IMPERIAL, METRIC, press, put, type } from './support/mounting.js';
import { heldByServer, newProgramme, page } from './support/page.js';

page();
let wrapper: VueWrapper | null = null;

const orderOf = (letters: string): Plan => scheduled({ pulls: withConditioning([...letters]) });
/** A programme with a plan, and a part of its page. */
async function planned(title: string, part: Component | null, letters = 'ABBA', units = METRIC, props: Record<string, unknown> = {}) {
  const id = await newProgramme(title);
  const programme = useProgramme();
  await programme.open(id);
  await programme.edit('plan', 'plan', () => orderOf(letters));
  const plan = usePlan();
  if (part) wrapper = put(part, props, units);
  await flushPromises();
  return { id, programme, plan, stored: async () => (await heldByServer(id)).bundle.plan! };
}
const settled = () => expect.poll(() => useProgramme().saving).toBe(0);
const order = (plan: Plan) => plan.pulls.map(({ setup, kind }) => (kind === 'measured' ? setup : setup.toLowerCase())).join('');

describe('gates and limits', () => {
  it('are typed in the chosen units and kept in their own; the rest of the rules stays as it was', async () => {
    const { plan, stored } = await planned('Rules', RulesPanel, 'ABBA', IMPERIAL);
    const before = defaultGates(plan.bundle);
    await type('Target of Coolant', '194');
    await type('Tolerance of Coolant', '3.6');
    await type('Limit of Oil', '150 °C');
    await type('Limit of Manifold pressure over its target', '3');
    await settled();
    const { gates, stops } = await stored();
    expect(gates!.find(({ id }) => id === 'coolant')).toMatchObject({ target: 90, tolerance: 2, unit: '°C', must: true });
    expect(gates!.filter(({ id }) => id !== 'coolant')).toEqual(before.filter(({ id }) => id !== 'coolant'));
    expect(stops!.find(({ id }) => id === 'oil')!.limit).toBe(150);
    expect(stops!.find(({ id }) => id === 'boost')!.limit).toBeCloseTo(20.684, 2);
    expect(wrapper!.text()).toContain('fill in before the first pull');
    await type('Limit of Exhaust before the turbine', '1760');
    expect(wrapper!.text()).not.toContain('fill in before the first pull');
  });

  it('are refused where they are nonsense, beside the field, and nothing is changed', async () => {
    const { plan } = await planned('Nonsense rules', RulesPanel);
    await type('Tolerance of Oil', '-2');
    expect(alerts()).toEqual(['Type at least 0.']);
    await type('Target of Oil', '40 kPa');
    expect(alerts().join()).toContain('another kind of quantity');
    expect(plan.plan.gates ?? null).toBeNull();
  });

  it('are added, renamed, removed, and proposed again', async () => {
    const { plan } = await planned('Own gate', RulesPanel);
    const proposed = defaultGates(plan.bundle).length;
    const add = async (label: string, key: string) => {
      wrapper!
        .findAllComponents(ChoiceInput)
        .find((choice) => choice.props('label') === label)!
        .vm.$emit('update:modelValue', key);
      await flushPromises();
    };
    for (const key of ['other', 'other', 'charge', 'tyres']) await add('Add a gate', key);
    const own = plan.plan.gates!.slice(proposed);
    expect(own.map(({ id }) => id)).toEqual(['own-1', 'own-2', 'charge', 'tyres']);
    expect(own.map(({ quantity }) => quantity)).toEqual([null, null, 'coolerOutTemperature', null]);
    const offered = wrapper!
      .findAllComponents(ChoiceInput)
      .find((choice) => choice.props('label') === 'Add a gate')!
      .props('choices');
    expect(Object.keys(offered as object)).not.toContain('coolant');
    expect(Object.keys(offered as object)).toContain('humidity');
    const rows = () =>
      wrapper!
        .findAll('tbody')[0]!
        .findAll('tr')
        .map((row) => row.text());
    expect(
      rows()
        .slice(proposed)
        .map((text) => /streamed|typed|counted/.exec(text)![0]),
    ).toEqual(['typed', 'typed', 'streamed', 'typed']);
    await add('Unit of new gate 1', 'kPa');
    expect(plan.plan.gates!.find(({ id }) => id === 'own-1')!.unit).toBe('kPa');
    await add('Add a limit', 'chargeOut');
    expect(plan.plan.stops!.at(-1)).toMatchObject({ id: 'chargeOut', quantity: 'coolerOutTemperature', limit: 80, unit: '°C' });
    await press('Remove the limit of Charge after the cooler');
    expect(plan.plan.stops!.map(({ id }) => id)).not.toContain('chargeOut');
    for (const label of ['Charge air above ambient', 'Tyre pressure']) await press(`Remove the gate ${label}`);
    await wrapper!
      .findAll('input')
      .find((input) => input.element.value === 'new gate 1')!
      .setValue('Strap force');
    await wrapper!
      .findAll('input')
      .find((input) => input.element.value === 'Strap force')!
      .trigger('blur');
    expect(plan.plan.gates!.map(({ label }) => label)).toContain('Strap force');
    await press('Remove the gate Strap force');
    expect(plan.plan.gates).toHaveLength(proposed + 1);
    await press('As proposed for this engine');
    expect(plan.plan.gates).toBeNull();
    await settled();
  });

  it('have checklists from which safety is never taken off, and to which anything is added', async () => {
    const { plan } = await planned('Lists', RulesPanel);
    const safety = [...document.querySelectorAll('li')].filter((item) => item.querySelector('.safety'));
    expect(safety.length).toBeGreaterThan(7);
    for (const item of safety) expect(item.querySelector('button')).toBeNull();
    const input = field('Add to: Before the day');
    input.value = 'Note the tyre batch';
    input.dispatchEvent(new Event('input', { bubbles: true }));
    await flushPromises();
    await wrapper!.find('form').trigger('submit');
    expect(plan.plan.checklists!.beforeDay!.at(-1)).toMatchObject({ text: 'Note the tyre batch', safety: false });
    await press('Take off: Note the tyre batch');
    expect(plan.plan.checklists!.beforeDay!.map(({ text }) => text)).not.toContain('Note the tyre batch');
    await settled();
  });
});

describe('rests and swaps', () => {
  it('change the whole day at once, and one swap its own', async () => {
    const { plan } = await planned('Swaps', SwapTable);
    const length = plan.report.lengthMin;
    await type('From pull to pull', '6');
    expect(plan.report.lengthMin).toBe(length + 4);
    await type('A swap takes', '1 h');
    expect(plan.report.lengthMin).toBe(length + 4 + 2 * 28);
    await type('Swap B to A', '90');
    expect(plan.report.lengthMin).toBe(length + 4 + 28 + 58);
    await type('Swap B to A', '0.2');
    expect(alerts()).toEqual(['Type at least 0.5 min.']);
    expect(plan.plan.swaps).toEqual([{ from: 'B', to: 'A', minutes: 90 }]);
    await settled();
  });
});

describe('the heat forecast', () => {
  it('shows what is assumed, is changed by hand in the chosen units, and comes back', async () => {
    const { plan } = await planned('Heat', HeatTable, 'ABBA', IMPERIAL);
    expect(wrapper!.text()).toContain('Assumed: no day of this car is logged yet.');
    const { perPullK } = plan.heat;
    expect(Number(field('A pull adds').value)).toBeCloseTo(perPullK * 1.8, 3);
    await type('A pull adds', '36');
    expect(plan.heat.perPullK).toBeCloseTo(20, 9);
    expect(wrapper!.text()).toContain('Changed by hand.');
    await type('Quick part ebbs', '0');
    expect(alerts()).toEqual(['Type at least 1 s.']);
    await press('As this car’s days say');
    expect(plan.heat.perPullK).toBe(perPullK);
    await settled();
  });
});

describe('what a plan can recognise', () => {
  it('leads with the worst comparison, says what is wrong in words, and follows every move', async () => {
    const { plan } = await planned('Figures', PlanFigures, 'AABB');
    expect(wrapper!.text()).toMatch(/recognises a gain of [\d.]+\s% on four days of five/);
    expect(wrapper!.text()).toMatch(/every A comes before every B/i);
    plan.change('mirrored', () => orderOf('ABBA'));
    await flushPromises();
    expect(wrapper!.text()).not.toMatch(/every A comes before every B/i);
    plan.change('emptied', () => ({ pulls: [] }));
    await flushPromises();
    expect(wrapper!.text()).not.toMatch(/recognises a gain of/);
    await settled();
  });

  it('names every combination that a comparison would miss', async () => {
    const { programme, plan } = await planned('Combinations', MatrixTable);
    expect(wrapper!.text()).toBe('');
    const open = (now: Setup[]) => [
      ...now.map((setup): Setup => ({ ...setup, parts: [`box of ${setup.id}`], state: { ...setup.state, bonnet: 'closed' } })),
      {
        ...now[0]!,
        id: 'C',
        name: 'stock, bonnet open',
        parts: ['box of A'],
        reference: false,
        state: { ...now[0]!.state, bonnet: 'open' },
      },
    ];
    await programme.edit('setups', 'open bonnet', open);
    plan.change('with C', () => orderOf('ABBAC'));
    await flushPromises();
    expect(wrapper!.text()).toContain('missing');
    expect(wrapper!.findAll('td.missing')).toHaveLength(1);
    await settled();
  });
});

describe('the strip of the plan', () => {
  const post = (place: number) => wrapper!.find(`[data-place="${place}"]`);

  it('is moved along and changed by the keyboard: pulls, blocks, ends', async () => {
    const plan = orderOf('ABBA');
    wrapper = null;
    const { plan: store } = await planned('Strip', null);
    wrapper = put(PlanStrip, { plan, heat: store.heat, selected: 1 });
    await flushPromises();
    expect(post(1).attributes('tabindex')).toBe('0');
    expect(post(0).attributes('tabindex')).toBe('-1');
    for (const [key, to] of [
      ['ArrowRight', 2],
      ['ArrowLeft', 0],
      ['End', plan.pulls.length - 1],
      ['Home', 0],
    ] as const) {
      post(1).element.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
      expect(wrapper.emitted('select')!.at(-1)).toEqual([to]);
    }
    await post(1).trigger('keydown', { key: 'ArrowRight', altKey: true });
    const [what, next] = wrapper.emitted('change')![0] as [string, (plan: Plan) => Plan];
    expect(what).toBe('pull moved');
    expect(order(next(plan))).toBe('abABBaA');
    await post(1).trigger('keydown', { key: 'ArrowRight', altKey: true, shiftKey: true });
    const [block, moved] = wrapper.emitted('change')![1] as [string, (plan: Plan) => Plan];
    expect(block).toBe('block moved');
    expect(order(moved(plan))).toBe('baABBaA');
  });

  it('says nothing but what to do where nothing is planned', async () => {
    const { plan: store } = await planned('Empty strip', null);
    wrapper = put(PlanStrip, { plan: { pulls: [] }, heat: store.heat, selected: null });
    await flushPromises();
    expect(wrapper.text()).toContain('No pull is planned yet');
  });

  it('drags a post to another place, and a drag that is broken off leaves everything where it was', async () => {
    const plan = orderOf('ABBA');
    const { plan: store } = await planned('Dragged', null);
    wrapper = put(PlanStrip, { plan, heat: store.heat, selected: null });
    await flushPromises();
    (SVGElement.prototype as unknown as { setPointerCapture: () => void }).setPointerCapture = () => {};
    const drag = async (how: 'pointerup' | 'pointercancel') => {
      await post(1).trigger('pointerdown', { clientX: 60, pointerId: 1 });
      await post(1).trigger('pointermove', { clientX: 5000, pointerId: 1 });
      await post(1).trigger(how, { clientX: 5000, pointerId: 1 });
    };
    await drag('pointercancel');
    await post(1).trigger('pointerup', { clientX: 5000, pointerId: 1 });
    expect(wrapper.emitted('change')).toBeUndefined();
    await drag('pointerup');
    const [, next] = wrapper.emitted('change')![0] as [string, (plan: Plan) => Plan];
    expect(order(next(plan))).toBe('abBBaAA');
  });
});

describe('the run sheet', () => {
  it('has every pull with its time, the gates and limits in the chosen units, and every item to tick', async () => {
    const { plan } = await planned('Sheet', RunSheet, 'ABBA', IMPERIAL);
    const text = () => wrapper!.text();
    expect(wrapper!.findAll('tbody tr')).toHaveLength(plan.plan.pulls.length);
    expect(text()).toContain('190 ± 5 °F !');
    expect(text()).toContain('at most +22 °F');
    expect(text()).toContain('Coolant above 230 °F');
    expect(text()).toContain('Exhaust before the turbine above ________ °F');
    expect(text()).toMatch(/☐ Straps sound and tight.*\(safety\)/);
    useUnits().chosen.temperature = '°C';
    await flushPromises();
    expect(text()).toContain('88 ± 3 °C !');
    plan.change('a long rest', (now) => ({ ...now, restMin: 119.6 / 2 }));
    await flushPromises();
    expect(text()).not.toMatch(/\d:60/);
    await settled();
  });
});

describe('what runs in a worker', () => {
  class FakeWorker {
    static last: FakeWorker;
    onmessage: ((event: { data: unknown }) => void) | null = null;
    onerror: (() => void) | null = null;
    asked: unknown = null;
    stopped = false;
    constructor() {
      FakeWorker.last = this;
    }
    postMessage(question: unknown): void {
      this.asked = question;
    }
    terminate(): void {
      this.stopped = true;
    }
    async say(data: unknown): Promise<void> {
      this.onmessage!({ data });
      await flushPromises();
    }
  }
  beforeEach(() => void vi.stubGlobal('Worker', FakeWorker));
  const SUGGESTION = { order: ['A', 'B', 'B', 'A'], smallestResolvablePct: 1.51, hours: 1.4 };

  it('an order is searched within its limits, told as it goes, and taken', async () => {
    const { plan } = await planned('Suggested', SuggestPanel, 'AABB');
    await type('Most swaps', '0');
    expect(wrapper!.text()).toContain('2 setups need at least 1 swaps.');
    expect(button('Suggest an order').disabled).toBe(true);
    await type('Most swaps', '3');
    await type('Longest day', '90 min');
    await press('Suggest an order');
    expect(FakeWorker.last.asked).toMatchObject({ setups: ['A', 'B'], mostHours: 1.5, mostSwaps: 3, mostPulls: 12 });
    await FakeWorker.last.say({ kind: 'progress', share: 0.4, best: SUGGESTION });
    expect(wrapper!.text()).toContain('A B B A recognises 1.51\u00a0% in 1 h 24 min with 2 swaps.');
    await press('Take it');
    expect(order(plan.plan)).toBe('aAbBBaA');
    await FakeWorker.last.say({ kind: 'done', result: { best: null, tradeOff: [] } });
    expect(wrapper!.text()).toContain('No order keeps to these limits');
    expect(FakeWorker.last.stopped).toBe(true);
    await settled();
  });

  it('one that breaks off says so, and can be asked again', async () => {
    await planned('Broken off', SuggestPanel);
    await press('Suggest an order');
    FakeWorker.last.onerror!();
    await flushPromises();
    expect(alerts().join()).toContain('broke off');
    await press('Suggest an order');
    expect(alerts()).toEqual([]);
    expect(FakeWorker.last.stopped).toBe(false);
  });

  it('a rehearsal counts what the verdicts would be, with their errors, and is void once the plan is another', async () => {
    const { plan } = await planned('Rehearsed', RehearsePanel);
    await type('Days to rehearse', '1');
    expect(wrapper!.text()).toContain('Rehearse 2 to 5000 days.');
    await type('Days to rehearse', '200');
    await type('True gain', '2');
    await press('Rehearse this plan');
    expect(FakeWorker.last.asked).toMatchObject({ truePct: 2, days: 200 });
    const count = (gain: number, none: number) => ({
      ...emptyCount(),
      days: 100,
      held: 96,
      bestClaims: 30,
      verdicts: { ...emptyCount().verdicts, gain, 'not-resolved': none },
    });
    await FakeWorker.last.say({ kind: 'done', withGain: count(80, 20), without: count(0, 100) });
    const row = (label: string) =>
      wrapper!
        .findAll('tbody tr')
        .find((entry) => entry.text().startsWith(label))!
        .text();
    expect(row('says gain')).toMatch(/80 % ± 4.*0 % ± 1/);
    expect(row('its interval holds the truth')).toContain('96 % ± 2');
    expect(row('best pull against best pull')).toContain('30 % ± 5');
    plan.change('another order', () => orderOf('AABB'));
    await flushPromises();
    expect(wrapper!.findAll('tbody tr')).toHaveLength(0);
    await press('Rehearse this plan');
    await FakeWorker.last.say({ kind: 'refused', message: 'Nothing to compare. Plan both setups.' });
    expect(alerts()).toEqual(['Nothing to compare. Plan both setups.']);
    await press('Rehearse this plan');
    FakeWorker.last.onerror!();
    await flushPromises();
    expect(alerts().join()).toContain('broke off');
    await settled();
  });
});
