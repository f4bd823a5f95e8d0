import type { Answer } from '@gezeit/contract';
import type { FigureKind, Formatter } from '../../format/formatter.js';

/** The words of a kind of question. */
export interface QuestionWords {
  /** What is asked, in a word or two. */
  label: string;
  /** Its own words for yes and no, where the plain ones would mislead. */
  answers: Partial<Record<Answer['answer'], string>>;
  /** What a gain of a part that is only a bound is called. */
  bound?: string;
  /** Of a question that is a limit to be kept: what must stay within it, how its figure is shown, and the limit itself. */
  limit?: { what: string; kind: FigureKind; text: (limit: number, f: Formatter) => string };
  /** Of a question that is answered by what was found: what was found. */
  found?: (value: number) => string;
}
