import { DRY_AIR_GAS_CONSTANT } from '../air/moist-air.js';
import { viscosityPaS } from '../air/moist-air.js';
import { kelvin } from '../air/saturation.js';
import { positive } from '../input-rules.js';
import { impossible } from '../errors.js';
import { GAMMA } from './effective-area.js';

export type PressureTaps = 'corner' | 'D_D2' | 'flange';

export interface OrificeInput {
  pipeDiameterM: number;
  boreDiameterM: number;
  taps: PressureTaps;
  upstreamPa: number;
  upstreamC: number;
  dropPa: number;
  gamma?: number;
}

export interface OrificeFlow {
  dischargeCoefficient: number;
  expansibility: number;
  reynolds: number;
  massFlowKgS: number;
  /** Which of the standard's limits the measurement lies outside of. */
  outside: string[];
}

/** Expansibility of an orifice, –, of the diameter ratio and the drop relative to the upstream pressure (ISO 5167-2; formula e12). */
export function expansibility(diameterRatio: number, relativeDrop: number, gamma = GAMMA): number {
  const factor = 0.351 + 0.256 * diameterRatio ** 4 + 0.93 * diameterRatio ** 8;
  return 1 - factor * (1 - (1 - relativeDrop) ** (1 / gamma));
}

/** Discharge coefficient by Reader-Harris and Gallagher, 2003 edition (ISO 5167-2; formula e12). */
function dischargeCoefficient(beta: number, reynolds: number, pipeDiameterM: number, taps: PressureTaps): number {
  const inch = 0.0254 / pipeDiameterM;
  const [l1, l2] = taps === 'corner' ? [0, 0] : taps === 'D_D2' ? [1, 0.47] : [inch, inch];
  const a = ((19_000 * beta) / reynolds) ** 0.8;
  const m = (2 * l2) / (1 - beta);
  const smallPipe = pipeDiameterM < 0.07112 ? 0.011 * (0.75 - beta) * (2.8 - pipeDiameterM / 0.0254) : 0;
  return (
    0.5961 +
    0.0261 * beta ** 2 -
    0.216 * beta ** 8 +
    0.000521 * ((1e6 * beta) / reynolds) ** 0.7 +
    (0.0188 + 0.0063 * a) * beta ** 3.5 * (1e6 / reynolds) ** 0.3 +
    ((0.043 + 0.08 * Math.exp(-10 * l1) - 0.123 * Math.exp(-7 * l1)) * (1 - 0.11 * a) * beta ** 4) / (1 - beta ** 4) -
    0.031 * (m - 0.8 * m ** 1.1) * beta ** 1.3 +
    smallPipe
  );
}

const ROUNDS = 60;

/**
 * Mass flow through an orifice in a pipe, by iteration on the Reynolds number (ISO 5167-2:2003; formula e12).
 * @throws GezeitError `impossible-input` where the bore is not smaller than the pipe or the drop not below the pressure.
 */
export function orificeFlow(input: OrificeInput): OrificeFlow {
  const { pipeDiameterM, boreDiameterM, taps, upstreamPa, upstreamC, dropPa, gamma = GAMMA } = input;
  const beta = positive('bore', boreDiameterM) / positive('pipe diameter', pipeDiameterM);
  if (beta >= 1) throw impossible('bore', 'must be smaller than the pipe', boreDiameterM);
  if (!(positive('pressure drop', dropPa) < positive('pressure', upstreamPa)))
    throw impossible('pressure drop', 'must lie below the pressure', dropPa);
  const density = upstreamPa / (DRY_AIR_GAS_CONSTANT * kelvin(upstreamC));
  const epsilon = expansibility(beta, dropPa / upstreamPa, gamma);
  const perDischarge = ((epsilon * Math.PI) / 4) * boreDiameterM ** 2 * Math.sqrt((2 * dropPa * density) / (1 - beta ** 4));
  const reynoldsOf = (flow: number) => (4 * flow) / (Math.PI * pipeDiameterM * viscosityPaS(upstreamC));
  let massFlowKgS = 0.6 * perDischarge;
  for (let i = 0; i < ROUNDS; i++) massFlowKgS = perDischarge * dischargeCoefficient(beta, reynoldsOf(massFlowKgS), pipeDiameterM, taps);
  const reynolds = reynoldsOf(massFlowKgS);
  const outside = [
    boreDiameterM < 0.0125 ? 'the bore is under 12.5 mm' : '',
    pipeDiameterM < 0.05 || pipeDiameterM > 1 ? 'the pipe is not between 50 and 1000 mm' : '',
    beta < 0.1 || beta > 0.75 ? 'the diameter ratio is not between 0.10 and 0.75' : '',
    reynolds < 5000 ? 'the Reynolds number is under 5000' : '',
    dropPa / upstreamPa > 0.25 ? 'the drop is over a quarter of the pressure' : '',
  ].filter(Boolean);
  return { dischargeCoefficient: massFlowKgS / perDischarge, expansibility: epsilon, reynolds, massFlowKgS, outside };
}
