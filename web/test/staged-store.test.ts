import { stagedSchema, type Staged } from '@gezeit/contract';
import { beforeEach, expect, inject, it } from 'vitest';
import { useStaged } from '../src/model/staged-store.js';
import { page, pageOf } from './support/page.js';

// Decisions about dropped files: one after the other on their way, and none of them lost with the page.

const at = page();
beforeEach(() => pageOf(inject('randomServer')));

/** Two runs of the loose day, dropped and read. */
async function dropped(): Promise<ReturnType<typeof useStaged>> {
  const staged = useStaged();
  await staged.open(inject('dropped'));
  await expect.poll(() => staged.pulls.length, { timeout: 30_000 }).toBe(2);
  return staged;
}
const heldBy = async (id: string): Promise<Staged> => stagedSchema.parse(await (await fetch(`/api/staged/${id}`)).json());
const named = (staged: ReturnType<typeof useStaged>, name: string) =>
  staged.decide({ setups: staged.decisions.setups.map((setup, i) => (i === 0 ? { ...setup, name } : setup)) });
const sent = () => at.line.of(/PATCH .*staged/).map(({ body }) => (body as { setups: { name: string }[] }).setups[0]!.name);

it('decisions go one after the other, and the last one stands', async () => {
  const staged = await dropped();
  const before = sent().length;
  const names = ['Stock', 'Freer filter', 'Freer filter, cleaned'];
  const decided = names.map((name) => named(staged, name));
  // What is shown does not wait for the server.
  await expect.poll(() => staged.decisions.setups[0]!.name).toBe(names.at(-1));
  await Promise.all(decided);
  expect(sent().slice(before)).toEqual(names);
  expect((await heldBy(staged.staged!.id)).decisions.setups[0]!.name).toBe(names.at(-1));
});

it.each([1, 2, 3, 5])(
  'of %s decisions on their way the last is sent when the page is left, without waiting for the ones before',
  async (count) => {
    const staged = await dropped();
    const { id } = staged.staged!;
    const before = sent().length;
    const release = at.line.hold(/PATCH .*staged/);
    const decided = Array.from({ length: count }, (_, i) => named(staged, `Name ${i + 1}`));
    await expect.poll(() => sent().length).toBe(before + 1);
    window.dispatchEvent(new Event('pagehide'));
    // One that is under way is not sent twice.
    await expect.poll(() => sent().slice(before)).toEqual(count === 1 ? ['Name 1'] : ['Name 1', `Name ${count}`]);
    await expect.poll(async () => (await heldBy(id)).decisions.setups[0]!.name).toBe(`Name ${count}`);
    release();
    await Promise.all(decided);
    expect((await heldBy(id)).decisions.setups[0]!.name).toBe(`Name ${count}`);
  },
);

it('nothing is sent by a page that is left with nothing on its way', async () => {
  const staged = await dropped();
  await named(staged, 'Kept');
  const before = sent().length;
  window.dispatchEvent(new Event('pagehide'));
  await new Promise((resolve) => setTimeout(resolve, 50));
  expect(sent()).toHaveLength(before);
});

it('a decision that is refused says so, and the next one is taken', async () => {
  const staged = await dropped();
  at.line.cut = true;
  await named(staged, 'Lost on the way');
  expect(staged.failure?.message).toBe('Gezeit does not answer.');
  at.line.cut = false;
  await named(staged, 'Heard');
  expect(staged.failure).toBeNull();
  expect((await heldBy(staged.staged!.id)).decisions.setups[0]!.name).toBe('Heard');
});

it('undo takes back what was decided, one decision at a time, on the server too', async () => {
  const staged = await dropped();
  const first = staged.decisions.setups[0]!.name;
  await named(staged, 'One');
  await named(staged, 'Two');
  for (const name of ['One', first]) {
    await staged.undo();
    expect(staged.decisions.setups[0]!.name).toBe(name);
    expect((await heldBy(staged.staged!.id)).decisions.setups[0]!.name).toBe(name);
  }
  await staged.undo();
  expect(staged.decisions.setups[0]!.name).toBe(first);
});

/** Two runs with a column that nothing is taken for, dropped and read, in a store that has not heard yet that they are. */
async function heardTooEarly(): Promise<{ staged: ReturnType<typeof useStaged>; id: string; opening: Promise<void>; device: string }> {
  const rows = (first: number) =>
    Array.from({ length: 400 }, (_, i) => `${(i / 20).toFixed(2)},${first + Math.max(0, i - 40) * 13},${(25 + i / 100).toFixed(2)}`).join(
      '\n',
    );
  const form = new FormData();
  for (const [name, first] of [
    ['a.csv', 1800],
    ['b.csv', 1810],
  ] as const)
    form.append(name, new File([`Time [s],Engine speed [rpm],Blorp\n${rows(first)}\n`], name));
  const answer = await fetch('/api/staged?title=Early', { method: 'POST', headers: { 'x-gezeit-person': 'PT' }, body: form });
  const { id } = stagedSchema.parse(await answer.json());
  let read: Staged;
  do read = await heldBy(id);
  while (read.state === 'reading');
  at.line.answer(new RegExp(`GET /api/staged/${id}`), 200, { ...read, state: 'reading' });
  const staged = useStaged();
  const opening = staged.open(id);
  await expect.poll(() => staged.pulls.length).toBe(2);
  expect(read.decisions.pulls).toEqual({});
  return { staged, id, opening, device: read.reading!.files[0]!.device };
}
/** The line on which an import is followed has no other end here: the server says what became of it. */
const becomesProgramme = (id: string) => expect.poll(async () => (await heldBy(id)).keptAs, { timeout: 30_000 }).not.toBeNull();
const asWarm = (device: string) => ({ channels: { [device]: { Blorp: { quantity: 'intakeAirTemperature' as const, unit: '°C' } } } });

it('what is decided about a column before anything was proposed is held, and the pulls are proposed and kept', async () => {
  const { staged, id, opening, device } = await heardTooEarly();
  await staged.decide(asWarm(device));
  await opening;
  await named(staged, 'Heard after it');
  const { decisions } = await heldBy(id);
  expect(decisions.channels).toEqual(asWarm(device).channels);
  expect(Object.keys(decisions.pulls)).toEqual(staged.pulls.map(({ key }) => key));
  expect(decisions.setups[0]!.name).toBe('Heard after it');
  void staged.keep();
  await becomesProgramme(id);
});

it('what is kept at once after a column was decided waits until the files are read again', async () => {
  const { staged, id, device } = await heardTooEarly();
  const decided = [staged.decide(asWarm(device)), staged.decide({ dateOrder: 'day-first' }), named(staged, 'Third')];
  await expect.poll(() => staged.decisions.setups[0]!.name).toBe('Third');
  void staged.keep();
  await becomesProgramme(id);
  expect(staged.failure).toBeNull();
  await Promise.all(decided);
  expect((await heldBy(id)).decisions).toMatchObject({ ...asWarm(device), dateOrder: 'day-first', setups: [{ name: 'Third' }, {}] });
});

it('what a field tells once its files have gone from the page is sent to nobody, least of all to those that come', async () => {
  const staged = await dropped();
  const before = sent().length;
  const opening = staged.open('others');
  expect(staged.staged).toBeNull();
  await staged.decide({ title: 'typed too late' });
  await opening;
  expect(sent().length).toBe(before);
  expect(staged.failure).not.toBeNull();
});
