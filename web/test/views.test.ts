import type { BoardEntry, ImportState } from '@gezeit/contract';
import { FLAG_WORDS, headlineOf, QUESTION_LABELS, formatterFor } from '@gezeit/core';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { beforeEach, describe, expect, inject, it } from 'vitest';
import type { Component } from 'vue';
import ImportDialog from '../src/features/import/ImportDialog.vue';
import NewProgrammeDialog from '../src/features/new-programme/NewProgrammeDialog.vue';
import BoardView from '../src/features/board/BoardView.vue';
import LogsView from '../src/features/logs/LogsView.vue';
import { PULL_COLUMNS, pullRows, sorted } from '../src/features/logs/pull-columns.js';
import SheetView from '../src/features/sheet/SheetView.vue';
import AnswerList from '../src/features/verdict/AnswerList.vue';
import CloudList from '../src/features/verdict/CloudList.vue';
import VerdictView from '../src/features/verdict/VerdictView.vue';
import { answerFigure } from '../src/shared/answer-figure.js';
import { pullReasonWord } from '@gezeit/core';
import { Show } from '../src/shared/units/show.js';
import { useShow } from '../src/shared/units/use-show.js';
import { useImport } from '../src/model/import-store.js';
import { useNewProgramme } from '../src/model/new-programme-store.js';
import { useProgramme } from '../src/model/programme-store.js';
import { IMPERIAL, METRIC, press, put, putAt, type } from './support/mounting.js';
import { drawn } from './support/no-plotly.js';
import { page } from './support/page.js';

const line = page();
let wrapper: VueWrapper | null = null;
beforeEach(() => void drawn.splice(0));

const FOLDERS = Object.keys(inject('demo'));
const UNITS = [
  ['metric', METRIC],
  ['imperial', IMPERIAL],
] as const;
const EVERY = FOLDERS.flatMap((folder) => UNITS.map(([name, units]) => ({ folder, name, units })));

/** What no page may ever show. */
const BROKEN = /\bNaN\b|\bundefined\b|\bInfinity\b|\[object|\bnull\b/;
/** Units that nobody chose. */
const FOREIGN = { metric: /°F|\bpsi\b|inH2O/, imperial: /\d\s?°C|\d\s?kPa\b/ };

async function opened(folder: string, step: 'logs' | 'verdict' | 'sheet', part: Component, units: typeof METRIC) {
  const programme = useProgramme();
  await programme.open(inject('demo')[folder]!);
  wrapper = await putAt(`/programmes/${inject('demo')[folder]!}/${step}`, part, units);
  await flushPromises();
  // What a list only offers is no figure that is shown.
  const shown = () => {
    const copy = wrapper!.element.cloneNode(true) as HTMLElement;
    for (const option of copy.querySelectorAll('option')) option.remove();
    return copy.textContent ?? '';
  };
  return { programme, text: () => shown().replace(/\s+/g, ' ') };
}
const flat = (text: string) => text.replace(/\s+/g, ' ').trim();

describe.each(EVERY)('$folder in $name units', ({ folder, name, units }) => {
  it('Verdict says the first question’s sentence of every comparison, and every answer with its reason', async () => {
    const { programme, text } = await opened(folder, 'verdict', VerdictView, units);
    for (const comparison of programme.comparisons) {
      if (programme.comparisons.length > 1) {
        const mark = [...document.querySelectorAll<HTMLButtonElement>('.pair button')].find((entry) =>
          entry.textContent.includes(programme.setupById.get(comparison.candidate)!.setup.name),
        )!;
        mark.click();
        await flushPromises();
      }
      const [first] = comparison.answers;
      // Read once: reading a whole view takes as long as drawing it.
      const said = text();
      const hasPulls = programme.view!.findings.pulls.length > 0;
      if (hasPulls) {
        const lead = headlineOf(first ?? { answer: comparison.verdict.power, said: comparison.verdict.said }, formatterFor(units));
        expect(flat(document.querySelector('h1')!.textContent)).toBe(flat(`${lead.before}${lead.figure}${lead.after}`));
        for (const answer of comparison.answers) {
          expect(said).toContain(QUESTION_LABELS[answer.kind]);
          expect(said).toContain(flat(answer.why));
        }
        for (const cloud of comparison.confounds) expect(said.toLowerCase()).toContain(flat(cloud.detail).toLowerCase());
      }
      expect(said).not.toMatch(BROKEN);
      expect(said).not.toMatch(FOREIGN[name]);
    }
  });

  it('Logs shows every pull with its status, its flags and why it does not count', async () => {
    const { programme, text } = await opened(folder, 'logs', LogsView, units);
    for (const pull of programme.view!.findings.pulls) {
      const row = document.querySelector(`[data-row="${pull.id}"]`);
      expect(row, pull.id).not.toBeNull();
      const said = flat(row!.textContent);
      expect(said).toContain(pull.id);
      for (const flag of pull.flags) expect(said, pull.id).toContain(FLAG_WORDS[flag]);
      // Conditioning and other kinds are told by their kind, everything else by why it does not count.
      if (pull.status === 'excluded')
        expect(
          pull.reasons.some((reason) => said.includes(pullReasonWord(reason))),
          `${pull.id}: ${said}`,
        ).toBe(true);
    }
    expect(text()).not.toMatch(BROKEN);
    expect(text()).not.toMatch(FOREIGN[name]);
  });

  it('Logs shows every column that a pull’s table can have, and sorts by each both ways', async () => {
    const { programme, text } = await opened(folder, 'logs', LogsView, units);
    if (programme.view!.findings.pulls.length === 0) return;
    const shown = useShow();
    const rows = pullRows(programme.view!, (ms) => String(ms));
    for (const column of PULL_COLUMNS) {
      const texts = rows.map((row) => column.text(row, shown.value));
      for (const cell of [column.head(shown.value), ...texts]) {
        expect(cell, column.key).not.toMatch(BROKEN);
        expect(cell, column.key).not.toMatch(FOREIGN[name]);
      }
      for (const isDown of [false, true]) {
        const values = sorted(rows, column, isDown, shown.value).map((row) => column.value(row, shown.value));
        const known = values.filter((value) => value !== null);
        // What is not known comes last either way.
        expect(values.slice(0, known.length)).toEqual(known);
        const numbers = known.filter((value) => typeof value === 'number');
        numbers.slice(1).forEach((value, i) => expect(isDown ? numbers[i]! - value : value - numbers[i]!).toBeGreaterThanOrEqual(0));
      }
    }
    expect(text()).toContain('Flags and reasons');
  });

  it('Sheet says the first answer of every comparison, in the chosen units', async () => {
    const { programme, text } = await opened(folder, 'sheet', SheetView, units);
    if (programme.view!.findings.pulls.length === 0) return;
    await expect.poll(() => document.querySelectorAll('.paper').length).toBe(1);
    const [comparison] = programme.comparisons;
    const lead = headlineOf(comparison!.answers[0]!, formatterFor(units));
    expect(text()).toContain(flat(`${lead.before}${lead.figure}${lead.after}`));
    expect(text()).not.toMatch(BROKEN);
    expect(text()).not.toMatch(FOREIGN[name]);
  });

  it('each part of Verdict stands by itself for every comparison', async () => {
    const programme = useProgramme();
    await programme.open(inject('demo')[folder]!);
    for (const comparison of programme.comparisons)
      for (const part of [AnswerList, CloudList]) {
        wrapper?.unmount();
        wrapper = put(part, { comparison }, units);
        await flushPromises();
        expect(wrapper.text()).not.toMatch(BROKEN);
      }
    expect(programme.comparisons.length).toBeGreaterThan(0);
  });
});

describe('the board', () => {
  it.each(UNITS)('quotes of every programme what its own verdict says, %s', async (name, units) => {
    wrapper = put(BoardView, {}, units);
    await expect.poll(() => wrapper!.findAll('.entries li').length).toBeGreaterThanOrEqual(FOLDERS.length);
    // A board that has to be judged first is drawn before it is, and says so.
    await expect.poll(() => wrapper!.text()).not.toContain('judged');
    const text = flat(wrapper.text());
    for (const folder of FOLDERS) {
      const programme = useProgramme();
      await programme.open(inject('demo')[folder]!);
      expect(text).toContain(flat(programme.view!.bundle.programme.title));
      for (const answer of programme.view!.findings.pulls.length > 0 ? programme.comparisons.flatMap(({ answers }) => answers) : [])
        if (answer.estimate !== null) expect(text).toContain(flat(answerFigure(answer, new Show(units)).figure));
    }
    expect(text).not.toMatch(BROKEN);
    expect(text).not.toMatch(FOREIGN[name]);
  });

  it('says that it could not be read, and reads it again', async () => {
    line.line.answer(/GET \/api\/programmes\?/, 500, {
      error: { code: 'internal', message: 'Broken.', nextStep: 'Try again.', place: {} },
    });
    wrapper = put(BoardView, {}, METRIC);
    await expect.poll(() => wrapper!.text()).toContain('Broken.');
    await press('Try again');
    await expect.poll(() => wrapper!.findAll('.entries li').length).toBeGreaterThanOrEqual(FOLDERS.length);
  });
});

describe('a board of many programmes', () => {
  const entry = (i: number, more: Partial<BoardEntry> = {}): BoardEntry => ({
    id: `x${i}`,
    title: `Programme ${i}`,
    question: '',
    vehicle: i % 2 ? 'Gotland estate' : 'Racka coupe',
    cell: 'Quarry cell',
    version: 1,
    smallestGainPct: 1,
    pullsUsed: 0,
    pullsDriven: 0,
    lastPullAt: null,
    plannedResolvablePct: null,
    answers: [],
    fixed: { count: 0, outOfDate: 0 },
    earlierAnswers: [],
    gaps: [],
    archived: false,
    judging: false,
    problem: null,
    ...more,
  });
  const rows = () => wrapper!.findAll('.entries li').length;

  it('draws the first of them, and more when they are asked for', async () => {
    line.line.answer(/GET \/api\/programmes\?/, 200, { programmes: Array.from({ length: 100 }, (_, i) => entry(i)) });
    wrapper = put(BoardView, {}, METRIC);
    await expect.poll(rows).toBe(40);
    await press('Show 40 of 60 more');
    expect(rows()).toBe(80);
    await press('Show 20 of 20 more');
    expect(rows()).toBe(100);
    expect(wrapper.text()).not.toContain('more');
  });

  it('finds among all of them by any word of title, car and cell, and those whose fixed answers are out of date', async () => {
    const outOfDate = { fixed: { count: 2, outOfDate: 1 } };
    line.line.answer(/GET \/api\/programmes\?/, 200, {
      programmes: Array.from({ length: 100 }, (_, i) => entry(i, i === 77 || i === 78 ? outOfDate : {})),
    });
    wrapper = put(BoardView, {}, METRIC);
    await expect.poll(rows).toBe(40);
    const seek = wrapper.find('input[type=search]');
    await seek.setValue('GOTLAND 9');
    // 9, 19, …, 89 and 91, 93, …, 99.
    expect(rows()).toBe(14);
    await seek.setValue('nobody');
    expect(wrapper.text()).toContain('None of 100 programmes names “nobody”.');
    await seek.setValue('');
    await press('Show 2 out of date');
    expect(wrapper.findAll('.entries .name').map((name) => name.text())).toEqual(['Programme 77', 'Programme 78']);
    await press('Show all');
    expect(rows()).toBe(40);
  });

  it('says what is being judged, asks again, and says nothing of it once that is done', async () => {
    line.line.answer(/GET \/api\/programmes\?/, 200, { programmes: [entry(1), entry(2, { judging: true })] });
    wrapper = put(BoardView, {}, METRIC);
    await expect.poll(() => wrapper!.text()).toContain('1 of 2 are being judged anew.');
    expect(wrapper.findAll('.figures li').map((row) => row.text())).toEqual(['nothing run yet', 'being judged…']);
    line.line.answer(/GET \/api\/programmes\?/, 200, { programmes: [entry(1), entry(2)] });
    await expect.poll(() => wrapper!.text()).not.toContain('judged');
  });
});

describe('the import dialog', () => {
  const state = (step: ImportState['step'], outcome: ImportState['outcome'] = null): ImportState => ({
    id: 'i',
    step,
    progress: 0.5,
    detail: 'logs/p01.csv',
    outcome,
  });
  const EVERY_STATE: [string, () => void, RegExp][] = [
    ['nothing chosen', () => undefined, /folder/i],
    ['sending', () => (useImport().sending = 0.3), /Sending the files/],
    ...(['receiving', 'unpacking', 'reading', 'judging', 'storing'] as const).map((step): [string, () => void, RegExp] => [
      step,
      () => (useImport().state = state(step)),
      /logs\/p01\.csv/,
    ]),
    [
      'a choice',
      () => (useImport().state = state('reading', { kind: 'needs-choice', programmeId: 'x', title: 'Old box' })),
      /Old box.*differs/s,
    ],
    ['imported', () => (useImport().state = state('done', { kind: 'imported', programmeId: 'x', notes: ['p01: a note'] })), /p01: a note/],
    ['opened', () => (useImport().state = state('done', { kind: 'opened', programmeId: 'x' })), /already|is here|there/i],
    ['cancelled', () => (useImport().state = state('done', { kind: 'cancelled' })), /cancelled|nothing was stored/i],
    [
      'failed',
      () =>
        (useImport().state = state('done', {
          kind: 'failed',
          error: { code: 'x', message: 'Row 4 is cut off.', nextStep: 'Export it again.', place: { file: 'p01.csv', row: 4 } },
        })),
      /p01\.csv.*row 4.*Row 4 is cut off\..*Export it again\.|Row 4 is cut off\..*Export it again\./s,
    ],
  ];

  it.each(EVERY_STATE)('says what there is to say while it is at: %s', async (_, begin, says) => {
    const importing = useImport();
    importing.open = true;
    begin();
    wrapper = put(ImportDialog);
    await flushPromises();
    const text = flat(document.querySelector('[role=dialog]')!.textContent);
    expect(text).toMatch(says);
    expect(text).not.toMatch(BROKEN);
  });
});

describe('the dialog of a new programme', () => {
  it('begins one with the car and the cell that are chosen, and says what is missing', async () => {
    useNewProgramme().open = true;
    wrapper = put(NewProgrammeDialog);
    await flushPromises();
    await type('Title', 'Mounted by a test');
    await press('Begin');
    await expect.poll(() => line.line.of(/^POST \/api\/programmes$/).length).toBe(1);
    expect(line.line.of(/^POST \/api\/programmes$/)[0]!.body).toMatchObject({ title: 'Mounted by a test', vehicleId: null, cellId: null });
    await expect.poll(() => useNewProgramme().open).toBe(false);
  });
});
