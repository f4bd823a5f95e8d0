import type { Formatter } from '../format/formatter.js';

/** Writes something that is held in something else that is said. */
export type SayInner = (inner: { code: string; values: unknown }) => string;

/** A text for every code of a group, from its values and a formatter: a forgotten one does not compile. */
export type Writers<Group> = { readonly [Code in keyof Group]: (values: Group[Code], f: Formatter, say: SayInner) => string };
