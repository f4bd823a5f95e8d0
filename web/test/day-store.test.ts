import { dayViewSchema, type DayHappening, type DayView } from '@gezeit/contract';
import { checklist, scheduled, withConditioning } from '@gezeit/core';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { forgetEvents, keepEvents, keptOutbox } from '../src/model/kept-day.js';
import { useDay } from '../src/features/day/day-store.js';
import { useProgramme } from '../src/model/programme-store.js';
import { direct, heldByServer, LiveEnd, newProgramme, page, refusal } from './support/page.js';

const at = page();
afterEach(() => useDay().close());
const PLAN = scheduled({ pulls: withConditioning(['A', 'B', 'B', 'A']) });
const BEGUN: DayHappening = { kind: 'begun', day: '2026-06-11', pulls: PLAN.pulls, fitted: 'A' };
const note = (text: string): DayHappening => ({ kind: 'note', text, files: [], pull: null });
const pull = (id: string, setup = 'A'): DayHappening => ({
  kind: 'pull-started',
  pull: id,
  setup,
  pullKind: 'measured',
  place: null,
  stamp: {},
  weather: null,
  start: { coolantC: 88, intakeAirC: 30, oilC: 90 },
  anyway: null,
  cause: 'key',
});
const ended = (id: string): DayHappening => ({ kind: 'pull-ended', pull: id, aborted: false, cause: 'key' });

/** The safety items before the day, ticked. */
const ticked = (): DayHappening => ({
  kind: 'checked',
  list: 'beforeDay',
  of: '2026-06-11',
  items: checklist(useDay().bundle, 'beforeDay').flatMap(({ id, safety }) => (safety ? id : [])),
  done: true,
});

const onServer = async (id: string): Promise<DayView> => dayViewSchema.parse(await direct('GET', `/api/programmes/${id}/day`));
const textsOnServer = async (id: string) => (await onServer(id)).events.flatMap(({ what }) => (what.kind === 'note' ? what.text : []));

/** A programme that is open with its Day, the live connection standing. */
async function opened(id: string) {
  await useProgramme().open(id);
  const day = useDay();
  day.open(id);
  LiveEnd.last!.onopen!();
  LiveEnd.last!.tell({ type: 'view', view: await onServer(id) });
  return day;
}
const begun = async (title: string) => {
  const id = await newProgramme(title);
  const day = await opened(id);
  expect(await day.act(BEGUN)).toBe(true);
  return { id, day };
};

describe('what is planned elsewhere', () => {
  const plannedElsewhere = async (id: string, letters: string[]) => {
    const { plan = null } = (await heldByServer(id)).bundle;
    const value = scheduled({ pulls: withConditioning(letters) });
    await direct('PATCH', `/api/programmes/${id}`, { part: 'plan', before: plan, value, what: 'plan' });
  };
  const shown = () => useProgramme().view?.bundle.plan?.pulls.map(({ setup }) => setup);

  it('is shown on Day, whether the line stood already or not, and asked for no more than it has to be', async () => {
    const id = await newProgramme('Planned elsewhere');
    await useProgramme().open(id);
    await plannedElsewhere(id, ['A', 'B']);
    const day = useDay();
    day.open(id);
    LiveEnd.last!.onopen!();
    LiveEnd.last!.tell({ type: 'view', view: await onServer(id) });
    await expect.poll(shown).toEqual((await heldByServer(id)).bundle.plan!.pulls.map(({ setup }) => setup));
    await plannedElsewhere(id, ['B', 'A', 'A']);
    const asked = vi.spyOn(useProgramme(), 'followOthers');
    LiveEnd.last!.tell({ type: 'view', view: await onServer(id) });
    await expect.poll(shown).toEqual((await heldByServer(id)).bundle.plan!.pulls.map(({ setup }) => setup));
    // Readings alone are no reason to ask.
    const { clock } = await onServer(id);
    LiveEnd.last!.tell({ type: 'live', clock, readings: [], history: {}, trace: null, rig: null });
    expect(asked).toHaveBeenCalledTimes(1);
    asked.mockRestore();
  });
});

describe('what is done on Day', () => {
  it('is shown at once, kept in the browser, and forgotten there when the server has it', async () => {
    const { id, day } = await begun('Shown at once');
    const release = at.line.hold(/POST .*events/);
    const acting = day.act(note('first'));
    await expect.poll(() => day.outbox.length).toBe(1);
    expect(day.events.at(-1)!.what).toMatchObject({ kind: 'note', text: 'first' });
    expect(keptOutbox(id)).toHaveLength(1);
    release();
    expect(await acting).toBe(true);
    expect(day.outbox).toEqual([]);
    expect(keptOutbox(id)).toEqual([]);
    expect(await textsOnServer(id)).toEqual(['first']);
  });

  it('goes on in its order while nothing answers, and is sent when something does', async () => {
    const { id, day } = await begun('Nothing answers');
    at.line.cut = true;
    for (const what of [ticked(), pull('p01'), ended('p01'), note('two'), pull('p02'), ended('p02'), note('four')])
      expect([await day.act(what), day.failure]).toEqual([true, null]);
    expect(day.connected).toBe(false);
    expect(day.state.pulls.map(({ id: own }) => own)).toEqual(['p01', 'p02']);
    expect(day.failure).toBeNull();
    at.line.cut = false;
    LiveEnd.last!.onopen!();
    await expect.poll(() => day.outbox.length).toBe(0);
    const { events } = await onServer(id);
    expect(events.map(({ what }) => what.kind)).toEqual([
      'begun',
      'checked',
      'pull-started',
      'pull-ended',
      'note',
      'pull-started',
      'pull-ended',
      'note',
    ]);
  });

  it('is kept over a reload, with the day as it was seen last and its clock gone on', async () => {
    const { id, day } = await begun('Over a reload');
    at.line.cut = true;
    await day.act(note('before the reload'));
    const before = day.nowMs;
    day.close();
    expect(day.events).toEqual([]);
    day.open(id);
    expect(day.events.map(({ what }) => what.kind)).toEqual(['begun', 'note']);
    expect(day.nowMs).toBeGreaterThanOrEqual(before);
    expect(day.nowMs - before).toBeLessThan(5000);
    at.line.cut = false;
    LiveEnd.last!.onopen!();
    await expect.poll(() => textsOnServer(id)).toEqual(['before the reload']);
  });

  it('may not happen where the day does not allow it: said, and not kept', async () => {
    const { id, day } = await begun('Not allowed');
    expect(await day.act(ended('p77'))).toBe(false);
    expect(day.failure!.nextStep).not.toBe('');
    expect(keptOutbox(id)).toEqual([]);
    expect(at.line.of(/POST .*events/)).toHaveLength(1);
    expect(await day.act(pull('p01'))).toBe(false);
    expect(day.failure!.nextStep).toContain('Before the day');
    expect(await day.act(ticked(), pull('p01'), ended('p01'), pull('p01'))).toBe(false);
    expect(day.state.pulls).toEqual([]);
  });

  it('loses only what the server refuses, and says so', async () => {
    const { id, day } = await begun('One is refused');
    at.line.cut = true;
    for (const text of ['one', 'two', 'three']) await day.act(note(text));
    at.line.cut = false;
    at.line.answer(/POST .*events/, 409, refusal('not-now', 'Not all of it.'));
    at.line.answer(/POST .*events/, 409, refusal('not-now', 'Not this one.'));
    LiveEnd.last!.onopen!();
    await expect.poll(() => day.outbox.length).toBe(0);
    expect(await textsOnServer(id)).toEqual(['two', 'three']);
    expect(day.failure!.message).toBe('Not this one.');
  });

  it('never overtakes what came before it, where the line goes in the middle', async () => {
    const { id, day } = await begun('In the middle');
    at.line.cut = true;
    for (const text of ['one', 'two', 'three']) await day.act(note(text));
    at.line.cut = false;
    at.line.answer(/POST .*events/, 409, refusal('not-now', 'Not all of it.'));
    at.line.answer(/POST .*events/, 500, refusal('internal', 'Something went wrong.'));
    LiveEnd.last!.onopen!();
    await expect.poll(() => day.connected).toBe(false);
    expect(await textsOnServer(id)).toEqual([]);
    expect(day.outbox).toHaveLength(3);
    await expect.poll(() => textsOnServer(id), { timeout: 8000 }).toEqual(['one', 'two', 'three']);
    expect(day.failure).toBeNull();
  });

  it('is tried again where the server fails of itself, until it is taken', async () => {
    const { id, day } = await begun('It failed of itself');
    at.line.answer(/POST .*events/, 500, refusal('internal', 'Something went wrong.'));
    expect(await day.act(note('kept all the same'))).toBe(true);
    expect(day.outbox).toHaveLength(1);
    await expect.poll(() => textsOnServer(id), { timeout: 8000 }).toEqual(['kept all the same']);
    expect(day.outbox).toEqual([]);
  });

  it('asks who is working before anything, and does nothing where nobody says', async () => {
    const { day } = await begun('Who is it');
    const { usePerson } = await import('../src/shared/person-store.js');
    const person = usePerson();
    person.initials = '';
    const acting = day.act(note('anonymous'));
    await expect.poll(() => person.asking).toBe(true);
    person.settle(false);
    expect(await acting).toBe(false);
    expect(day.events).toHaveLength(1);
    const again = day.act(note('signed'));
    person.set('QT', 'Quiet Test');
    expect(await again).toBe(true);
    expect(day.events.at(-1)!.by).toBe('QT Quiet Test');
  });

  it('says that the browser is full where it is, and only while the server has not got it', async () => {
    const { id, day } = await begun('Browser is full');
    const store = localStorage;
    const setItem = () => {
      throw new DOMException('full', 'QuotaExceededError');
    };
    vi.stubGlobal('localStorage', {
      getItem: (key: string) => store.getItem(key),
      removeItem: (key: string) => store.removeItem(key),
      setItem,
    });
    expect(await day.act(note('taken at once'))).toBe(true);
    expect(day.failure).toBeNull();
    at.line.cut = true;
    expect(await day.act(note('only here'))).toBe(true);
    expect(day.failure!.nextStep).toContain('Leave this window open');
    expect(day.outbox).toHaveLength(1);
    vi.stubGlobal('localStorage', store);
    at.line.cut = false;
    LiveEnd.last!.onopen!();
    await expect.poll(() => textsOnServer(id)).toEqual(['taken at once', 'only here']);
  });
});

describe('another day opened in the place of this one', () => {
  it('shows nothing of it, even where an answer to it comes late', async () => {
    const { id: first, day } = await begun('Left with an answer to come');
    const second = await newProgramme('Opened instead');
    const release = at.line.hold(/POST .*events/);
    const acting = day.act(note('for the first'));
    await expect.poll(() => at.line.of(/POST .*events/).length).toBe(2);
    await opened(second);
    release();
    await acting;
    expect(day.events).toEqual([]);
    expect(day.outbox).toEqual([]);
    expect(keptOutbox(first)).toEqual([]);
    expect(await textsOnServer(first)).toEqual(['for the first']);
    expect((await onServer(second)).events).toEqual([]);
  });

  it('keeps for the first what the first has not sent', async () => {
    const { id: first, day } = await begun('Left unsent');
    at.line.cut = true;
    await day.act(note('unsent'));
    at.line.cut = false;
    const second = await newProgramme('Opened meanwhile');
    await opened(second);
    expect(day.outbox).toEqual([]);
    expect(await textsOnServer(first)).toEqual([]);
    await opened(first);
    await expect.poll(() => textsOnServer(first)).toEqual(['unsent']);
  });

  it('does not show traces, readings nor a dialog of the first', async () => {
    const { id, day } = await begun('With traces');
    const view = await onServer(id);
    LiveEnd.last!.tell({
      type: 'view',
      view: {
        ...view,
        readings: [{ quantity: 'coolantTemperature', value: 88, atMs: view.clock.nowMs }],
        history: { coolantTemperature: { atMs: [view.clock.nowMs], value: [88] } },
        trace: { pull: 'p01', engineSpeedRpm: [3000], channels: { power: [90_000] } },
      },
    });
    day.dialog = 'note';
    expect(day.trace!.pull).toBe('p01');
    day.open(await newProgramme('Without'));
    expect([day.trace, day.rig, day.dialog, day.failure]).toEqual([null, null, null, null]);
    expect(day.readings).toEqual([]);
    expect(day.history).toEqual({});
  });
});

describe('a second window on the same machine', () => {
  /** What the other window leaves in the browser's store, told as a browser tells it. */
  function otherWindow(id: string, change: () => void): void {
    const key = `gezeit.day.${id}`;
    const oldValue = localStorage.getItem(key);
    change();
    window.dispatchEvent(new StorageEvent('storage', { key, oldValue, newValue: localStorage.getItem(key) }));
  }
  const event = (text: string) => ({ id: crypto.randomUUID(), at: new Date().toISOString(), by: 'OT Other', what: note(text) });

  it('follows along while nothing answers, and neither forgets what the other keeps', async () => {
    const { id, day } = await begun('Two windows of one day');
    at.line.cut = true;
    await day.act(note('by this one'));
    const others = [event('by the other'), event('by the other too')];
    otherWindow(id, () => keepEvents(id, others));
    const texts = () => day.events.flatMap(({ what }) => (what.kind === 'note' ? what.text : []));
    expect(texts()).toEqual(['by this one', 'by the other', 'by the other too']);
    await day.act(note('by this one again'));
    expect(keptOutbox(id)).toHaveLength(4);
    at.line.cut = false;
    LiveEnd.last!.onopen!();
    await expect.poll(() => textsOnServer(id)).toEqual(['by this one', 'by the other', 'by the other too', 'by this one again']);
    expect(keptOutbox(id)).toEqual([]);
    day.close();
    otherWindow(id, () => keepEvents(id, [event('after it was closed')]));
    expect(day.events).toEqual([]);
  });

  it('shows what has happened without a break, though the server has answered the other window first', async () => {
    const { id, day } = await begun('Answered there first');
    const release = at.line.hold(/POST .*events/);
    const acting = day.act(ticked());
    await expect.poll(() => day.outbox.length).toBe(1);
    const isTicked = () => day.events.some(({ what }) => what.kind === 'checked');
    await expect.poll(async () => (await onServer(id)).events.length).toBe(2);
    // The other window has seen it come back over its own line.
    otherWindow(id, () => forgetEvents(id, new Set(day.outbox.map((own) => own.id))));
    expect(isTicked()).toBe(true);
    release();
    expect(await acting).toBe(true);
    expect([isTicked(), day.outbox, (await onServer(id)).events.length]).toEqual([true, [], 2]);
  });

  it('asks for itself about what the other was refused', async () => {
    const { id, day } = await begun('Refused there');
    at.line.cut = true;
    const pulled = { ...event(''), what: ended('p77') };
    otherWindow(id, () => keepEvents(id, [pulled]));
    otherWindow(id, () => forgetEvents(id, new Set([pulled.id])));
    at.line.cut = false;
    LiveEnd.last!.onopen!();
    await expect.poll(() => day.outbox).toEqual([]);
    expect(day.failure!.code).toBe('no-pull-running');
    expect((await onServer(id)).events).toHaveLength(1);
  });

  it('passes over what is no event, and what belongs to another day', async () => {
    const { id, day } = await begun('Nonsense in the store');
    otherWindow(id, () => localStorage.setItem(`gezeit.day.${id}`, '[{"id":1},"x"'));
    otherWindow('another', () => localStorage.setItem('gezeit.day.another', JSON.stringify([event('of another')])));
    localStorage.setItem(`gezeit.day.${id}`, JSON.stringify([{ id: 'short' }, event('sound')]));
    localStorage.setItem(`gezeit.day.view.${id}`, '{"keptAtMs":1,"view":{}}');
    expect(day.events).toHaveLength(1);
    day.open(id);
    expect(day.events.map(({ what }) => what.kind)).toEqual(['note']);
  });
});

describe('what the day says next', () => {
  it('follows the plan from the moment it has begun, and a day that ended can be begun again while nothing answers', async () => {
    const id = await newProgramme('Planned and begun');
    const day = await opened(id);
    expect([await useProgramme().edit('plan', 'plan', () => PLAN), useProgramme().editFailure]).toEqual([true, null]);
    expect(day.instruction.kind).toBe('begin');
    expect(day.shown.remaining).toHaveLength(PLAN.pulls.length);
    expect(await day.act(BEGUN)).toBe(true);
    expect(day.state.remaining).toHaveLength(PLAN.pulls.length);
    expect(day.resolution.planned).toEqual(day.resolution.ifGoneOn);
    expect(day.resolution.ifStopped).not.toEqual(day.resolution.planned);
    expect(await day.act({ kind: 'ended', reason: 'enough', open: [] })).toBe(true);
    expect(day.instruction.kind).toBe('ended');
    at.line.cut = true;
    expect(await day.act(BEGUN)).toBe(true);
    expect(day.instruction.kind).not.toBe('ended');
    expect(await day.act(ticked(), pull('p01'), ended('p01'))).toBe(true);
    expect(day.state.pulls.map((own) => own.id)).toEqual(['p01']);
    at.line.cut = false;
    LiveEnd.last!.onopen!();
    await expect.poll(() => day.outbox.length).toBe(0);
    expect((await onServer(id)).events.map(({ what }) => what.kind)).toEqual(['begun', 'checked', 'pull-started', 'pull-ended']);
  });

  it('keeps the course of the readings, joined without a gap or a double', async () => {
    const { id, day } = await begun('Course');
    const { clock } = await onServer(id);
    const told = (from: number, to: number) => {
      const atMs = Array.from({ length: to - from }, (_, i) => clock.nowMs + 1000 * (from + i));
      LiveEnd.last!.tell({
        type: 'live',
        clock: { nowMs: clock.nowMs + 1000 * to, speed: 1 },
        readings: [],
        history: { coolantTemperature: { atMs, value: atMs.map((_, i) => 80 + from + i) } },
        trace: null,
        rig: null,
      });
    };
    told(0, 5);
    told(3, 8);
    told(2, 6);
    expect(day.history['coolantTemperature']!.value).toEqual([80, 81, 82, 83, 84, 85, 86, 87]);
  });
});
