import { checkClaim, claimFromText, measurePulls } from '@gezeit/core';
import { tablesOf, truthCurve } from '@gezeit/core/simulate';
import { calibrationDay } from './population.js';

export interface ClaimCounts {
  claims: number;
  /** Of the false ones what may be said, of the true ones what is called false. */
  wrong: number;
  /** What may be said. */
  held: number;
}

export interface ClaimStudy {
  /** By how the claim is put. */
  false: Record<string, ClaimCounts>;
  true: Record<string, ClaimCounts>;
}

const EFFECTS = ['none', 'flow', 'heat'] as const;
const AT_RPM = 5200;
const BAND_RPM = [4700, 5900] as const;
/** Limit of "no loss": the day's smallest difference that matters, per cent. */
const NO_LOSS_PCT = 1;

/** Claims that are true and false by a known margin, each as a sentence, held against simulated days from a seed on. */
export function claimStudy(firstSeed: number, days: number): ClaimStudy {
  const study: ClaimStudy = { false: {}, true: {} };
  for (let i = 0; i < days; i += 1) {
    const day = calibrationDay(firstSeed + i, EFFECTS[i % EFFECTS.length]!);
    const { bundle } = day.simulated;
    const measured = measurePulls(bundle, tablesOf(day.simulated));
    const candidate = bundle.setups.find(({ reference }) => !reference)!.id;
    const curve = truthCurve(day.spec, day.driven, [bundle.setups[0]!.id, candidate]);
    const inBandPct = 100 * Math.expm1(day.truth.levelled);
    const atSpeedPct = 100 * Math.expm1(curve(AT_RPM));
    const partPct = 100 * Math.expm1(meanOf(curve));
    const claim = (kind: string, text: string, isTrue: boolean) => {
      const { fields, understood } = claimFromText(text);
      if (!understood) throw new Error(`not understood: ${text}`);
      const { state } = checkClaim(bundle, measured, [], { ...fields, id: 'asked', text, setup: candidate });
      const group = study[isTrue ? 'true' : 'false'];
      const counts = (group[kind] ??= { claims: 0, wrong: 0, held: 0 });
      counts.claims += 1;
      if (state === 'holds') counts.held += 1;
      if (state === (isTrue ? 'contradicted' : 'holds')) counts.wrong += 1;
    };
    for (const more of [0.3, 0.8, 2]) claim('per cent in the band', signed(inBandPct + more), false);
    claim('per cent in the band', signed(inBandPct - 2.5), true);
    claim('per cent at a speed', `${signed(atSpeedPct + 1.5)} at ${AT_RPM} rpm`, false);
    claim('torque at a speed', `${signed(atSpeedPct + 1)} torque at ${AT_RPM} rpm`, false);
    claim('torque at a speed', `${signed(atSpeedPct - 3)} torque at ${AT_RPM} rpm`, true);
    claim('per cent in a part of the band', `${signed(partPct + 1)} from ${BAND_RPM[0]} to ${BAND_RPM[1]} rpm`, false);
    if (inBandPct < -NO_LOSS_PCT) claim('no loss', 'no loss of power', false);
    if (inBandPct > 0) claim('no loss', 'no loss of power', true);
  }
  return study;
}

const signed = (pct: number) => `${pct < 0 ? '' : '+'}${pct.toFixed(2)} %`;

function meanOf(curve: (rpm: number) => number): number {
  const [from, to] = BAND_RPM;
  const speeds = Array.from({ length: 25 }, (_, i) => from + (i / 24) * (to - from));
  return speeds.reduce((sum, rpm) => sum + curve(rpm), 0) / speeds.length;
}

/** All kinds of claim together. */
export function together(counts: Readonly<Record<string, ClaimCounts>>): ClaimCounts {
  const sum = (of: keyof ClaimCounts) => Object.values(counts).reduce((total, entry) => total + entry[of], 0);
  return { claims: sum('claims'), wrong: sum('wrong'), held: sum('held') };
}

/** How many of so many may be wrong: 2.5 % and two standard errors. */
export const mostWrong = (claims: number): number => claims * 0.025 + 2 * Math.sqrt(claims * 0.025 * 0.975);
