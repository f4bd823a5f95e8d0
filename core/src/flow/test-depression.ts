import { notNegative, positive } from '../input-rules.js';
import { impossible } from '../errors.js';

/** Flow carried from one test depression to another, unit of the flow, with an exponent of drop over flow (formula e8). */
export function flowAtDepression(flow: number, fromPa: number, toPa: number, exponent = 2): number {
  return notNegative('flow', flow) * (positive('depression', toPa) / positive('depression', fromPa)) ** (1 / exponentOf(exponent));
}

/** Share of the depression that is gone at equal flow, of a gain in flow at equal depression; fractions (formula e9). */
export function depressionReduction(flowGain: number, exponent = 2): number {
  if (!(flowGain > -1)) throw impossible('gain in flow', 'must lie above −100 %', flowGain);
  return 1 - (1 + flowGain) ** -exponentOf(exponent);
}

/** Gain in flow at equal depression, of a share of the depression that is gone at equal flow; fractions (formula e9b). */
export function flowGainOfReduction(reduction: number, exponent = 2): number {
  if (!(reduction < 1)) throw impossible('less depression', 'must lie below 100 %', reduction);
  return (1 - reduction) ** (-1 / exponentOf(exponent)) - 1;
}

function exponentOf(exponent: number): number {
  if (!(exponent >= 1 && exponent <= 2)) throw impossible('exponent', 'must lie between 1 (laminar) and 2 (turbulent)', exponent);
  return exponent;
}
