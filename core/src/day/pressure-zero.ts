/** Pressures within this of the weather's are absolute with the engine off, Pa; those within it of zero are gauge. Assumption. */
const NEAR_PA = 6000;

/** What a pressure channel reads with the engine off. */
export interface ChannelZero {
  channel: string;
  kind: 'gauge' | 'absolute' | 'unclear';
  /** Its error: the reading for a gauge channel, the difference from the weather's pressure for an absolute one, Pa. */
  zeroPa: number | null;
  /** Change of that error since the first zero of the day, Pa; null for the first. */
  driftPa: number | null;
}

/** Zeros of every pressure channel from the last time they were stored, and their drift since the first; whether gauge or absolute follows. */
export function channelZeros(zeros: readonly { channels: Record<string, number> }[], ambientPa: number | null): ChannelZero[] {
  const last = zeros.at(-1);
  if (!last) return [];
  return Object.entries(last.channels).map(([channel, reading]) => {
    const isAbsolute = ambientPa !== null && Math.abs(reading - ambientPa) < NEAR_PA;
    const isGauge = Math.abs(reading) < NEAR_PA;
    const zeroPa = isAbsolute ? reading - ambientPa : isGauge ? reading : null;
    const first = zeros.find((entry) => channel in entry.channels)!;
    return {
      channel,
      kind: isAbsolute ? 'absolute' : isGauge ? 'gauge' : 'unclear',
      zeroPa,
      driftPa: first === last ? null : reading - first.channels[channel]!,
    };
  });
}
