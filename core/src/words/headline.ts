import type { Answer } from '@gezeit/contract';
import type { AnswerSaid } from '../said.js';
import { answerParts, isAnswerCode } from './answer-words.js';
import type { Formatter } from '../format/formatter.js';
import { clauseOfAnswer, sayOfAnswer } from './say-answers.js';

/** An answer as a headline: a sentence with its figure set off, and what stands behind it. */
export interface Headline {
  tone: 'gain' | 'loss' | 'plain';
  before: string;
  figure: string;
  after: string;
  /** Sentences behind it. */
  second: string[];
}

/** The headline of an answer: the same sentences as its `why`, in parts. */
export function headlineOf({ answer, said }: Pick<Answer, 'answer' | 'said'>, f: Formatter): Headline {
  const told = said['why'] ?? [];
  const [first, ...others] = told.map(({ code, values }) =>
    isAnswerCode(code)
      ? answerParts(code, values as AnswerSaid[typeof code], f, (inner) => clauseOfAnswer(inner, f))
      : { before: sayOfAnswer({ code, values }, f), figure: '', after: '', second: [] },
  );
  const isBound = (told[0]?.values as { bound?: boolean } | undefined)?.bound === true;
  const tone = isBound ? 'plain' : answer === 'gain' || answer === 'loss' ? answer : 'plain';
  const behind = others.map(({ before, figure, after, second }) => [`${before}${figure}${after}`, ...second].join(' '));
  const { before, figure, after, second } = first ?? { before: '', figure: '', after: '', second: [] };
  return { tone, before, figure, after, second: [...behind, ...second] };
}
