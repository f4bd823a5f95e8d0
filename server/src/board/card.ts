import type { BoardEntry, Bundle, SearchHit, Setup } from '@gezeit/contract';
import { GezeitError, programmeGaps } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import { analysedState, type AnalysedBy } from '../analysis/analysis.js';
import { fixedCounts } from '../analysis/fixed-findings.js';
import { stateOf, type ProgrammeState } from '../analysis/programme-state.js';
import { AttachmentEntity, type ProgrammeRow } from '../database/entities.js';
import { findProgramme } from '../store/load-bundle.js';

/**
 * Texts of a programme that can be searched for, a line each: a programme has hundreds of files, and a house a thousand programmes, so that a
 * text is all they are kept as.
 */
interface SearchLines extends Pick<SearchHit, 'kind' | 'step'> {
  lines: string;
  /** What is searched with each line and not shown. */
  also: string;
}

/** A specimen of a part as a programme had it. */
interface PartUse {
  detail: NonNullable<Setup['partDetails']>[number];
  setup: string;
  car: string;
  pulls: number;
  distanceKm: number | null;
}

/** What the lists of the house say of one programme: the board, the search, the parts. */
export interface Card {
  entry: BoardEntry;
  searched: SearchLines[];
  parts: PartUse[];
}

/** Makes a programme's card; its answers are judged where they are not kept. @throws GezeitError `not-found`. */
export async function cardOf(room: AnalysedBy, id: string): Promise<Card> {
  const { manager } = room.database;
  const row = await findProgramme(manager, id);
  const state = await stateOf(manager, row);
  return { entry: await boardEntry(room, row, state), searched: await searchedIn(manager, row, state), parts: partsOf(state.bundle) };
}

async function boardEntry(room: AnalysedBy, row: ProgrammeRow, state: ProgrammeState): Promise<BoardEntry> {
  const { bundle } = state;
  const { programme, vehicle, pulls } = bundle;
  const setupOf = (key: string) => bundle.setups.find(({ id }) => id === key)!;
  const entry: BoardEntry = {
    id: row.id,
    title: row.title,
    question: programme.question ?? '',
    vehicle: vehicle.name,
    cell: (bundle.cells ?? [bundle.cell!]).map(({ name }) => name).join(', '),
    version: row.version,
    smallestGainPct: programme.smallestGainPct,
    pullsUsed: 0,
    pullsDriven: pulls.length,
    lastPullAt: pulls.map(({ startedAt }) => startedAt).sort((a, b) => Date.parse(b) - Date.parse(a))[0] ?? null,
    plannedResolvablePct: null,
    answers: [],
    fixed: await fixedCounts(room.database.manager, state),
    earlierAnswers: (programme.revalidates?.answers ?? []).map(({ candidate, candidateName, power, pct, low, high }) => ({
      candidate,
      candidateName,
      kind: null,
      answer: power,
      bound: false,
      estimate: pct ?? null,
      low: low ?? null,
      high: high ?? null,
      unit: 'pct',
      smallest: programme.smallestGainPct,
      why: `As it stood in “${programme.revalidates!.title}”.`,
      said: {},
    })),
    gaps: programmeGaps(bundle).map(({ text }) => text),
    archived: row.archived,
    judging: false,
    problem: null,
  };
  try {
    const { findings, plannedResolvablePct } = await analysedState(room, state);
    entry.plannedResolvablePct = plannedResolvablePct;
    entry.pullsUsed = findings.pulls.filter(({ status }) => status === 'used').length;
    entry.answers = findings.comparisons.flatMap(({ candidate, answers }) =>
      answers.map(({ question: _, of: __, ...answer }) => ({
        ...answer,
        candidate,
        candidateName: setupOf(candidate).name,
        bound: setupOf(candidate).bound === true,
      })),
    );
  } catch (error) {
    if (!(error instanceof GezeitError)) throw error;
    entry.problem = error.line;
  }
  return entry;
}

async function searchedIn(
  manager: EntityManager,
  { id, title }: ProgrammeRow,
  { bundle, logs, evidence }: ProgrammeState,
): Promise<SearchLines[]> {
  const { setups, pulls, condition, vehicle, programme } = bundle;
  const details = setups.flatMap(({ partDetails }) => partDetails ?? []);
  const parts = [...new Set(setups.flatMap((setup) => setup.parts))].map((part) => {
    const detail = details.find((entry) => entry.part === part);
    return [part, detail?.material, detail?.serial && `serial ${detail.serial}`].filter(Boolean).join(', ');
  });
  const attachments = await manager.find(AttachmentEntity, { where: { programmeId: id, removed: false }, order: { file: 'ASC' } });
  const sections = setups.flatMap(({ path }) => path ?? []);
  const group = (kind: SearchLines['kind'], step: SearchLines['step'], texts: string[], also = ''): SearchLines => ({
    kind,
    step,
    lines: texts.map((text) => text.replace(/\s+/g, ' ')).join('\n'),
    also,
  });
  return [
    group('programme', 'question', [`${title} · ${vehicle.name}`], programme.question),
    group('part', 'question', parts),
    group('file', 'logs', [...logs.keys()].sort()),
    group(
      'file',
      'bench',
      attachments.map(({ file }) => file),
    ),
    group('note', 'bench', [
      ...evidence.map(({ title: name, note, sentence }) => `${name}: ${note || sentence}`),
      ...sections.flatMap(({ name, findings }) => findings.flatMap(({ text }) => (text ? [`${name}: ${text}`] : []))),
    ]),
    group(
      'note',
      'logs',
      pulls.flatMap(({ id: pull, note }) => (note ? [`${pull}: ${note}`] : [])),
    ),
    group(
      'note',
      'question',
      (condition ?? []).flatMap(({ note }) => note ?? []),
    ),
  ].filter(({ lines }) => lines !== '');
}

function partsOf(bundle: Bundle): PartUse[] {
  return bundle.setups.flatMap((setup) => {
    const pulls = bundle.pulls.filter((pull) => pull.setup === setup.id);
    const days = new Set(pulls.map((pull) => pull.day ?? pull.startedAt.slice(0, 10)));
    return (setup.partDetails ?? []).map((detail) => ({
      detail,
      setup: setup.id,
      car: bundle.vehicle.name,
      pulls: pulls.length,
      distanceKm: distanceKm(bundle, days),
    }));
  });
}

function distanceKm(bundle: Bundle, days: Set<string>): number | null {
  const readings = (bundle.days ?? []).flatMap(({ day, odometerKm }) => (days.has(day) && odometerKm != null ? [odometerKm] : []));
  return readings.length < 2 ? null : Math.max(...readings) - Math.min(...readings);
}
