import type { Aspiration, Bundle, Correction, Question, QuestionKind, Vehicle } from '@gezeit/contract';
import { QUESTION_KINDS } from '../questions/index.js';

/** A proposal of the application with its reason. */
export interface Proposal<T> {
  value: T;
  why: string;
}

/** The weather correction proposed for a car, and why. */
export function proposedCorrection({ aspiration, boostControl }: Pick<Vehicle, 'aspiration' | 'boostControl'>): Proposal<Correction> {
  if (boostControl === 'absolute')
    return {
      value: 'NONE',
      why: 'The engine holds an absolute manifold pressure whatever the weather: a standard factor would correct what the weather never did.',
    };
  if (aspiration === 'na')
    return { value: 'SAE_J1349', why: 'A naturally aspirated engine follows the air of the day: the factor takes it out.' };
  return {
    value: 'SAE_J1349',
    why: 'Boost follows the air of the day at least in part. The standard factor may over-correct: the uncorrected difference stands beside it.',
  };
}

/** Band in which a question is asked by default, rpm: the upper part of the engine speeds, where a restriction costs most. */
export function proposedBandRpm({ aspiration, maxRpm }: Pick<Vehicle, 'aspiration' | 'maxRpm'>): [number, number] {
  const top = maxRpm ?? 6500;
  const round = (rpm: number) => Math.round(rpm / 100) * 100;
  return [round(top * (aspiration === 'na' ? 0.6 : 0.5)), round(top * 0.97)];
}

/** Smallest difference that would matter, per cent, until the engineer says another. Assumption. */
const PROPOSED_SMALLEST_PCT = 1;

/** Parts that can do their work before the pull: what they bring about at its start is theirs. */
const WORKS_BEFORE_THE_PULL = /box|duct|shield|feed|snorkel|scoop|cooler/i;

/** A question of a kind with the limit proposed for it; a part that can cool the start of a pull is asked with its own start. */
export function proposedQuestion(id: string, kind: QuestionKind, parts: readonly string[]): Question {
  const power = kind === 'power-gain' || kind === 'power-no-loss' || kind === 'package-gain';
  const own = parts.some((part) => WORKS_BEFORE_THE_PULL.test(part));
  return { id, kind, ...QUESTION_KINDS[kind].limit, ...(power ? { start: own ? ('own' as const) : ('same' as const) } : {}) };
}

/** Names that a draft carries until it is told better. */
export const UNNAMED_CAR = 'Unnamed car';
export const UNNAMED_CELL = 'Unnamed cell';

/** Fields of a draft that hold a default of the application and wait for an answer. */
const DRAFT_FIELDS = ['bandRpm', 'smallestGainPct', 'correction'] as const;

export interface DraftOptions {
  title: string;
  aspiration: Aspiration;
  vehicle?: Vehicle | null;
  cell?: NonNullable<Bundle['cell']> | null;
}

/** A programme as it begins: everything that later steps need stands there as a default, and is listed as unanswered. */
export function draftProgramme({ title, aspiration, vehicle, cell }: DraftOptions): Bundle {
  const car: Vehicle = vehicle ?? { name: UNNAMED_CAR, aspiration, boostControl: aspiration === 'na' ? 'none' : null };
  return {
    format: 'gezeit-bundle',
    version: 1,
    programme: {
      title,
      question: '',
      metric: 'meanPower',
      bandRpm: proposedBandRpm(car),
      smallestGainPct: PROPOSED_SMALLEST_PCT,
      correction: proposedCorrection(car).value,
      questions: [proposedQuestion('q1', 'power-gain', [])],
      unanswered: [...DRAFT_FIELDS],
    },
    vehicle: car,
    cells: [cell ?? { id: 'c1', name: UNNAMED_CELL, powerAt: 'wheel', repeatabilityPct: null }],
    setups: [
      { id: 'A', name: 'Stock', reference: true, parts: [], state: {} },
      { id: 'B', name: 'New part', parts: [], state: {} },
    ],
    pulls: [],
  };
}
