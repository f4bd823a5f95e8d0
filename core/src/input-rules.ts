import { impossible } from './errors.js';

/** A number above zero. @throws GezeitError `impossible-input`. */
export function positive(name: string, value: number): number {
  if (!(value > 0) || !Number.isFinite(value)) throw impossible(name, 'must be above zero', value);
  return value;
}

/** A number of zero or more. @throws GezeitError `impossible-input`. */
export function notNegative(name: string, value: number): number {
  if (!(value >= 0) || !Number.isFinite(value)) throw impossible(name, 'must be zero or more', value);
  return value;
}

/** A share above 0 and up to 1. @throws GezeitError `impossible-input`. */
export function share(name: string, value: number): number {
  if (!(value > 0 && value <= 1)) throw impossible(name, 'must lie above 0 and up to 1', value);
  return value;
}
