import { changeText } from '@gezeit/core';
import { flushPromises } from '@vue/test-utils';
import { expect, inject, it, describe, vi } from 'vitest';
import { nextTick } from 'vue';
import UndoneNote from '../src/features/programme/UndoneNote.vue';
import { useBenchInputs } from '../src/features/bench/bench-inputs-store.js';
import { usePlan } from '../src/model/plan-store.js';
import { useProgramme } from '../src/model/programme-store.js';
import { api } from '../src/shared/api/client.js';
import { usePerson } from '../src/shared/person-store.js';
import { useConnection } from '../src/shared/api/connection-store.js';
import { put } from './support/mounting.js';
import { heldByServer, newProgramme, page, refusal } from './support/page.js';

const at = page();

/** The open programme, its curves read too. */
async function opened(id: string) {
  const programme = useProgramme();
  programme.showsCurves(true);
  await programme.open(id);
  await expect.poll(() => programme.curves ?? programme.curvesFailure, { timeout: 20_000 }).not.toBeNull();
  return programme;
}
/** Changes the title, as a field of *Question* would. */
const retitle = (programme: ReturnType<typeof useProgramme>, change: (title: string) => string) =>
  programme.edit('programme', 'title', (now) => ({ ...now, title: change(now.title) }));
const titleOf = (programme: ReturnType<typeof useProgramme>) => programme.view!.bundle.programme.title;

describe('a programme that is opened', () => {
  it('shows what the server holds, its curves, and its setups in their colours', async () => {
    const programme = await opened(inject('airbox'));
    expect(programme.failure).toBeNull();
    expect(titleOf(programme)).toBe('Sealed airbox, Skudde estate');
    expect(programme.setups.map(({ setup }) => setup.id)).toEqual(['A', 'B']);
    expect(new Set(programme.setups.map(({ colour }) => colour)).size).toBe(2);
    expect(programme.pullIds).toHaveLength(16);
    expect(programme.comparisons).toHaveLength(1);
  });

  it('is the one that was opened last, however slowly an earlier one answers', async () => {
    const id = await newProgramme('Opened last');
    const programme = useProgramme();
    const release = at.line.hold(new RegExp(inject('airbox')));
    const slow = programme.open(inject('airbox'));
    await opened(id);
    release();
    await slow;
    expect(titleOf(programme)).toBe('Opened last');
  });

  it('has its curves judged only where something shows them, of what stands by then', async () => {
    const programme = useProgramme();
    const asked = vi.spyOn(api, 'curves');
    await programme.open(inject('airbox'));
    const id = await newProgramme('Without curves');
    await programme.open(id);
    await retitle(programme, () => 'changed where nothing shows curves');
    await flushPromises();
    expect([asked.mock.calls.length, programme.curves, programme.curvesPending]).toEqual([0, null, true]);
    programme.showsCurves(true);
    await expect.poll(() => programme.curvesPending, { timeout: 20_000 }).toBe(false);
    expect(asked.mock.calls.map(([of]) => of)).toEqual([id]);
    expect(programme.curves!.setups).toEqual([]);
  });

  it('is not computed anew by curves that come before anything rests on them', async () => {
    const programme = useProgramme();
    programme.showsCurves(true);
    const curvesCome = at.line.hold(/curves/);
    const choicesCome = at.line.hold(/choices/);
    await programme.open(inject('airbox'));
    const before = programme.view;
    curvesCome();
    await expect.poll(() => programme.curves, { timeout: 20_000 }).not.toBeNull();
    expect(programme.curvesPending).toBe(false);
    expect(programme.view).toBe(before);
    choicesCome();
  });

  it('that does not exist, or a server that does not answer, says what to do; the next one opens', async () => {
    const programme = useProgramme();
    await programme.open('none');
    expect(programme.failure!.message).not.toBe('');
    expect(programme.failure!.nextStep).toContain('board');
    at.line.cut = true;
    await programme.open(inject('airbox'));
    expect(programme.failure).toMatchObject({ code: 'unreachable', nextStep: 'Check that it is still running, then try again.' });
    at.line.cut = false;
    await opened(inject('airbox'));
    expect(programme.failure).toBeNull();
  });

  it('takes no answer that it cannot read for a programme', async () => {
    const programme = useProgramme();
    at.line.answer(/GET .*programmes/, 200, { nonsense: true });
    await programme.open(inject('airbox'));
    expect(programme.view).toBeNull();
    expect(programme.failure!.code).toBe('unreadable');
  });

  it('tells where what it shows was kept in the browser', async () => {
    const connection = useConnection();
    connection.heard(new Response('', { headers: { 'x-gezeit-kept': '2026-06-11T09:05:00Z' } }));
    expect(connection.keptText).toBe('Gezeit does not answer: shown from this browser, as it was at 14:50.');
    await opened(inject('airbox'));
    expect(connection.keptText).toBeNull();
  });
});

describe('what else could have been chosen', () => {
  const asked = () => at.line.asked.flatMap(({ path }) => /choices\?extent=(\w+)/.exec(path)?.[1] ?? []);
  const settled = () => new Promise((resolve) => setTimeout(resolve, 300));

  it('is tried for what the answer rests on at once, all of it only while a place that shows it is near', async () => {
    const programme = await opened(inject('airbox'));
    void programme.fetchChoices();
    await expect.poll(() => programme.choicesTried).toBe('short');
    await settled();
    expect(asked()).toEqual(['short']);
    programme.nearAllChoices(true);
    await expect.poll(() => programme.choicesTried).toBe('all');
    expect(asked()).toEqual(['short', 'all']);
    // A second place near changes nothing; what is asked for anew is tried whole while one of them is left.
    programme.nearAllChoices(true);
    programme.nearAllChoices(false);
    void programme.fetchChoices();
    await expect.poll(() => programme.choicesTried).toBe('all');
    expect(asked()).toEqual(['short', 'all', 'short', 'all']);
    programme.nearAllChoices(false);
    void programme.fetchChoices();
    await expect.poll(() => programme.choicesTried).toBe('short');
    await settled();
    expect(asked().slice(4)).toEqual(['short']);
  });

  it('waits for the newest state alone: one that was overtaken while nobody was near is never tried', async () => {
    const programme = await opened(inject('airbox'));
    void programme.fetchChoices();
    await expect.poll(() => programme.choicesTried).toBe('short');
    void programme.fetchChoices();
    await expect.poll(() => programme.choicesTried).toBe('short');
    programme.nearAllChoices(true);
    await expect.poll(() => programme.choicesTried).toBe('all');
    await settled();
    expect(asked()).toEqual(['short', 'short', 'all']);
    programme.nearAllChoices(false);
  });
});

/** A programme that no other test changes at the same time: an undo would take that back. */
const OWN = () => inject('demo')['runners-and-map']!;

describe('a change of a programme', () => {
  it('is stored one after the other, each from what the one before has left', async () => {
    const id = await newProgramme('Changed twice');
    const programme = await opened(id);
    const release = at.line.hold(/PATCH/);
    const first = retitle(programme, (title) => `${title}, then`);
    const second = retitle(programme, (title) => `${title}, and again`);
    // Both are on their way, the second behind the first.
    expect(programme.saving).toBe(2);
    expect(programme.isStored).toBe(false);
    release();
    expect(await Promise.all([first, second])).toEqual([true, true]);
    expect(titleOf(programme)).toBe('Changed twice, then, and again');
    expect((await heldByServer(id)).bundle.programme.title).toBe('Changed twice, then, and again');
    expect(programme.saving).toBe(0);
  });

  it('that changes nothing asks the server for nothing', async () => {
    const programme = await opened(inject('airbox'));
    const before = at.line.asked.length;
    expect(await retitle(programme, (title) => title)).toBe(true);
    expect(at.line.asked).toHaveLength(before);
  });

  it('that another window was faster with is refused, said, and shown as it is now', async () => {
    const id = await newProgramme('Two windows');
    const programme = await opened(id);
    const before = programme.view!;
    expect(await retitle(programme, () => 'by the first')).toBe(true);
    programme.stored = before;
    expect(await retitle(programme, () => 'by the second')).toBe(false);
    expect(programme.editFailure!.nextStep).not.toBe('');
    expect(titleOf(programme)).toBe('by the first');
    expect(await retitle(programme, () => 'by the second, again')).toBe(true);
    expect(programme.editFailure).toBeNull();
  });

  it('that the server does not take is said, and what it holds is shown again', async () => {
    const programme = await opened(await newProgramme('Kept as it was'));
    at.line.answer(/PATCH/, 500, refusal('internal', 'Something went wrong.'));
    expect(await retitle(programme, () => 'lost')).toBe(false);
    expect(programme.editFailure!.message).toBe('Something went wrong.');
    expect(titleOf(programme)).toBe('Kept as it was');
  });

  it('is stored where it belongs when another programme is opened meanwhile', async () => {
    const [first, second] = [await newProgramme('First'), await newProgramme('Second')];
    const programme = await opened(first);
    const release = at.line.hold(/PATCH/);
    const edits = [retitle(programme, (title) => `${title}, edited`), retitle(programme, (title) => `${title} again`)];
    const opening = opened(second);
    release();
    await Promise.all([...edits, opening]);
    expect(titleOf(programme)).toBe('Second');
    expect((await heldByServer(first)).bundle.programme.title).toBe('First, edited again');
    expect((await heldByServer(second)).bundle.programme.title).toBe('Second');
  });

  it('is not begun in a programme that was left before anybody said who works', async () => {
    localStorage.clear();
    const [first, second] = [await newProgramme('Asked in this one'), await newProgramme('Open by then')];
    const programme = await opened(first);
    const edit = retitle(programme, () => 'written to the wrong one');
    const opening = opened(second);
    await expect.poll(() => usePerson().asking).toBe(true);
    usePerson().settle(false);
    expect(await edit).toBe(false);
    await opening;
    expect((await heldByServer(second)).bundle.programme.title).toBe('Open by then');
    expect((await heldByServer(first)).bundle.programme.title).toBe('Asked in this one');
  });

  it('leaves a pull out and takes that back, the findings following', async () => {
    const programme = await opened(OWN());
    const used = () => programme.view!.findings.pulls.filter(({ status }) => status === 'used').length;
    const before = used();
    const measured = programme.view!.findings.pulls.find(({ status }) => status === 'used')!.id;
    expect(await programme.exclude(measured, 'a belt slipped')).toBeNull();
    expect(used()).toBe(before - 1);
    expect(changeText(programme.undoable!)).toBe(`whether pull ${measured} counts`);
    expect(await programme.undo()).toBe(true);
    expect(used()).toBe(before);
    expect(programme.takenBack).toMatchObject({ kind: 'pull-excluded', subject: measured });
    at.line.cut = true;
    expect((await programme.exclude(measured, 'nobody hears'))!.code).toBe('unreachable');
    expect(used()).toBe(before);
  });

  it('answers for the programme it was made in, not for the one that is open by then', async () => {
    const programme = await opened(OWN());
    const pull = programme.view!.findings.pulls.find(({ status }) => status === 'used')!.id;
    const release = at.line.hold(/PATCH/);
    const excluding = programme.exclude(pull, 'slow');
    const id = await newProgramme('Opened while it was slow');
    await opened(id);
    release();
    expect(await excluding).toBeNull();
    expect(titleOf(programme)).toBe('Opened while it was slow');
    await opened(OWN());
    await programme.undo();
  });
});

it('names the change that was really taken back, where another window has made one meanwhile', async () => {
  const programme = await opened(await newProgramme('Undone by two'));
  await programme.edit('programme', 'own', (now) => ({ ...now, notes: 'own' }));
  const { programme: before } = (await heldByServer(programme.view!.id)).bundle;
  await api.edit(programme.view!.id, { part: 'programme', before, value: { ...before, notes: 'theirs' }, what: 'theirs' }, () => undefined);
  expect(changeText(programme.undoable!)).toBe('own');
  expect(await programme.undo()).toBe(true);
  expect(changeText(programme.takenBack!)).toBe('theirs');
  await programme.undo();
  expect(changeText(programme.takenBack!)).toBe('own');
});

it('says for some seconds what was taken back, whatever page is open', async () => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
  const programme = useProgramme();
  const note = put(UndoneNote);
  const change = { id: 7, at: '2026-03-04T10:00:00Z', by: 'TS', kind: 'edit' as const, undone: false };
  const told = async () => {
    await nextTick();
    return note.text();
  };
  expect(await told()).toBe('');
  programme.takenBack = { ...change, subject: 'setup C added' };
  expect(await told()).toBe('Taken back: setup C added');
  vi.advanceTimersByTime(4000);
  programme.takenBack = { ...change, id: 6, subject: 'tune of B' };
  await nextTick();
  vi.advanceTimersByTime(4000);
  expect(await told()).toBe('Taken back: tune of B');
  vi.advanceTimersByTime(4000);
  expect(await told()).toBe('');
  note.unmount();
  vi.useRealTimers();
});

describe('what is asked of the server beside an edit', () => {
  it('shows what went wrong where nobody else does, and says that nothing was done where nobody says who works', async () => {
    const programme = await opened(await newProgramme('Asked beside'));
    expect(programme.undoable).toBeNull();
    expect(await programme.undo()).toBe(false);
    expect(programme.editFailure!.nextStep).not.toBe('');
    at.line.cut = true;
    expect(await programme.request(() => api.addCell({ name: 'Cell 2', powerAt: 'wheel' }))).toBeNull();
    expect(programme.editFailure!.code).toBe('unreachable');
    at.line.cut = false;
    expect((await programme.request(() => api.addCell({ name: 'Cell 2', powerAt: 'wheel' })))!.id).toBeTruthy();
    usePerson().initials = '';
    const keeping = programme.change((id) => api.programme(id));
    await expect.poll(() => usePerson().asking).toBe(true);
    usePerson().settle(false);
    expect((await keeping)!.message).toContain('nothing was done');
  });
});

describe('another window', () => {
  it('is followed when this one is looked at again, and only where something has changed', async () => {
    const id = await newProgramme('Looked at again');
    const programme = await opened(id);
    const shown = programme.view;
    await programme.refresh();
    expect(programme.view).toBe(shown);
    await retitle(programme, () => 'Changed elsewhere');
    const newer = programme.view;
    programme.stored = shown;
    await programme.refresh();
    expect(programme.view!.changes).toEqual(newer!.changes);
    at.line.cut = true;
    await programme.refresh();
    await programme.reread();
    expect(titleOf(programme)).toBe('Changed elsewhere');
  });
});

describe('what is typed and stored a moment after', () => {
  it('of an instrument counts at once, and reaches the server though another programme is opened within that moment', async () => {
    const [first, second] = [await newProgramme('Typed in'), await newProgramme('Gone to')];
    const programme = await opened(first);
    const inputs = useBenchInputs();
    inputs.set('opening', { area: 0.006 });
    expect(inputs.of('opening')['area']).toBe(0.006);
    expect(inputs.stored['opening']).toBeUndefined();
    await opened(second);
    expect(titleOf(programme)).toBe('Gone to');
    expect(inputs.of('opening')['area']).toBeUndefined();
    expect((await heldByServer(first)).bundle.bench!.inputs!['opening']).toEqual({ area: 0.006 });
    expect((await heldByServer(second)).bundle.bench?.inputs?.['opening']).toBeUndefined();
  });

  it('of an instrument stays pending while it cannot be stored, and what is typed meanwhile is not lost', async () => {
    const id = await newProgramme('Typed on');
    await opened(id);
    const inputs = useBenchInputs();
    inputs.set('opening', { area: 0.006 });
    at.line.cut = true;
    await inputs.store();
    expect(inputs.of('opening')['area']).toBe(0.006);
    at.line.cut = false;
    const release = at.line.hold(/PATCH/);
    const storing = inputs.store();
    await expect.poll(() => useProgramme().saving).toBe(1);
    inputs.set('filter', { mediaArea: 0.4 });
    release();
    await storing;
    expect(Object.keys(inputs.pending)).toEqual(['filter']);
    await inputs.store();
    expect((await heldByServer(id)).bundle.bench!.inputs).toMatchObject({ opening: { area: 0.006 }, filter: { mediaArea: 0.4 } });
  });

  it('of a plan is shown at once, move after move, and the last one stands', async () => {
    const id = await newProgramme('Moved');
    await opened(id);
    const plan = usePlan();
    const release = at.line.hold(/PATCH/);
    const pull = (setup: string, measured = true) => ({ setup, kind: measured ? ('measured' as const) : ('conditioning' as const) });
    plan.change('first', () => ({ pulls: [{ ...pull('A'), atMin: 0 }] }));
    plan.change('second', (now) => ({ ...now, pulls: [...now.pulls, { ...pull('B'), atMin: 0 }] }));
    expect(plan.plan.pulls.map(({ setup }) => setup)).toEqual(['A', 'B']);
    expect(plan.plan.pulls[1]!.atMin).toBeGreaterThan(10);
    expect(plan.report.comparisons).toHaveLength(1);
    release();
    await expect.poll(async () => (await heldByServer(id)).bundle.plan?.pulls.map(({ setup }) => setup)).toEqual(['A', 'B']);
    expect(plan.plan.pulls.map(({ setup }) => setup)).toEqual(['A', 'B']);
    at.line.answer(/PATCH/, 500, refusal('internal', 'Something went wrong.'));
    plan.change('third', () => ({ pulls: [] }));
    expect(plan.plan.pulls).toEqual([]);
    await expect.poll(() => plan.plan.pulls.length).toBe(2);
    expect(useProgramme().editFailure!.message).toBe('Something went wrong.');
  });
});
