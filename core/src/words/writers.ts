import type { Formatter } from '../format/formatter.js';

/** Writes something that is held in something else that is said: as a part of a sentence, without a full stop. */
export type SayInner = (inner: { code: string; values: unknown }) => string;

/** Writes one thing that can be said, whatever its values. */
export type Writer = (values: never, f: Formatter, say: SayInner) => string;

/** A text for every code of a group, from its values and a formatter: a forgotten one does not compile. */
export type Writers<Group> = { readonly [Code in keyof Group]: (values: Group[Code], f: Formatter, say: SayInner) => string };
