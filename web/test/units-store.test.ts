import { createPinia, setActivePinia } from 'pinia';
import { nextTick } from 'vue';
import { beforeEach, describe, expect, it } from 'vitest';
import { UNIT_CHOICES, useUnits } from '../src/shared/units/units-store.js';

const KEY = 'gezeit.units';
const METRIC = { power: 'kW', torque: 'N·m', temperature: '°C', pressure: 'kPa' } as const;
const kept = () => JSON.parse(localStorage.getItem(KEY) ?? 'null') as unknown;

/** What another tab has kept, as a browser tells this one of it. */
function fromAnotherTab(text: string | null): void {
  if (text === null) localStorage.removeItem(KEY);
  else localStorage.setItem(KEY, text);
  window.dispatchEvent(new StorageEvent('storage', { key: KEY, newValue: text }));
}

beforeEach(() => {
  localStorage.clear();
  setActivePinia(createPinia());
});

describe('the chosen units', () => {
  it('are the usual ones at first, and every one that is offered is kept and found again', async () => {
    expect(useUnits().chosen).toEqual(METRIC);
    expect(kept()).toBeNull();
    for (const [kind, choices] of Object.entries(UNIT_CHOICES))
      for (const unit of choices.toReversed()) {
        useUnits().chosen = { ...useUnits().chosen, [kind]: unit };
        await nextTick();
        expect(kept()).toMatchObject({ [kind]: unit });
        setActivePinia(createPinia());
        expect(useUnits().chosen).toMatchObject({ [kind]: unit });
      }
    expect(useUnits().summary).toBe('kW · N·m · °C · kPa');
  });

  it.each([
    ['no text of ours', 'no JSON'],
    ['a unit that is not offered', JSON.stringify({ ...METRIC, power: 'mules' })],
    ['a kind that is missing', JSON.stringify({ power: 'hp' })],
    ['a list', '[]'],
    ['nothing', 'null'],
  ])('are the usual ones where %s is kept', (_, text) => {
    localStorage.setItem(KEY, text);
    expect(useUnits().chosen).toEqual(METRIC);
  });

  it('follow another tab', async () => {
    const units = useUnits();
    fromAnotherTab(JSON.stringify({ ...METRIC, power: 'PS' }));
    await nextTick();
    expect(units.chosen.power).toBe('PS');
    fromAnotherTab(null);
    await nextTick();
    expect(units.chosen).toEqual(METRIC);
    window.dispatchEvent(new StorageEvent('storage', { key: 'something else', newValue: '1' }));
    expect(units.chosen).toEqual(METRIC);
  });

  it('are written by the tab in which they were chosen, and by none that follows: two choices at once stay two', async () => {
    useUnits();
    // The other tab has chosen twice; this one is told of the first when the second is kept already.
    const [first, second] = [
      { ...METRIC, power: 'hp' },
      { ...METRIC, power: 'hp', torque: 'lb·ft' },
    ].map((units) => JSON.stringify(units));
    fromAnotherTab(first!);
    localStorage.setItem(KEY, second!);
    await nextTick();
    expect(localStorage.getItem(KEY)).toBe(second);
  });

  it('chosen here after another tab was followed are kept here', async () => {
    const units = useUnits();
    fromAnotherTab(JSON.stringify({ ...METRIC, pressure: 'psi' }));
    await nextTick();
    units.chosen.temperature = '°F';
    await nextTick();
    expect(kept()).toEqual({ ...METRIC, pressure: 'psi', temperature: '°F' });
  });
});
