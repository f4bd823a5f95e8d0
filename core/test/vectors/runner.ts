import { FORMULAS_A_B_C } from './formulas-a-b-c.js';
import { FORMULAS_D_TO_I } from './formulas-d-to-i.js';
import { FORMULAS_K_L } from './formulas-k-l.js';

type Scalar = number | string | boolean | null;
export type Formula = (inputs: Inputs) => Record<string, Scalar | number[]>;

interface Tolerance {
  rel?: number;
  abs?: number;
  exact?: boolean;
}

export interface Vector {
  id: string;
  section: string;
  formula: string;
  inputs: Record<string, { value: Scalar | number[] }>;
  expected: Record<string, { value: Scalar | number[] }>;
  tolerance: Record<string, Tolerance>;
}

/** Sections whose every vector must have a formula. */
const BUILT_SECTIONS = ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h', 'i', 'k', 'l'];
const FORMULAS: Record<string, Formula> = { ...FORMULAS_A_B_C, ...FORMULAS_D_TO_I, ...FORMULAS_K_L };

/** A vector's inputs by name; a missing or wrongly typed one is the vector's failure. */
export class Inputs {
  readonly #vector: Vector;

  constructor(vector: Vector) {
    this.#vector = vector;
  }

  number(name: string): number {
    const value = this.#vector.inputs[name]?.value;
    if (typeof value !== 'number') throw new Error(`input ${name} is not a number`);
    return value;
  }

  text(name: string): string {
    const value = this.#vector.inputs[name]?.value;
    if (typeof value !== 'string') throw new Error(`input ${name} is not a text`);
    return value;
  }

  list(name: string): number[] {
    const value = this.#vector.inputs[name]?.value;
    if (!Array.isArray(value)) throw new Error(`input ${name} is not a list`);
    return value;
  }
}

export interface VectorReport {
  passed: number;
  failures: string[];
  notBuiltCount: number;
  notBuiltSections: string[];
}

function agrees(got: unknown, expected: unknown, tolerance: Tolerance): boolean {
  if (Array.isArray(expected)) {
    return Array.isArray(got) && got.length === expected.length && expected.every((value, index) => agrees(got[index], value, tolerance));
  }
  if (tolerance.exact) return got === expected;
  if (typeof got !== 'number' || typeof expected !== 'number') return false;
  if (tolerance.abs === undefined && tolerance.rel === undefined) return false;
  const allowed = Math.max(tolerance.abs ?? 0, (tolerance.rel ?? 0) * Math.abs(expected));
  return Math.abs(got - expected) <= allowed;
}

function failureOf(vector: Vector, formula: Formula): string | null {
  try {
    const got = formula(new Inputs(vector));
    for (const [name, { value }] of Object.entries(vector.expected)) {
      if (!agrees(got[name], value, vector.tolerance[name] ?? {})) return `${vector.id}: ${name} is ${got[name]}, expected ${value}`;
    }
    return null;
  } catch (error) {
    return `${vector.id}: ${error instanceof Error ? error.message : String(error)}`;
  }
}

/** Holds every vector against the core. A vector of a built section without a formula fails. */
export function runVectors(vectors: Vector[]): VectorReport {
  const report: VectorReport = { passed: 0, failures: [], notBuiltCount: 0, notBuiltSections: [] };
  const sections = new Set<string>();
  for (const vector of vectors) {
    const formula = FORMULAS[vector.formula];
    if (!formula && !BUILT_SECTIONS.includes(vector.section)) {
      report.notBuiltCount += 1;
      sections.add(vector.section);
      continue;
    }
    const failure = formula
      ? failureOf(vector, formula)
      : `${vector.id}: section ${vector.section} is built but has no formula ${vector.formula}`;
    if (failure) report.failures.push(failure);
    else report.passed += 1;
  }
  report.notBuiltSections = [...sections].sort();
  return report;
}
