import { fromSi, QUANTITY_UNITS, toSi, UNITS, type UnitName, fieldUnit, ownUnit, shownUnitOf, shownValueOf } from '@gezeit/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { nextTick } from 'vue';
import OwnUnitNumber from '../src/shared/form/OwnUnitNumber.vue';
import ChoiceInput from '../src/shared/form/ChoiceInput.vue';
import SeveralInput from '../src/shared/form/SeveralInput.vue';
import NumberInput from '../src/shared/form/NumberInput.vue';
import TextEdit from '../src/shared/form/TextEdit.vue';
import { UNIT_CHOICES, useUnits, type ChosenUnits } from '../src/shared/units/units-store.js';
import { page } from './support/page.js';
import { alerts, field, IMPERIAL, METRIC, put, type } from './support/mounting.js';

page();
const chosen = fc.record({
  power: fc.constantFrom(...UNIT_CHOICES.power),
  torque: fc.constantFrom(...UNIT_CHOICES.torque),
  temperature: fc.constantFrom(...UNIT_CHOICES.temperature),
  pressure: fc.constantFrom(...UNIT_CHOICES.pressure),
}) as fc.Arbitrary<ChosenUnits>;
const near = (a: number, b: number) => expect(Math.abs(a - b)).toBeLessThanOrEqual(1e-4 * Math.max(1e-3, Math.abs(b)));

describe('a number field', () => {
  const put1 = (props: Record<string, unknown>, units = METRIC) =>
    put(NumberInput, { modelValue: null, unit: 'kW', label: 'It', ...props }, units);

  it('shows what is kept in the chosen unit, and the unit beside it', async () => {
    const wrapper = put1({ modelValue: 100_000 }, IMPERIAL);
    expect(field('It').value).toBe('134.1');
    expect(wrapper.text()).toBe('hp');
    useUnits().chosen.power = 'PS';
    await nextTick();
    expect(field('It').value).toBe('135.96');
    expect(wrapper.text()).toBe('PS');
  });

  it('takes what is typed with another unit, comma or point, and says what it understood while it has the focus', async () => {
    const wrapper = put1({ modelValue: 90_000 });
    const input = field('It');
    input.dispatchEvent(new FocusEvent('focus'));
    input.value = '134,1 hp';
    input.dispatchEvent(new Event('input', { bubbles: true }));
    await nextTick();
    expect(wrapper.text()).toContain('= 100 kW');
    expect((wrapper.emitted('update:modelValue')!.at(-1) as number[])[0]).toBeCloseTo(99_998, -1);
    expect(wrapper.emitted('commit')).toBeUndefined();
    input.dispatchEvent(new FocusEvent('blur'));
    await nextTick();
    expect(field('It').value).toBe('99.998');
    expect(wrapper.emitted('commit')).toHaveLength(1);
  });

  it('refuses nonsense, other kinds, thousands and what is out of range, says why, and keeps what was typed', async () => {
    const wrapper = put1({ modelValue: 90_000, least: 1000, most: 500_000 });
    for (const [text, why] of [
      ['ninety', 'is no number'],
      ['90 psi', 'another kind of quantity'],
      ['90 zz', 'is no unit'],
      ['1,000.5', 'thousands'],
      ['0', 'Type at least 1 kW.'],
      ['501', 'Type at most 500 kW.'],
    ] as const) {
      await type('It', text);
      expect(alerts().join()).toContain(why);
      expect(field('It').value).toBe(text);
      expect(field('It').getAttribute('aria-invalid')).toBe('true');
      expect(document.getElementById(field('It').getAttribute('aria-describedby')!)!.textContent).toContain(why);
    }
    expect(wrapper.emitted('update:modelValue')).toBeUndefined();
    expect(wrapper.emitted('commit')).toBeUndefined();
    await type('It', '95');
    expect(alerts()).toEqual([]);
    expect(wrapper.emitted('commit')).toEqual([[95_000]]);
  });

  it('takes emptiness only where it may be empty', async () => {
    const must = put1({ modelValue: 90_000 });
    await type('It', '');
    expect(field('It').value).toBe('90');
    expect(must.emitted('commit')).toBeUndefined();
    must.unmount();
    const may = put1({ modelValue: 90_000, optional: true });
    await type('It', '');
    expect(may.emitted('commit')).toEqual([[null]]);
  });

  it('commits by Enter, once, and nothing where nothing was changed', async () => {
    const wrapper = put1({ modelValue: 90_000 });
    await type('It', '90');
    expect(wrapper.emitted('commit')).toBeUndefined();
    await wrapper.find('input').setValue('91');
    await wrapper.find('input').trigger('keydown.enter');
    await wrapper.find('input').trigger('blur');
    expect(wrapper.emitted('commit')).toEqual([[91_000]]);
  });

  it('is not written over while somebody types, and follows afterwards', async () => {
    const wrapper = put1({ modelValue: 90_000 });
    await wrapper.find('input').trigger('focus');
    await wrapper.find('input').setValue('9');
    await wrapper.setProps({ modelValue: 120_000 });
    expect(field('It').value).toBe('9');
    await wrapper.find('input').setValue('120');
    await wrapper.find('input').trigger('blur');
    await wrapper.setProps({ modelValue: 130_000 });
    expect(field('It').value).toBe('130');
  });

  it('shows another window’s value where the own one was handed on and refused for it', async () => {
    const wrapper = put1({ modelValue: 90_000 });
    await wrapper.find('input').trigger('focus');
    await wrapper.find('input').setValue('95');
    await wrapper.find('input').trigger('keydown.enter');
    await wrapper.setProps({ modelValue: 120_000 });
    expect(field('It').value).toBe('120');
    await wrapper.find('input').trigger('blur');
    expect(wrapper.emitted('commit')).toEqual([[95_000]]);
  });

  it('reads back what it shows, in every unit of every kind, whatever units are chosen', async () => {
    const units = [...new Set(Object.values(QUANTITY_UNITS).map(({ implied }) => implied))].filter(
      (unit): unit is UnitName => unit !== null,
    );
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...units),
        chosen,
        fc.double({ min: 0.01, max: 9000, noNaN: true }),
        fc.boolean(),
        async (unit, set, shown, comma) => {
          const difference = false;
          const wrapper = put(NumberInput, { modelValue: null, unit, label: 'It', difference, optional: true }, set);
          const figure = Number(shown.toPrecision(4));
          await type('It', comma ? String(figure).replace('.', ',') : String(figure));
          const [[kept]] = wrapper.emitted('commit') as [[number]];
          const own = fieldUnit(unit, difference, set);
          near(fromSi(kept, own), figure);
          near(Number(field('It').value), figure);
          wrapper.unmount();
        },
      ),
      { numRuns: 150 },
    );
  });
});

describe('a number with a unit of its own', () => {
  it('is typed in the chosen unit and kept in its own, for every unit', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...(Object.keys(UNITS) as UnitName[])),
        chosen,
        fc.boolean(),
        fc.double({ min: 1, max: 900, noNaN: true }),
        async (unit, set, asDifference, value) => {
          const held = Number(value.toPrecision(4));
          const { name, difference, toInside, fromInside } = ownUnit(unit, asDifference);
          near(fromInside(toInside(held)), held);
          const shown = shownValueOf(held, unit, asDifference, set);
          const own = fieldUnit(name, difference, set);
          if (!difference) near(shown, fromSi(toSi(held, unit), own));
          expect(shownUnitOf(unit, asDifference, set)).toBe(own === '–' ? '' : own);
          const wrapper = put(OwnUnitNumber, { value: null, unit, difference: asDifference, label: 'It' }, set);
          await type('It', String(Number(shown.toPrecision(9))));
          near((wrapper.emitted('commit')![0] as [number])[0], held);
          wrapper.unmount();
        },
      ),
      { numRuns: 200 },
    );
  });

  it('takes a typed unit, keeps its tolerance a difference, and one that is not converted as it is', async () => {
    const gate = put(OwnUnitNumber, { value: 88, unit: '°C', label: 'Target' }, IMPERIAL);
    expect(field('Target').value).toBe('190.4');
    await type('Target', '90 °C');
    expect(gate.emitted('commit')).toEqual([[90]]);
    expect(field('Target').value).toBe('194');
    gate.unmount();
    const tolerance = put(OwnUnitNumber, { value: 3, unit: '°C', difference: true, label: 'Tolerance' }, IMPERIAL);
    expect(field('Tolerance').value).toBe('5.4');
    await type('Tolerance', '9');
    expect(tolerance.emitted('commit')).toEqual([[5]]);
    tolerance.unmount();
    const own = put(OwnUnitNumber, { value: 4, unit: 'clicks', label: 'Strap' }, IMPERIAL);
    expect(field('Strap').value).toBe('4');
    await type('Strap', '5');
    expect(own.emitted('commit')).toEqual([[5]]);
  });

  it('says what is wrong beside it, is not changed by it, and forgets it when the value changes', async () => {
    const wrapper = put(OwnUnitNumber, { value: 3, unit: 'K', label: 'Tolerance', least: 0, most: 40 });
    await type('Tolerance', '-1');
    expect(alerts()).toEqual(['Type at least 0.']);
    await type('Tolerance', '41');
    expect(alerts()).toEqual(['Type at most 40.']);
    await type('Tolerance', 'much');
    expect(alerts().join()).toContain('is no number');
    expect(wrapper.emitted('commit')).toBeUndefined();
    await wrapper.setProps({ value: 5 });
    expect(alerts()).toEqual([]);
    expect(field('Tolerance').value).toBe('5');
    await type('Tolerance', '');
    expect(field('Tolerance').value).toBe('5');
  });
});

describe('a text that is kept when it is left', () => {
  it('is kept by leaving and by Enter, trimmed, and not where nothing was changed', async () => {
    const wrapper = put(TextEdit, { modelValue: 'stock box', label: 'Name' });
    await type('Name', 'stock box ');
    expect(wrapper.emitted('commit')).toBeUndefined();
    await type('Name', '  sealed box ');
    expect(wrapper.emitted('commit')).toEqual([['sealed box']]);
    await wrapper.setProps({ modelValue: 'sealed box' });
    await wrapper.find('input').setValue('sealed box, lined');
    await wrapper.find('input').trigger('keydown.enter');
    expect(wrapper.emitted('commit')!.at(-1)).toEqual(['sealed box, lined']);
  });

  it('comes back by Esc, which then closes nothing else; a second Esc does', async () => {
    let outside = 0;
    document.body.addEventListener('keydown', () => (outside += 1), { once: false });
    const wrapper = put(TextEdit, { modelValue: 'stock box', label: 'Name' });
    await wrapper.find('input').setValue('nonsense');
    await wrapper.find('input').trigger('keydown.esc');
    expect(field('Name').value).toBe('stock box');
    expect(outside).toBe(0);
    await wrapper.find('input').trigger('keydown.esc');
    expect(outside).toBe(1);
  });

  it('is not written over while somebody types', async () => {
    const wrapper = put(TextEdit, { modelValue: null, label: 'Name', rows: 3 });
    await wrapper.find('textarea').trigger('focus');
    await wrapper.find('textarea').setValue('half a sen');
    await wrapper.setProps({ modelValue: 'from elsewhere' });
    expect(field('Name').value).toBe('half a sen');
    await wrapper.find('textarea').setValue('from elsewhere');
    await wrapper.find('textarea').trigger('blur');
    expect(wrapper.emitted('commit')).toBeUndefined();
  });

  it('shows another window’s text where the own one was handed on and refused for it', async () => {
    const wrapper = put(TextEdit, { modelValue: 'stock box', label: 'Name' });
    await wrapper.find('input').trigger('focus');
    await wrapper.find('input').setValue('mine');
    await wrapper.find('input').trigger('keydown.enter');
    await wrapper.setProps({ modelValue: 'theirs' });
    expect(field('Name').value).toBe('theirs');
    await wrapper.find('input').trigger('blur');
    expect(wrapper.emitted('commit')).toEqual([['mine']]);
  });
});

describe('one of a few', () => {
  it('shows the words of what is chosen, and passes Esc on to what it stands in while its list is closed', async () => {
    const wrapper = put(ChoiceInput, { modelValue: 'B', choices: { A: 'stock box', B: 'sealed box' }, label: 'Setup' });
    expect(wrapper.text()).toContain('sealed box');
    let passed = 0;
    document.body.addEventListener('keydown', ({ key }) => (passed += key === 'Escape' ? 1 : 0));
    await wrapper.find('[role=combobox]').trigger('keydown', { key: 'Escape', code: 'Escape' });
    expect(passed).toBe(1);
    await wrapper.setProps({ modelValue: null });
    expect(wrapper.text()).toContain('choose');
  });

  /** A list by keys: entered, and its second entry marked. */
  async function marked() {
    const wrapper = put(ChoiceInput, { modelValue: 'A', choices: { A: 'stock box', B: 'sealed box', C: 'twin box' }, label: 'Setup' });
    const list = wrapper.find<HTMLElement>('[role=combobox]');
    const press = (key: string) => list.trigger('keydown', { key, code: key });
    list.element.focus();
    list.element.blur();
    list.element.focus();
    await press('ArrowDown');
    await press('ArrowDown');
    return { wrapper, list: list.element, press, taken: () => wrapper.emitted('update:modelValue') };
  }
  const longAfter = () => new Promise((resolve) => setTimeout(resolve, 150));

  it('takes what the keys have marked where the field was left and entered again a moment before', async () => {
    const { press, taken } = await marked();
    await longAfter();
    await press('Enter');
    expect(taken()).toEqual([['B']]);
  });

  it('takes what the keys have marked, not what a resting mouse lies on where the list opens', async () => {
    const { press, taken } = await marked();
    const entries = [...document.querySelectorAll('[role=option]')];
    expect(entries.map(({ textContent }) => textContent)).toEqual(['stock box', 'sealed box', 'twin box']);
    entries[2]!.dispatchEvent(new MouseEvent('mousemove', { bubbles: true }));
    await nextTick();
    await press('Enter');
    expect(taken()).toEqual([['B']]);
  });

  it('is left for good once the focus is elsewhere: it says so once, and nothing is marked', async () => {
    const { wrapper, list } = await marked();
    const says = wrapper.findComponent({ name: 'Select' });
    await longAfter();
    expect(says.emitted('blur')).toBeUndefined();
    list.blur();
    await longAfter();
    expect(says.emitted('blur')).toHaveLength(1);
    expect(document.querySelectorAll('[role=option][data-p-focused=true]')).toHaveLength(0);
  });
});

describe('several of many', () => {
  it('takes what the keys have marked, whatever a resting mouse lies on; who is disabled is not taken', async () => {
    const choices = ['p01', 'p02', 'p03', 'p04'].map((key) => ({ key, label: `pull ${key}`, disabled: key === 'p01' }));
    const wrapper = put(SeveralInput, { modelValue: ['p01'], choices, label: 'Pulls', said: '1 pull' });
    expect(wrapper.text()).toContain('1 pull');
    const list = wrapper.find<HTMLElement>('[role=combobox]');
    list.element.focus();
    await list.trigger('keydown', { key: 'ArrowDown', code: 'ArrowDown' });
    const marks = () => [...document.querySelectorAll('[role=option][data-p-focused=true]')].map(({ textContent }) => textContent);
    await list.trigger('keydown', { key: 'Home', code: 'Home' });
    await list.trigger('keydown', { key: 'ArrowDown', code: 'ArrowDown' });
    expect(marks()).toEqual(['pull p03']);
    document.querySelectorAll('[role=option]')[3]!.dispatchEvent(new MouseEvent('mousemove', { bubbles: true }));
    await list.trigger('keydown', { key: 'Enter', code: 'Enter' });
    expect(marks()).toEqual(['pull p03']);
    expect(wrapper.emitted('update:modelValue')).toEqual([[['p01', 'p03']]]);
  });
});
