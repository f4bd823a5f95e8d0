import type { ClaimSaid } from '../said.js';
import { QUESTION_LABELS } from './questions/index.js';
import { listed } from '../format/values.js';
import type { Writers } from './writers.js';

/** What becomes of a claim. */
export const CLAIM_WORDS: Writers<ClaimSaid> = {
  'claim-holds': () => 'The whole interval is at least what is claimed.',
  'claim-contradicted': () => 'The whole interval is less than what is claimed.',
  'claim-open': () => 'The claim lies inside the interval: the measurement allows it and does not show it.',
  'claim-withheld': ({ because }, _, say) => `Withheld as the answer is: ${because.map(say).join('; ')}.`,
  'claim-no-figure': () => 'The claim names no figure.',
  'claim-nothing-compared': () => 'Nothing is compared yet.',
  'claim-no-setup': ({ setups }) => `The claim does not say which setup it is about: ${listed(setups)} were compared.`,
  'claim-setup-not-compared': ({ setup }) => `${setup} is not compared with anything.`,
  'claim-flow-missing': ({ setup }) => `No comparison of the flow bench is kept for ${setup}: keep it as evidence of that setup.`,
  'claim-flow-several': ({ setup, items }) =>
    `Several comparisons of the flow bench are kept for ${setup}: ${listed(items)}. Say which section the claim is about.`,
  'claim-ask-first': ({ kind }) => `Ask “${QUESTION_LABELS[kind]}” as well: then the claim can be held against its answer.`,
  'claim-not-measured': ({ quantity }) => `Nothing is measured that “${quantity}” could be held against.`,
  'claim-other-place': ({ claimed, measured }) =>
    `It is claimed at the ${claimed} and was measured at the ${measured}: no loss is ever added back.`,
  'claim-out-of-reach': ({ rpm }, f) => `The curves do not reach ${f.rpm(rpm)}.`,
  'claim-no-curve': () => 'No curve was logged with both setups: only per cent over the band can be checked.',
  'claim-refused': ({ text }) => text,
  'claim-no-loss-holds': ({ smallestPct }) => `Whatever is lost is less than ${smallestPct}\u00a0%.`,
  'claim-no-loss-open': () => 'A loss that matters can neither be shown nor ruled out.',
  'claim-no-difference-holds': ({ smallestPct }) => `Whatever it gains or loses is less than ${smallestPct}\u00a0%.`,
  'claim-differs': ({ smallestPct }) => `The whole interval differs by ${smallestPct}\u00a0% or more.`,
  'claim-loses': ({ atLeastPct }) => `At least ${atLeastPct.toFixed(1)}\u00a0% is lost.`,
};
