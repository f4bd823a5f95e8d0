import type { ChoiceField, ListField, NumberField, TextField } from '@gezeit/core';

/** How a field of a form differs from what the bench's fields say, all of it optional. */
interface OfForm {
  /** What it is called where its label alone is not enough. */
  aria?: string;
  /** Shown where nothing is said. */
  placeholder?: string;
  /** Stands behind it: a unit that is nobody's choice. */
  behind?: string;
  /** What is wrong with what was typed; null where nothing is. Refused texts are kept in the field. */
  refuse?: (value: string) => string | null;
  /** Belongs to what is opened on demand. */
  isMore?: boolean;
}

type Numbers = Omit<NumberField, 'value' | 'assumption' | 'believable'>;
/** A field of a form, described as the bench describes its own. */
export type FormField = (Numbers | ListField | (Omit<ChoiceField, 'value'> & { value?: string }) | TextField) & OfForm;
export type FormValue = number | string | number[] | null;

/** What is wrong with a number by its field's rules; null where nothing is. */
export function numberProblem({ above }: Numbers, value: number | null): string | null {
  return value !== null && above !== undefined && !(value > above)
    ? above === 0
      ? 'It must be above zero.'
      : `It must be above ${above}.`
    : null;
}
