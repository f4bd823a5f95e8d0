import { ASSUMPTION_KEYS, ASSUMPTION_RANGES, pathSectionSchema, SECTION_KINDS, type AssumptionKey } from '@gezeit/contract';
import { INSTRUMENTS, scheduled, withConditioning } from '@gezeit/core';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { describe, expect, inject, it, vi } from 'vitest';
import type { Component } from 'vue';
import InstrumentPanel from '../src/features/bench/InstrumentPanel.vue';
import SectionForm from '../src/features/bench/SectionForm.vue';
import HeatTable from '../src/features/plan/HeatTable.vue';
import RehearsePanel from '../src/features/plan/RehearsePanel.vue';
import RulesPanel from '../src/features/plan/RulesPanel.vue';
import SuggestPanel from '../src/features/plan/SuggestPanel.vue';
import SwapTable from '../src/features/plan/SwapTable.vue';
import { useProgramme } from '../src/model/programme-store.js';
import AskedPanel from '../src/features/question/AskedPanel.vue';
import CarPanel from '../src/features/question/CarPanel.vue';
import CellPanel from '../src/features/question/CellPanel.vue';
import ClaimList from '../src/features/question/ClaimList.vue';
import ConditionCheck from '../src/features/question/ConditionCheck.vue';
import QuestionList from '../src/features/question/QuestionList.vue';
import SetupTable from '../src/features/question/SetupTable.vue';
import AssumptionTable from '../src/features/verdict/AssumptionTable.vue';
import type { ChosenUnits } from '../src/shared/units/units-store.js';
import { IMPERIAL, METRIC, put, typeOver } from './support/mounting.js';
import { heldByServer, newProgramme, page } from './support/page.js';

// Whatever is typed into whichever field: no part breaks, and what the server holds stays a sound programme.

page();
let wrapper: VueWrapper | null = null;

const NONSENSE = [
  '',
  ' ',
  'x y z',
  '-1',
  '+2 kW',
  '0',
  '1e99',
  '1.2.3',
  '١٢',
  '9'.repeat(400),
  '3 furlongs',
  '25 inH2O',
  '<b>&"\'',
  '5 %',
  '1,5',
  'NaN',
  '-',
  '°',
];

/** Types every piece of nonsense into every text field of what is on the page, and leaves it each time. */
async function typeAll(texts: readonly string[] = NONSENSE): Promise<number> {
  let count = 0;
  const fields = () => [...document.querySelectorAll<HTMLInputElement>('input:not([type]), input[type=text], textarea')];
  const names = fields().map((input) => input.getAttribute('aria-label'));
  for (const [place, name] of names.entries()) {
    let input: HTMLInputElement | undefined;
    for (const text of texts) {
      // Looked for again only where what was typed has made it anew.
      if (!input?.isConnected || input.getAttribute('aria-label') !== name)
        input = fields().find((entry) => name !== null && entry.getAttribute('aria-label') === name) ?? fields()[place];
      if (!input) break;
      await typeOver(input, text);
      count += 1;
    }
  }
  await flushPromises();
  await expect.poll(() => useProgramme().saving, { timeout: 120_000 }).toBe(0);
  return count;
}

/** A programme with two setups, a plan and a path. */
async function filled(title: string) {
  const id = await newProgramme(title);
  const programme = useProgramme();
  await programme.open(id);
  await programme.edit('plan', 'plan', () => scheduled({ pulls: withConditioning(['A', 'B', 'B', 'A']) }));
  return { id, programme };
}

const PARTS: [string, Component, ChosenUnits][] = [
  ['What is asked', AskedPanel, IMPERIAL],
  ['The car', CarPanel, METRIC],
  ['The cell', CellPanel, IMPERIAL],
  ['Claims', ClaimList, METRIC],
  ['The condition check', ConditionCheck, METRIC],
  ['Questions', QuestionList, IMPERIAL],
  ['Setups side by side', SetupTable, IMPERIAL],
  ['Rules', RulesPanel, IMPERIAL],
  ['Swaps', SwapTable, METRIC],
  ['Heat', HeatTable, IMPERIAL],
  ['Suggest', SuggestPanel, METRIC],
  ['Rehearse', RehearsePanel, METRIC],
];

describe('nonsense', () => {
  it.each(PARTS)(
    '%s takes it or says why not',
    async (title, part, units) => {
      const { id, programme } = await filled(title);
      wrapper = put(part, {}, units);
      await flushPromises();
      const typed = await typeAll();
      if (part !== ConditionCheck) expect(typed).toBeGreaterThanOrEqual(NONSENSE.length);
      expect(programme.editFailure).toBeNull();
      expect((await heldByServer(id)).bundle).toEqual(programme.view!.bundle);
    },
    60_000,
  );
});

describe('nonsense typed on the bench', () => {
  it.each(INSTRUMENTS.map((instrument) => [instrument.title, instrument] as const))(
    '%s takes it or says why not',
    async (title, instrument) => {
      vi.stubGlobal(
        'Worker',
        class {
          postMessage = () => {};
          terminate = () => {};
        },
      );
      const { id, programme } = await filled(title);
      wrapper = put(InstrumentPanel, { instrument }, IMPERIAL);
      await flushPromises();
      await typeAll();
      // Limits and cautions are said in the units that were chosen.
      const told = wrapper.findAll('[role=alert], .problem, .cautions').map((part) => part.text());
      expect(told.join('')).not.toBe('');
      expect(told.filter((text) => /\d\s(kPa|Pa|kW|°C|N·m)(?![\w/·])/.test(text))).toEqual([]);
      expect(programme.editFailure).toBeNull();
      expect((await heldByServer(id)).id).toBe(id);
    },
    60_000,
  );

  it('a section of every kind takes it or says why not', async () => {
    const { id, programme } = await filled('Section');
    for (const kind of SECTION_KINDS) {
      const added = pathSectionSchema.parse({ id: kind, kind, name: kind });
      await programme.edit('setups', `section ${kind}`, (now) =>
        now.map((setup) => (setup.reference ? { ...setup, path: [...(setup.path ?? []), added] } : setup)),
      );
      const setup = programme.view!.bundle.setups.find(({ reference }) => reference)!;
      const section = setup.path!.find((entry) => entry.id === kind)!;
      wrapper = put(SectionForm, { setup, section });
      await flushPromises();
      await typeAll(['', 'x y z', '-1', '0', '1e99', '25 inH2O', '1,5']);
      expect(programme.editFailure, kind).toBeNull();
      wrapper.unmount();
    }
    expect((await heldByServer(id)).bundle).toEqual(programme.view!.bundle);
  }, 120_000);
});

it('nonsense typed over the assumptions of a verdict leaves each where it was, or in its range', async () => {
  const programme = useProgramme();
  await programme.open(inject('airbox'));
  wrapper = put(AssumptionTable, { comparison: programme.comparisons[0]! });
  await flushPromises();
  const texts = ['', 'x y z', '-100', '1e99', '25 inH2O'];
  expect(await typeAll(texts)).toBeGreaterThanOrEqual(ASSUMPTION_KEYS.length * texts.length);
  expect(programme.editFailure).toBeNull();
  const { bundle } = await heldByServer(inject('airbox'));
  for (const [key, value] of Object.entries(bundle.assumptions ?? {})) {
    const [least, most] = ASSUMPTION_RANGES[key as AssumptionKey];
    expect(value).toBeGreaterThanOrEqual(least);
    expect(value).toBeLessThanOrEqual(most);
  }
  await programme.edit('assumptions', 'as usual', () => null);
}, 120_000);
