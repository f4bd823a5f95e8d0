import type { DayRefusal, DayRefusals } from '../day/admit.js';
import { conflict, type GezeitError } from '../errors.js';

/** What is the matter, and what to do. */
const WORDS: { [C in keyof DayRefusals]: (refusal: DayRefusals[C]) => [matter: string, nextStep: string] } = {
  'day-running': () => ['A day is under way already.', 'Go on with it, or end it first.'],
  'nothing-planned': () => ['No pull is planned.', 'Plan the order first; single pulls can be added on the day.'],
  'no-day': () => ['No day has begun.', 'Begin the day first.'],
  'day-ended': () => ['The day has ended.', 'Undo its end, or begin another day.'],
  'no-such-setup': ({ setup }) => [`There is no setup ${setup}.`, 'Choose one of the list, or make it first.'],
  'setup-known': ({ setup }) => [`There is a setup ${setup} already.`, 'Give the changed state another letter.'],
  'pull-known': ({ pull }) => [`Pull ${pull} is recorded already.`, 'Look at the strip: it may have been started in another window.'],
  'pull-running': ({ pull }) => [`Pull ${pull} is under way.`, 'End it first.'],
  'no-such-pull': ({ pull }) => [`There is no pull ${pull} today.`, 'Choose one of the strip.'],
  'no-pull-running': () => ['No such pull is under way.', 'It may have been ended in another window.'],
  'off-rollers': () => ['The car is off the rollers.', 'Bring it back on the rollers first.'],
  swapping: () => ['The car is being swapped.', 'Finish the swap first.'],
  'no-swap': () => ['No swap is under way.', 'It may have been finished in another window.'],
  'not-checked': () => ['The safety items before the day are not all ticked.', 'Go through the list “Before the day” first.'],
  stopped: ({ text }) => [`Stop: ${text}.`, 'Find the reason and acknowledge it first.'],
  'confirm-last': ({ fitted }) => [`There is no way back to ${fitted} today.`, `Confirm that ${fitted} is finished.`],
  'swap-not-checked': ({ items }) => [`Not ticked: ${items.join('; ')}.`, 'Check it on the car, then tick it.'],
  'not-put-back': ({ items }) => [`Still open: ${items.join('; ')}.`, 'Tick them, or say why the day closes with them open.'],
  'no-such-step': () => ['That step is not ahead any more.', 'It was driven or skipped meanwhile.'],
  'rollers-known': ({ on }) => [`The car is ${on ? 'on' : 'off'} the rollers already.`, 'It was said in another window.'],
  'not-undoable': () => ['That can be taken back no more.', 'A pull was driven with it, or it was taken back meanwhile.'],
};

/** A day's refusal as the error that says it: what is the matter and what to do. */
export function dayRefusalError(refusal: DayRefusal): GezeitError {
  const words = WORDS[refusal.code] as (refusal: DayRefusal) => [string, string];
  return conflict(refusal.code, ...words(refusal));
}
