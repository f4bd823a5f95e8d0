import type { Quantity } from '@gezeit/contract';

/** A log as the desk knows it: its device and its columns, without samples. */
export interface DeskLog {
  id: string;
  device: string;
  columns: readonly {
    id: string;
    position: number;
    name: string;
    quantity: Quantity | null;
    unitText: string | null;
    section: string | null;
  }[];
}

/** The same channel in the logs of several pulls. */
export interface DeskChannel {
  /** The same on every day: device, quantity, section, and the name where that is not enough. */
  key: string;
  device: string;
  /** As the file calls it, with its section and, where several devices log the same, its device. */
  label: string;
  quantity: Quantity | null;
  section: string | null;
  unitText: string | null;
  /** How a formula names it. */
  formulaName: string;
  /** Its column in each log that has it. */
  columns: ReadonlyMap<string, string>;
}

type Column = DeskLog['columns'][number];

/** Every channel of some logs, once: in the order of the devices and their columns. */
export function deskChannels(logs: readonly DeskLog[]): DeskChannel[] {
  const plainKey = (device: string, { quantity, section, name }: Column) => [device, quantity ?? name, section ?? ''].join(' | ');
  const repeated = new Set<string>();
  for (const { device, columns } of logs) {
    const seen = new Set<string>();
    for (const column of columns) {
      const key = plainKey(device, column);
      if (seen.has(key)) repeated.add(key);
      seen.add(key);
    }
  }
  const found = new Map<string, { device: string; column: Column; columns: Map<string, string> }>();
  for (const { id, device, columns } of logs)
    for (const column of columns) {
      if (column.quantity === 'time' || column.position === 0) continue;
      const plain = plainKey(device, column);
      const key = repeated.has(plain) ? `${plain} | ${column.name}` : plain;
      const known = found.get(key) ?? { device, column, columns: new Map<string, string>() };
      known.columns.set(id, column.id);
      found.set(key, known);
    }
  return named([...found].map(([key, entry]) => ({ key, ...entry })));
}

/** Labels and names for formulas that tell channels apart. */
function named(channels: { key: string; device: string; column: Column; columns: Map<string, string> }[]): DeskChannel[] {
  const labelOf = ({ name, section }: Column) => (section ? `${name} (${section})` : name);
  const nameOf = ({ quantity, name, section }: Column) => identifier([quantity ?? name, section].filter(Boolean).join('_'));
  const count = (text: string, of: (column: Column) => string) => channels.filter(({ column }) => of(column) === text).length;
  const taken = new Set<string>();
  return channels.map(({ key, device, column, columns }) => {
    const label = labelOf(column);
    const name = nameOf(column);
    const wanted = count(name, nameOf) > 1 ? `${name}_${identifier(device)}` : name;
    let formulaName = wanted;
    for (let i = 2; taken.has(formulaName); i += 1) formulaName = `${wanted}_${i}`;
    taken.add(formulaName);
    return {
      key,
      device,
      label: count(label, labelOf) > 1 ? `${label}, ${device}` : label,
      quantity: column.quantity,
      section: column.section,
      unitText: column.unitText,
      formulaName,
      columns,
    };
  });
}

/** A text as a formula may name it. */
function identifier(text: string): string {
  const plain = text
    .normalize('NFKD')
    .replace(/[^\p{L}\p{N}]+/gu, '_')
    .replace(/^_+|_+$/g, '');
  return /^\p{L}/u.test(plain) ? plain : `channel_${plain}`;
}
