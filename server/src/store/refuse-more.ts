import { conflict } from '@gezeit/core';

/** @throws GezeitError `too-many` where a programme holds as many of something as it may. */
export function refuseMore(count: number, most: number, what: string): void {
  if (count < most) return;
  throw conflict('too-many', `A programme may hold ${most} ${what}.`, 'Take away what is no longer needed, or begin another programme.');
}
