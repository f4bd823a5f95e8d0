import type { PartHistory } from '@gezeit/contract';
import type { Card } from './card.js';

/** Part lines with their revisions and specimens, and where each specimen has been. */
export function listParts(cards: readonly Card[]): PartHistory[] {
  const lines = new Map<string, PartHistory>();
  for (const { entry, parts } of cards)
    for (const { detail, setup, car, pulls, distanceKm } of parts) {
      const name = detail.line ?? detail.part;
      const line = lines.get(name) ?? { line: name, revisions: [] };
      lines.set(name, line);
      let revision = line.revisions.find((other) => other.part === detail.part && other.revision === (detail.revision ?? null));
      if (!revision) {
        const { part, revision: number = null, follows = null, stage = null, material = null } = detail;
        revision = { part, revision: number, follows, stage, material, specimens: [] };
        line.revisions.push(revision);
      }
      let specimen = revision.specimens.find(({ serial }) => serial === (detail.serial ?? null));
      if (!specimen) {
        specimen = { serial: detail.serial ?? null, cars: [], programmes: [], pulls: 0, distanceKm: null };
        revision.specimens.push(specimen);
      }
      if (!specimen.cars.includes(car)) specimen.cars.push(car);
      specimen.programmes.push({ id: entry.id, title: entry.title, setup });
      specimen.pulls += pulls;
      if (distanceKm !== null) specimen.distanceKm = (specimen.distanceKm ?? 0) + distanceKm;
    }
  return [...lines.values()].map((line) => ({ ...line, revisions: inLine(line.revisions) }));
}

/** Revisions in the order in which they follow each other. */
function inLine<T extends { revision: string | null; follows: string | null }>(revisions: T[]): T[] {
  const depth = (entry: T, seen = new Set<T>()): number => {
    const before = revisions.find((other) => other !== entry && other.revision !== null && other.revision === entry.follows);
    if (!before || seen.has(before)) return 0;
    return 1 + depth(before, seen.add(entry));
  };
  return [...revisions].sort(
    (a, b) => depth(a) - depth(b) || String(a.revision).localeCompare(String(b.revision), 'en', { numeric: true }),
  );
}
