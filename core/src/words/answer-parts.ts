/** An answer's sentences: the first with its figure apart, so that a headline can set it off; and what stands behind it. */
export interface AnswerParts {
  before: string;
  figure: string;
  after: string;
  second: string[];
}

/** A sentence without a figure to be set off. */
export const plainly = (text: string): AnswerParts => ({ before: text, figure: '', after: '', second: [] });
