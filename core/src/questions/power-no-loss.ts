import { withholding } from '../compare/cloud.js';
import { powerTerms } from '../compare/terms.js';
import { noLossVerdict } from '../judge/verdict.js';
import { said } from '../said.js';
import { powerAnswer } from './power-answer.js';
import type { QuestionKindRules } from './question-kind.js';

/** Does the part lose nothing that matters? Independent of whether it gains. */
export const powerNoLoss: QuestionKindRules = {
  kind: 'power-no-loss',
  limit: { smallest: 1, unit: 'pct' },
  answer: (question, { judge, reference, candidate }) =>
    powerAnswer(judge.bundle, judge.judge(reference, candidate, powerTerms(judge.bundle, question)), {
      decide: noLossVerdict,
      because: ({ clouds }, isLoss) => withholding(clouds, 'power', { isLoss }),
      say: (figures) => said('no-loss', figures),
    }),
};
