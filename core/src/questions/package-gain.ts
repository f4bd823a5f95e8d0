import type { ConfoundCode } from '@gezeit/contract';
import { withholding } from '../compare/cloud.js';
import { powerTerms } from '../compare/terms.js';
import { gainVerdict } from '../judge/verdict.js';
import { said } from '../said.js';
import { powerAnswer } from './power-answer.js';
import type { QuestionKindRules } from './question-kind.js';

/** What a package contains by definition. */
export const PACKAGE_CODES: readonly ConfoundCode[] = [
  'tune-changed',
  'boost-target-changed',
  'boost-changed',
  'timing-changed',
  'fuelling-changed',
];

/** What do part and tune do together? */
export const packageGain: QuestionKindRules = {
  kind: 'package-gain',
  limit: { smallest: 1, unit: 'pct' },
  answer: (question, { judge, reference, candidate }) => {
    const pair = judge.judge(reference, candidate, powerTerms(judge.bundle, question));
    return powerAnswer(judge.bundle, pair, {
      decide: gainVerdict,
      because: ({ clouds }, isLoss) => withholding(clouds, 'power', { except: PACKAGE_CODES, isLoss }),
      say: (figures) => said('package', { ...figures, stillIn: pair.sameAir ? pair.stillIn : [] }),
    });
  },
};
