/** The board's common scale: answers divided by the smallest difference that matters. */
export const BOARD_RANGE = [-2.5, 4.5] as const;

/** Place of a value on the scale, as a share of its width, and whether it lies beyond the scale's ends. */
export function onBoard(value: number): { share: number; beyond: -1 | 0 | 1 } {
  const [low, high] = BOARD_RANGE;
  const beyond = value < low ? -1 : value > high ? 1 : 0;
  return { share: (Math.min(high, Math.max(low, value)) - low) / (high - low), beyond };
}
