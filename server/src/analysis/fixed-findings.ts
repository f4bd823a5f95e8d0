import { LIMITS, METHOD_VERSION, type FixedEntry, type FixedFinding, type SheetSource } from '@gezeit/contract';
import { conflict, headlineOf, missing, PLAIN_FORMATTER } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import { FixedFindingEntity, type FixedFindingRow } from '../database/entities.js';
import { recordChange } from '../store/changes.js';
import { evidenceFile } from '../store/evidence.js';
import { bodyOf, digestOfJson, storeFixed } from '../store/fixed-findings.js';
import { refuseMore } from '../store/refuse-more.js';
import type { ProgrammeState } from './programme-state.js';

/** The judgement draws nothing at random: the seed stands for those of later methods. */
const SEED = 1;

/** What an answer is made from: each part of the programme by its canonical JSON, each log by its bytes. */
const JUDGED_PARTS = ['programme', 'vehicle', 'setups', 'pulls', 'condition', 'days', 'assumptions', 'channels'] as const;

/** Digests of everything that a programme's answers are made from. */
function inputsOf({ bundle, logs, evidence }: ProgrammeState): Record<string, string> {
  const parts = JUDGED_PARTS.flatMap((part) =>
    bundle[part] == null ? [] : [[`gezeit.json#${part}`, digestOfJson(bundle[part])] as const],
  );
  const cells = bundle.cells ?? (bundle.cell ? [bundle.cell] : []);
  return Object.fromEntries([
    ...parts,
    ['gezeit.json#cells', digestOfJson(cells)],
    ...logs,
    ...evidence.map((entry) => [evidenceFile(entry.id), digestOfJson(entry)] as const),
  ]);
}

/** Inputs that are not what they were; gone and new ones too. */
function changedInputs(fixed: Readonly<Record<string, string>>, now: Readonly<Record<string, string>>): string[] {
  return [...new Set([...Object.keys(fixed), ...Object.keys(now)])].filter((path) => fixed[path] !== now[path]).sort();
}

/** Every fixed finding of a programme, the newest first, held against what it would be made from now. */
export async function fixedEntries(manager: EntityManager, state: ProgrammeState): Promise<FixedEntry[]> {
  const rows = await manager.find(FixedFindingEntity, { where: { programmeId: state.id, removed: false }, order: { at: 'DESC' } });
  if (rows.length === 0) return [];
  const now = inputsOf(state);
  return rows.map((row) => entryOf(row, now));
}

/** The same in two numbers, for the board. */
export async function fixedCounts(manager: EntityManager, state: ProgrammeState): Promise<{ count: number; outOfDate: number }> {
  const rows = await manager.find(FixedFindingEntity, {
    where: { programmeId: state.id, removed: false },
    select: { id: true, inputs: true },
  });
  if (rows.length === 0) return { count: 0, outOfDate: 0 };
  const now = inputsOf(state);
  const outOfDate = rows.filter(({ inputs }) => changedInputs(JSON.parse(inputs) as Record<string, string>, now).length > 0).length;
  return { count: rows.length, outOfDate };
}

/** A fixed finding with what has changed under it. @throws GezeitError `not-found`. */
export async function fixedOf(
  manager: EntityManager,
  state: ProgrammeState,
  key: string,
): Promise<{ entry: FixedEntry; fixed: FixedFinding }> {
  const row = await manager.findOneBy(FixedFindingEntity, { programmeId: state.id, key, removed: false });
  if (!row) throw missing('There is no such fixed finding.', 'Open the programme again.');
  return { entry: entryOf(row, inputsOf(state)), fixed: JSON.parse(row.body) as FixedFinding };
}

function entryOf({ key, by, at, why, digest, inputs, body }: FixedFindingRow, now: Record<string, string>): FixedEntry {
  const { words } = JSON.parse(body) as Pick<FixedFinding, 'words'>;
  return { id: key, by, at, why, digest, words, changed: changedInputs(JSON.parse(inputs) as Record<string, string>, now) };
}

/** What a sheet is made from, fixed: who, when and why, with every input's digest. */
export function fixedFrom(
  source: SheetSource,
  state: ProgrammeState,
  stamp: { id: string; by: string; at: string; why: string },
): FixedFinding {
  const { comparisons } = source.findings;
  const words = comparisons.flatMap(({ answers }) =>
    answers.map((answer) => {
      const { before, figure, after } = headlineOf(answer, PLAIN_FORMATTER);
      return `${before}${figure}${after}`;
    }),
  );
  return {
    format: 'gezeit-fixed-finding',
    version: 1,
    ...stamp,
    finding: { comparisons },
    words,
    inputs: inputsOf(state),
    assumptions: { ...state.bundle.assumptions },
    method: METHOD_VERSION,
    seed: SEED,
    sheet: source,
  };
}

/** Keeps a fixed finding. @throws GezeitError `changed-meanwhile` where something it was made from has changed since, `too-many`. */
export async function keepFixed(manager: EntityManager, state: ProgrammeState, fixed: FixedFinding): Promise<void> {
  if (changedInputs(fixed.inputs, inputsOf(state)).length > 0)
    throw conflict('changed-meanwhile', 'Something was changed while it was being fixed.', 'Look at the answer again, and fix it then.');
  refuseMore(await manager.countBy(FixedFindingEntity, { programmeId: state.id, removed: false }), LIMITS.fixedFindings, 'fixed findings');
  await storeFixed(manager, state.id, fixed, bodyOf(fixed));
  await recordChange(manager, state.id, fixed.by, { kind: 'fixed', subject: fixed.id, before: true, after: false });
}
