import type { ChannelMapping } from '@gezeit/contract';
import { UNITS, type Dimension } from '../units/units.js';
import { EXPECTATIONS } from './expectations.js';
import { takeHeaderApart, writtenUnit, type Header, type WrittenUnit } from './header.js';
import { readName, type NameClaim, type NameReading } from './name-evidence.js';

/** One way to read a header: what of it is the name, what the unit. */
export interface Candidate {
  header: Header;
  reading: NameReading;
  unit: WrittenUnit | null;
}

/** Whether a row holds units rather than names or values. */
export function looksLikeUnits(row: readonly string[]): boolean {
  const cells = row.map((cell) => cell.trim()).filter((cell) => cell !== '');
  const isUnit = (cell: string) => {
    const unit = writtenUnit(cell);
    return (
      unit === null || unit.unit !== null || unit.afr || /^(h+:m+:s+.*|hh?:mm:ss|[a-z]+:[a-z]+|d+[./-]m+[./-]y+.*|y+-m+-d+.*)$/i.test(cell)
    );
  };
  return cells.length > 0 && cells.some((cell) => writtenUnit(cell) !== null) && cells.filter(isUnit).length >= 0.6 * cells.length;
}

/** The header as it can be read: with its unit cut off, and whole; in "Engine RPM" the last word belongs to the name as well. */
export function candidatesOf(header: string, unitRow: string, mapping: ChannelMapping | null): Candidate[] {
  const apart = takeHeaderApart(header);
  const fromRow = writtenUnit(unitRow);
  const byHand = mapping?.unit != null ? writtenUnit(mapping.unit) : null;
  if (byHand)
    return [
      { header: apart, reading: readName(apart.name), unit: byHand },
      { header: { name: header.trim(), unit: byHand }, reading: readName(header), unit: byHand },
    ];
  const cut: Candidate = { header: apart, reading: readName(apart.name), unit: apart.unit ?? fromRow };
  const list = [(apart.unit ?? fromRow) ? cut : (byItsUnit(header.trim()) ?? cut)];
  const inBrackets = /[\])}>⟩】]\s*$/.test(header.trim());
  if (apart.unit && !inBrackets) {
    const whole = header.trim();
    list.push({ header: { name: whole, unit: apart.unit }, reading: readName(whole), unit: apart.unit });
  }
  const last = /^(.+?)[\s_.]?(C|F|K|s|W)$/.exec(header.trim());
  if (!apart.unit && !fromRow && last) {
    const reading = readName(last[1]!);
    const [wanted, spelled] = LAST_LETTERS[last[2]!]!;
    const best = reading.claims[0];
    if (best && best.score >= 1.4 && EXPECTATIONS[best.quantity].dimension === wanted) {
      const unit = writtenUnit(spelled);
      list.unshift({ header: { name: last[1]!.trim(), unit }, reading, unit });
    }
  }
  return list;
}

/** What a column is that is called by a unit alone, where that says it: "kW", "Nm", "km/h", "s". */
const CALLED_BY_UNIT: Partial<Record<Dimension, string>> = { power: 'power', torque: 'torque', speed: 'speed', time: 'time' };

function byItsUnit(header: string): Candidate | null {
  const unit = header.length > 1 || header === 's' ? writtenUnit(header) : null;
  const dimension = unit?.unit ? UNITS[unit.unit].dimension : null;
  const name = dimension && CALLED_BY_UNIT[dimension];
  if (!name) return null;
  const own = readName(header);
  const saysIt = own.claims.some(({ quantity, score }) => score > 0 && EXPECTATIONS[quantity].dimension === dimension);
  return { header: { name: header, unit }, reading: saysIt ? own : readName(name), unit };
}

/** Letters that are a unit only behind a name that is measured in it. */
const LAST_LETTERS: Readonly<Record<string, readonly [Dimension, string]>> = {
  C: ['temperature', '°C'],
  F: ['temperature', '°F'],
  K: ['temperature', 'K'],
  s: ['time', 's'],
  W: ['power', 'W'],
};

/** What the name says most of all, whichever way the header is read. */
export function bestClaim(candidates: readonly Candidate[]): NameClaim | null {
  const isOpen = ({ needsUnit }: NameClaim, { unit }: Candidate) => needsUnit && unit === null;
  const claims = candidates.flatMap((candidate) => candidate.reading.claims.filter((claim) => !isOpen(claim, candidate)));
  return claims.sort((a, b) => b.score - a.score)[0] ?? null;
}

/** The unit that a header writes; plain "deg" beside a temperature says no more than that it is one. */
export function unitFor({ unit }: Candidate, dimension: Dimension): WrittenUnit | null {
  return unit?.unit === '°' && dimension === 'temperature' ? null : unit;
}
