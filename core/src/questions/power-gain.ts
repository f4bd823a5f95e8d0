import { withholding } from '../compare/cloud.js';
import { powerTerms } from '../compare/terms.js';
import { gainVerdict } from '../judge/verdict.js';
import { said } from '../said.js';
import { powerAnswer } from './power-answer.js';
import type { QuestionKindRules } from './question-kind.js';

/** Is there a gain from the part alone? */
export const powerGain: QuestionKindRules = {
  kind: 'power-gain',
  limit: { smallest: 1, unit: 'pct' },
  answer: (question, { judge, reference, candidate }) =>
    powerAnswer(judge.bundle, judge.judge(reference, candidate, powerTerms(judge.bundle, question)), {
      decide: gainVerdict,
      because: ({ clouds }, isLoss) => withholding(clouds, 'power', { isLoss }),
      say: (figures) => said('power', figures),
    }),
};
