import { FIRST_SETUPS, readingSchema, stagedKey, type Staged, type StagedHints } from '@gezeit/contract';
import { describe, expect, it } from 'vitest';
import { setupsByName } from '@gezeit/core';
import { proposalOf, stagedPulls } from '../src/model/staged-pulls.js';

// What is proposed about dropped pulls before anybody has said anything of them.

/** Dropped files of these names, a pull each, so many seconds after the first. */
function staged(files: Record<string, number>, change: Partial<Pick<Staged, 'into'> & Pick<Staged['decisions'], 'setups'>> = {}): Staged {
  const pulls = Object.keys(files).map((file, i) => ({
    id: `p${i + 1}`,
    startedAt: null,
    members: [{ file, recording: 0, startS: 1, endS: 9, offsetS: 0, how: 'first' as const, withinS: null }],
  }));
  const hints = {
    peaks: {},
    ambients: {},
    afterS: Object.fromEntries(pulls.map((pull) => [stagedKey(pull), files[pull.members[0]!.file]!])),
    named: setupsByName(pulls),
  } as unknown as StagedHints;
  const reading = readingSchema.parse({ format: 'gezeit-reading', version: 1, files: [], pulls, unmatched: [], questions: [] });
  const decisions = { setups: change.setups ?? FIRST_SETUPS, pulls: {} } as Staged['decisions'];
  return { reading, hints, decisions, into: change.into ?? null } as Staged;
}
const told = (of: Staged) => {
  const { by, setups, pulls } = proposalOf(of, stagedPulls(of));
  return {
    by,
    setups: setups.map(({ id, name }) => `${id} ${name}`).join(', '),
    pulls: Object.values(pulls)
      .map(({ setup, kind }) => (kind === 'conditioning' ? setup.toLowerCase() : setup))
      .join(''),
  };
};
const NAMES = { 'warmup.csv': 0, 'cone_1.csv': 300, 'cone_2.csv': 600, 'stock_1.csv': 2000, 'stock_2.csv': 2300 };

describe('setups are proposed', () => {
  it('by the names of the files, the reference first, a warm-up with what it warms up for', () => {
    expect(told(staged(NAMES))).toEqual({ by: 'names', setups: 'A Stock, B Cone', pulls: 'bBBAA' });
  });

  it('by the pauses where the names tell nothing', () => {
    const files = { 'run_1.csv': 0, 'run_2.csv': 300, 'run_3.csv': 600, 'run_4.csv': 2000, 'run_5.csv': 2300 };
    expect(told(staged(files))).toEqual({ by: 'pauses', setups: 'A Stock, B New part', pulls: 'AAABB' });
  });

  it('under the name that somebody has given already', () => {
    const setups = [FIRST_SETUPS[0]!, { id: 'B', name: 'Cone of the second batch' }, { id: 'C', name: 'Spare' }];
    expect(told(staged(NAMES, { setups }))).toMatchObject({ setups: 'A Stock, B Cone of the second batch, C Spare', pulls: 'bBBAA' });
  });

  it('with a name for the reference where its files have none', () => {
    const files = { 'run1.csv': 0, 'run2.csv': 300, 'run3 scoop.csv': 600, 'run4 scoop.csv': 900 };
    expect(told(staged(files))).toEqual({ by: 'names', setups: 'A Stock, B Scoop', pulls: 'AABB' });
  });

  it('of what has no name as what was driven before it', () => {
    const files = { 'stock 1.csv': 0, 'stock 2.csv': 300, 'odd.csv': 600, 'cone 1.csv': 900, 'cone 2.csv': 1200, 'cone 3.csv': 1500 };
    const { pulls, setups } = told(staged(files));
    expect([setups, pulls]).toEqual(['A Stock, B Odd, C Cone', 'AABCCC']);
  });

  it('of a programme that stands by its own setups', () => {
    const into = { programmeId: 'x', title: 'x', setups: [], pulls: [] };
    expect(told(staged(NAMES, { into, setups: [{ id: 'S1', name: 'Box' }] }))).toMatchObject({
      by: 'pauses',
      setups: 'S1 Box',
      pulls: 'S1S1S1S1S1',
    });
  });
});
