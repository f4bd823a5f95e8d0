import type { Bundle, Plan, Setup } from '@gezeit/contract';

/** State keys that make a combination with the parts. */
const COMBINATION_KEYS = ['bonnet', 'fan', 'learned', 'tune'] as const;
type CombinationState = Record<(typeof COMBINATION_KEYS)[number], string>;

/** One state of the car around the parts. */
export interface MatrixColumn {
  key: string;
  state: CombinationState;
}

interface MatrixCell {
  /** The setup that is this combination; null where none is made of it yet. */
  setup: string | null;
  measured: number;
  /** Whether a comparison that is planned would miss it. */
  missing: boolean;
}

/** Parts in one column each of the states that are planned or made. */
interface MatrixRow {
  parts: string[];
  /** Name of the first setup with these parts. */
  name: string;
  reference: boolean;
  cells: MatrixCell[];
}

export interface PlanMatrix {
  columns: MatrixColumn[];
  rows: MatrixRow[];
  /** Keys that differ between the columns at all. */
  keys: (typeof COMBINATION_KEYS)[number][];
}

const partsKey = ({ parts }: Setup) => [...parts].sort().join('|');
const stateOf = ({ state }: Setup) =>
  Object.fromEntries(COMBINATION_KEYS.map((key) => [key, state[key] == null ? UNSAID : String(state[key])])) as CombinationState;
const columnKey = (setup: Setup) => JSON.stringify(stateOf(setup));

/**
 * Setups as parts × states of bonnet, fan, learning and tune. Where the reference's parts are planned in several states, every candidate
 * must be planned in the same ones; and where a candidate is planned in a state, so must the reference's parts (their tune apart).
 */
export function planMatrix(bundle: Pick<Bundle, 'setups'>, plan: Pick<Plan, 'pulls'>): PlanMatrix {
  const inUse = bundle.setups.filter(({ archived, bound }) => !archived && !bound);
  const measured = (id: string) => plan.pulls.filter((pull) => pull.setup === id && pull.kind === 'measured').length;
  const columns = [...new Map(inUse.map((setup) => [columnKey(setup), { key: columnKey(setup), state: stateOf(setup) }])).values()];
  const groups = new Map<string, Setup[]>();
  for (const setup of inUse) groups.set(partsKey(setup), [...(groups.get(partsKey(setup)) ?? []), setup]);
  const rows = [...groups.values()].map((group): MatrixRow => ({
    parts: group[0]!.parts,
    name: group[0]!.name,
    reference: group.some(({ reference }) => reference),
    cells: columns.map(({ key }): MatrixCell => {
      const own = group.filter((setup) => columnKey(setup) === key);
      const count = own.reduce((sum, { id }) => sum + measured(id), 0);
      return { setup: own[0]?.id ?? null, measured: count, missing: false };
    }),
  }));
  markMissing(rows, columns);
  const keys = COMBINATION_KEYS.filter((key) => new Set(columns.map(({ state }) => state[key])).size > 1);
  return { columns, rows, keys };
}

const UNSAID = 'not said';
/** Whether two states are the same but for their tune; what is not said may be anything. */
const mayBeSame = (a: CombinationState, b: CombinationState) =>
  COMBINATION_KEYS.every((key) => key === 'tune' || a[key] === b[key] || a[key] === UNSAID || b[key] === UNSAID);

function markMissing(rows: MatrixRow[], columns: MatrixColumn[]): void {
  const reference = rows.find((row) => row.reference);
  if (!reference) return;
  const planned = (row: MatrixRow) => row.cells.some((cell) => cell.measured > 0);
  const states = reference.cells.filter(({ measured }) => measured > 0).length;
  for (const row of rows) {
    if (row === reference || !planned(row)) continue;
    row.cells.forEach((cell, i) => {
      if (states > 1 && reference.cells[i]!.measured > 0 && cell.measured === 0) cell.missing = true;
      if (cell.measured === 0 || states === 0) return;
      const there = reference.cells.some((other, k) => other.measured > 0 && mayBeSame(columns[k]!.state, columns[i]!.state));
      if (!there) reference.cells[i]!.missing = true;
    });
  }
}
