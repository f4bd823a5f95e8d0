import type { Budget, BudgetSection } from '@gezeit/core';
import { inOrderOfTheWay } from '@gezeit/core';
import type { PathSection, Setup } from '@gezeit/contract';

/** A section of the way with what it is in each of the two setups. */
export interface PathColumn {
  id: string;
  name: string;
  kind: PathSection['kind'];
  reference: PathSection | null;
  candidate: PathSection | null;
}

/** Sections of two setups in the order of the air's way; the same id is the same place. */
export function pathColumns(reference: Pick<Setup, 'path'> | null, candidate: Pick<Setup, 'path'> | null): PathColumn[] {
  const [a, b] = [reference?.path ?? [], candidate?.path ?? []];
  const all = inOrderOfTheWay([...a, ...b.filter(({ id }) => !a.some((section) => section.id === id))]);
  return all.map(({ id, name, kind }) => ({
    id,
    name,
    kind,
    reference: a.find((section) => section.id === id) ?? null,
    candidate: b.find((section) => section.id === id) ?? null,
  }));
}

/** Pressure along the way, Pa below ambient, at both ends of every column; a gap where a loss is missing. */
export function descent(columns: readonly PathColumn[], budget: Budget): { fromPa: number; toPa: number; section: BudgetSection | null }[] {
  let level = 0;
  return columns.map(({ id }) => {
    const section = budget.sections.find((entry) => entry.section.id === id) ?? null;
    const fromPa = level;
    if (section?.dropPa != null && !section.afterCompressor) level += section.dropPa;
    return { fromPa, toPa: level, section };
  });
}
