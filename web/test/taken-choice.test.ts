import type { ChoiceChange, Comparison, Programme } from '@gezeit/contract';
import { beforeEach, describe, expect, it } from 'vitest';
import { useTakenChoice } from '../src/features/verdict/taken-choice.js';
import { useExclusion } from '../src/model/exclusion-store.js';
import { useProgramme } from '../src/model/programme-store.js';
import { heldByServer, newProgramme, page } from './support/page.js';

page();

const comparison = { candidate: 'B' } as Comparison;
const BAND: [number, number] = [3000, 6000];
let id: string;

/** A programme whose leading question has a metric and a band of its own, or not. */
async function asking(own: Partial<NonNullable<Programme['questions']>[number]>): Promise<void> {
  id = await newProgramme('Choices');
  const programme = useProgramme();
  await programme.open(id);
  await programme.edit('programme', 'asked', (now) => ({ ...now, bandRpm: BAND, questions: [{ id: 'q', kind: 'power-gain', ...own }] }));
}
const take = (change: ChoiceChange) => useTakenChoice().take(change, 'in words', comparison, 'q', 'gains 1 %');
const programmeOf = async () => (await heldByServer(id)).bundle.programme;
const assumptionsOf = async () => (await heldByServer(id)).bundle.assumptions ?? {};

describe('a choice that is taken as the programme’s own', () => {
  beforeEach(() => asking({}));

  it.each<[ChoiceChange, Partial<Programme>]>([
    [{ what: 'correction', to: 'DIN_70020' }, { correction: 'DIN_70020' }],
    [{ what: 'metric', to: 'peakTorque' }, { metric: 'peakTorque' }],
    [{ what: 'bandLow', to: 3500 }, { bandRpm: [3500, 6000] }],
    [{ what: 'bandHigh', to: 5500 }, { bandRpm: [3000, 5500] }],
  ])('%j changes the programme, and the undo takes it back', async (change, expected) => {
    const before = await programmeOf();
    await take(change);
    expect(await programmeOf()).toEqual({ ...before, ...expected });
    expect(useTakenChoice().before).toMatchObject({ programme: id, candidate: 'B', what: 'in words', answer: 'gains 1 %', pull: null });
    expect(await useProgramme().undo()).toBe(true);
    expect(await programmeOf()).toEqual(before);
  });

  it.each<[ChoiceChange, object]>([
    [
      { what: 'drift', to: 0 },
      { drift: 0, walk: 0 },
    ],
    [
      { what: 'learning', to: 0 },
      { storyDay: 0, storySwap: 0 },
    ],
    [
      { what: 'powerPerKelvin', to: -0.002 },
      { startTemperature: -0.002, startTemperatureSd: 0 },
    ],
    [
      { what: 'oil', to: 0 },
      { oilTemperature: 0, oilTemperatureSd: 0 },
    ],
  ])('%j changes its assumptions, and no others', async (change, expected) => {
    await useProgramme().edit('assumptions', 'set before', () => ({ roadMass: 0.05 }));
    await take(change);
    expect(await assumptionsOf()).toEqual({ roadMass: 0.05, ...expected });
  });

  it('asks first where a pull would be left out, and changes nothing by itself', async () => {
    const before = await programmeOf();
    await take({ what: 'pull', to: 'p03' });
    expect(useExclusion().pull).toBe('p03');
    expect(useTakenChoice().before).toMatchObject({ pull: 'p03' });
    expect(await programmeOf()).toEqual(before);
  });

  it.each<ChoiceChange>([
    { what: 'temperatureExponent', to: 0.6 },
    { what: 'smoothing', to: 200 },
    { what: 'correction', to: 'C9' },
  ])('%j cannot be taken: the exchange format has no word for it', (change) => {
    expect(useTakenChoice().canTake(change)).toBe(false);
  });

  it('is forgotten when it is dismissed, and where it could not be kept', async () => {
    await take({ what: 'metric', to: 'peakPower' });
    useTakenChoice().dismiss();
    expect(useTakenChoice().before).toBeNull();
    // A band the wrong way round is refused by the server.
    await take({ what: 'bandLow', to: 9000 });
    expect(useProgramme().editFailure).not.toBeNull();
    expect(useTakenChoice().before).toBeNull();
  });
});

describe('a choice about a question with terms of its own', () => {
  it('changes the question where it has them, and the programme where it has not', async () => {
    await asking({ bandRpm: [4000, 5000] });
    const before = await programmeOf();
    await take({ what: 'bandHigh', to: 4800 });
    expect(await programmeOf()).toEqual({ ...before, questions: [{ ...before.questions![0]!, bandRpm: [4000, 4800] }] });
    await take({ what: 'metric', to: 'peakPower' });
    const after = await programmeOf();
    expect([after.metric, after.questions![0]!.metric ?? null]).toEqual(['peakPower', null]);
    expect(after.bandRpm).toEqual(BAND);
  });
});
