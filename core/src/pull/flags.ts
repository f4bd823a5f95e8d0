import type { Bundle, PullFlag } from '@gezeit/contract';
import { bandMean, COVER_TOLERANCE_RPM, onBand, type Band } from './band.js';
import type { PullCurve } from './curve.js';
import { median } from './traces.js';

/** Thresholds of the flags: assumptions, all in one place. */
export const FLAG_RULES = {
  /** Throttle below this with the pedal down is closed by the engine control, %. */
  fullThrottlePct: 95,
  pedalDownPct: 90,
  /** Share of the band from which a closed throttle is reported. */
  closedShare: 0.02,
  /** Change of the ratio of roller to engine speed against the low-load part of the sweep. */
  slip: 0.02,
  slipPoints: 3,
  /** Mean manifold pressure below the median of the setup's own pulls. */
  boostLow: 0.04,
  /** Lambda above this within the band on a boosted or naturally aspirated spark-ignition engine at full load, and the share of the band. */
  leanLambda: 1.0,
  leanShare: 0.05,
  /** Ignition below the setup's median, or knock retard, degrees, over this share of the band. */
  timingPulledDeg: 3,
  timingPulledShare: 0.05,
  /** Air mass flow over power, g/s per kW at the crank, and how far off is implausible. */
  airPerPower: 1.01,
  airPerPowerOff: 0.25,
  wheelToCrank: 1.15,
  /** Start temperature of intake air above ambient against the day's median, K. */
  startApartK: 10,
};

/** Flags that leave a pull out unless every pull of its setup has them. */
export const LEAVING_OUT: readonly PullFlag[] = ['throttle-closed', 'slip', 'short', 'boost-low', 'lean'];

export interface FlagDetail {
  flag: PullFlag;
  detail: string;
  /** Engine speed of the first closing, rpm (throttle-closed only). */
  fromRpm?: number;
}

/** What the other pulls of the day say about one pull. */
export interface Peers {
  /** Curves of the same setup, this one included. */
  sameSetup: PullCurve[];
  /** Start temperatures above ambient of the day's measured pulls, K. */
  startAboveAmbientK: number[];
}

/** Flags of one pull within a band, each with a sentence. */
export function flagsOf(bundle: Bundle, curve: PullCurve, band: Band, peers: Peers): FlagDetail[] {
  return [
    short(curve, band),
    throttleClosed(curve, band),
    slip(curve, band),
    boostLow(bundle, curve, band, peers),
    lean(bundle, curve, band),
    timingPulled(curve, band, peers),
    spike(curve),
    airMeter(bundle, curve, band),
    ...startTemperature(curve, peers),
  ].filter((entry) => entry !== null);
}

function short(curve: PullCurve, band: Band): FlagDetail | null {
  const first = curve.gridRpm[0] ?? Infinity;
  const last = curve.gridRpm.at(-1) ?? -Infinity;
  if (first <= band[0] + COVER_TOLERANCE_RPM && last >= band[1] - COVER_TOLERANCE_RPM) return null;
  return { flag: 'short', detail: `covers ${first} to ${last} rpm of the band ${band[0]} to ${band[1]} rpm` };
}

function throttleClosed(curve: PullCurve, band: Band): FlagDetail | null {
  const throttle = curve.channels.get('throttle');
  if (!throttle) return null;
  const pedal = curve.channels.get('pedal');
  const inBand = curve.gridRpm.map((rpm) => (rpm >= band[0] && rpm <= band[1] ? rpm : Number.NaN)).filter(Number.isFinite);
  const closed = Array.from(inBand).filter((rpm) => {
    const i = curve.gridRpm.indexOf(rpm);
    return throttle[i]! < FLAG_RULES.fullThrottlePct && (!pedal || !(pedal[i]! < FLAG_RULES.pedalDownPct));
  });
  if (closed.length < FLAG_RULES.closedShare * inBand.length || closed.length === 0) return null;
  const share = Math.round((100 * closed.length) / inBand.length);
  return {
    flag: 'throttle-closed',
    detail: `throttle under ${FLAG_RULES.fullThrottlePct} % over ${share} % of the band, from ${closed[0]} rpm`,
    fromRpm: closed[0]!,
  };
}

function slip(curve: PullCurve, band: Band): FlagDetail | null {
  const roller = curve.channels.get('rollerSpeed') ?? curve.channels.get('vehicleSpeed');
  if (!roller) return null;
  const ratio = roller.map((value, i) => value / curve.gridRpm[i]!);
  const known = ratio.filter(Number.isFinite);
  if (known.length < 12) return null;
  const base = median(known.subarray(0, Math.ceil(known.length / 4)));
  let run = 0;
  for (let i = 0; i < ratio.length; i += 1) {
    const off = Math.abs(1 - ratio[i]! / base) > FLAG_RULES.slip && curve.gridRpm[i]! <= band[1];
    run = off ? run + 1 : 0;
    if (run >= FLAG_RULES.slipPoints) {
      const percent = (100 * (1 - ratio[i]! / base)).toFixed(1);
      return { flag: 'slip', detail: `roller speed is ${percent} % off engine speed near ${curve.gridRpm[i]} rpm` };
    }
  }
  return null;
}

function boostLow(bundle: Bundle, curve: PullCurve, band: Band, peers: Peers): FlagDetail | null {
  if (!isHeld(bundle)) return null;
  const own = bandMean(curve, 'manifoldPressure', band);
  const others = peers.sameSetup.map((peer) => bandMean(peer, 'manifoldPressure', band)).filter((value) => value !== null);
  if (own === null || others.length < 3) return null;
  const usual = median(others);
  if (own >= usual * (1 - FLAG_RULES.boostLow)) return null;
  return { flag: 'boost-low', detail: `manifold pressure ${(100 * (1 - own / usual)).toFixed(1)} % under the setup's usual` };
}

/** Whether something holds the manifold pressure. */
export function isHeld({ vehicle }: Bundle): boolean {
  return vehicle.boostControl === 'absolute' || vehicle.boostControl === 'gauge';
}

function shareOfBand(curve: PullCurve, key: string, band: Band, test: (value: number, index: number) => boolean): number {
  const channel = curve.channels.get(key);
  if (!channel) return 0;
  const values = onBand(curve, channel, band);
  let known = 0;
  let meeting = 0;
  values.forEach((value, index) => {
    if (!Number.isFinite(value)) return;
    known += 1;
    if (test(value, index)) meeting += 1;
  });
  return known === 0 ? 0 : meeting / known;
}

function lean(bundle: Bundle, curve: PullCurve, band: Band): FlagDetail | null {
  if (bundle.vehicle.ignition === 'compression') return null;
  const share = shareOfBand(curve, 'lambda', band, (value) => value > FLAG_RULES.leanLambda);
  if (share < FLAG_RULES.leanShare) return null;
  return {
    flag: 'lean',
    detail: `lambda above ${FLAG_RULES.leanLambda.toFixed(2)} over ${Math.round(100 * share)} % of the band: stop and find the reason`,
  };
}

function timingPulled(curve: PullCurve, band: Band, peers: Peers): FlagDetail | null {
  const knock = shareOfBand(curve, 'knockRetard', band, (value) => Math.abs(value) > FLAG_RULES.timingPulledDeg);
  const rivals = peers.sameSetup
    .filter((peer) => peer.channels.has('ignitionAdvance'))
    .map((peer) => onBand(peer, peer.channels.get('ignitionAdvance')!, band));
  const share =
    rivals.length < 3
      ? knock
      : Math.max(
          knock,
          shareOfBand(
            curve,
            'ignitionAdvance',
            band,
            (value, i) => value < median(rivals.map((values) => values[i]!)) - FLAG_RULES.timingPulledDeg,
          ),
        );
  if (share < FLAG_RULES.timingPulledShare) return null;
  return {
    flag: 'timing-pulled',
    detail: `spark pulled by more than ${FLAG_RULES.timingPulledDeg}° over ${Math.round(100 * share)} % of the band`,
  };
}

function spike(curve: PullCurve): FlagDetail | null {
  return curve.spikes.length > 0 ? { flag: 'spike', detail: curve.spikes.join('; ') } : null;
}

function airMeter(bundle: Bundle, curve: PullCurve, band: Band): FlagDetail | null {
  if (bundle.vehicle.ignition === 'compression') return null;
  const air = bandMean(curve, 'airMassFlow', band);
  const power = bandMean(curve, 'power', band);
  if (air === null || power === null) return null;
  const cell = bundle.cell ?? bundle.cells?.[0];
  const crank = cell?.powerAt === 'crank' ? power : power * FLAG_RULES.wheelToCrank;
  const ratio = air / ((crank / 1000) * (FLAG_RULES.airPerPower / 1000));
  if (Math.abs(ratio - 1) <= FLAG_RULES.airPerPowerOff) return null;
  return { flag: 'air-meter-implausible', detail: `air mass flow is ${Math.round(100 * (ratio - 1))} % from what this power needs` };
}

function startTemperature(curve: PullCurve, peers: Peers): FlagDetail[] {
  const own = startAboveAmbientK(curve);
  if (own === null || peers.startAboveAmbientK.length < 3) return [];
  const apart = own - median(peers.startAboveAmbientK);
  if (Math.abs(apart) <= FLAG_RULES.startApartK) return [];
  const warmer = apart > 0;
  return [
    {
      flag: warmer ? 'started-hot' : 'started-cold',
      detail: `started ${Math.abs(apart).toFixed(1)} K ${warmer ? 'hotter' : 'cooler'} than the day's usual`,
    },
  ];
}

/** Intake air at the start above ambient, K; null where either is missing. */
export function startAboveAmbientK({ start, air }: PullCurve): number | null {
  return start.intakeAirC === null || !air ? null : start.intakeAirC - air.temperatureC;
}
