import { GezeitError } from '@gezeit/core';

/** A refusal as it crosses from a worker: an error's own fields do not. */
export interface Refusal {
  refused: Pick<GezeitError, 'code' | 'message' | 'nextStep' | 'place' | 'nature'>;
}

/** Runs a piece of work; what it refuses becomes a value, what breaks still throws. */
export async function orRefusal<T>(work: () => Promise<T>): Promise<T | Refusal> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof GezeitError)) throw error;
    const { code, message, nextStep, place, nature } = error;
    return { refused: { code, message, nextStep, place, nature } };
  }
}

/** What came out of a worker. @throws GezeitError where it refused. */
export function unrefused<T>(result: T | Refusal): T {
  if (typeof result !== 'object' || result === null || !('refused' in result)) return result as T;
  const { code, message, nextStep, place, nature } = result.refused;
  throw new GezeitError(code, message, nextStep, place, nature);
}
