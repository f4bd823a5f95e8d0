import type { ProgrammeView, SheetSource } from '@gezeit/contract';
import { beforeEach, describe, expect, inject, it } from 'vitest';
import { SHEET_TABLES } from '../src/features/sheet/sheet-tables.js';
import { beforeLogs, beforeVerdict } from '../src/model/next-step.js';
import { useProgramme } from '../src/model/programme-store.js';
import { STEP_NAMES } from '../src/model/step-names.js';
import { STEP_STATES } from '../src/model/step-states.js';
import { csvText } from '../src/shared/save.js';
import { heldByServer, newProgramme, page } from './support/page.js';

page();

const standings = (view: ProgrammeView) => Object.fromEntries(STEP_NAMES.map((name) => [name, STEP_STATES[name](view).state]));

describe('how far a programme is', () => {
  it.each(Object.entries(inject('demo')))('is said of every step of %s in a few words, as its findings have it', async (_, id) => {
    const view = await heldByServer(id);
    for (const name of STEP_NAMES) {
      const { why } = STEP_STATES[name](view);
      expect(why.length, name).toBeGreaterThan(3);
      expect(why, name).not.toMatch(/NaN|undefined|null|Infinity/);
    }
    const { findings } = view;
    const used = findings.pulls.filter(({ status }) => status === 'used').length;
    if (findings.pulls.length > 0) expect(STEP_STATES.logs(view).why).toBe(`${used} of ${findings.pulls.length} pulls used`);
    const open = findings.comparisons.filter(({ verdict }) => ['withheld', 'not-resolved'].includes(verdict.power)).length;
    if (findings.pulls.length > 0) expect(STEP_STATES.verdict(view).state).toBe(open === 0 ? 'done' : 'gap');
    // What has been driven needs no step before it.
    expect(beforeLogs(view) === null).toBe(view.tide.pulls.length > 0);
  });

  it('of a new one is nothing, and leads from step to step', async () => {
    const view = await heldByServer(await newProgramme('Nothing yet'));
    expect(standings(view)).toMatchObject({ plan: 'nothing', day: 'nothing', logs: 'nothing', verdict: 'nothing', sheet: 'nothing' });
    expect(STEP_STATES.question(view).state).toBe('gap');
    expect(beforeLogs(view)).toMatchObject({ step: 'plan' });
    const [setup] = view.bundle.setups;
    const one = { ...view, bundle: { ...view.bundle, setups: [setup!] }, findings: { ...view.findings, comparisons: [] } };
    expect(beforeVerdict(one)).toMatchObject({ step: 'question', link: 'Name the setups' });
    const planned = { ...view, bundle: { ...view.bundle, plan: { pulls: [{ setup: 'A', kind: 'measured' as const, atMin: 0 }] } } };
    expect(beforeLogs(planned)).toMatchObject({ step: 'day', text: 'One pull is planned.' });
  });

  it('leads to Logs where pulls are there and none of them counts, and to the day where none is measured', async () => {
    const view = await heldByServer(inject('airbox'));
    expect(beforeVerdict(view)).toBeNull();
    const none = {
      ...view,
      findings: { ...view.findings, pulls: view.findings.pulls.map((pull) => ({ ...pull, status: 'excluded' as const })) },
    };
    expect(beforeVerdict(none)).toMatchObject({ step: 'logs' });
    expect(STEP_STATES.logs(none)).toEqual({ state: 'gap', why: 'no pull can be used' });
    const warm = {
      ...none,
      bundle: { ...view.bundle, pulls: view.bundle.pulls.map((pull) => ({ ...pull, kind: 'conditioning' as const })) },
    };
    expect(beforeVerdict(warm)).toMatchObject({ step: 'day' });
  });
});

describe('the data of a sheet', () => {
  beforeEach(() => useProgramme().open(inject('airbox')));

  it.each(Object.entries(inject('demo')))('of %s is a table of each kind for every candidate, as long as what it lists', async (_, id) => {
    const { bundle, findings, tide } = await heldByServer(id);
    const curves = (await (await fetch(`/api/programmes/${id}/curves`)).json()) as SheetSource['curves'];
    for (const { candidate, answers } of findings.comparisons)
      for (const [name, { label, of }] of Object.entries(SHEET_TABLES)) {
        const columns = of({ bundle, findings, curves, tide }, candidate);
        const length = columns[0]!.values.length;
        const expected = { answers: answers.length, pulls: findings.pulls.length }[name];
        if (expected !== undefined) expect(length, label).toBe(expected);
        expect(new Set(columns.map(({ header }) => header)).size).toBe(columns.length);
        for (const { header, values } of columns) {
          expect(values, header).toHaveLength(length);
          for (const value of values) expect(value === null || typeof value === 'string' || Number.isFinite(value), header).toBe(true);
        }
        // A reason may hold commas, marks and line ends: it stays one cell.
        expect((await csvText(columns)).split('\n')[0]).toBe(columns.map(({ header }) => header).join(','));
      }
  });
});
