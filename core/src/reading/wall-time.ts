/**
 * A moment as ISO 8601. Without an offset where nobody says the zone.
 * @param ms in UTC where `zoneMin` is given, else as the clock on the wall shows it
 * @param timeZone IANA name of the zone in which the clocks on the wall ran
 */
export function wallTime(ms: number, zoneMin: number | null, timeZone: string | null): string {
  if (zoneMin !== null) return zoneMin === 0 ? iso(ms, 'Z') : iso(ms + zoneMin * 60_000, offsetText(zoneMin));
  if (timeZone === null) return iso(ms, '');
  const offsetMin = offsetOf(ms, timeZone);
  return iso(ms, offsetText(offsetMin));
}

const iso = (ms: number, suffix: string) => new Date(Math.round(ms)).toISOString().replace('Z', suffix);

function offsetText(minutes: number): string {
  const size = Math.abs(minutes);
  return `${minutes < 0 ? '-' : '+'}${String(Math.floor(size / 60)).padStart(2, '0')}:${String(size % 60).padStart(2, '0')}`;
}

/** Minutes east of UTC of a zone when its clocks on the wall show a time. */
function offsetOf(wallMs: number, timeZone: string): number {
  const shown = (utcMs: number) => {
    const parts = new Intl.DateTimeFormat('en-GB', {
      timeZone,
      year: 'numeric',
      month: '2-digit',
      day: '2-digit',
      hour: '2-digit',
      minute: '2-digit',
      second: '2-digit',
      hourCycle: 'h23',
    }).formatToParts(utcMs);
    const part = (type: string) => Number(parts.find((entry) => entry.type === type)!.value);
    return Date.UTC(part('year'), part('month') - 1, part('day'), part('hour'), part('minute'), part('second'));
  };
  let offsetMs = shown(wallMs) - wallMs;
  offsetMs = shown(wallMs - offsetMs) - (wallMs - offsetMs);
  return Math.round(offsetMs / 60_000);
}
