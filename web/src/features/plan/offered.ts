/** What is offered and not there yet, by its words. */
export function offeredStill(
  offered: Readonly<Record<string, { label: string }>>,
  there: readonly { id: string }[],
): Record<string, string> {
  const missing = Object.entries(offered).filter(([key]) => !there.some(({ id }) => id === key));
  return Object.fromEntries(missing.map(([key, { label }]) => [key, label]));
}

/** An identifier for something of one's own that is not taken. */
export function freshOwnId(taken: readonly { id: string }[]): string {
  let number = 1;
  while (taken.some(({ id }) => id === `own-${number}`)) number += 1;
  return `own-${number}`;
}
