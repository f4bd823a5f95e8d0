import type { Practice, PracticeId } from '../plan/practices.js';

/** Two pulls of one setup differ by less than this many standard deviations of one, nineteen times of twenty. */
const TWO_APART = 1.96 * Math.SQRT2;

const WORDS: Record<PracticeId, { title: string; price: string | ((practice: Practice) => string) }> = {
  'one-each': {
    title: 'One pull each',
    price: ({ repeatabilityPct }) =>
      `Best number against best number: ${repeatabilityPct ? `with ${repeatabilityPct} % from pull to pull, two single pulls differ by ${(TWO_APART * repeatabilityPct).toFixed(1)} % by themselves, one day in twenty` : 'what the cell does twice in a row is not known, so nothing can be told from it'}.`,
  },
  there: { title: 'Reference, then change', price: 'Simple, and drift lands on the part: more pulls hardly help.' },
  'there-and-back': {
    title: 'Reference, change, reference',
    price: 'One more swap; a drift shows, and with many setups it halves the width.',
  },
  mirrored: {
    title: 'Mirrored',
    price: 'The reference first and last for the same number of pulls: a third narrower than one block after the other.',
  },
  alternating: {
    title: 'Alternating',
    price: 'The narrowest for its pulls, and a swap for almost every pull: for parts that change in minutes.',
  },
  pairs: {
    title: 'Back-to-back pairs',
    price: 'Two pulls without a rest between, for coolers: the second start shows how the core recovers. It is not a repeat of the first.',
  },
  progressive: {
    title: 'Progressive steps',
    price:
      'One change after the other, so that it is known which step did it; a setup far from the reference carries the drift between them.',
  },
  'fresh-and-settled': {
    title: 'Fresh and settled',
    price:
      'No conditioning after the swap, many pulls in a row: the first ones say what the customer feels on the first day, the later ones what stays. Compare them as two states, never across.',
  },
  'hot-soak': {
    title: 'Hot-soak series',
    price: 'Short rests, so that the box fills with heat: it says how the part stands it, not what it gains from the same start.',
  },
};

/** A practice's name, what it costs, and why it cannot be driven with the swaps of this plan (null where it can). */
export function practiceText(practice: Practice): { title: string; price: string; impossible: string | null } {
  const { title, price } = WORDS[practice.id];
  const { impossible: swap } = practice;
  return {
    title,
    price: typeof price === 'string' ? price : price(practice),
    impossible:
      swap &&
      `It goes back to ${swap.from} after ${swap.to}: ${swap.back === 'never' ? 'that cannot be undone' : 'that is too long for one day'}.`,
  };
}
