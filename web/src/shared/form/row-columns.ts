import type { UnitName } from '@gezeit/core';

/** How a column of a row table is called and shown; `aria` names a cell for those who do not see its row. */
interface OfColumn<Row> {
  name: string;
  label: string;
  /** More about the column, shown over its head. */
  title?: string;
  /** Whether a cell of this row is there to be typed in; else the column's slot, or nothing, stands there. */
  isTyped?: (row: Row) => boolean;
}
type Aria<Row> = { aria: (row: Row, index: number) => string };

/** A column of a row table: what its cells hold and how they are typed. */
export type RowColumn<Row> = OfColumn<Row> &
  (
    | ({ kind: 'text'; of: (row: Row) => string | null | undefined; needed?: boolean; placeholder?: string } & Aria<Row>)
    | ({ kind: 'number'; of: (row: Row) => number | null; unit: UnitName; width?: string } & Aria<Row>)
    | ({
        kind: 'own-unit';
        of: (row: Row) => number | null;
        unitOf: (row: Row) => string;
        difference?: boolean;
        least?: number;
      } & Aria<Row>)
    | ({ kind: 'choice'; of: (row: Row) => string | null; choices: Readonly<Record<string, string>>; placeholder?: string } & Aria<Row>)
    | ({ kind: 'check'; of: (row: Row) => boolean } & Aria<Row>)
    | { kind: 'shown'; of: (row: Row) => string; isNumber?: boolean }
  );

export type CellValue = string | number | boolean | null;
