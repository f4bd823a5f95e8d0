import type { ChannelMapping, Quantity } from '@gezeit/contract';
import { toSi, UNITS, type UnitName } from '../units/units.js';
import { unitFromText } from '../units/unit-spellings.js';
import { QUANTITY_UNITS, readHeader, sectionFromName } from './recognise.js';

/** The ratio that a device divides by to show an air-fuel ratio, where nothing else is said; assumption. */
const DEFAULT_AFR_STOICH = 14.7;

/** What a column of a file, or a field of a stream, is taken for. */
export interface ChannelMeaning {
  name: string;
  unitText: string | null;
  quantity: Quantity | null;
  /** Unit in which it is written; null for time and for what is not recognised. */
  unit: UnitName | null;
  section: string | null;
  /** A pressure against ambient (true) or absolute (false), where name, unit or mapping say so. */
  gauge: boolean | null;
  /** What its values are divided by first: the stoichiometric ratio of a displayed air-fuel ratio, else 1. */
  divisor: number;
  zero: number;
  /** What was assumed, or why it looks like something and is not taken for it. */
  notes: string[];
}

const GAUGE = /(gauge|psig|kpag|barg|vacuum|depression|unterdruck|überdruck)/i;
const ABSOLUTE = /(\babs\b|absolute?|psia|kpaa|bara)/i;

/** The recogniser of files and streams alike: a mapping by hand wins, else header and units row are read. */
export function meaningOf(header: string, unitRow = '', mapping: ChannelMapping | null = null): ChannelMeaning {
  const read = readHeader(header);
  const fromRow = unitRow.trim().replace(/^[[(]|[\])]$/g, '') || null;
  const unitText = mapping?.unit ?? read.unitText ?? fromRow;
  const { name } = read;
  const found = mapping?.quantity ?? read.quantity;
  const plain: ChannelMeaning = {
    name,
    unitText,
    quantity: null,
    unit: null,
    section: null,
    gauge: null,
    divisor: 1,
    zero: mapping?.zero ?? 0,
    notes: [],
  };
  if (!found) return plain;
  if (found === 'time') return { ...plain, quantity: 'time', unit: unitText ? unitFromText(unitText) : null };
  const afr = found === 'lambda' && (unitText?.toLowerCase() === 'afr' || (!unitText && /\bafr\b/i.test(name)));
  const { dimension, implied } = QUANTITY_UNITS[found];
  const unit = afr ? ('λ' as const) : unitText ? unitFromText(unitText) : implied;
  const refused = (why: string) => ({ ...plain, notes: [`Looks like ${found}, but ${why}: say it under channels.`] });
  if (!unit) return refused(unitText ? `its unit "${unitText}" is not known` : 'it names no unit');
  if (UNITS[unit].dimension !== dimension) return refused(`${unit} does not fit that`);
  const said = `${header} ${unitText ?? ''}`;
  const gauge = mapping?.gauge ?? (GAUGE.test(said) ? true : ABSOLUTE.test(said) ? false : null);
  return {
    ...plain,
    quantity: found,
    unit,
    section: mapping?.section ?? (found === 'pressureDrop' ? sectionFromName(name) : null),
    gauge: dimension === 'pressure' ? gauge : null,
    divisor: afr ? (mapping?.afrStoich ?? DEFAULT_AFR_STOICH) : 1,
    notes: [
      ...(afr && !mapping?.afrStoich ? [`divided by ${DEFAULT_AFR_STOICH}, the usual setting of the device (assumption)`] : []),
      ...(!unitText && !afr && unit !== 'λ' ? [`no unit given: taken as ${unit}`] : []),
    ],
  };
}

/** A value as written, in the unit kept inside. */
export function insideValue({ divisor, zero, unit }: ChannelMeaning, written: number): number {
  return unit === null ? written : toSi((written - zero) / divisor, unit);
}

/** A manifold pressure against ambient is a boost pressure, an absolute boost the manifold's: what a stream sends is kept under the right one. */
export function gaugeOrAbsolute(quantity: Quantity, gauge: boolean | null): Quantity {
  if (quantity === 'manifoldPressure' && gauge === true) return 'boostPressure';
  if (quantity === 'boostPressure' && gauge === false) return 'manifoldPressure';
  return quantity;
}
